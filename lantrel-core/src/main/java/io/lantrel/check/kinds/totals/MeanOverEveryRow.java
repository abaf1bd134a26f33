package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * {@code SUM(x) / COUNT(*)} where some rows have no {@code x}: they add nothing, and are counted
 * all the same, as if they had 0 (AVG leaves them out: ISO/IEC 9075-2, 10.9).
 */
public final class MeanOverEveryRow implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    Optional<JoinedRows> rows = subject.rows();
    if (rows.isEmpty() || subject.block().isCorrelated()) {
      return List.of();
    }
    return subject.nodes(Arithmetic.class).stream()
        .filter(each -> each.operator() == ArithmeticOperator.DIVIDED)
        .flatMap(each -> mean(each, subject.block()).stream())
        .limit(1)
        .map(each -> each.suspicion(rows.get(), subject))
        .toList();
  }

  private static Optional<Mean> mean(Arithmetic quotient, QueryBlock block) {
    Optional<FunctionCall> sum = plain(quotient.left(), "sum");
    Optional<FunctionCall> count = counted(quotient.right()).filter(FunctionCall::star);
    return count.isEmpty()
        ? Optional.empty()
        : sum.filter(each -> each.arguments().size() == 1 && !each.distinct())
            .flatMap(each -> block.column(each.arguments().get(0)))
            .filter(block::isOwn)
            .filter(column -> column.use().table().isPresent())
            .filter(column -> Totalled.decidedBy(column.use(), block).containsAll(block.uses()))
            // What an outer join fills is told as such.
            .filter(column -> block.stepsThatFill(column.use()).isEmpty())
            .map(column -> new Mean(quotient, count.get(), column));
  }

  /** Perhaps within NULLIF. */
  private static Optional<FunctionCall> counted(Expression value) {
    return value instanceof FunctionCall call
            && call.key().equals("nullif")
            && call.arguments().size() == 2
        ? plain(call.arguments().get(0), "count")
        : plain(value, "count");
  }

  private static Optional<FunctionCall> plain(Expression value, String name) {
    return value instanceof FunctionCall call
            && call.key().equals(name)
            && call.over() == null
            && call.filter() == null
        ? Optional.of(call)
        : Optional.empty();
  }

  /**
   * A mean.
   *
   * @param count the number of all rows
   * @param column what is added up
   */
  private record Mean(Arithmetic quotient, FunctionCall count, UseColumn column) {

    Suspicion suspicion(JoinedRows rows, Subject subject) {
      JoinedRows.Kept kept = rows.kept(column.use());
      Relation relation = kept.relation();
      Expression value = rows.column(relation, column);
      Question<List<Long>> found =
          Question.figures(
              relation,
              List.of(Sql.countIf(Sql.isNull(value)), Sql.count()),
              row -> List.of(row.figure(0), row.figure(1)));
      return Suspicion.asking(
          Kind.COUNT_OF_MISSING,
          quotient.span(),
          List.of(count.span()),
          Optional.of(found),
          figures ->
              figures
                  .filter(each -> each.get(0) > 0 && each.get(0) < each.get(1))
                  .map(each -> conclude(each.get(0), subject)));
    }

    private Conclusion conclude(long without, Subject subject) {
      String row = column.use().rowWord();
      String mean = subject.edits().keyword("AVG") + "(" + column.written() + ")";
      return new Conclusion(
          Severity.NOTE,
          subject.text(count)
              + " also counts "
              + Words.count(without, row)
              + " of which "
              + column.written()
              + " is NULL, as if that were 0: this is not the mean of the values. Write "
              + mean
              + ", or COALESCE if 0 is meant.",
          new Evidence(Map.of("counted without a value", without), List.of(), List.of()),
          List.of(List.of(new Edit(quotient.span(), mean))));
    }
  }
}
