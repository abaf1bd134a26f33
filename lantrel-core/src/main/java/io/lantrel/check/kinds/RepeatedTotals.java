package io.lantrel.check.kinds;

import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.Chain;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import java.math.BigDecimal;
import java.math.MathContext;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A total as it is written, and as it would be with every row counted once: the rows of each group
 * are put together by the row of the table that is totalled, with how often it comes.
 */
final class RepeatedTotals {

  private static final String PER_ROW = Chain.PREFIX + "per_row";
  private static final int SHOWN = 3;

  private final Chain chain;
  private final FunctionCall call;
  private final TableUse use;

  RepeatedTotals(Chain chain, FunctionCall call, TableUse use) {
    this.chain = chain;
    this.call = call;
    this.use = use;
  }

  private List<Expression> groups() {
    return chain.groupingOver(chain.kept());
  }

  /** One row for each group and row of the table: its value, and how often it is counted. */
  private FromItem perRow() {
    String kept = chain.kept();
    List<Expression> grouping = new ArrayList<>(groups());
    List<SelectItem> items = new ArrayList<>();
    for (int i = 0; i < grouping.size(); i++) {
      items.add(Sql.as(grouping.get(i), "g" + i));
    }
    Expression row = chain.rowOf(kept, use);
    Expression value = chain.over(kept, call.arguments().get(0));
    Expression filter = call.filter();
    Expression counted =
        filter == null ? value : Sql.choose(chain.over(kept, filter), value, Sql.nothing());
    items.add(Sql.as(FunctionCall.of("MIN", counted), "v"));
    items.add(Sql.as(Sql.count(counted), "times"));
    grouping.add(row);
    QueryBody rows =
        new QueryBody.Select(
            Span.NOWHERE, false, items, Sql.table(kept), Sql.isNotNull(row), grouping, null);
    return Sql.derived(rows, PER_ROW);
  }

  private static Expression column(String name) {
    return Sql.column(PER_ROW, name);
  }

  private static Expression sum(Expression value) {
    return FunctionCall.of("SUM", value);
  }

  /** How often rows are counted, how many rows these are, and how many groups differ. */
  Query figures() {
    List<SelectItem> perGroup =
        List.of(Sql.as(sum(column("times")), "counted"), Sql.as(Sql.count(column("v")), "once"));
    String alias = Chain.PREFIX + "groups";
    Expression differs =
        new Condition.Comparison(
            Span.NOWHERE,
            Condition.ComparisonOperator.NOT_EQUAL,
            Sql.column(alias, "counted"),
            Sql.column(alias, "once"));
    return chain.probe(
        Sql.select(
            List.of(
                Sql.as(sum(Sql.column(alias, "counted")), "counted"),
                Sql.as(sum(Sql.column(alias, "once")), "once"),
                Sql.as(Sql.countIf(differs), "differing")),
            Sql.derived(Sql.grouped(perGroup, perRow(), groupNames(), null), alias),
            null));
  }

  private List<Expression> groupNames() {
    List<Expression> names = new ArrayList<>();
    for (int i = 0; i < groups().size(); i++) {
      names.add(column("g" + i));
    }
    return names;
  }

  /**
   * The groups in which rows are counted most often: their names, then total and number of rows as
   * written and counted once. Averages are left to Java, since engines round them differently.
   */
  Query worstGroups() {
    List<SelectItem> items = new ArrayList<>();
    for (Expression name : groupNames()) {
      items.add(Sql.as(name, "g" + items.size()));
    }
    boolean counts = call.key().equals("count");
    Expression value = column("v");
    Expression repeated = arithmetic(value, ArithmeticOperator.TIMES, column("times"));
    items.add(Sql.as(sum(counts ? column("times") : repeated), "written"));
    items.add(Sql.as(sum(column("times")), "written_rows"));
    items.add(Sql.as(counts ? Sql.count(value) : sum(value), "once"));
    items.add(Sql.as(Sql.count(value), "once_rows"));
    QueryBody body =
        Sql.grouped(
            items,
            perRow(),
            groupNames(),
            new Condition.Comparison(
                Span.NOWHERE,
                Condition.ComparisonOperator.GREATER,
                sum(column("times")),
                Sql.count(column("v"))));
    List<OrderItem> order = new ArrayList<>();
    order.add(new OrderItem(Span.NOWHERE, sum(column("times")), true, null));
    groupNames().forEach(name -> order.add(OrderItem.by(name)));
    Limit limit = Limit.of(SHOWN);
    return chain.probe(new Query(Span.NOWHERE, false, List.of(), body, order, limit));
  }

  private static Expression arithmetic(
      Expression left, ArithmeticOperator operator, Expression right) {
    return new Arithmetic(Span.NOWHERE, operator, left, right);
  }

  /** The answer to {@link #worstGroups()} in sentences. */
  List<String> facts(Rows answer, String text) {
    return answer.rows().stream().map(row -> fact(row, text)).toList();
  }

  private String fact(List<@Nullable Object> row, String text) {
    int names = row.size() - 4;
    List<String> group = new ArrayList<>();
    for (int i = 0; i < names; i++) {
      Expression item = chain.block().grouping().get(i);
      String name = SqlPrinter.print(item, chain.block().dialect());
      group.add(name + " = " + ValueText.of(row.get(i), chain.block().type(item)));
    }
    String where = group.isEmpty() ? "" : " where " + String.join(", ", group);
    return text
        + " is "
        + total(row, names)
        + where
        + ", and "
        + total(row, names + 2)
        + " with each "
        + use.rowWord()
        + " counted once";
  }

  private String total(List<@Nullable Object> row, int at) {
    BigDecimal total = number(row.get(at));
    BigDecimal value =
        call.key().equals("avg")
            ? total.divide(number(row.get(at + 1)), MathContext.DECIMAL64)
            : total;
    BigDecimal shown = value.scale() > 3 ? value.setScale(3, RoundingMode.HALF_UP) : value;
    return shown.signum() == 0 ? "0" : shown.stripTrailingZeros().toPlainString();
  }

  private static BigDecimal number(@Nullable Object value) {
    return value == null ? BigDecimal.ZERO : new BigDecimal(value.toString());
  }
}
