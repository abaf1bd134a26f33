package io.lantrel.trace.asked;

import io.lantrel.edit.OneQuery;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.trace.TraceException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Values that were expected in a result, led back to the rows of a table that show them: a heading
 * stands for the column that it is copied from.
 */
final class ExpectedValues {

  private final OneQuery query;
  private final String text;
  private final List<Expression> terms;

  /**
   * @param text a condition over the headings, as it is written
   */
  ExpectedValues(OneQuery query, String text, Expression condition) {
    this.query = query;
    this.text = text;
    this.terms = Condition.terms(condition);
  }

  /** The terms that are about the columns of one table use. */
  private record Of(Way way, List<String> terms) {}

  /**
   * The rows of the table that most of the terms are about.
   *
   * @throws TraceException if none is about a column of a table
   */
  WantedRow rows() {
    List<Of> all = new ArrayList<>();
    for (Way way : Way.all(query.resolution())) {
      List<String> own = terms.stream().flatMap(term -> over(way, term).stream()).toList();
      if (!own.isEmpty()) {
        all.add(new Of(way, own));
      }
    }
    int most = all.stream().mapToInt(each -> each.terms().size()).max().orElse(0);
    Of best =
        all.stream()
            .filter(each -> each.terms().size() == most)
            .findFirst()
            .orElseThrow(
                () ->
                    new TraceException(
                        "no row of the result meets "
                            + text
                            + ", and no column of a table is shown as it is by what that names;"
                            + " describe a row of a table, as station where id = 7"));
    List<Way> ways =
        all.stream()
            .filter(each -> each.terms().equals(best.terms()) && isOfSameTable(each, best))
            .map(Of::way)
            .toList();
    return new WantedRow(
        best.way().use().name(),
        String.join(" AND ", best.terms()),
        best.way().use().table().orElseThrow(),
        ways);
  }

  private static boolean isOfSameTable(Of one, Of other) {
    return one.way().use().isOfTable(other.way().use());
  }

  /** Whether all of the terms are about the rows that are followed. */
  boolean areAllIn(WantedRow row) {
    return terms.stream().allMatch(term -> over(row.ways().get(0), term).isPresent());
  }

  /** A term over the table's own columns; empty if one of its headings is not of that use. */
  private Optional<String> over(Way way, Expression term) {
    boolean[] all = {true};
    Dialect dialect = query.resolution().root().dialect();
    Expression own =
        new ColumnReplacer(
                name -> {
                  Optional<UseColumn> column = position(name).flatMap(at -> shown(way, at));
                  all[0] &= column.isPresent();
                  return column
                      .<Expression>map(
                          each ->
                              new ColumnName(
                                  Span.NOWHERE, List.of(), dialect.plain(each.tableColumn())))
                      .orElse(name);
                })
            .apply(term);
    boolean names = term.preorder().anyMatch(ColumnName.class::isInstance);
    return all[0] && names ? Optional.of(SqlPrinter.print(own, dialect)) : Optional.empty();
  }

  private Optional<Integer> position(ColumnName name) {
    Dialect dialect = query.resolution().root().dialect();
    return query.resolution().result().outputs().stream()
        .filter(output -> dialect.means(name.name(), output.name()))
        .map(OutputColumn::position)
        .findFirst();
  }

  /** The column of the table use at the end of a way that the result shows at a position. */
  private static Optional<UseColumn> shown(Way way, int position) {
    Optional<UseColumn> column = Optional.empty();
    int at = position;
    for (Way.Step step : way.steps()) {
      column = step.block().shownAt(at).filter(each -> each.use().equals(step.use()));
      if (column.isEmpty()) {
        return column;
      }
      at = column.get().position();
    }
    return column;
  }
}
