package io.lantrel.report;

import io.lantrel.check.Finding;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.ClaimProblem;
import io.lantrel.report.VerifiedQuery.State;
import java.util.ArrayList;
import java.util.List;

/** Claims for a page or a comment on a change: what is not as it should be first. */
public final class VerifyMarkdown {

  private VerifyMarkdown() {}

  /** All queries. */
  public static String write(List<VerifiedQuery> queries) {
    List<String> lines = new ArrayList<>();
    lines.add("**" + VerifyText.summary(queries) + "**");
    lines.add("");
    List<VerifiedQuery> bad =
        queries.stream()
            .filter(each -> each.state() == State.FAILS || each.state() == State.OPEN)
            .toList();
    for (VerifiedQuery query : bad) {
      lines.add("### " + RowsFile.escaped(query.name()) + ": " + query.state().word());
      lines.add("");
      lines.addAll(details(query));
      lines.add("");
    }
    lines.add("| query | | proven | holds | broken | undecided |");
    lines.add("| --- | --- | ---: | ---: | ---: | ---: |");
    for (VerifiedQuery query : queries) {
      StringBuilder line = new StringBuilder("| " + RowsFile.escaped(query.name()));
      line.append(" | ").append(query.state().word());
      VerifyText.counts(query).forEach(count -> line.append(" | ").append(count));
      lines.add(line.append(" |").toString());
    }
    return String.join("\n", lines) + "\n";
  }

  private static List<String> details(VerifiedQuery query) {
    List<String> lines = new ArrayList<>();
    query.obstacle().ifPresent(why -> lines.add("- " + RowsFile.escaped(why)));
    for (ClaimProblem problem : query.verification().problems()) {
      lines.add("- misspelt: " + RowsFile.escaped(problem.message()));
    }
    for (CheckedClaim claim : query.verification().claims()) {
      if (!claim.verdict().isMet()) {
        lines.add(
            "- "
                + claim.verdict().word()
                + ": **"
                + RowsFile.escaped(claim.claim().text())
                + "**, "
                + RowsFile.escaped(claim.reason()));
      }
    }
    for (Finding finding : query.failures()) {
      lines.add("- " + finding.kind().id() + ": " + RowsFile.escaped(finding.message()));
    }
    query.unchecked().forEach(each -> lines.add("- not checked: " + RowsFile.escaped(each)));
    return lines;
  }
}
