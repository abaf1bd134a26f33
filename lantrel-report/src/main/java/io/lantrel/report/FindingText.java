package io.lantrel.report;

import com.github.difflib.DiffUtils;
import com.github.difflib.patch.AbstractDelta;
import io.lantrel.Study;
import io.lantrel.check.Evidence;
import io.lantrel.check.Finding;
import io.lantrel.check.Repair;
import io.lantrel.engine.NamedRow;
import io.lantrel.sql.Place;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/** One finding: where, what happens to the rows, what shows it, what to write instead. */
final class FindingText {

  private static final int INDENT = 2;
  private static final int GAP = 8;

  private final Style style;
  private final String file;
  private final Study study;

  FindingText(Style style, String file, Study study) {
    this.style = style;
    this.file = file;
    this.study = study;
  }

  /** A place in the form that editors and terminals make clickable. */
  static String place(String file, Place place) {
    return file + ":" + place.line() + ":" + place.column();
  }

  List<String> write(Finding finding) {
    List<String> lines = new ArrayList<>();
    Place place = study.place(finding.place());
    lines.add(
        style.strong(place(file, place))
            + "  "
            + style.severity(finding.severity())
            + "  "
            + finding.kind().id());
    lines.add("    " + marked(place));
    lines.addAll(Layout.wrapped(finding.message(), INDENT, style.width()));
    lines.addAll(evidence(finding.evidence()));
    finding.repair().ifPresent(repair -> lines.addAll(repair(repair)));
    return lines;
  }

  /**
   * The line of the place with its characters set off; only the first line if there are several.
   */
  private String marked(Place place) {
    String line = study.source().lineText(place.line());
    int start = Math.min(place.column() - 1, line.length());
    int end = place.endLine() == place.line() ? place.endColumn() - 1 : line.length();
    end = Math.max(start, Math.min(end, line.length()));
    int from = Math.max(0, Math.min(start - 20, end - style.width() + 12));
    int to = Math.min(line.length(), Math.max(end, from + style.width() - 12));
    boolean all = line.strip().length() <= style.width() - 8;
    String before = all || from == 0 ? line.substring(0, start) : "…" + line.substring(from, start);
    String after = all || to == line.length() ? line.substring(end) : line.substring(end, to) + "…";
    return (before + style.marked(line.substring(start, end)) + after).strip();
  }

  private List<String> evidence(Evidence evidence) {
    List<String> lines = new ArrayList<>();
    if (!evidence.rows().isEmpty()) {
      String rows = evidence.rows().stream().map(NamedRow::words).collect(Collectors.joining(", "));
      lines.addAll(labelled("rows", rows));
    }
    String label = "shown by";
    for (String fact : evidence.facts()) {
      lines.addAll(labelled(label, fact));
      label = "";
    }
    return lines;
  }

  private List<String> labelled(String label, String text) {
    return Layout.labelled(style.faint(label), text, INDENT, GAP + 2, style.width());
  }

  private List<String> repair(Repair repair) {
    String effect =
        repair.rowsBefore().isPresent()
            ? change(repair.rowsBefore().getAsLong(), repair.rowsAfter().orElse(0))
            : repair.rowsAfter().isPresent()
                ? "it then runs and gives " + Words.rows(repair.rowsAfter().getAsLong())
                : "it was not tried on rows; it can be read, and its names are known";
    List<String> lines = new ArrayList<>(labelled("repair", effect));
    List<String> before = study.sql().lines().toList();
    List<String> after = repair.sql().lines().toList();
    for (AbstractDelta<String> delta : DiffUtils.diff(before, after).getDeltas()) {
      delta.getSource().getLines().forEach(line -> lines.addAll(changed(line, "- ", style::gone)));
      delta.getTarget().getLines().forEach(line -> lines.addAll(changed(line, "+ ", style::come)));
    }
    return lines;
  }

  private List<String> changed(String line, String sign, UnaryOperator<String> colour) {
    return Layout.folded(line.stripTrailing(), style.width() - 10).stream()
        .map(part -> "    " + colour.apply(sign + part))
        .toList();
  }

  private static String change(long before, long after) {
    return before == after
        ? "as many rows as before: " + before
        : Words.rows(before) + (before == 1 ? " becomes " : " become ") + after;
  }
}
