package io.lantrel.probe;

import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Condition.IsNull;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.TypeName;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.Cast;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.When;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** Short words for the pieces that probes are built of. */
public final class Sql {

  private static final Expression ALWAYS = equal(number(1), number(1));

  private Sql() {}

  public static Expression column(String table, String column) {
    return ColumnName.of(table, column);
  }

  /** A column of a user's table under an alias. */
  public static Expression column(String alias, String column, Dialect dialect) {
    return new ColumnName(Span.NOWHERE, List.of(Identifier.of(alias)), dialect.exact(column));
  }

  public static Expression number(long value) {
    return Literal.number(value);
  }

  /** A value that was fetched as a text, as a constant of its type. */
  public static Expression literal(String value, TypeFamily family) {
    return switch (family) {
      case INTEGER, DECIMAL, FLOAT -> new Literal(Span.NOWHERE, Value.LiteralKind.NUMBER, value);
      case TRUTH ->
          new Literal(Span.NOWHERE, Value.LiteralKind.TRUTH, value.toUpperCase(Locale.ROOT));
      case TEXT, DATE, TIME, TIMESTAMP, OTHER -> Literal.string(value);
    };
  }

  public static Expression nothing() {
    return Literal.nothing();
  }

  /** A condition that always holds, in a form that every engine knows. */
  public static Expression always() {
    return ALWAYS;
  }

  public static Expression equal(Expression left, Expression right) {
    return new Comparison(Span.NOWHERE, ComparisonOperator.EQUAL, left, right);
  }

  /** That two values are equal, NULL being like NULL. */
  public static Expression same(Expression left, Expression right) {
    return new Condition.IsDistinct(Span.NOWHERE, left, right, true);
  }

  public static Expression isNull(Expression value) {
    return new IsNull(Span.NOWHERE, value, false);
  }

  public static Expression isNotNull(Expression value) {
    return new IsNull(Span.NOWHERE, value, true);
  }

  /** All of the conditions; one that always holds if there are none. */
  public static Expression all(List<Expression> conditions) {
    List<Expression> terms = conditions.stream().filter(each -> each != ALWAYS).toList();
    return terms.isEmpty()
        ? always()
        : terms.size() == 1 ? terms.get(0) : new Condition.And(Span.NOWHERE, terms);
  }

  /** One of the conditions at least. */
  public static Expression any(List<Expression> conditions) {
    return conditions.size() == 1 ? conditions.get(0) : new Condition.Or(Span.NOWHERE, conditions);
  }

  public static Expression greater(Expression left, Expression right) {
    return new Comparison(Span.NOWHERE, ComparisonOperator.GREATER, left, right);
  }

  /** Two in a row would cancel each other, and not every product reads them. */
  public static Expression not(Expression condition) {
    if (condition instanceof Condition.Not not) {
      return not.value();
    }
    return condition instanceof IsNull test
        ? new IsNull(Span.NOWHERE, test.value(), !test.negated())
        : new Condition.Not(Span.NOWHERE, condition);
  }

  /** {@code CASE WHEN condition THEN one ELSE other END}. */
  public static Expression choose(Expression condition, Expression one, Expression other) {
    return new Value.Case(
        Span.NOWHERE, null, List.of(new When(Span.NOWHERE, condition, one)), other);
  }

  public static Expression count() {
    return FunctionCall.countAll();
  }

  public static Expression count(Expression value) {
    return FunctionCall.of("COUNT", value);
  }

  public static Expression countDistinct(Expression value) {
    return FunctionCall.of("COUNT", value).withDistinct();
  }

  /** How many rows meet a condition. */
  public static Expression countIf(Expression condition) {
    return count(choose(condition, number(1), nothing()));
  }

  public static Expression text(Expression value) {
    return new Cast(Span.NOWHERE, value, TypeName.ANY_TEXT, false);
  }

  /** Whether there is a row that meets a condition. */
  public static Expression exists(FromItem from, Expression condition) {
    return exists(select(List.of(as(number(1), "one")), from, condition));
  }

  public static Expression exists(QueryBody body) {
    return new Condition.Exists(Span.NOWHERE, Query.of(body));
  }

  public static SelectItem as(Expression value, String label) {
    return SelectItem.Output.of(value, label);
  }

  public static FromItem table(String name) {
    return FromItem.TableName.of(name);
  }

  /** A table of the user, under an alias unless that is null. */
  public static FromItem table(Table table, @Nullable String alias, Dialect dialect) {
    return new FromItem.TableName(
        Span.NOWHERE, name(table, dialect), alias == null ? null : Alias.of(alias));
  }

  /** A table of the user under an alias of the user's, which may need quotes. */
  public static FromItem tableAs(Table table, String alias, Dialect dialect) {
    return new FromItem.TableName(
        Span.NOWHERE,
        name(table, dialect),
        new Alias(Span.NOWHERE, dialect.exact(alias), List.of()));
  }

  private static List<Identifier> name(Table table, Dialect dialect) {
    List<Identifier> name = new ArrayList<>();
    if (!table.schema().isEmpty()) {
      name.add(dialect.exact(table.schema()));
    }
    name.add(dialect.exact(table.name()));
    return name;
  }

  /** A column of such a table. */
  public static Expression columnOf(String alias, String column, Dialect dialect) {
    return new ColumnName(Span.NOWHERE, List.of(dialect.exact(alias)), dialect.exact(column));
  }

  /** A column as its block writes it: by the name that its table goes by there. */
  public static Expression column(UseColumn column) {
    TableUse use = column.use();
    return new ColumnName(
        Span.NOWHERE,
        use.isNamed() ? List.of(use.dialect().exact(use.name())) : List.of(),
        use.dialect().exact(column.name()));
  }

  /** A text without what another hand writes otherwise: blanks at its ends, and capitals. */
  public static Expression plain(Expression text) {
    return FunctionCall.of("LOWER", FunctionCall.of("TRIM", text));
  }

  /**
   * A query as a member of WITH, its columns called {@code c0}, {@code c1}… Its order is left out
   * where it does not matter, since not every product takes one there.
   */
  public static CommonTable named(String name, Query query, int columns) {
    Query plain =
        query.limit() == null
            ? new Query(
                query.span(), query.recursive(), query.with(), query.body(), List.of(), null)
            : query;
    return new CommonTable(
        Span.NOWHERE,
        Identifier.of(name),
        IntStream.range(0, columns).mapToObj(i -> Identifier.of("c" + i)).toList(),
        null,
        plain,
        null,
        List.of());
  }

  public static FromItem derived(QueryBody body, String alias) {
    return derived(Query.of(body), alias);
  }

  public static FromItem derived(Query query, String alias) {
    return new FromItem.DerivedTable(Span.NOWHERE, query, Alias.of(alias));
  }

  public static QueryBody.Select select(
      List<SelectItem> items, @Nullable FromItem from, @Nullable Expression where) {
    return QueryBody.Select.of(items, from, where);
  }

  public static QueryBody.Select grouped(
      List<SelectItem> items,
      FromItem from,
      List<Expression> groupBy,
      @Nullable Expression having) {
    return new QueryBody.Select(Span.NOWHERE, false, items, from, null, groupBy, having);
  }

  /** The first rows of a body in an order. */
  public static Query first(QueryBody body, List<Expression> order, int rows) {
    return new Query(
        Span.NOWHERE,
        false,
        List.of(),
        body,
        order.stream().map(OrderItem::by).toList(),
        Limit.of(rows));
  }
}
