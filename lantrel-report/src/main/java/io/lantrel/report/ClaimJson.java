package io.lantrel.report;

import io.lantrel.catalog.Constraint;
import io.lantrel.claim.BreakingRows;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.ClaimProblem;
import io.lantrel.claim.Verification;
import io.lantrel.compare.Comparison;
import io.lantrel.sql.Place;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** Claims as JSON, as {@link JsonReport} writes other answers. */
public final class ClaimJson {

  private ClaimJson() {}

  /** What became of claims. */
  public static String verified(List<VerifiedQuery> queries) {
    return JsonReport.write(
        JsonReport.object(
            "version",
            JsonReport.VERSION,
            "queries",
            queries.stream().map(ClaimJson::verified).toList()));
  }

  private static Map<String, Object> verified(VerifiedQuery query) {
    Verification found = query.verification();
    return JsonReport.object(
        "file",
        query.file(),
        "statement",
        query.study() == null ? null : query.study().number(),
        "line",
        query.study() == null ? null : query.study().place().line(),
        "values",
        query.values().isEmpty() ? null : query.values(),
        "state",
        query.state().id(),
        "rows",
        found.rows().isPresent() ? found.rows().getAsLong() : null,
        "claims",
        found.claims().stream().map(ClaimJson::claim).toList(),
        "problems",
        found.problems().stream().map(ClaimJson::problem).toList(),
        "findings",
        query.study() == null
            ? List.of()
            : query.findings().stream()
                .map(each -> JsonReport.finding(query.study(), each))
                .toList(),
        "unchecked",
        Stream.concat(query.obstacle().stream(), query.unchecked().stream()).toList());
  }

  /** Claims that could be made. */
  public static String suggested(List<SuggestedClaims> all, List<FailedStatement> failed) {
    return JsonReport.write(
        JsonReport.object(
            "version",
            JsonReport.VERSION,
            "queries",
            all.stream()
                .map(
                    each ->
                        JsonReport.object(
                            "file", each.file(),
                            "statement", each.study().number(),
                            "line", each.study().place().line(),
                            "claims", each.claims().stream().map(ClaimJson::claim).toList()))
                .toList(),
            "failed",
            FailedStatement.json(failed)));
  }

  private static Map<String, Object> claim(CheckedClaim claim) {
    return JsonReport.object(
        "text", claim.claim().text(),
        "line", claim.claim().place().map(Place::line).orElse(null),
        "verdict", claim.verdict().word(),
        "reason", claim.reason(),
        "constraints", claim.constraints().stream().map(Constraint::words).toList(),
        "rows", claim.rows().map(ClaimJson::breaking).orElse(null),
        "differences",
            claim
                .comparison()
                .flatMap(Comparison::differences)
                .map(JsonReport::differences)
                .orElse(null));
  }

  private static Map<String, Object> breaking(BreakingRows rows) {
    return JsonReport.object(
        "count", rows.count(), "headings", rows.headings(), "values", rows.rows());
  }

  private static Map<String, Object> problem(ClaimProblem problem) {
    return JsonReport.object(
        "text", problem.claim().text(),
        "line", problem.claim().place().map(Place::line).orElse(null),
        "column", problem.claim().place().map(Place::column).orElse(null),
        "message", problem.message());
  }
}
