package io.lantrel.check.kinds.conditions;

import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.ScalarQuery;
import java.util.List;
import java.util.Optional;

/**
 * A subquery that adds up what belongs to a row outside: NULL, and not 0, where nothing does
 * (ISO/IEC 9075-2, 10.9, general rules).
 *
 * @param query the subquery as a value
 * @param sum what it gives
 * @param inner its block
 */
public record SumWithin(ScalarQuery query, FunctionCall sum, QueryBlock inner) {

  /** The same value, if it is one. */
  public static Optional<SumWithin> of(Expression value, Subject subject) {
    return value instanceof ScalarQuery scalar
        ? Blocks.of(scalar.query(), subject)
            .filter(inner -> inner.isCorrelated() && inner.groupedBy().isEmpty())
            .filter(inner -> inner.outputs().size() == 1 && !inner.uses().isEmpty())
            .flatMap(
                inner ->
                    inner.outputs().get(0).value() instanceof FunctionCall call
                            && call.key().equals("sum")
                            && call.over() == null
                        ? Optional.of(new SumWithin(scalar, call, inner))
                        : Optional.empty())
        : Optional.empty();
  }

  /** That it is NULL where it finds none: the beginning of a sentence. */
  public String isNull(Subject subject) {
    return "Where the subquery finds no "
        + (inner.uses().size() == 1 ? inner.uses().get(0).rowWord() : "row")
        + ", "
        + subject.text(sum)
        + " is NULL and not 0";
  }

  /** What gives 0 in place of NULL. */
  public List<Edit> filled(Subject subject) {
    return List.of(
        Edit.insert(query.span().start(), subject.edits().keyword("COALESCE") + "("),
        Edit.insert(query.span().end(), ", 0)"));
  }
}
