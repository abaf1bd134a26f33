package io.lantrel.sql;

import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Window;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Writes a tree as SQL, in one line. Parentheses are written where the grammar needs them; a text
 * that is printed, read and printed again stays the same.
 */
public final class SqlPrinter {

  private static final Pattern PLAIN_WORD = Pattern.compile("[A-Za-z_][A-Za-z0-9_]*");

  private final Dialect dialect;
  private final boolean plain;
  private final ExpressionPrinter expressions;

  private SqlPrinter(Dialect dialect) {
    this(dialect, false);
  }

  private SqlPrinter(Dialect dialect, boolean plain) {
    this.dialect = dialect;
    this.plain = plain;
    this.expressions = new ExpressionPrinter(this);
  }

  /** A query as SQL. */
  public static String print(Query query, Dialect dialect) {
    return new SqlPrinter(dialect).query(query);
  }

  /**
   * A query as SQL whose names stand in double quotes if at all, and whose texts have no escapes,
   * whatever the product: what is sent is made of it.
   */
  public static String printPlain(Query query, Dialect dialect) {
    return new SqlPrinter(dialect, true).query(query);
  }

  /** A name likewise, always in quotes. */
  public static String printPlain(Identifier name) {
    return '"' + name.text().replace("\"", "\"\"") + '"';
  }

  /** An expression as SQL. */
  public static String print(Expression expression, Dialect dialect) {
    return new SqlPrinter(dialect).expression(expression);
  }

  /** An expression as a text by which it is known again, whatever engine it is for. */
  public static String text(Expression expression) {
    return print(expression, Dialect.STANDARD);
  }

  /** A name as SQL: in quotes if it was, or if it would be read as something else without. */
  public static String print(Identifier name, Dialect dialect) {
    return new SqlPrinter(dialect).name(name);
  }

  Dialect dialect() {
    return dialect;
  }

  String name(Identifier name) {
    if (!name.quoted() && !Keywords.needsQuotes(name) && isBare(name.text())) {
      return name.text();
    }
    String quote = plain ? "\"" : String.valueOf(dialect.quote());
    String text = name.quoted() ? name.text() : dialect.folded(name.text());
    return quote + text.replace(quote, quote + quote) + quote;
  }

  /** Products do not agree on which letters but A to Z a name can have without quotes. */
  boolean isBare(String name) {
    return !plain || PLAIN_WORD.matcher(name).matches();
  }

  /** A constant; the tree has its texts without escapes. */
  String constant(String text) {
    return !plain && dialect.has(Dialect.Rule.BACKSLASH_ESCAPES)
        ? text.replace("\\", "\\\\")
        : text;
  }

  String names(List<Identifier> names) {
    return " (" + list(names, this::name) + ")";
  }

  String query(Query query) {
    StringBuilder sql = new StringBuilder();
    if (!query.with().isEmpty()) {
      sql.append(query.recursive() ? "WITH RECURSIVE " : "WITH ");
      sql.append(list(query.with(), this::commonTable)).append(' ');
    }
    sql.append(query.body().accept(new Body()));
    if (!query.orderBy().isEmpty()) {
      sql.append(" ").append(orderBy(query.orderBy()));
    }
    return sql.append(limit(query.limit())).toString();
  }

  private String commonTable(CommonTable table) {
    String columns = table.columns().isEmpty() ? "" : names(table.columns());
    Boolean materialized = dialect.knowsMaterialized() ? table.materialized() : null;
    String how = materialized == null ? "" : materialized ? "MATERIALIZED " : "NOT MATERIALIZED ";
    String walk = table.walk() == null ? "" : " " + table.walk();
    return name(table.name()) + columns + " AS " + how + "(" + query(table.query()) + ")" + walk;
  }

  String orderBy(List<OrderItem> items) {
    return "ORDER BY " + list(items, this::orderItem);
  }

  private String orderItem(OrderItem item) {
    String value = expression(item.value());
    String direction = item.descending() ? " DESC" : "";
    if (item.nullsFirst() == null) {
      return value + direction;
    }
    // MariaDB has no words for it, but FALSE comes before TRUE.
    return dialect == Dialect.MARIADB
        ? value + " IS " + (item.nullsFirst() ? "NOT " : "") + "NULL, " + value + direction
        : value + direction + (item.nullsFirst() ? " NULLS FIRST" : " NULLS LAST");
  }

