package io.lantrel.survey;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Reference;
import io.lantrel.survey.TableFigures.ColumnFigures;
import java.util.List;

/**
 * A column that may refer to a key.
 *
 * @param from the table that may refer
 * @param column its column
 * @param to the table that may be referred to
 * @param key its key
 * @param match what the names say
 */
record Candidate(
    TableFigures from, ColumnFigures column, TableFigures to, ColumnFigures key, NameMatch match) {

  boolean isSelf() {
    return from.table().equals(to.table());
  }

  Reference reference(Basis basis) {
    return new Reference(
        from.table(),
        List.of(column.column().name()),
        to.table(),
        List.of(key.column().name()),
        basis);
  }
}
