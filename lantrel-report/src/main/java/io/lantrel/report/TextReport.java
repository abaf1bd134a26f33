package io.lantrel.report;

import io.lantrel.Study;
import io.lantrel.check.Finding;
import io.lantrel.check.Severity;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.LedgerOfPart;
import io.lantrel.ledger.Naming;
import io.lantrel.ledger.OtherJoin;
import io.lantrel.ledger.WithoutJoin;
import io.lantrel.rows.ShownRows;
import io.lantrel.survey.Survey;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Answers as text for a terminal. */
public final class TextReport {

  private final Style style;

  public TextReport(Style style) {
    this.style = style;
  }

  /** The tables and references, and what violates them. */
  public String survey(Survey survey) {
    return new SurveyText(style).write(survey);
  }

  /** Each table with its columns, what is in them, and some rows. */
  public String tables(Survey survey) {
    return new SurveyText(style).rows(survey);
  }

  /** The findings of some files, and a closing line that sums them up. */
  public String check(List<StudiedFile> files) {
    List<String> lines = new ArrayList<>();
    Map<String, Long> shared = shared(files);
    for (StudiedFile file : files) {
      for (Study study : file.studies()) {
        for (Finding finding : study.findings()) {
          lines.addAll(new FindingText(style, file.name(), study).write(finding));
          lines.add("");
        }
        lines.addAll(asides(file, study, shared.keySet()));
      }
      if (file.studies().isEmpty()) {
        lines.addAll(aside(file.name(), "not checked", "there is no statement in it"));
      }
    }
    shared.forEach(
        (remark, statements) ->
            lines.addAll(aside(Words.count(statements, "statement"), "remark", remark)));
    lines.add(summary(files));
    return String.join("\n", lines) + "\n";
  }

  /** Remarks on several statements, with their number: they are said once. */
  private static Map<String, Long> shared(List<StudiedFile> files) {
    Map<String, Long> counts =
        files.stream()
            .flatMap(file -> file.studies().stream())
            .flatMap(study -> study.inspection().remarks().stream().distinct())
            .collect(
                Collectors.groupingBy(
                    Function.identity(), LinkedHashMap::new, Collectors.counting()));
    counts.values().removeIf(statements -> statements == 1);
    return counts;
  }

  private List<String> asides(StudiedFile file, Study study, Set<String> shared) {
    List<String> lines = new ArrayList<>();
    String place = FindingText.place(file.name(), study.place());
    study
        .inspection()
        .refusal()
        .ifPresent(
            reason ->
                lines.addAll(
                    aside(
                        place,
                        "refused",
                        "Lantrel finds no error here, but it does not run: " + reason)));
    study
        .inspection()
        .unchecked()
        .forEach(reason -> lines.addAll(aside(place, "not checked", reason)));
    study.inspection().remarks().stream()
        .filter(each -> !shared.contains(each))
        .forEach(each -> lines.addAll(aside(place, "remark", each)));
    return lines;
  }

  private List<String> aside(String place, String word, String reason) {
    List<String> lines = new ArrayList<>(List.of(place + "  " + style.strong(word)));
    lines.addAll(Layout.wrapped(reason, 2, style.width()));
    lines.add("");
    return lines;
  }

  private String summary(List<StudiedFile> files) {
    List<Study> studies = files.stream().flatMap(file -> file.studies().stream()).toList();
    List<Finding> findings = studies.stream().flatMap(study -> study.findings().stream()).toList();
    long checked = studies.stream().filter(study -> study.inspection().isComplete()).count();
    List<String> parts = new ArrayList<>();
    for (Severity severity : List.of(Severity.ERROR, Severity.WARNING, Severity.NOTE)) {
      long count = findings.stream().filter(each -> each.severity() == severity).count();
      if (count > 0) {
        parts.add(Words.count(count, severity.id()));
      }
    }
    long unchecked = studies.size() - checked;
    String rest = unchecked == 0 ? "" : ", " + unchecked + " not or only in part";
    long excepted = studies.stream().mapToLong(each -> each.inspection().excepted().size()).sum();
    if (excepted > 0) {
      parts.add(excepted + " accepted by a comment");
    }
    String found = parts.isEmpty() ? "nothing found" : String.join(", ", parts);
    return Words.count(checked, "statement") + " checked" + rest + ": " + found + ".";
  }

  /** The ledger of a statement. */
  public String ledger(Ledger ledger) {
    return new LedgerText(style).write(ledger);
  }

  /** The same with rows named as they are wanted. */
  public String ledger(Ledger ledger, Naming naming) {
    return new LedgerText(style).write(ledger, naming);
  }

  /** What joins of another kind would give. */
  public String otherJoins(List<OtherJoin> others) {
    return new OtherJoinText(style).write(others);
  }

  /** The ledger of a part of the rows of a statement. */
  public String ledger(LedgerOfPart part) {
    return LedgerText.write(part, style);
  }

  /** What there would be without a join. */
  public String without(WithoutJoin without) {
    return new OtherJoinText(style).write(without);
  }

  /** Rows of a result, and how many there are. */
  public String rows(ShownRows rows) {
    return new RowsText(style).result(rows);
  }

  /** The name of a file and the place of a statement, as a heading. */
  public String heading(String file, Study study) {
    return style.strong(FindingText.place(file, study.place())) + "\n";
  }

  /** The text of a statement, set off from what stands around it. */
  public String sql(Study study) {
    StringBuilder text = new StringBuilder("\n");
    study.sql().lines().forEach(line -> text.append("    ").append(line).append('\n'));
    return text.append('\n').toString();
  }

  /**
   * A title, with an explanation and the command that gives what follows.
   *
   * @param text the explanation; null for none
   * @param command the command; null for none
   */
  public String title(String title, @Nullable String text, @Nullable String command) {
    StringBuilder lines = new StringBuilder(style.strong(title)).append('\n');
    if (text != null) {
      Layout.wrapped(text, 2, style.width()).forEach(line -> lines.append(line).append('\n'));
    }
    if (command != null) {
      lines.append("  ").append(style.faint("$ " + command)).append("\n\n");
    }
    return lines.toString();
  }
}
