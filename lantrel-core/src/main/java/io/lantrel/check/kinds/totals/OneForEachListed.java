package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.Table;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Condition.InList;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.ScalarQuery;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * {@code x IN (a, b) … HAVING COUNT(*) = 2}, which asks who has both, where one can have a row
 * twice: two of the one are counted like one of each. So with {@code HAVING COUNT(x) = (SELECT
 * COUNT(*) FROM t)}, which asks who has all.
 */
public final class OneForEachListed implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    Expression having = subject.block().select().having();
    if (having == null || subject.rows().isEmpty() || subject.block().groupedBy().isEmpty()) {
      return List.of();
    }
    return subject.nodes(Comparison.class).stream()
        .filter(each -> having.span().contains(each.span()))
        .flatMap(each -> of(each, subject).stream())
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<Asked> of(Comparison comparison, Subject subject) {
    boolean asks =
        comparison.operator() == ComparisonOperator.EQUAL
            || comparison.operator() == ComparisonOperator.GREATER_OR_EQUAL;
    if (!asks
        || !(comparison.left() instanceof FunctionCall count)
        || count.distinct()
        || !SizeOfGroup.isCount(count)) {
      return Optional.empty();
    }
    Expression wanted = comparison.right();
    return (wanted instanceof Literal number
            ? listed(number, subject)
            : counted(wanted, subject).flatMap(table -> ofAll(table, count, subject)))
        .map(column -> new Asked(comparison, count, wanted, column));
  }

  /** The column that has as many values listed. */
  private static Optional<UseColumn> listed(Literal number, Subject subject) {
    return subject.block().filters().stream()
        .map(filter -> filter.condition())
        .filter(InList.class::isInstance)
        .map(InList.class::cast)
        .filter(in -> !in.negated() && isOfThatMany(in, number.text(), subject))
        .flatMap(in -> subject.ownColumn(in.value()).stream())
        .findFirst();
  }

  /** The table whose rows a subquery counts, whether all of them or those of a kind. */
  private static Optional<Table> counted(Expression wanted, Subject subject) {
    return wanted instanceof ScalarQuery query
        ? Blocks.of(query.query(), subject)
            .filter(block -> !block.isCorrelated() && block.groupedBy().isEmpty())
            .filter(block -> block.uses().size() == 1 && block.outputs().size() == 1)
            .filter(
                block ->
                    block.outputs().get(0).value() instanceof FunctionCall call
                        && SizeOfGroup.isCount(call))
            .flatMap(block -> block.uses().get(0).table())
        : Optional.empty();
  }

  /** The column of which each row of a table is one value: what is counted, or refers to it. */
  private static Optional<UseColumn> ofAll(Table table, FunctionCall count, Subject subject) {
    QueryBlock block = subject.block();
    Stream<UseColumn> columns =
        count.star()
            ? block.uses().stream().flatMap(use -> use.columns().stream())
            : block.columnsIn(count).stream();
    return columns
        .filter(column -> isOneOf(table, column, block))
        .filter(column -> block.groupedBy().stream().noneMatch(it -> isSame(it, column, block)))
        .findFirst();
  }

  private static boolean isSame(Expression value, UseColumn column, QueryBlock block) {
    return block.column(value).filter(column::equals).isPresent();
  }

  private static boolean isOneOf(Table table, UseColumn column, QueryBlock block) {
    boolean isKey =
        column.use().table().filter(table::equals).isPresent()
            && column.use().keys().stream()
                .anyMatch(key -> key.columns().equals(List.of(column.name())));
    return isKey || BaseColumn.referred(column, block.catalog()).contains(table);
  }

  private static boolean isOfThatMany(InList in, String number, Subject subject) {
    boolean constants = in.list().stream().allMatch(Literal.class::isInstance);
    long different = in.list().stream().map(subject::text).distinct().count();
    return constants && different > 1 && number.equals(Long.toString(different));
  }

  /** Groups: how many a count of rows takes, and how many of these have not each that is listed. */
  private record Taken(long taken, long without) {}

  /**
   * What is asked of each group.
   *
   * @param wanted how many values there are to be
   * @param column of which each listed value is to be there
   */
  private record Asked(
      Comparison comparison, FunctionCall count, Expression wanted, UseColumn column) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.asking(
          Kind.REPEATED_IN_TOTAL,
          comparison.span(),
          List.of(comparison.span()),
          Optional.of(taken(subject.rows().orElseThrow())),
          found -> found.filter(each -> each.without() > 0).map(each -> conclude(each, subject)));
    }

    /** Groups that have the rows and not the values, or the values and not just so many rows. */
    private Question<Taken> taken(JoinedRows rows) {
      String groups = SampleData.RESERVED + "groups";
      Relation kept = rows.kept(column.use()).relation();
      Expression counted =
          count.star() ? Sql.count() : Sql.count(rows.value(kept, count.arguments().get(0)));
      FromItem each =
          Sql.derived(
              kept.select(
                  false,
                  List.of(
                      Sql.as(counted, "c0"),
                      Sql.as(Sql.countDistinct(rows.column(kept, column)), "c1"),
                      Sql.as(FunctionCall.of("MIN", rows.value(kept, wanted)), "c2")),
                  null,
                  rows.groups(kept),
                  null),
              groups);
      Expression takes = compared(Sql.column(groups, "c0"), groups);
      Expression has = compared(Sql.column(groups, "c1"), groups);
      Expression differs =
          Sql.any(
              List.of(
                  Sql.all(List.of(takes, Sql.not(has))), Sql.all(List.of(has, Sql.not(takes)))));
      Query query =
          Query.of(
              Sql.select(
                  List.of(Sql.as(Sql.countIf(takes), "c0"), Sql.as(Sql.countIf(differs), "c1")),
                  each,
                  null));
      return Question.numbers(kept, query, 2, row -> new Taken(row.figure(0), row.figure(1)));
    }

    private Expression compared(Expression counted, String groups) {
      Expression number = Sql.column(groups, "c2");
      return comparison.operator() == ComparisonOperator.EQUAL
          ? Sql.equal(counted, number)
          : Sql.not(Sql.greater(number, counted));
    }

    private Conclusion conclude(Taken taken, Subject subject) {
      String right = subject.edits().keyword("COUNT(DISTINCT") + " " + column.written() + ")";
      return new Conclusion(
          Severity.WARNING,
          subject.text(count)
              + " counts rows, not the different values of "
              + column.written()
              + ": "
              + Words.count(taken.without(), "group")
              + (taken.without() == 1 ? " is" : " are")
              + " wrongly taken or left out, for a value that comes twice. Write "
              + right
              + ".",
          new Evidence(
              Map.of("groups taken", taken.taken(), "wrongly taken or left out", taken.without()),
              List.of(),
              List.of(
                  wanted instanceof Literal number
                      ? "the list has " + number.text() + " values"
                      : "the count is compared with all that there are: " + subject.text(wanted))),
          List.of(List.of(new Edit(count.span(), right))));
    }
  }
}
