package io.lantrel.report;

import io.lantrel.Study;
import io.lantrel.check.Inspection;
import io.lantrel.claim.BreakingRows;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.draft.Draft;
import io.lantrel.ledger.Ledger;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** A draft: the query, why it is so, what each step does to the rows, and the first of them. */
public final class DraftText {

  private static final int MOST_PARTS = 2;

  private final Style style;

  public DraftText(Style style) {
    this.style = style;
  }

  /**
   * One of several drafts.
   *
   * @param number its number, from 1
   * @param all how many there are
   */
  public String write(StudiedDraft studied, int number, int all) {
    Draft draft = studied.draft();
    Study study = studied.study();
    List<String> lines = new ArrayList<>();
    if (all > 1) {
      lines.add(
          style.strong("Way " + number + " of " + all)
              + style.faint(
                  !draft.form().isEmpty()
                      ? "  " + draft.form()
                      : number == 1 ? "  the shortest, or the first of several as short" : ""));
    }
    lines.addAll(Layout.wrapped(draft.reading() + ".", 0, style.width()));
    lines.add("");
    draft.sql().lines().forEach(line -> lines.add("    " + line));
    lines.add("");
    for (String reason : draft.reasons()) {
      List<String> wrapped = Layout.wrapped(reason, 4, style.width());
      lines.add("  - " + wrapped.get(0).strip());
      lines.addAll(wrapped.subList(1, wrapped.size()));
    }
    for (CheckedClaim each : studied.promises()) {
      boolean met = each.verdict().isMet();
      String verdict = met ? style.come(each.verdict().word()) : style.gone(each.verdict().word());
      lines.add("  - " + verdict + ": " + Visible.line(each.claim().text()));
      if (!met) {
        lines.addAll(Layout.wrapped(Visible.line(each.reason()), 4, style.width()));
        each.rows().ifPresent(rows -> lines.add("    " + some(rows)));
      }
    }
    TextReport report = new TextReport(style);
    Inspection inspection = study.inspection();
    StringBuilder text = new StringBuilder(String.join("\n", lines)).append("\n");
    if (!inspection.findings().isEmpty() || inspection.refusal().isPresent()) {
      text.append('\n').append(report.check(List.of(new StudiedFile("draft", List.of(study)))));
    }
    studied.ledger().ifPresent(ledger -> text.append('\n').append(account(report, ledger)));
    studied.rows().ifPresent(rows -> text.append('\n').append(report.rows(rows)));
    return text.append(number < all ? "\n" : "").toString();
  }

  private static String line(List<@Nullable String> row) {
    return row.stream().map(value -> Cells.plain(value, false)).collect(Collectors.joining(" "));
  }

  private static int parts(Ledger ledger) {
    return ledger.parts().stream().mapToInt(each -> 1 + parts(each)).sum();
  }

  /** Some of the rows that break a promise, by what they are known by. */
  private static String some(BreakingRows rows) {
    String first = rows.rows().stream().map(DraftText::line).collect(Collectors.joining("; "));
    long more = rows.count() - rows.rows().size();
    return Visible.line(String.join(" ", rows.headings()))
        + ": "
        + first
        + (more > 0 ? "; and " + more + " more" : "");
  }

  /** A draft's own rows; the parts of a long one would stand between it and its result. */
  private String account(TextReport report, Ledger ledger) {
    int parts = parts(ledger);
    if (parts <= MOST_PARTS) {
      return report.ledger(ledger);
    }
    Ledger own =
        new Ledger(ledger.name(), ledger.entries(), List.of(), ledger.found(), ledger.untold());
    return report.ledger(own)
        + "\n"
        + style.faint("  ledger tells the rows of the " + parts + " queries in it")
        + "\n";
  }
}
