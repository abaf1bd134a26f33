package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.sql.Dialect;
import java.util.List;
import java.util.stream.Collectors;

/** What people know of the keys and references of tables, as the option --references takes it. */
final class KeysFile {

  private final Dialect dialect;
  private final StringBuilder text = new StringBuilder();

  private KeysFile(Dialect dialect) {
    this.dialect = dialect;
  }

  static String of(Catalog catalog) {
    KeysFile file = new KeysFile(catalog.dialect());
    catalog.tables().forEach(file::add);
    catalog.references().forEach(file::add);
    return file.text.toString();
  }

  private void add(Table table) {
    for (Key key : table.keys()) {
      alter(table)
          .append(key.primary() ? "ADD PRIMARY KEY" : "ADD UNIQUE")
          .append(names(key.columns()))
          .append(";\n");
    }
    for (Column column : table.columns()) {
      if (!column.nullable()) {
        alter(table)
            .append("ALTER COLUMN ")
            .append(dialect.write(column.name()))
            .append(" SET NOT NULL;\n");
      }
    }
  }

  private void add(Reference reference) {
    alter(reference.from())
        .append("ADD FOREIGN KEY")
        .append(names(reference.fromColumns()))
        .append(" REFERENCES ")
        .append(dialect.write(reference.to().name()))
        .append(names(reference.toColumns()))
        .append(";\n");
  }

  private StringBuilder alter(Table table) {
    return text.append("ALTER TABLE ").append(dialect.write(table.name())).append(' ');
  }

  private String names(List<String> columns) {
    return columns.stream().map(dialect::write).collect(Collectors.joining(", ", " (", ")"));
  }
}
