package io.lantrel.sample.asked;

import io.lantrel.catalog.Table;
import io.lantrel.engine.NamedRow;
import io.lantrel.sample.SeenQuery;
import java.util.List;
import java.util.Set;

/**
 * What queries tell of rows.
 *
 * @param tables the tables that they are over
 * @param rows rows that they lose, fill or show, by name
 * @param repeated rows that come several times, since they have several partners
 * @param seen what each of them shows
 * @param remarks which queries tell of no rows, and why
 */
public record RowsOfQueries(
    Set<Table> tables,
    List<NamedRow> rows,
    List<NamedRow> repeated,
    List<SeenQuery> seen,
    List<String> remarks) {
  public RowsOfQueries {
    tables = Set.copyOf(tables);
    rows = List.copyOf(rows);
    repeated = List.copyOf(repeated);
    seen = List.copyOf(seen);
    remarks = List.copyOf(remarks);
  }
}
