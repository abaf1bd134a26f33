package io.lantrel.edit;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.NameProblem;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.List;
import java.util.Optional;

/**
 * A condition over the rows of one table, as people write it behind WHERE.
 *
 * @param condition as it is written
 * @param block what its names mean: a query over the table alone
 * @param problem the first name that means nothing; empty if all mean something
 */
public record RowCondition(Expression condition, QueryBlock block, Optional<NameProblem> problem) {

  /**
   * Reads one.
   *
   * @param alias what the table goes by
   * @throws io.lantrel.sql.SyntaxException if it is no condition
   */
  public static RowCondition read(String text, Table table, String alias, Catalog catalog) {
    Expression read = SqlReader.readCondition(text, catalog.dialect());
    FromItem from = Sql.tableAs(table, alias, catalog.dialect());
    Query query = Query.of(Sql.select(List.of(Sql.as(Sql.number(1), "one")), from, read));
    Resolution resolution = Resolver.resolve(query, catalog);
    return new RowCondition(read, resolution.root(), resolution.problems().stream().findFirst());
  }

  /** Whether it has a parameter, whose value is not known here. */
  public boolean hasParameter() {
    return condition.preorder().anyMatch(Value.Parameter.class::isInstance);
  }

  /** The same with the table before each of its columns, so that it stays clear beside others. */
  public Expression qualified() {
    Identifier alias = block.dialect().exact(block.uses().get(0).name());
    return new ColumnReplacer(
            name ->
                block.column(name).filter(block::isOwn).isPresent()
                    ? new ColumnName(Span.NOWHERE, List.of(alias), name.name())
                    : name)
        .apply(condition);
  }
}
