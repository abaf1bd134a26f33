package io.lantrel.sample.asked;

import io.lantrel.catalog.Table;
import io.lantrel.sql.Dialect;
import io.lantrel.survey.Survey;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;

/** How the rows of each table are asked for. */
final class AllRows {

  private final Map<Table, TableRows> tables = new LinkedHashMap<>();

  AllRows(Survey survey, Dialect dialect) {
    survey
        .tables()
        .forEach(
            each ->
                tables.put(
                    each.table(), new TableRows(each.table(), each.key().orElse(null), dialect)));
  }

  TableRows of(Table table) {
    return Objects.requireNonNull(tables.get(table));
  }
}
