package io.lantrel.claim;

import io.lantrel.compare.Comparison;
import io.lantrel.compare.Differences;
import io.lantrel.engine.ValueText;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** All that is to be known of claims that are not met, in plain lines for the message of a test. */
final class Failure {

  private static final String INDENT = "    ";

  private Failure() {}

  static String message(Verification found) {
    List<String> lines = new ArrayList<>();
    if (found.claims().isEmpty() && found.problems().isEmpty()) {
      lines.add("there is no claim to verify; one is written: -- claim: one row per A");
    }
    found.problems().forEach(each -> lines.add("misspelt: " + each.message()));
    for (CheckedClaim each : found.claims()) {
      lines.add(each.verdict().word() + ": " + each.claim().text() + "; " + each.reason());
      each.rows().ifPresent(rows -> add(rows, lines));
      each.comparison().flatMap(Comparison::differences).ifPresent(rows -> add(rows, lines));
    }
    return String.join("\n", lines);
  }

  private static void add(BreakingRows rows, List<String> lines) {
    if (!rows.rows().isEmpty()) {
      lines.add(INDENT + String.join(", ", rows.headings()));
    }
    rows.rows()
        .forEach(row -> lines.add(INDENT + ValueText.row(new ArrayList<@Nullable Object>(row))));
  }

  private static void add(Differences rows, List<String> lines) {
    lines.add(INDENT + String.join(", ", rows.headings()));
    for (Differences.LoneRow row : rows.lone()) {
      String where = row.first() > row.second() ? "only given:    " : "only expected: ";
      lines.add(INDENT + where + text(row.values()));
    }
    for (Differences.Change change : rows.changes()) {
      lines.add(INDENT + "given:         " + text(change.first()));
      lines.add(INDENT + "expected:      " + text(change.second()));
    }
  }

  private static String text(List<@Nullable Object> values) {
    return ValueText.row(values);
  }
}
