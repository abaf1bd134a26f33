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
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * A total of a group, taken off a value of a row, or added to it, where several rows share the
 * group: what was paid for an order is taken off each of its bills in full.
 */
public final class SharedTotal implements Check {

  private static final Set<String> TOTALS = Set.of("sum", "count");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isGrouped() || block.isCorrelated()) {
      return List.of();
    }
    return subject.nodes(Arithmetic.class).stream()
        .filter(
            each ->
                each.operator() == ArithmeticOperator.MINUS
                    || each.operator() == ArithmeticOperator.PLUS)
        .flatMap(
            each ->
                shared(each.left(), each.right(), block)
                    .or(() -> shared(each.right(), each.left(), block))
                    .stream())
        .limit(1)
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<Shared> shared(Expression total, Expression value, QueryBlock block) {
    Optional<UseColumn> added = column(total, block).filter(SharedTotal::isTotal);
    Optional<UseColumn> own =
        column(value, block)
            .filter(each -> each.use().table().isPresent() && each.use().keyColumns().size() == 1);
    return added.flatMap(
        one ->
            own.flatMap(
                other ->
                    group(one.use(), other.use(), block)
                        .map(group -> new Shared(total.span(), one, other, group))));
  }

  /** A column, perhaps with a value for NULL. */
  private static Optional<UseColumn> column(Expression value, QueryBlock block) {
    return value instanceof FunctionCall call
            && call.key().equals("coalesce")
            && call.arguments().size() == 2
        ? column(call.arguments().get(0), block)
        : block.column(value).filter(block::isOwn);
  }

  private static boolean isTotal(UseColumn column) {
    return column
        .use()
        .query()
        .filter(query -> query.groupedBy().size() == 1)
        .map(query -> query.outputs().get(column.position()).value())
        .filter(value -> value instanceof FunctionCall call && TOTALS.contains(call.key()))
        .isPresent();
  }

  /** The column of the group by which alone the two are joined. */
  private static Optional<UseColumn> group(TableUse grouped, TableUse other, QueryBlock block) {
    List<UseColumn> joined =
        block.conjuncts().stream()
            .flatMap(each -> each.likeness().stream())
            .filter(pair -> pair.of(grouped).isPresent() && pair.of(other).isPresent())
            .map((Conjunct.Equated pair) -> pair.of(grouped).orElseThrow())
            .toList();
    return joined.size() == 1 && isGroup(joined.get(0))
        ? Optional.of(joined.get(0))
        : Optional.empty();
  }

  private static boolean isGroup(UseColumn column) {
    return column
        .use()
        .query()
        .filter(
            query ->
                query
                    .column(query.groupedBy().get(0))
                    .equals(query.column(query.outputs().get(column.position()).value())))
        .isPresent();
  }

  /**
   * A total and the value that it is reckoned with.
   *
   * @param place where the total is written
   * @param group what the total is of
   */
  private record Shared(Span place, UseColumn total, UseColumn value, UseColumn group) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.counting(
          Kind.REPEATED_IN_TOTAL, place, List.of(place), several(subject), this::conclude);
    }

    /** How many groups have several rows of the table: WHERE may reckon with them itself. */
    private Question<Long> several(Subject subject) {
      JoinedRows rows = subject.rows().orElseThrow();
      boolean filters =
          subject.block().filters().stream().anyMatch(each -> each.span().contains(place));
      Relation relation = filters ? rows.all() : rows.kept(value.use()).relation();
      UseColumn key = value.use().keyColumns().get(0);
      Expression of = rows.column(relation, group);
      // Those that an outer join left without a total share nothing.
      return Question.groups(
          relation,
          List.of(of),
          Sql.all(
              List.of(
                  Sql.greater(Sql.countDistinct(rows.column(relation, key)), Sql.number(1)),
                  Sql.greater(Sql.count(of), Sql.number(0)))));
    }

    private Conclusion conclude(long count) {
      String row = value.use().rowWord();
      String message =
          total.written()
              + " is the total of all rows of one "
              + group.name()
              + ", and "
              + Words.number(count)
              + (count == 1 ? " of these has" : " of these have")
              + " several "
              + Words.plural(row)
              + ": it is reckoned with each of them in full. Take the total for each "
              + row
              + ", or show one line for each "
              + group.name()
              + ".";
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              Map.of("groups of several rows", count),
              List.of(),
              List.of(total.use().words() + " has one row for each " + group.name())),
          List.of());
    }
  }
}
