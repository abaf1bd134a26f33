package io.lantrel.report;

import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.Verdict;
import java.util.ArrayList;
import java.util.List;

/** Claims that could be made of a query, as lines that can be pasted before it. */
public final class SuggestText {

  private final Style style;

  public SuggestText(Style style) {
    this.style = style;
  }

  /** The comment that makes a claim. */
  public static String comment(CheckedClaim claim) {
    return "-- claim: " + claim.claim().text();
  }

  /** Those of one query; of each why it is met stands above it. */
  public String write(List<CheckedClaim> claims) {
    if (claims.isEmpty()) {
      return style.faint("nothing to claim that would not be trivial, or is claimed already")
          + "\n";
    }
    List<String> lines = new ArrayList<>();
    for (CheckedClaim claim : claims) {
      String verdict = claim.verdict() == Verdict.PROVEN ? "proven" : "holds here";
      Layout.wrapped(verdict + ": " + Visible.line(claim.reason()), 2, style.width())
          .forEach(line -> lines.add(style.faint(line)));
      lines.add(style.strong(Visible.line(comment(claim))));
    }
    return String.join("\n", lines) + "\n";
  }
}
