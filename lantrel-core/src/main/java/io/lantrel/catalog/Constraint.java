package io.lantrel.catalog;

import io.lantrel.words.Words;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A constraint of a table that a proof can rest on (ISO/IEC 9075-2, 4.18).
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

  /** That no two rows agree in these columns, none of them NULL. */
  public static Constraint key(Table table, List<String> columns) {
    return new Constraint(Kind.KEY, table, columns, null);
  }

  /** That a column is never NULL. */
  public static Constraint notNull(Table table, String column) {
    return new Constraint(Kind.NOT_NULL, table, List.of(column), null);
  }

  /** That a reference leads to a row wherever it is not NULL. */
  public static Constraint of(Reference reference) {
    return new Constraint(Kind.REFERENCE, reference.from(), reference.fromColumns(), reference);
  }

  /** The reference, if it is one. */
  public Optional<Reference> ifReference() {
    return Optional.ofNullable(reference);
  }

  /** Several in words. That a column of a key is never NULL goes without saying. */
  public static String words(List<Constraint> constraints) {
    return Words.list(
        constraints.stream()
            .filter(each -> each.kind != Kind.NOT_NULL || !each.isOfOneOf(constraints))
            .map(Constraint::words)
            .toList());
  }

  private boolean isOfOneOf(List<Constraint> others) {
    return others.stream()
        .anyMatch(
            other ->
                other.kind == Kind.KEY
                    && other.table.equals(table)
                    && other.columns.containsAll(columns));
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
