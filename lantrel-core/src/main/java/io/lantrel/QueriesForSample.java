package io.lantrel;

import io.lantrel.catalog.Table;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.NamedRow;
import io.lantrel.failure.LantrelException;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.resolve.Resolution;
import io.lantrel.sample.SeenQuery;
import io.lantrel.sample.asked.RowsOfQueries;
import io.lantrel.trace.Answer;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/** Sees which rows of tables queries lose, repeat, fill or show. */
final class QueriesForSample {

  /** So many rows are taken for each reason. */
  private static final int FEW = 2;

  /** So many rows of a result are put together again, of so many sources each. */
  private static final int RESULTS = 3;

  private static final int SOURCES = 8;

  private final Set<Table> tables = new LinkedHashSet<>();
  private final Set<NamedRow> rows = new LinkedHashSet<>();
  private final Set<NamedRow> repeated = new LinkedHashSet<>();
  private final List<SeenQuery> seen = new ArrayList<>();
  private final List<String> remarks = new ArrayList<>();

  private QueriesForSample() {}

  static RowsOfQueries look(List<Study> queries, Lantrel lantrel, Consumer<String> progress) {
    QueriesForSample all = new QueriesForSample();
    for (Study each : queries) {
      progress.accept("the query at line " + each.place().line());
      lantrel.reading(each.sql()).ifPresent(all::add);
      all.add(each);
    }
    return new RowsOfQueries(
        all.tables, List.copyOf(all.rows), List.copyOf(all.repeated), all.seen, all.remarks);
  }

  private void add(Resolution resolution) {
    resolution.blocks().stream()
        .flatMap(block -> block.uses().stream())
        .flatMap(use -> use.table().stream())
        .forEach(tables::add);
  }

  private void add(Study query) {
    query.findings().forEach(finding -> rows.addAll(finding.evidence().rows()));
    Optional<Ledger> account = Optional.empty();
    try {
      Ledger ledger = query.ledger(FEW);
      account = Optional.of(ledger);
      add(ledger);
      for (int number = 1; number <= Math.min(RESULTS, ledger.result()); number++) {
        query.trace(number, SOURCES).sources().forEach(this::add);
      }
    } catch (LantrelException untold) {
      if (untold instanceof DatabaseException failure && failure.isFatal()) {
        throw failure;
      }
      remarks.add(
          "the query at line " + query.place().line() + " shows no rows: " + untold.getMessage());
    }
    seen.add(SampleDifference.seen(query, account));
  }

  private void add(Ledger ledger) {
    for (Entry entry : ledger.entries()) {
      for (Change change : entry.changes()) {
        Set<NamedRow> of = change.figure() == Figure.REPEATED ? repeated : rows;
        change.causes().forEach(cause -> of.addAll(cause.examples()));
      }
    }
    ledger.parts().forEach(this::add);
  }

  private void add(Answer.Source source) {
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
    source.sources().forEach(this::add);
  }
}
