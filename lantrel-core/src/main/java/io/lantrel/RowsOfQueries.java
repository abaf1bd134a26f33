package io.lantrel;

import io.lantrel.check.Finding;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.NamedRow;
import io.lantrel.failure.LantrelException;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Ledger;
import io.lantrel.trace.Answer;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * Rows of tables that queries lose, repeat, fill or show.
 *
 * @param rows the rows by name
 * @param remarks what of the queries tells of no rows, and why
 */
record RowsOfQueries(List<NamedRow> rows, List<String> remarks) {

  /** So many rows are taken for each reason. */
  private static final int FEW = 2;

  /** So many rows of a result are put together again, of so many sources each. */
  private static final int RESULTS = 3;

  private static final int SOURCES = 8;

  static RowsOfQueries of(List<Study> queries, Consumer<String> progress) {
    Set<NamedRow> rows = new LinkedHashSet<>();
    List<String> remarks = new ArrayList<>();
    for (Study each : queries) {
      progress.accept("the query at line " + each.place().line());
      each.findings().stream()
          .map(Finding::evidence)
          .forEach(evidence -> rows.addAll(evidence.rows()));
      try {
        add(each.ledger(FEW), rows);
        for (int number = 1; number <= Math.min(RESULTS, each.result(RESULTS).size()); number++) {
          each.trace(number, SOURCES).sources().forEach(source -> add(source, rows));
        }
      } catch (LantrelException untold) {
        if (untold instanceof DatabaseException failure && failure.isFatal()) {
          throw failure;
        }
        remarks.add(
            "the query at line " + each.place().line() + " shows no rows: " + untold.getMessage());
      }
    }
    return new RowsOfQueries(List.copyOf(rows), remarks);
  }

  private static void add(Ledger ledger, Set<NamedRow> rows) {
    for (Entry entry : ledger.entries()) {
      for (Change change : entry.changes()) {
        change.causes().forEach(cause -> rows.addAll(cause.examples()));
      }
    }
    ledger.parts().forEach(part -> add(part, rows));
  }

  private static void add(Answer.Source source, Set<NamedRow> rows) {
    List<String> columns = new ArrayList<>();
    List<@Nullable String> values = new ArrayList<>();
    source
        .values()
        .forEach(
            each -> {
              columns.add(each.name());
              values.add(each.value());
            });
    if (source.filled().isEmpty() && !columns.isEmpty()) {
      rows.add(new NamedRow(source.table(), columns, values));
    }
    source.sources().forEach(each -> add(each, rows));
  }
}