  private String limit(@Nullable Limit limit) {
    if (limit == null) {
      return "";
    }
    String skip = limit.skip() == null ? "" : " OFFSET " + expressions.operand(limit.skip());
    Expression count = limit.count();
    if (count == null) {
      return dialect == Dialect.HSQLDB || dialect == Dialect.H2 || dialect == Dialect.POSTGRESQL
          ? skip + (skip.isEmpty() ? "" : " ROWS")
          : skip;
    }
    String rows = expressions.operand(count);
    if (limit.withTies() || (limit.percent() && dialect != Dialect.DUCKDB)) {
      String percent = limit.percent() ? " PERCENT" : "";
      String ties = limit.withTies() ? " ROWS WITH TIES" : " ROWS ONLY";
      return (skip.isEmpty() ? "" : skip + " ROWS") + " FETCH FIRST " + rows + percent + ties;
    }
    return dialect == Dialect.TRINO
        ? skip + " LIMIT " + rows
        : " LIMIT " + rows + (limit.percent() ? " PERCENT" : "") + skip;
  }

  String window(Window window) {
    if (window.nameOnly() && window.base() != null) {
      return name(window.base());
    }
    List<String> parts = new ArrayList<>();
    if (window.base() != null) {
      parts.add(name(window.base()));
    }
    if (!window.partitionBy().isEmpty()) {
      parts.add("PARTITION BY " + list(window.partitionBy(), this::expression));
    }
    if (!window.orderBy().isEmpty()) {
      parts.add(orderBy(window.orderBy()));
    }
    if (window.frame() != null) {
      parts.add(frame(window.frame()));
    }
    return "(" + String.join(" ", parts) + ")";
  }

  private String frame(Window.Frame frame) {
    String start = bound(frame.start());
    String bounds = frame.end() == null ? start : "BETWEEN " + start + " AND " + bound(frame.end());
    String exclusion = frame.exclusion() == null ? "" : " EXCLUDE " + frame.exclusion();
    return frame.unit() + " " + bounds + exclusion;
  }

  private String bound(Window.Bound bound) {
    return bound.distance() == null
        ? bound.words()
        : expressions.operand(bound.distance()) + " " + bound.words();
  }

  String expression(Expression expression) {
    return expression.accept(expressions);
  }

  static <T> String list(List<T> items, Function<? super T, String> print) {
    return items.stream().map(print).collect(Collectors.joining(", "));
  }

  String dotted(List<Identifier> parts) {
    return parts.stream().map(this::name).collect(Collectors.joining("."));
  }

  private final class Body implements QueryBody.Visitor<String> {
    @Override
    public String select(QueryBody.Select select) {
      StringBuilder sql = new StringBuilder("SELECT");
      if (select.distinct()) {
        sql.append(" DISTINCT");
      }
      if (!select.distinctOn().isEmpty()) {
        sql.append(" ON (").append(list(select.distinctOn(), SqlPrinter.this::expression));
        sql.append(")");
      }
      if (!select.items().isEmpty()) {
        sql.append(" ").append(list(select.items(), this::item));
      }
      FromItem from = select.from();
      if (from != null) {
        sql.append(" FROM ").append(from.accept(new Item()));
      }
      clause(sql, " WHERE ", select.where());
      if (!select.groupBy().isEmpty()) {
        sql.append(" GROUP BY ").append(groups(select.groupBy()));
      }
      clause(sql, " HAVING ", select.having());
      if (!select.windows().isEmpty()) {
        sql.append(" WINDOW ")
            .append(
                list(select.windows(), each -> name(each.name()) + " AS " + window(each.window())));
      }
      clause(sql, " QUALIFY ", select.qualify());
      return sql.toString();
    }

    private String groups(List<Expression> items) {
      boolean behind =
          dialect == Dialect.MARIADB
              && items.size() == 1
              && items.get(0) instanceof Call.Grouping grouping
              && grouping.kind() == Call.GroupingKind.ROLLUP;
      return behind
          ? list(((Call.Grouping) items.get(0)).items(), SqlPrinter.this::expression)
              + " WITH ROLLUP"
          : list(items, SqlPrinter.this::expression);
    }

    private void clause(StringBuilder sql, String word, @Nullable Expression condition) {
      if (condition != null) {
        sql.append(word).append(expression(condition));
      }
    }

    private String item(SelectItem item) {
      if (item instanceof SelectItem.AllColumns all) {
        String table = all.qualifier().isEmpty() ? "" : dotted(all.qualifier()) + ".";
        String without = all.excluded().isEmpty() ? "" : except() + names(all.excluded());
        String other =
            all.replaced().isEmpty() ? "" : " REPLACE (" + list(all.replaced(), this::item) + ")";
        return table + "*" + without + other;
      }
      SelectItem.Output output = (SelectItem.Output) item;
      Identifier label = output.label();
      return expression(output.value()) + (label == null ? "" : " AS " + name(label));
    }

    private String except() {
      return dialect == Dialect.H2 ? " EXCEPT" : " EXCLUDE";
    }

