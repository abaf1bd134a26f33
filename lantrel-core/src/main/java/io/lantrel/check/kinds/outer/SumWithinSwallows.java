package io.lantrel.check.kinds.outer;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.SumWithin;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * A sum of what belongs to a row, asked in a subquery and added or taken off: where nothing belongs
 * to it the sum is NULL, and the whole with it (ISO/IEC 9075-2, 6.29).
 */
public final class SumWithinSwallows implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    boolean grand = block.isGrouped() && block.groupedBy().isEmpty();
    if (subject.rows().isEmpty() || grand || block.isCorrelated()) {
      return List.of();
    }
    return block.outputs().stream()
        .map(OutputColumn::value)
        .flatMap(SumWithinSwallows::wholes)
        .flatMap(each -> of(each, subject))
        .toList();
  }

  /** The sums and differences that a value is, or is made of. */
  private static Stream<Arithmetic> wholes(Expression value) {
    if (!(NullForNull.within(value) instanceof Arithmetic part)) {
      return Stream.of();
    }
    return isSum(part) ? Stream.of(part) : Stream.concat(wholes(part.left()), wholes(part.right()));
  }

  private static boolean isSum(Arithmetic value) {
    return value.operator() == ArithmeticOperator.PLUS
        || value.operator() == ArithmeticOperator.MINUS;
  }

  private static Stream<Expression> parts(Expression value) {
    return value instanceof Arithmetic part && isSum(part)
        ? Stream.concat(parts(part.left()), parts(part.right()))
        : Stream.of(value);
  }

  private static Stream<Suspicion> of(Arithmetic whole, Subject subject) {
    List<Expression> parts = parts(whole).toList();
    return parts.stream()
        .flatMap(each -> SumWithin.of(each, subject).stream())
        .flatMap(
            sum -> {
              List<Expression> others =
                  parts.stream().filter(each -> each != sum.query() && isOfRows(each)).toList();
              return others.isEmpty() ? Stream.of() : Stream.of(suspicion(sum, others, subject));
            });
  }

  private static boolean isOfRows(Node value) {
    return value.preorder().anyMatch(node -> !(node instanceof Literal));
  }

  private static Suspicion suspicion(SumWithin sum, List<Expression> others, Subject subject) {
    JoinedRows rows = subject.rows().orElseThrow();
    boolean grouped = subject.block().isGrouped();
    return Suspicion.counting(
        Kind.NULL_SWALLOWS,
        sum.query().span(),
        List.of(sum.query().span()),
        grouped ? groups(rows, sum) : rows(rows, sum, others),
        count -> conclude(sum, Words.count(count, grouped ? "group" : "row"), count, subject));
  }

  private static Question<Long> rows(JoinedRows rows, SumWithin sum, List<Expression> others) {
    Expression value =
        Sql.any(others.stream().map(each -> Sql.isNotNull(rows.value(rows.all(), each))).toList());
    Expression missing = Sql.isNull(rows.value(rows.all(), sum.query()));
    return Question.count(rows.all(), rows.isKept(missing, value));
  }

  private static Question<Long> groups(JoinedRows rows, SumWithin sum) {
    Relation kept = rows.kept(rows.block().uses().get(0)).relation();
    List<Expression> by = rows.groups(kept);
    Expression missing = Sql.isNull(FunctionCall.of("MIN", rows.value(kept, sum.query())));
    return Question.groups(kept, by, missing);
  }

  private static Conclusion conclude(SumWithin sum, String where, long count, Subject subject) {
    return new Conclusion(
        Severity.WARNING,
        sum.isNull(subject)
            + ", and the whole of this with it: "
            + where
            + ". Write COALESCE(…, 0) around the subquery.",
        new Evidence(
            Map.of("without a sum", count), List.of(), List.of("a sum of no rows is NULL")),
        List.of(sum.filled(subject)));
  }
}
