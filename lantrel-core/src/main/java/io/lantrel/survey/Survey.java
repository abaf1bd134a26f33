package io.lantrel.survey;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.probe.NamedRow;
import java.util.List;

/**
 * What is in the tables.
 *
 * @param tables each behind those that it refers to, as far as that goes; the same order at all
 *     engines
 * @param references in the order of the tables that refer
 */
public record Survey(List<TableSurvey> tables, List<ReferenceSurvey> references) {
  public Survey {
    tables = List.copyOf(tables);
    references = List.copyOf(references);
  }

  /** How many things violate the schema, over all tables. */
  public long violations() {
    long inTables = tables.stream().mapToLong(table -> table.violations().size()).sum();
    return inTables + references.stream().filter(each -> each.toNothing() > 0).count();
  }

  /**
   * One table.
   *
   * @param table the table
   * @param rows how many rows it has
   * @param refersToItself whether one of its references leads to itself
   * @param violations what violates its keys and its NOT NULL columns
   */
  public record TableSurvey(
      Table table, long rows, boolean refersToItself, List<Violation> violations) {
    public TableSurvey {
      violations = List.copyOf(violations);
    }
  }

  /**
   * One reference with its figures; they add up to the rows of the referring table.
   *
   * @param reference the reference
   * @param found rows that refer to a row that is there
   * @param empty rows that refer to nothing because a column is NULL
   * @param toNothing rows that refer to a row that is not there
   * @param examples some of the rows that refer to a row that is not there; their last columns are
   *     those of the reference
   */
  public record ReferenceSurvey(
      Reference reference, long found, long empty, long toNothing, List<NamedRow> examples) {
    public ReferenceSurvey {
      examples = List.copyOf(examples);
    }
  }

  /**
   * Rows that violate a constraint of the schema.
   *
   * @param kind which constraint
   * @param columns of which columns
   * @param rows how many rows
   * @param examples some of them
   */
  public record Violation(
      ViolationKind kind, List<String> columns, long rows, List<NamedRow> examples) {
    public Violation {
      columns = List.copyOf(columns);
      examples = List.copyOf(examples);
    }
  }

  /** What can be violated within one table. */
  public enum ViolationKind {
    /** Several rows with one key. */
    REPEATED_KEY("repeated-key"),
    /** NULL in a column of the primary key. */
    NULL_IN_KEY("null-in-key"),
    /** NULL in a column that is declared NOT NULL. */
    NULL_IN_COLUMN("null-in-column");

    private final String id;

    ViolationKind(String id) {
      this.id = id;
    }

    /** The name in output. */
    public String id() {
      return id;
    }
  }
}
