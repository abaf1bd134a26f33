package io.lantrel.edit;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.NameProblem;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.SyntaxProblem;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Optional;

/**
 * A condition over the rows of one table, as people write it behind WHERE.
 *
 * @param condition with the alias before every column of the table
 */
public record RowCondition(Expression condition) {

  /**
   * Reads one.
   *
   * @param alias what the table goes by
   * @throws SyntaxException if it is no condition over that table alone; the message says why
   */
  public static RowCondition read(String text, Table table, String alias, Catalog catalog) {
    Expression read = SqlReader.readCondition(text, catalog.dialect());
    if (read.preorder().anyMatch(Value.Parameter.class::isInstance)) {
      throw fault(text, "there can be no parameter here");
    }
    FromItem from = Sql.tableAs(table, alias, catalog.dialect());
    Query query = Query.of(Sql.select(List.of(Sql.as(Sql.number(1), "one")), from, read));
    Resolution resolution = Resolver.resolve(query, catalog);
    Optional<NameProblem> wrong = resolution.problems().stream().findFirst();
    if (wrong.isPresent()) {
      throw fault(text, words(wrong.get(), text, table));
    }
    QueryBlock block = resolution.root();
    return new RowCondition(
        new ColumnReplacer(
                name ->
                    block.column(name).filter(block::isOwn).isPresent()
                        ? new ColumnName(
                            Span.NOWHERE, List.of(catalog.dialect().exact(alias)), name.name())
                        : name)
            .apply(read));
  }

  private static String words(NameProblem problem, String text, Table table) {
    if (problem instanceof NameProblem.UnknownColumn column) {
      List<String> columns = table.columns().stream().map(each -> each.name()).toList();
      List<String> near = NearNames.of(column.column().name().text(), columns);
      return table.name()
          + " has no column "
          + column.column().name().text()
          + (near.isEmpty()
              ? "; its columns are " + Words.list(columns)
              : "; close to it: " + Words.list(near));
    }
    Span place = problem.place();
    String name = place.end() <= text.length() ? text.substring(place.start(), place.end()) : text;
    return problem instanceof NameProblem.MisplacedAggregate
        ? "there can be no aggregate here, as " + name
        : name + " means nothing; the condition is about " + table.name() + " alone";
  }

  private static SyntaxException fault(String text, String message) {
    return new SyntaxException(new SyntaxProblem(new Span(0, text.length()), message, List.of()));
  }
}
