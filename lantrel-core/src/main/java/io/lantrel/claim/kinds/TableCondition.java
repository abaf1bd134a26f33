package io.lantrel.claim.kinds;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.claim.ClaimException;
import io.lantrel.edit.RowCondition;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.NameProblem;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Which rows of a table a claim is about: those that meet a condition, or all. */
final class TableCondition {

  private final String text;
  private final @Nullable Expression condition;
  private final Set<String> terms = new HashSet<>();

  private TableCondition(String text, @Nullable Expression condition) {
    this.text = text;
    this.condition = condition;
  }

  /**
   * Reads what stands behind WHERE.
   *
   * @param alias what the table goes by there
   * @throws ClaimException if it is no condition over the table
   */
  static TableCondition of(Optional<String> text, Table table, String alias, Catalog catalog) {
    if (text.isEmpty()) {
      return new TableCondition("", null);
    }
    RowCondition read;
    try {
      read = RowCondition.read(text.get(), table, alias, catalog);
    } catch (SyntaxException fault) {
      throw new ClaimException("behind where: " + fault.getMessage());
    }
    if (read.hasParameter()) {
      throw new ClaimException("behind where there can be no parameter");
    }
    if (read.problem().isPresent()) {
      throw problem(read.problem().get(), text.get(), table);
    }
    QueryBlock block = read.block();
    TableCondition condition = new TableCondition(text.get(), read.qualified());
    terms(read.condition())
        .forEach(term -> condition.terms.add(shape(term, block, block.uses().get(0))));
    return condition;
  }

  private static ClaimException problem(NameProblem problem, String text, Table table) {
    if (problem instanceof NameProblem.UnknownColumn column) {
      return ResultNames.unknown(
          "column",
          List.of(column.column().name()),
          table.columns().stream().map(each -> each.name()).toList());
    }
    Span place = problem.place();
    String name = place.end() <= text.length() ? text.substring(place.start(), place.end()) : text;
    if (problem instanceof NameProblem.MisplacedAggregate) {
      return new ClaimException("behind where there can be no aggregate, as " + name);
    }
    return new ClaimException(
        "behind where: " + name + " means nothing; it is about " + table.name() + " alone");
  }

  private static List<Expression> terms(Expression condition) {
    return Condition.terms(condition);
  }

  /** A condition over one table use, written so that the same ones are alike. */
  private static String shape(Expression condition, QueryBlock block, TableUse use) {
    Expression plain =
        new ColumnReplacer(
                name ->
                    block.column(name).filter(column -> column.use() == use).isPresent()
                        ? ColumnName.of(
                            "t",
                            "c" + block.column(name).map(column -> column.tableColumn()).orElse(""))
                        : name)
            .apply(condition);
    return SqlPrinter.print(plain, block.dialect());
  }

  /**
   * Whether a condition of a query is one of these, so that no row is lost by it that is meant. A
   * function may give something else each time.
   */
  boolean implies(Expression demanded, QueryBlock block, TableUse use) {
    return demanded.preorder().noneMatch(node -> node instanceof Call || node instanceof Query)
        && block.mentioned(demanded).equals(Set.of(use))
        && terms.contains(shape(demanded, block, use));
  }

  /** Whether the query demands all of it of a table use. */
  boolean isAllOf(QueryBlock block, TableUse use) {
    Set<String> demanded = new HashSet<>();
    for (Conjunct filter : block.filters()) {
      if (implies(filter.condition(), block, use)) {
        demanded.add(shape(filter.condition(), block, use));
      }
    }
    return demanded.containsAll(terms);
  }

  Optional<Expression> ifAny() {
    return Optional.ofNullable(condition);
  }

  @Nullable Expression orNull() {
    return condition;
  }

  /** As it follows the name of the table in a sentence; empty if all rows are meant. */
  String words() {
    return text.isEmpty() ? "" : " where " + text;
  }
}
