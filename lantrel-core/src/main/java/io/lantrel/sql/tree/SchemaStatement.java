package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A statement of a schema file. */
public sealed interface SchemaStatement permits CreateTable, SchemaStatement.Other {

  /** Where it stands. */
  Span span();

  /** Any but CREATE TABLE. */
  sealed interface Other extends SchemaStatement {}

  /**
   * CREATE VIEW.
   *
   * @param span where it stands
   * @param name the view's name in parts
   * @param columns new names of its columns, or empty
   * @param query its query; null if it could not be read
   */
  record CreateView(
      Span span, List<Identifier> name, List<Identifier> columns, @Nullable Query query)
      implements Other {
    public CreateView {
      name = List.copyOf(name);
      columns = List.copyOf(columns);
    }
  }

  /**
   * A demand that comes behind the table: ALTER TABLE … ADD, or CREATE UNIQUE INDEX.
   *
   * @param span where it stands
   * @param table the table's name in parts
   * @param constraints what is demanded
   * @param notNull columns that must not be NULL
   * @param added columns that are added
   */
  record ChangeTable(
      Span span,
      List<Identifier> table,
      List<CreateTable.TableConstraint> constraints,
      List<Identifier> notNull,
      List<CreateTable.ColumnDefinition> added)
      implements Other {
    public ChangeTable {
      table = List.copyOf(table);
      constraints = List.copyOf(constraints);
      notNull = List.copyOf(notNull);
      added = List.copyOf(added);
    }
  }

  /**
   * INSERT … VALUES.
   *
   * @param span where it stands
   * @param table the table's name in parts
   * @param columns the columns that are given, or empty for all
   * @param values the rows
   */
  record InsertRows(
      Span span, List<Identifier> table, List<Identifier> columns, QueryBody.Values values)
      implements Other {
    public InsertRows {
      table = List.copyOf(table);
      columns = List.copyOf(columns);
    }
  }

  /**
   * A statement that says nothing about tables, columns, keys or references.
   *
   * @param span where it stands
   * @param words its first words, in capitals
   * @param isHarmless whether it is known to change none of these
   */
  record Skipped(Span span, String words, boolean isHarmless) implements Other {}
}
