package io.lantrel.check.kinds.totals;

import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Window;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The groups with the extremes of two values.
 *
 * @param by what the rows of a group have in common
 * @param extremes which of each value: {@code min} or {@code max}
 */
record ExtremesOfGroups(
    Relation kept, List<Expression> by, List<String> extremes, List<Expression> values) {

  private static final String ROWS = SampleData.RESERVED + "marked";
  private static final String EACH = SampleData.RESERVED + "groups";

  /**
   * Groups.
   *
   * @param all how many there are
   * @param apart in how many of them no row has both values
   */
  record Found(long all, long apart) {}

  /** Of two columns of one table use, in the rows that meet WHERE. */
  static Question<Found> question(JoinedRows rows, List<String> extremes, List<UseColumn> columns) {
    Relation kept = rows.kept(columns.get(0).use()).relation();
    ExtremesOfGroups groups =
        new ExtremesOfGroups(
            kept,
            rows.groups(kept),
            extremes,
            columns.stream().map(each -> rows.column(kept, each)).toList());
    return groups.question(rows, null);
  }

  private Question<Found> question(JoinedRows rows, @Nullable Expression where) {
    boolean over = !rows.block().dialect().has(Dialect.Rule.WINDOWS_ONLY_NUMBER_ROWS);
    return Question.numbers(
        kept,
        over ? byWindows(where) : bySeeking(where),
        2,
        row -> new Found(row.figure(0), row.figure(1)));
  }

  /**
   * Of two columns of a table, in those of all its rows that meet some conditions.
   *
   * @param by columns of it that the rows of a group have in common: where one is NULL, nothing
   *     leads to the row
   * @param conditions on columns of it alone
   */
  static Question<Found> ofTable(
      JoinedRows rows,
      List<UseColumn> by,
      List<Expression> conditions,
      List<String> extremes,
      List<UseColumn> columns) {
    Relation all = rows.side(columns.get(0).use().item());
    List<Expression> met =
        Stream.concat(
                conditions.stream().map(each -> rows.holds(all, each)),
                by.stream()
                    .filter(UseColumn::nullable)
                    .map(each -> Sql.isNotNull(rows.column(all, each))))
            .toList();
    ExtremesOfGroups groups =
        new ExtremesOfGroups(
            all,
            by.stream().map(each -> rows.column(all, each)).toList(),
            extremes,
            columns.stream().map(each -> rows.column(all, each)).toList());
    return groups.question(rows, met.isEmpty() ? null : Sql.all(met));
  }

  private String extreme(int number) {
    return extremes.get(number).toUpperCase(Locale.ROOT);
  }

  private static Expression of(String from, String label, int number) {
    return Sql.column(from, label + number);
  }

  /** The values that a group is told by, and others, each under a letter and its number. */
  private List<SelectItem> items(boolean each, IntFunction<Expression> extreme) {
    List<SelectItem> items = new ArrayList<>();
    by.forEach(value -> items.add(Sql.as(value, "g" + items.size())));
    for (int i = 0; i < 2; i++) {
      if (each) {
        items.add(Sql.as(values.get(i), "v" + i));
      }
      items.add(Sql.as(extreme.apply(i), "e" + i));
    }
    return items;
  }

  private List<Expression> names(String from) {
    return IntStream.range(0, by.size()).mapToObj(i -> of(from, "g", i)).toList();
  }

  private static List<Expression> has(String values, String extremes) {
    return List.of(
        Sql.equal(of(values, "v", 0), of(extremes, "e", 0)),
        Sql.equal(of(values, "v", 1), of(extremes, "e", 1)));
  }

  /** Where one of the two is NULL in all rows, there is nothing that could be of another row. */
  private static Expression lacksOne(String extremes) {
    return Sql.any(List.of(Sql.isNull(of(extremes, "e", 0)), Sql.isNull(of(extremes, "e", 1))));
  }

  private static Query counted(FromItem each, Expression apart) {
    return Query.of(
        Sql.select(
            List.of(Sql.as(Sql.count(), "c0"), Sql.as(Sql.countIf(apart), "c1")), each, null));
  }

  /** In one pass. */
  private Query byWindows(@Nullable Expression where) {
    Window over = new Window(Span.NOWHERE, null, false, by, List.of(), null);
    FromItem marked =
        Sql.derived(
            kept.select(
                items(true, i -> FunctionCall.over(extreme(i), over, values.get(i))), where),
            ROWS);
    Expression together = Sql.any(List.of(Sql.all(has(ROWS, ROWS)), lacksOne(ROWS)));
    FromItem each =
        Sql.derived(
            Sql.grouped(List.of(Sql.as(Sql.countIf(together), "n")), marked, names(ROWS), null),
            EACH);
    return counted(each, Sql.equal(Sql.column(EACH, "n"), Sql.number(0)));
  }

  /** For each group its rows once more. */
  private Query bySeeking(@Nullable Expression where) {
    FromItem each =
        Sql.derived(
            kept.select(
                false,
                items(false, i -> FunctionCall.of(extreme(i), values.get(i))),
                where,
                by,
                null),
            EACH);
    FromItem rows = Sql.derived(kept.select(items(true, values::get), where), ROWS);
    List<Expression> same = new ArrayList<>(has(ROWS, EACH));
    for (int i = 0; i < by.size(); i++) {
      same.add(Sql.same(of(ROWS, "g", i), of(EACH, "g", i)));
    }
    Expression together = Sql.any(List.of(Sql.exists(rows, Sql.all(same)), lacksOne(EACH)));
    return counted(each, Sql.not(together));
  }
}
