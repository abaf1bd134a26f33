package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A total of whole numbers divided by another, where the engine cuts the fraction off (ISO/IEC
 * 9075-2, 6.29, leaves the scale of a quotient to it).
 */
public final class WholeDivision implements Check {

  private static final Set<String> OF_ITS_VALUES = Set.of("sum", "min", "max");
  private static final String QUOTIENTS = SampleData.RESERVED + "quotients";

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (!block.dialect().has(Dialect.Rule.WHOLE_DIVISION)) {
      return List.of();
    }
    return subject.nodes(Arithmetic.class).stream()
        .filter(each -> each.operator() == ArithmeticOperator.DIVIDED)
        .filter(each -> isTotal(each.left()) && isWhole(each.left(), block))
        .filter(each -> isWhole(each.right(), block) && !(each.right() instanceof Value.Literal))
        .map(each -> suspicion(each, subject))
        .toList();
  }

  /** Totals that are looked at over windows, or taken times a hundred, are left alone. */
  private static boolean isTotal(Expression value) {
    return totals(value).findAny().isPresent()
        && totals(value).allMatch(call -> call.over() == null)
        && value
            .preorder()
            .noneMatch(
                node ->
                    node instanceof Arithmetic product
                        && product.operator() == ArithmeticOperator.TIMES);
  }

  private static Stream<FunctionCall> totals(Expression value) {
    return value
        .preorder()
        .filter(FunctionCall.class::isInstance)
        .map(FunctionCall.class::cast)
        .filter(Aggregates::isOne);
  }

  private static boolean isWhole(Expression value, QueryBlock block) {
    if (value instanceof FunctionCall call && OF_ITS_VALUES.contains(call.key())) {
      return call.arguments().size() == 1 && isWhole(call.arguments().get(0), block);
    }
    if (value instanceof FunctionCall call && Set.of("coalesce", "nullif").contains(call.key())) {
      return call.arguments().stream().allMatch(each -> isWhole(each, block));
    }
    if (value instanceof Arithmetic sum
        && Set.of(ArithmeticOperator.PLUS, ArithmeticOperator.MINUS, ArithmeticOperator.TIMES)
            .contains(sum.operator())) {
      return isWhole(sum.left(), block) && isWhole(sum.right(), block);
    }
    if (value instanceof Value.ScalarQuery scalar
        && scalar.query().body() instanceof QueryBody.Select select
        && select.items().size() == 1) {
      return totals(scalar).limit(1).anyMatch(call -> call.key().equals("count"));
    }
    return block.type(value).family() == TypeFamily.INTEGER;
  }

  private static Suspicion suspicion(Arithmetic quotient, Subject subject) {
    QueryBlock block = subject.block();
    boolean isOutput =
        block.outputs().stream().anyMatch(each -> each.value().span().contains(quotient.span()));
    boolean hasQuery = quotient.preorder().anyMatch(Query.class::isInstance);
    Optional<Question<Long>> cut =
        subject.rows().isPresent() && isOutput && !hasQuery && block.standsAlone()
            ? Optional.of(cut(quotient, block))
            : Optional.empty();
    return Suspicion.asking(
        Kind.WHOLE_DIVISION,
        quotient.span(),
        List.of(quotient.span()),
        cut,
        count ->
            count.isPresent() && count.get() == 0
                ? Optional.empty()
                : Optional.of(conclude(quotient, count, subject)));
  }

  /** How many of the quotients have a rest. */
  private static Question<Long> cut(Arithmetic quotient, QueryBlock block) {
    Query quotients = Counting.showing(block, List.of(quotient.left(), quotient.right()));
    Expression above = Sql.column(QUOTIENTS, "c0");
    Expression below = Sql.column(QUOTIENTS, "c1");
    Expression rest = Sql.not(Sql.equal(FunctionCall.of("MOD", above, below), Sql.number(0)));
    Expression hasRest =
        Sql.choose(
            Sql.equal(below, Sql.number(0)),
            Sql.nothing(),
            Sql.choose(rest, Sql.number(1), Sql.nothing()));
    return Question.number(
        Query.of(
            Sql.select(
                List.of(Sql.as(Sql.count(hasRest), "c0")),
                Sql.derived(quotients, QUOTIENTS),
                null)));
  }

  private static Conclusion conclude(Arithmetic quotient, Optional<Long> cut, Subject subject) {
    String left = subject.text(quotient.left());
    String message =
        subject.text(quotient)
            + " divides whole numbers, and the fraction is cut off"
            + cut.map(rows -> ": in " + Words.rows(rows) + " there is one").orElse("")
            + ". Write CAST("
            + left
            + " AS DOUBLE PRECISION) / "
            + subject.text(quotient.right())
            + ".";
    String type = " " + subject.edits().keyword("AS") + " DOUBLE PRECISION)";
    List<Edit> repair =
        List.of(
            Edit.insert(quotient.left().span().start(), subject.edits().keyword("CAST") + "("),
            Edit.insert(quotient.left().span().end(), type));
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            cut.map(rows -> Map.of("rows with a fraction", rows)).orElse(Map.of()),
            List.of(),
            List.of("both are whole numbers, and / gives a whole number here")),
        List.of(repair));
  }
}