    @Override
    public String setOperation(QueryBody.SetOperation operation) {
      String sign = " " + operation.operator() + (operation.all() ? " ALL" : "");
      String matching = operation.matching() == null ? "" : " " + operation.matching();
      StringBuilder sql = new StringBuilder();
      for (int i = 0; i < operation.parts().size(); i++) {
        QueryBody part = operation.parts().get(i);
        String text = part.accept(this);
        boolean fits =
            !(part instanceof QueryBody.SetOperation inner) || fits(inner, operation, i == 0);
        sql.append(i == 0 ? "" : sign + matching + " ").append(fits ? text : "(" + text + ")");
      }
      return sql.toString();
    }

    /** INTERSECT binds more strongly; the others go from left to right. */
    private static boolean fits(
        QueryBody.SetOperation inner, QueryBody.SetOperation outer, boolean first) {
      boolean same =
          inner.operator() == outer.operator()
              && inner.all() == outer.all()
              && Objects.equals(inner.matching(), outer.matching());
      if (same) {
        return false;
      }
      boolean innerBinds = inner.operator() == QueryBody.SetOperator.INTERSECT;
      boolean outerBinds = outer.operator() == QueryBody.SetOperator.INTERSECT;
      return innerBinds ? !outerBinds || first : !outerBinds && first;
    }

    @Override
    public String values(QueryBody.Values values) {
      return "VALUES " + list(values.rows(), SqlPrinter.this::row);
    }

    @Override
    public String nested(QueryBody.Nested nested) {
      return "(" + query(nested.query()) + ")";
    }
  }

  /** A row always in parentheses, also one of a single value. */
  private String row(Value.RowValue row) {
    return "(" + list(row.values(), this::expression) + ")";
  }

  private final class Item implements FromItem.Visitor<String> {
    @Override
    public String table(FromItem.TableName table) {
      return (table.only() ? "ONLY " : "")
          + dotted(table.name())
          + (table.partition() == null ? "" : " " + table.partition())
          + alias(table.alias())
          + (table.sample() == null ? "" : " " + table.sample());
    }

    @Override
    public String derived(FromItem.DerivedTable derived) {
      String lateral = derived.lateral() ? "LATERAL " : "";
      return lateral + "(" + query(derived.query()) + ")" + alias(derived.alias());
    }

    @Override
    public String function(FromItem.TableFunction function) {
      String lateral = function.lateral() ? "LATERAL " : "";
      String calls = list(function.calls(), SqlPrinter.this::expression);
      String all = function.calls().size() == 1 ? calls : "ROWS FROM (" + calls + ")";
      String numbered = function.ordinality() ? " WITH ORDINALITY" : "";
      return lateral + all + numbered + alias(function.alias());
    }

    private String alias(@Nullable Alias alias) {
      if (alias == null) {
        return "";
      }
      List<String> columns = new ArrayList<>();
      for (int i = 0; i < alias.columns().size(); i++) {
        String type = i < alias.types().size() ? " " + alias.types().get(i).text() : "";
        columns.add(name(alias.columns().get(i)) + type);
      }
      return " AS "
          + name(alias.name())
          + (columns.isEmpty() ? "" : " (" + String.join(", ", columns) + ")");
    }

    @Override
    public String join(FromItem.Join join) {
      String sql = join.left().accept(this) + sign(join) + right(join) + condition(join);
      return join.inParentheses() ? "(" + sql + ")" + alias(join.alias()) : sql;
    }

    private String sign(FromItem.Join join) {
      String natural = join.natural() ? "NATURAL " : "";
      if (join.way() == FromItem.Way.BY_POSITION) {
        return " POSITIONAL JOIN ";
      }
      boolean cross = join.isBare() && !dialect.has(Dialect.Rule.JOINS_WITHOUT_CONDITION);
      JoinKind kind = cross ? JoinKind.CROSS : join.kind();
      String words = join.way().words() + natural + kind.words();
      return join.kind() == JoinKind.COMMA ? ", " : " " + words + " ";
    }

    /** A join on the right needs parentheses unless its own ON closes it before ours. */
    private String right(FromItem.Join join) {
      String sql = join.right().accept(this);
      boolean open =
          join.kind() != JoinKind.COMMA
              && join.right() instanceof FromItem.Join inner
              && !inner.inParentheses();
      return open ? "(" + sql + ")" : sql;
    }

    private String condition(FromItem.Join join) {
      JoinCondition condition = join.condition();
      if (condition instanceof JoinCondition.On on) {
        return " ON " + expression(on.condition());
      }
      if (condition instanceof JoinCondition.Using using) {
        String alias = using.alias() == null ? "" : " AS " + name(using.alias());
        return " USING" + names(using.columns()) + alias;
      }
      return "";
    }
  }
}
