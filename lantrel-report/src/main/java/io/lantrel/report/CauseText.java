package io.lantrel.report;

import io.lantrel.engine.NamedRow;
import io.lantrel.ledger.Cause;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;

/** A reason, how many rows have it, and some of them by name. */
final class CauseText {

  private static final int GAP = 15;

  private final Style style;
  private final String about;

  CauseText(Style style) {
    this(style, "");
  }

  /**
   * @param about what stands before a figure
   */
  CauseText(Style style, String about) {
    this.style = style;
    this.about = about;
  }

  /**
   * @param word what happened to the rows
   * @param isRest whether the rows that are not named are told by their number
   */
  List<String> of(String word, Cause cause, boolean isRest) {
    String label = word + " " + about + Words.number(cause.rows());
    // Millions of rows take more room.
    int gap = Math.max(GAP, label.length() + 1);
    List<String> lines =
        new ArrayList<>(Layout.labelled(label, cause.reason(), 4, gap, style.width()));
    if (cause.examples().isEmpty()) {
      return lines;
    }
    long more = isRest ? cause.rows() - cause.examples().size() : 0;
    String rest = more > 0 ? Words.number(more) + " more" : "";
    List<String> rows = cause.examples().stream().map(NamedRow::words).toList();
    if (cause.examples().stream().allMatch(row -> row.with().isEmpty())) {
      lines.addAll(aside(String.join(", ", rows) + (rest.isEmpty() ? "" : ", and " + rest), gap));
    } else {
      rows.forEach(row -> lines.addAll(aside(row, gap)));
      lines.addAll(rest.isEmpty() ? List.of() : aside("and " + rest, gap));
    }
    return lines;
  }

  private List<String> aside(String text, int gap) {
    return Layout.wrapped(text, 4 + gap, style.width()).stream().map(style::faint).toList();
  }
}
