package io.lantrel.sql;

import io.lantrel.sql.tree.Alias;
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
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Writes a tree as SQL, in one line. Parentheses are written where the grammar needs them; a text
 * that is printed, read and printed again stays the same.
 */
public final class SqlPrinter {

  private final ExpressionPrinter expressions = new ExpressionPrinter(this);

  /** A query as SQL. */
  public static String print(Query query) {
    return new SqlPrinter().query(query);
  }

  /** An expression as SQL. */
  public static String print(Expression expression) {
    return new SqlPrinter().expression(expression);
  }

  /** A name as SQL: in quotes if it was, or if it would be read as something else without. */
  public static String print(Identifier name) {
    return name.quoted() || Keywords.needsQuotes(name.text())
        ? "\"" + name.text().replace("\"", "\"\"") + "\""
        : name.text();
  }

  String query(Query query) {
    StringBuilder sql = new StringBuilder();
    if (!query.with().isEmpty()) {
      sql.append("WITH ").append(list(query.with(), this::commonTable)).append(' ');
    }
    sql.append(query.body().accept(new Body()));
    if (!query.orderBy().isEmpty()) {
      sql.append(" ORDER BY ").append(list(query.orderBy(), this::orderItem));
    }
    return sql.append(limit(query.limit())).toString();
  }

  private String commonTable(CommonTable table) {
    return print(table.name()) + " AS MATERIALIZED (" + query(table.query()) + ")";
  }

  private String orderItem(OrderItem item) {
    String nulls =
        item.nullsFirst() == null ? "" : item.nullsFirst() ? " NULLS FIRST" : " NULLS LAST";
    return expression(item.value()) + (item.descending() ? " DESC" : "") + nulls;
  }

  private String limit(@Nullable Limit limit) {
    if (limit == null) {
      return "";
    }
    String count = limit.count() == null ? "" : " LIMIT " + expression(limit.count());
    return count + (limit.skip() == null ? "" : " OFFSET " + expression(limit.skip()));
  }

  String expression(Expression expression) {
    return expression.accept(expressions);
  }

  static <T> String list(List<T> items, Function<? super T, String> print) {
    return items.stream().map(print).collect(Collectors.joining(", "));
  }

  static String dotted(List<Identifier> parts) {
    return parts.stream().map(SqlPrinter::print).collect(Collectors.joining("."));
  }

  private final class Body implements QueryBody.Visitor<String> {
    @Override
    public String select(QueryBody.Select select) {
      StringBuilder sql = new StringBuilder(select.distinct() ? "SELECT DISTINCT " : "SELECT ");
      sql.append(list(select.items(), this::item));
      FromItem from = select.from();
      if (from != null) {
        sql.append(" FROM ").append(from.accept(new Item()));
      }
      clause(sql, " WHERE ", select.where());
      if (!select.groupBy().isEmpty()) {
        sql.append(" GROUP BY ").append(list(select.groupBy(), SqlPrinter.this::expression));
      }
      clause(sql, " HAVING ", select.having());
      return sql.toString();
    }

    private void clause(StringBuilder sql, String word, @Nullable Expression condition) {
      if (condition != null) {
        sql.append(word).append(expression(condition));
      }
    }

    private String item(SelectItem item) {
      if (item instanceof SelectItem.AllColumns all) {
        return all.qualifier().isEmpty() ? "*" : dotted(all.qualifier()) + ".*";
      }
      SelectItem.Output output = (SelectItem.Output) item;
      Identifier label = output.label();
      return expression(output.value()) + (label == null ? "" : " AS " + print(label));
    }

    @Override
    public String unionAll(QueryBody.UnionAll union) {
      return union.parts().stream()
          .map(part -> part.accept(this))
          .collect(Collectors.joining(" UNION ALL "));
    }
  }

  private final class Item implements FromItem.Visitor<String> {
    @Override
    public String table(FromItem.TableName table) {
      return dotted(table.name()) + alias(table.alias());
    }

    @Override
    public String derived(FromItem.DerivedTable derived) {
      return "(" + query(derived.query()) + ")" + alias(derived.alias());
    }

    private String alias(@Nullable Alias alias) {
      if (alias == null) {
        return "";
      }
      String columns =
          alias.columns().isEmpty() ? "" : " (" + list(alias.columns(), SqlPrinter::print) + ")";
      return " AS " + print(alias.name()) + columns;
    }

    @Override
    public String join(FromItem.Join join) {
      String sql = join.left().accept(this) + sign(join) + right(join) + condition(join);
      return join.inParentheses() ? "(" + sql + ")" : sql;
    }

    private String sign(FromItem.Join join) {
      String natural = join.natural() ? "NATURAL " : "";
      return join.kind() == JoinKind.COMMA ? ", " : " " + natural + join.kind().words() + " ";
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
      return condition instanceof JoinCondition.Using using
          ? " USING (" + list(using.columns(), SqlPrinter::print) + ")"
          : "";
    }
  }
}
