package io.lantrel.compare.proof;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What a proof rests on.
 *
 * @param kind what is demanded
 * @param table of which table
 * @param columns of which columns
 * @param reference the reference; null for a key and for NOT NULL
 */
public record Constraint(
    Kind kind, Table table, List<String> columns, @Nullable Reference reference) {

  /** What constraints demand. */
  public enum Kind {
    KEY,
    NOT_NULL,
    REFERENCE
  }

  public Constraint {
    columns = List.copyOf(columns);
  }

  static Constraint key(Table table, List<String> columns) {
    return new Constraint(Kind.KEY, table, columns, null);
  }

  static Constraint notNull(Table table, String column) {
    return new Constraint(Kind.NOT_NULL, table, List.of(column), null);
  }

  static Constraint of(Reference reference) {
    return new Constraint(Kind.REFERENCE, reference.from(), reference.fromColumns(), reference);
  }

  /** The reference, if it is one. */
  public Optional<Reference> ifReference() {
    return Optional.ofNullable(reference);
  }

  /** In words: {@code station.id is a key}. */
  public String words() {
    String names =
        columns.size() == 1
            ? table.name() + "." + columns.get(0)
            : table.name() + " (" + String.join(", ", columns) + ")";
    return names
        + switch (kind) {
          case KEY -> " is a key";
          case NOT_NULL -> " is never NULL";
          case REFERENCE -> " refers to " + (reference == null ? "" : reference.to().name());
        };
  }
}
