package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A condition that a sum of what belongs to a row stays below something: where nothing belongs to
 * it the sum is NULL, and the row goes that should be the first to stay (ISO/IEC 9075-2, 8.2).
 */
public final class SumWithinCompared implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isCorrelated()) {
      return List.of();
    }
    return block.filters().stream()
        .filter(each -> !subject.hasParameter(each.condition()))
        .flatMap(each -> of(each, subject).stream())
        .toList();
  }

  private static Optional<Suspicion> of(Conjunct filter, Subject subject) {
    if (!(filter.condition() instanceof Comparison comparison)
        || !comparison.operator().isOrder()) {
      return Optional.empty();
    }
    boolean below = comparison.operator().isBelow();
    Expression low = below ? comparison.left() : comparison.right();
    Expression high = below ? comparison.right() : comparison.left();
    return SumWithin.of(low, subject)
        .map(
            sum -> {
              ComparisonOperator operator = comparison.operator();
              return suspicion(filter, sum, below ? operator : operator.turned(), high, subject);
            });
  }

  private static Suspicion suspicion(
      Conjunct filter,
      SumWithin sum,
      ComparisonOperator operator,
      Expression high,
      Subject subject) {
    JoinedRows rows = subject.rows().orElseThrow();
    // With 0 for nothing it would stay.
    Expression lost =
        Sql.all(
            List.of(
                Sql.isNull(rows.value(rows.all(), sum.query())),
                new Comparison(
                    Span.NOWHERE, operator, Sql.number(0), rows.value(rows.all(), high))));
    return Suspicion.asking(
        Kind.NULL_COMPARISON,
        filter.span(),
        List.of(filter.span()),
        Optional.of(UnequalToMissing.Rows.question(rows, filter, lost)),
        found ->
            found.filter(each -> each.missing() > 0).map(each -> conclude(sum, each, subject)));
  }

  private static Conclusion conclude(SumWithin sum, UnequalToMissing.Rows rows, Subject subject) {
    return new Conclusion(
        Severity.WARNING,
        sum.isNull(subject)
            + ", and NULL is below nothing: "
            + Words.rows(rows.missing())
            + (rows.missing() == 1 ? " is" : " are")
            + " dropped for that alone. Write COALESCE(…, 0) around the subquery.",
        new Evidence(
            Map.of("rows without a sum", rows.missing(), "rows that stay", rows.kept()),
            List.of(),
            List.of("a sum of no rows is NULL")),
        List.of(sum.filled(subject)));
  }
}
