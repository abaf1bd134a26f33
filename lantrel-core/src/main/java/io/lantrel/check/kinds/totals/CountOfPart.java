package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
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
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * COUNT(DISTINCT …) of a part of a key, under a heading that names the rows: seat 1 of row A and
 * seat 1 of row B count as one seat.
 */
public final class CountOfPart implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (subject.rows().isEmpty() || subject.block().isCorrelated()) {
      return List.of();
    }
    return HeadedCount.in(subject.block(), true)
        .flatMap(count -> of(count, subject).stream())
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<Counted> of(HeadedCount count, Subject subject) {
    QueryBlock block = subject.block();
    UseColumn column = count.column();
    Set<UseColumn> grouped = block.groupColumns();
    return keys(column, subject)
        .filter(key -> Totalled.speaksOf(count.output(), key.table().name()))
        .map(
            key ->
                new Counted(
                    count.call(),
                    column,
                    key.table(),
                    key.columns(),
                    key.columns().stream()
                        .filter(each -> !each.equals(column))
                        .filter(each -> !block.determines(grouped, each))
                        .toList()))
        .filter(each -> !each.missing().isEmpty())
        .findFirst();
  }

  /** Columns that tell the rows of a table apart. */
  private record Telling(Table table, List<UseColumn> columns) {}

  /** The keys that the column is a part of: of its own table, or of one that it refers to. */
  private static Stream<Telling> keys(UseColumn column, Subject subject) {
    TableUse use = column.use();
    if (use.table().isEmpty()) {
      return Stream.of();
    }
    Table table = use.table().get();
    List<Telling> found = new ArrayList<>();
    table.key().map(Key::columns).ifPresent(key -> found.add(telling(table, key, use)));
    for (Reference each : subject.catalog().references()) {
      if (each.from().equals(table)) {
        found.add(telling(each.to(), each.fromColumns(), use));
      }
    }
    return found.stream().filter(each -> each.columns().contains(column));
  }

  private static Telling telling(Table table, List<String> columns, TableUse use) {
    return new Telling(
        table, columns.stream().flatMap(name -> use.columnOfTable(name).stream()).toList());
  }

  /**
   * A part of a key that is counted.
   *
   * @param table whose rows the heading names
   * @param key what tells these apart
   * @param missing what of the key can differ within what is counted
   */
  private record Counted(
      FunctionCall call,
      UseColumn column,
      Table table,
      List<UseColumn> key,
      List<UseColumn> missing) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.asking(
          Kind.PARTIAL_KEY,
          call.span(),
          List.of(call.span()),
          Optional.of(taken(subject.rows().orElseThrow())),
          found ->
              found
                  .filter(each -> each.values() < each.rows())
                  .map(each -> conclude(each, subject)));
    }

    private Question<TakenOnce> taken(JoinedRows rows) {
      Relation relation = rows.kept(column.use()).relation();
      List<Expression> groups = rows.groups(relation);
      List<Expression> identity = key.stream().map(each -> rows.column(relation, each)).toList();
      return TakenOnce.question(relation, groups, identity, rows.column(relation, column));
    }

    private Conclusion conclude(TakenOnce taken, Subject subject) {
      return new Conclusion(
          Severity.WARNING,
          subject.text(call)
              + " counts each "
              + column.name()
              + " once, not each "
              + table.name()
              + ": "
              + taken.values()
              + " for "
              + Words.count(taken.rows(), table.name())
              + (subject.block().groupedBy().isEmpty() ? "" : ", over all groups")
              + ". "
              + Words.list(missing.stream().map(UseColumn::written).toList())
              + (missing.size() == 1 ? " tells" : " tell")
              + " them apart too. Count what has the whole key.",
          new Evidence(
              Map.of("counted", taken.values(), "there are", taken.rows()),
              List.of(),
              List.of(
                  "the key of "
                      + table.name()
                      + " has "
                      + Words.list(key.stream().map(UseColumn::name).toList()))),
          List.of());
    }
  }
}
