package io.lantrel.catalog;

import io.lantrel.sql.tree.Identifier;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** The tables, columns, keys and references that a query can use. Immutable. */
public final class Catalog {

  private final Map<String, Table> tables = new LinkedHashMap<>();
  private final List<Reference> references;

  /**
   * @throws IllegalArgumentException if two tables have one name
   */
  public Catalog(List<Table> tables, List<Reference> references) {
    for (Table table : tables) {
      if (this.tables.put(Identifier.key(table.name()), table) != null) {
        throw new IllegalArgumentException("two tables are called " + table.name());
      }
    }
    this.references = List.copyOf(references);
  }

  /** All tables, in the order of the schema. */
  public List<Table> tables() {
    return List.copyOf(tables.values());
  }

  /** All references, in the order of the schema. */
  public List<Reference> references() {
    return references;
  }

  /** The table of that name, without regard to case. */
  public Optional<Table> table(String name) {
    return Optional.ofNullable(tables.get(Identifier.key(name)));
  }
}
