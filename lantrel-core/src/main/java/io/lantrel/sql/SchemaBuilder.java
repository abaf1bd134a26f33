package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.CreateTable;
import io.lantrel.sql.tree.CreateTable.ColumnDefinition;
import io.lantrel.sql.tree.CreateTable.Demand;
import io.lantrel.sql.tree.CreateTable.TableConstraint;
import io.lantrel.sql.tree.Identifier;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.antlr.v4.runtime.ParserRuleContext;

/** Turns the parser's tree of a CREATE TABLE into ours. */
final class SchemaBuilder {

  private final TreeBuilder trees;
  private final ExpressionBuilder expressions;

  SchemaBuilder(TreeBuilder trees, ExpressionBuilder expressions) {
    this.trees = trees;
    this.expressions = expressions;
  }

  CreateTable createTable(SqlParser.CreateTableContext context) {
    return new CreateTable(
        trees.span(context),
        trees.identifiers(context.qualifiedName().identifier()),
        context.tableElement().stream()
            .map(SqlParser.TableElementContext::columnDefinition)
            .filter(Objects::nonNull)
            .map(this::column)
            .toList(),
        context.tableElement().stream()
            .map(SqlParser.TableElementContext::tableConstraint)
            .filter(Objects::nonNull)
            .flatMap(this::constraint)
            .toList());
  }

  private ColumnDefinition column(SqlParser.ColumnDefinitionContext context) {
    Identifier name = trees.identifier(context.identifier());
    return new ColumnDefinition(
        trees.span(context),
        name,
        expressions.typeName(context.typeName()),
        context.columnConstraint().stream()
            .anyMatch(each -> each.NOT() != null && each.NULL() != null),
        context.columnConstraint().stream().flatMap(each -> constraint(name, each)).toList());
  }

  private Stream<TableConstraint> constraint(
      Identifier column, SqlParser.ColumnConstraintContext context) {
    if (context.PRIMARY() != null) {
      return Stream.of(key(context, Demand.PRIMARY_KEY, List.of(column)));
    }
    if (context.UNIQUE() != null) {
      return Stream.of(key(context, Demand.UNIQUE, List.of(column)));
    }
    return context.references() == null
        ? Stream.empty()
        : Stream.of(foreignKey(context, List.of(column), context.references()));
  }

  private Stream<TableConstraint> constraint(SqlParser.TableConstraintContext context) {
    if (context.columnList() == null) {
      return Stream.empty();
    }
    List<Identifier> columns = trees.identifiers(context.columnList().identifier());
    if (context.FOREIGN() != null) {
      return Stream.of(foreignKey(context, columns, context.references()));
    }
    Demand demand = context.PRIMARY() != null ? Demand.PRIMARY_KEY : Demand.UNIQUE;
    return Stream.of(key(context, demand, columns));
  }

  private TableConstraint key(ParserRuleContext context, Demand demand, List<Identifier> columns) {
    return new TableConstraint(trees.span(context), demand, columns, null, List.of());
  }

  private TableConstraint foreignKey(
      ParserRuleContext context, List<Identifier> columns, SqlParser.ReferencesContext references) {
    return new TableConstraint(
        trees.span(context),
        Demand.FOREIGN_KEY,
        columns,
        trees.identifiers(references.qualifiedName().identifier()),
        references.columnList() == null
            ? List.of()
            : trees.identifiers(references.columnList().identifier()));
  }
}
