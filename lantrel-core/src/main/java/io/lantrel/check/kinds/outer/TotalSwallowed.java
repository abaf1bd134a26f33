package io.lantrel.check.kinds.outer;

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
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.OutputColumn;
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
import java.util.stream.Stream;

/**
 * A total and a value that each group has once, added or taken off: where that is NULL, the total
 * is lost with it (ISO/IEC 9075-2, 6.29).
 */
public final class TotalSwallowed implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.groupedBy().isEmpty() || block.isCorrelated()) {
      return List.of();
    }
    return block.outputs().stream()
        .map(OutputColumn::value)
        .flatMap(each -> of(each, subject))
        .limit(1)
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Stream<Swallowed> of(Expression value, Subject subject) {
    if (!(NullForNull.within(value) instanceof Arithmetic sum)
        || (sum.operator() != ArithmeticOperator.PLUS
            && sum.operator() != ArithmeticOperator.MINUS)) {
      return Stream.of();
    }
    return Stream.concat(
        pair(sum, sum.left(), sum.right(), subject).stream(),
        pair(sum, sum.right(), sum.left(), subject).stream());
  }

  private static Optional<Swallowed> pair(
      Arithmetic whole, Expression total, Expression value, Subject subject) {
    QueryBlock block = subject.block();
    return total instanceof FunctionCall call && Aggregates.isOne(call) && call.over() == null
        ? subject
            .ownColumn(value)
            .filter(column -> column.type().family().isNumber())
            .filter(column -> !block.isNeverNull(column))
            .map(column -> new Swallowed(whole, call, value, column))
        : Optional.empty();
  }

  /**
   * A total that may be lost.
   *
   * @param whole what is reckoned
   * @param value what each group has once
   * @param column the same
   */
  private record Swallowed(
      Arithmetic whole, FunctionCall total, Expression value, UseColumn column) {

    Suspicion suspicion(Subject subject) {
      JoinedRows rows = subject.rows().orElseThrow();
      Relation kept = rows.kept(column.use()).relation();
      List<Expression> groups = rows.groups(kept);
      Expression missing = Sql.isNull(FunctionCall.of("MIN", rows.column(kept, column)));
      return Suspicion.counting(
          Kind.NULL_SWALLOWS,
          whole.span(),
          List.of(whole.span()),
          Question.groups(kept, groups, Sql.all(List.of(missing, isThere(rows, kept)))),
          count -> conclude(count, subject));
    }

    /** That a group has a total: a number of rows is one always. */
    private Expression isThere(JoinedRows rows, Relation kept) {
      return total.key().equals("count") || total.arguments().isEmpty()
          ? Sql.greater(Sql.count(), Sql.number(0))
          : Sql.greater(Sql.count(rows.value(kept, total.arguments().get(0))), Sql.number(0));
    }

    private Conclusion conclude(long count, Subject subject) {
      String filled = subject.edits().keyword("COALESCE") + "(" + subject.text(value) + ", 0)";
      return new Conclusion(
          Severity.WARNING,
          "Where "
              + column.written()
              + " is NULL, the whole of this is NULL, "
              + subject.text(total)
              + " too: "
              + Words.count(count, "group")
              + ". Write "
              + filled
              + ".",
          new Evidence(Map.of("groups with NULL", count), List.of(), List.of()),
          List.of(List.of(new Edit(value.span(), filled))));
    }
  }
}
