package io.lantrel.survey;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.Rows;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;

/**
 * What is in the tables.
 *
 * @param tables each behind those that it refers to, as far as that goes; the same order at all
 *     engines
 * @param notShown how many tables there are besides, which were not asked for
 * @param references those that lead from or to one of the tables: the declared ones in the order of
 *     the tables that refer; behind them those that were observed and those that are possible, the
 *     most convincing first
 * @param views those over one of the tables, in the order of the schema
 */
public record Survey(
    List<TableSurvey> tables,
    int notShown,
    List<ReferenceSurvey> references,
    List<ViewSurvey> views) {
  public Survey {
    tables = List.copyOf(tables);
    references = List.copyOf(references);
    views = List.copyOf(views);
  }

  /** How many things are wrong with the rows, over all tables; several roots may be right. */
  public long violations() {
    long inTables =
        tables.stream()
            .flatMap(table -> table.violations().stream())
            .filter(each -> each.kind() != ViolationKind.SEVERAL_ROOTS)
            .count();
    return inTables
        + references.stream()
            .filter(each -> each.reference().basis() != Basis.POSSIBLE && each.toNothing() > 0)
            .count();
  }

  /** The references that can be relied on: those that are not merely possible. */
  public List<Reference> reliable() {
    return references.stream()
        .map(ReferenceSurvey::reference)
        .filter(each -> each.basis() != Basis.POSSIBLE)
        .toList();
  }

  /**
   * One table.
   *
   * @param table the table
   * @param rows how many rows it has
   * @param key what tells its rows apart: its first declared key, or else columns that do so in
   *     these rows; empty if nothing does
   * @param columns its columns, in order
   * @param first its first rows, as many as were asked for, all columns
   * @param shapes what it is among the tables
   * @param hierarchies one for each of its self-references
   * @param violations what violates its keys, its NOT NULL columns and its hierarchies
   */
  public record TableSurvey(
      Table table,
      long rows,
      Optional<Key> key,
      List<ColumnSurvey> columns,
      Rows first,
      Set<Shape> shapes,
      List<HierarchySurvey> hierarchies,
      List<Violation> violations) {
    public TableSurvey {
      columns = List.copyOf(columns);
      shapes = Set.copyOf(shapes);
      hierarchies = List.copyOf(hierarchies);
      violations = List.copyOf(violations);
    }

    /** Whether the key was declared and not only observed. */
    public boolean isKeyDeclared() {
      return !table.keys().isEmpty();
    }

    /** Whether one of its references leads to itself. */
    public boolean refersToItself() {
      return shapes.contains(Shape.HIERARCHY);
    }
  }

  /** What a table is among the others. */
  public enum Shape {
    /** Its key holds two references or more: it connects tables. */
    JUNCTION("junction"),
    /** Others refer to it, it refers to none, and it holds little but a key and a name. */
    LOOK_UP("look-up"),
    /** It refers to itself. */
    HIERARCHY("hierarchy"),
    /** Nothing refers to it, and it refers to nothing. */
    ISLAND("island");

    private final String id;

    Shape(String id) {
      this.id = id;
    }

    /** The name in output. */
    public String id() {
      return id;
    }
  }

  /**
   * One column.
   *
   * @param column the column
   * @param empty rows in which it is NULL
   * @param different how many different values it has, NULL aside; empty if its type cannot be
   *     compared everywhere
   * @param values those that are worth seeing; empty if they were not asked for, or cannot be told
   *     apart
   */
  public record ColumnSurvey(
      Column column, long empty, OptionalLong different, Optional<ColumnValues> values) {}

  /**
   * The rows of a table seen as a hierarchy, over one of its references to itself.
   *
   * @param reference the reference
   * @param roots rows that refer to none
   * @param levels how many levels there are below and with the roots; 0 without roots
   * @param inCycles rows that can be reached from no root, and from no row that refers to nothing:
   *     they stand in a circle or below one
   * @param hanging rows that refer to nothing, and those below them
   * @param cycle the rows of one circle, each referring to the next; empty if there is none
   */
  public record HierarchySurvey(
      Reference reference,
      long roots,
      long levels,
      long inCycles,
      long hanging,
      List<NamedRow> cycle) {
    public HierarchySurvey {
      cycle = List.copyOf(cycle);
    }
  }

  /**
   * One reference with its figures; those of rows add up to the rows of the referring table.
   *
   * @param reference the reference
   * @param found rows that refer to a row that is there
   * @param empty rows that refer to nothing because a column is NULL
   * @param toNothing rows that refer to a row that is not there
   * @param values how many different values refer
   * @param valuesFound how many of them are there
   * @param reasons what speaks for it, in sentences; empty for a declared one
   * @param examples some of the rows that refer to a row that is not there; their last columns are
   *     those of the reference
   */
  public record ReferenceSurvey(
      Reference reference,
      long found,
      long empty,
      long toNothing,
      long values,
      long valuesFound,
      List<String> reasons,
      List<NamedRow> examples) {
    public ReferenceSurvey {
      reasons = List.copyOf(reasons);
      examples = List.copyOf(examples);
    }
  }

  /**
   * Rows that violate a constraint of the schema, or that no hierarchy should have.
   *
   * @param kind what is violated
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
    NULL_IN_COLUMN("null-in-column"),
    /** Rows that refer to each other in a circle, and those below them. */
    HIERARCHY_CYCLE("hierarchy-cycle"),
    /** More than one row at the top. */
    SEVERAL_ROOTS("several-roots"),
    /** No row at the top. */
    NO_ROOT("no-root");

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
