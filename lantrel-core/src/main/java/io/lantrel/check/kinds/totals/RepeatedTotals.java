package io.lantrel.check.kinds.totals;

import io.lantrel.engine.SampleData;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.JoinedRows.Kept;
import io.lantrel.probe.Question;
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
 * Totals as they are written, and as they would be with every row counted once: the rows of each
 * group are put together by the row of the table that is totalled, with how often it comes.
 */
final class RepeatedTotals {

  private static final String PER_ROW = SampleData.RESERVED + "per_row";
  private static final String PER_GROUP = SampleData.RESERVED + "per_group";
  private static final int SHOWN = 3;

  private final JoinedRows rows;
  private final Kept kept;
  private final TableUse use;
  private final List<Totalled> totals;
  private final Question<List<Figures>> figures;

  /**
   * What is known of one total.
   *
   * @param counted how often rows are counted
   * @param once how many rows these are
   * @param groups how many groups differ
   */
  record Figures(long counted, long once, long groups) {}

  /**
   * @param use the table whose values are totalled
   * @param totals the totals of its rows
   */
  RepeatedTotals(JoinedRows rows, TableUse use, List<Totalled> totals) {
    this.rows = rows;
    this.kept = rows.kept(use);
    this.use = use;
    this.totals = List.copyOf(totals);
    this.figures = askFigures();
  }

  private List<Expression> groups() {
    return rows.groups(kept.relation());
  }

  /** One row for each group and row of the table: its values, and how often each is counted. */
  private FromItem perRow() {
    List<SelectItem> items = new ArrayList<>();
    for (Expression group : groups()) {
      items.add(Sql.as(group, "g" + items.size()));
    }
    for (int i = 0; i < totals.size(); i++) {
      Totalled total = totals.get(i);
      Expression whole = rows.value(kept.relation(), total.value());
      Expression value =
          total.isCount() ? Sql.choose(Sql.isNotNull(whole), Sql.number(1), Sql.nothing()) : whole;
      Expression filter = total.condition();
      Expression counted =
          filter == null
              ? value
              : Sql.choose(rows.holds(kept.relation(), filter), value, Sql.nothing());
      items.add(Sql.as(FunctionCall.of("MIN", counted), "v" + i));
      items.add(Sql.as(Sql.count(counted), "times" + i));
    }
    List<Expression> grouping = new ArrayList<>(groups());
    grouping.addAll(kept.identity());
    Expression there = Sql.isNotNull(kept.identity().get(0));
    return Sql.derived(kept.relation().select(false, items, there, grouping, null), PER_ROW);
  }

  private static Expression column(String name) {
    return Sql.column(PER_ROW, name);
  }

  private static Expression sum(Expression value) {
    return FunctionCall.of("SUM", value);
  }

  /** For each of the totals; asked once. */
  Question<List<Figures>> figures() {
    return figures;
  }

  private Question<List<Figures>> askFigures() {
    List<SelectItem> perGroup = new ArrayList<>();
    List<SelectItem> all = new ArrayList<>();
    for (int i = 0; i < totals.size(); i++) {
      perGroup.add(Sql.as(sum(column("times" + i)), "counted" + i));
      perGroup.add(Sql.as(Sql.count(column("v" + i)), "once" + i));
      Expression counted = Sql.column(PER_GROUP, "counted" + i);
      Expression once = Sql.column(PER_GROUP, "once" + i);
      Expression differs =
          new Condition.Comparison(
              Span.NOWHERE, Condition.ComparisonOperator.NOT_EQUAL, counted, once);
      all.add(Sql.as(sum(counted), "c" + all.size()));
      all.add(Sql.as(sum(once), "c" + all.size()));
      all.add(Sql.as(Sql.countIf(differs), "c" + all.size()));
    }
    QueryBody grouped = Sql.grouped(perGroup, perRow(), groupNames(), null);
    Query query = Query.of(Sql.select(all, Sql.derived(grouped, PER_GROUP), null));
    return Question.numbers(
        kept.relation(),
        query,
        all.size(),
        answer -> {
          List<Figures> read = new ArrayList<>();
          for (int i = 0; i < all.size(); i += 3) {
            read.add(new Figures(answer.figure(i), answer.figure(i + 1), answer.figure(i + 2)));
          }
          return read;
        });
  }

  private List<Expression> groupNames() {
    List<Expression> names = new ArrayList<>();
    for (int i = 0; i < rows.block().groupedBy().size(); i++) {
      names.add(column("g" + i));
    }
    return names;
  }

  /**
   * The groups in which rows are counted most often, in sentences. Averages are left to Java, since
   * engines round them differently.
   *
   * @param call which of the totals
   * @param text the total as it is written
   */
  Question<List<String>> worstGroups(int call, String text) {
    List<SelectItem> items = new ArrayList<>();
    for (Expression name : groupNames()) {
      items.add(Sql.as(name, "c" + items.size()));
    }
    boolean counts = totals.get(call).isCount();
    Expression value = column("v" + call);
    Expression times = column("times" + call);
    Expression repeated = arithmetic(value, ArithmeticOperator.TIMES, times);
    items.add(Sql.as(sum(counts ? times : repeated), "c" + items.size()));
    items.add(Sql.as(sum(times), "c" + items.size()));
    items.add(Sql.as(counts ? Sql.count(value) : sum(value), "c" + items.size()));
    items.add(Sql.as(Sql.count(value), "c" + items.size()));
    QueryBody body =
        Sql.grouped(items, perRow(), groupNames(), Sql.greater(sum(times), Sql.count(value)));
    List<OrderItem> order = new ArrayList<>();
    order.add(new OrderItem(Span.NOWHERE, sum(times), true, null));
    groupNames().forEach(name -> order.add(OrderItem.by(name)));
    Query query = new Query(Span.NOWHERE, false, List.of(), body, order, Limit.of(SHOWN));
    return Question.values(
        kept.relation(),
        query,
        items.size(),
        answer -> answer.rows().stream().map(row -> fact(row, totals.get(call), text)).toList());
  }

  private static Expression arithmetic(
      Expression left, ArithmeticOperator operator, Expression right) {
    return new Arithmetic(Span.NOWHERE, operator, left, right);
  }

  private String fact(List<@Nullable Object> row, Totalled of, String text) {
    int names = row.size() - 4;
    List<String> group = new ArrayList<>();
    for (int i = 0; i < names; i++) {
      Expression item = rows.block().groupedBy().get(i);
      String name = SqlPrinter.print(item, rows.block().dialect());
      group.add(name + " = " + ValueText.of(row.get(i), rows.block().type(item)));
    }
    String where = group.isEmpty() ? "" : " where " + String.join(", ", group);
    return text
        + (of.isList() ? " has " : " is ")
        + total(row, names, of.call())
        + where
        + ", and "
        + total(row, names + 2, of.call())
        + " with each "
        + use.rowWord()
        + (of.isList() ? " listed once" : " counted once");
  }

  private static String total(List<@Nullable Object> row, int at, FunctionCall call) {
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
