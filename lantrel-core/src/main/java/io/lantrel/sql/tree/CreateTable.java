package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * CREATE TABLE (ISO/IEC 9075-2, 11.3), as far as it tells of columns, keys and references.
 *
 * @param span where it stands
 * @param name the table's name in parts
 * @param columns its columns
 * @param constraints the constraints that stand on their own
 * @param like the tables whose columns it has too, by LIKE, INHERITS or PARTITION OF
 */
public record CreateTable(
    Span span,
    List<Identifier> name,
    List<ColumnDefinition> columns,
    List<TableConstraint> constraints,
    List<List<Identifier>> like)
    implements Node, SchemaStatement {

  public CreateTable {
    name = List.copyOf(name);
    columns = List.copyOf(columns);
    constraints = List.copyOf(constraints);
    like = List.copyOf(like);
  }

  /** The last part of the name. */
  public Identifier last() {
    return name.get(name.size() - 1);
  }

  @Override
  public List<Node> children() {
    return Node.nodes(name, columns, constraints);
  }

  /** What a constraint demands. */
  public enum Demand {
    PRIMARY_KEY,
    UNIQUE,
    FOREIGN_KEY
  }

  /**
   * A column and what is demanded of it.
   *
   * @param span where it stands
   * @param name the column's name
   * @param type its type
   * @param notNull whether NOT NULL is written
   * @param constraints what is demanded of this column alone
   */
  public record ColumnDefinition(
      Span span, Identifier name, TypeName type, boolean notNull, List<TableConstraint> constraints)
      implements Node {
    public ColumnDefinition {
      constraints = List.copyOf(constraints);
    }

    /** The same without its keys and references, which are not taken over. */
    public ColumnDefinition withoutKeys() {
      return new ColumnDefinition(span, name, type, notNull, List.of());
    }

    /** The same with NOT NULL. */
    public ColumnDefinition asNotNull() {
      return new ColumnDefinition(span, name, type, true, constraints);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(name, type, constraints);
    }
  }

  /**
   * A key or a reference.
   *
   * @param span where it stands
   * @param demand what it demands
   * @param columns of which columns
   * @param target the table referred to, in parts; null unless it is a foreign key
   * @param targetColumns the columns referred to; empty means the primary key of the target
   */
  public record TableConstraint(
      Span span,
      Demand demand,
      List<Identifier> columns,
      @Nullable List<Identifier> target,
      List<Identifier> targetColumns)
      implements Node {
    public TableConstraint {
      columns = List.copyOf(columns);
      target = target == null ? null : List.copyOf(target);
      targetColumns = List.copyOf(targetColumns);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(columns, target, targetColumns);
    }
  }
}
