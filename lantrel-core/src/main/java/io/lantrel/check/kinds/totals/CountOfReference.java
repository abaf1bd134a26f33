package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.Table;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.References;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * COUNT of a column that refers to a table, or of the rows of a query that are each of one row of
 * another, under a heading that names the rows of the table referred to: each row that refers is
 * counted, so whom several refer to comes several times.
 */
public final class CountOfReference implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (subject.rows().isEmpty() || subject.block().isCorrelated()) {
      return List.of();
    }
    return Stream.concat(
            HeadedCount.in(subject.block(), false).flatMap(count -> of(count, subject).stream()),
            subject.block().outputs().stream().flatMap(output -> ofRows(output, subject).stream()))
        .map(each -> each.suspicion(subject))
        .toList();
  }

  /** COUNT(*) of rows of one table, of which one column refers to what the heading names. */
  private static Optional<Counted> ofRows(OutputColumn output, Subject subject) {
    QueryBlock block = subject.block();
    if (!(output.value() instanceof FunctionCall call)
        || !call.star()
        || !call.key().equals("count")
        || call.filter() != null
        || call.over() != null) {
      return Optional.empty();
    }
    return Totalled.deciding(Set.copyOf(block.uses()), block)
        .filter(use -> !use.keys().isEmpty() && block.stepsThatFill(use).isEmpty())
        .filter(use -> !Totalled.speaksOf(output, use.tableName()))
        .flatMap(use -> ofRows(use, call, output, subject));
  }

  private static Optional<Counted> ofRows(
      TableUse use, FunctionCall call, OutputColumn output, Subject subject) {
    List<Counted> counted =
        use.columns().stream()
            .flatMap(
                column ->
                    reached(column, subject)
                        .filter(table -> Totalled.isNamed(output, table.name()))
                        .map(table -> new Counted(call, column, table)))
            .toList();
    return counted.size() == 1 ? Optional.of(counted.get(0)) : Optional.empty();
  }

  /** The other tables whose rows a column names: also as the first part of a longer key. */
  private static Stream<Table> reached(UseColumn column, Subject subject) {
    List<String> targets = References.targets(column, subject.catalog());
    return subject.catalog().tables().stream()
        .filter(table -> column.use().table().filter(table::equals).isEmpty())
        .filter(
            table ->
                table.keys().stream()
                    .filter(key -> key.columns().size() == 1)
                    .anyMatch(key -> targets.contains(table.name() + "." + key.columns().get(0))));
  }

  private static Optional<Counted> of(HeadedCount count, Subject subject) {
    UseColumn column = count.column();
    // What a join repeats besides is told by itself.
    if (column.use().keys().isEmpty()
        || !RepeatedInTotal.repeating(column.use(), subject.block()).isEmpty()) {
      return Optional.empty();
    }
    return referredTo(column, subject)
        .filter(table -> Totalled.isNamed(count.output(), table.name()))
        .map(table -> new Counted(count.call(), column, table));
  }

  /** The other table whose rows a column names, alone. */
  private static Optional<Table> referredTo(UseColumn column, Subject subject) {
    return BaseColumn.referred(column, subject.catalog()).stream()
        .filter(table -> column.use().table().filter(table::equals).isEmpty())
        .findFirst();
  }

  /**
   * A count.
   *
   * @param column what is counted, or what the rows that are counted refer by
   * @param table whose rows the heading names
   */
  private record Counted(FunctionCall call, UseColumn column, Table table) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.asking(
          Kind.REPEATED_IN_TOTAL,
          call.span(),
          List.of(call.span()),
          Optional.of(taken(subject.rows().orElseThrow())),
          found ->
              found
                  .filter(each -> each.values() < each.rows())
                  .map(each -> conclude(each, subject)));
    }

    /** How many rows refer, and to how many. */
    private Question<TakenOnce> taken(JoinedRows rows) {
      JoinedRows.Kept kept = rows.kept(column.use());
      Relation relation = kept.relation();
      List<Expression> groups = rows.groups(relation);
      return TakenOnce.question(relation, groups, kept.identity(), rows.column(relation, column));
    }

    private Conclusion conclude(TakenOnce taken, Subject subject) {
      String row = column.use().rowWord();
      String message =
          subject.text(call)
              + " counts each "
              + row
              + ", not each "
              + table.name()
              + ": "
              + Words.count(taken.rows(), row)
              + " of "
              + Words.count(taken.values(), table.name())
              + (subject.block().groupedBy().isEmpty() ? "" : ", over all groups")
              + ". Count "
              + (call.star() ? column.written() : "them")
              + " with DISTINCT.";
      String word = subject.edits().keyword("DISTINCT") + " ";
      Edit distinct =
          call.star()
              ? new Edit(
                  call.span(),
                  subject.edits().keyword("COUNT") + "(" + word + column.written() + ")")
              : Edit.insert(call.arguments().get(0).span().start(), word);
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              Map.of("counted", taken.rows(), "counted once each", taken.values()),
              List.of(),
              List.of()),
          List.of(List.of(distinct)));
    }
  }
}
