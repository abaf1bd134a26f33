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

  /** The references between two tables, either way round. */
  public List<Reference> between(Table one, Table other) {
    return references.stream()
        .filter(each -> joins(each, one, other) || joins(each, other, one))
        .toList();
  }

  private static boolean joins(Reference reference, Table from, Table to) {
    return Identifier.key(reference.fromTable()).equals(Identifier.key(from.name()))
        && Identifier.key(reference.toTable()).equals(Identifier.key(to.name()));
  }
}
