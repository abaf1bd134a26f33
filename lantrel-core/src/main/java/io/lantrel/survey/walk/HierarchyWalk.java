package io.lantrel.survey.walk;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Sql;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.sql.tree.Value.When;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/**
 * A walk down a self-reference, from the rows that refer to nothing, one level at a time (ISO/IEC
 * 9075-2, 7.17, recursive query). A row refers to one other at most, so what it reaches it reaches
 * once, and it never enters a circle.
 */
public final class HierarchyWalk {

  /** A stop for what cannot be, a key that is repeated within a circle; and for some engines. */
  public static final int DEEPEST = 250;

  private static final String WALK = "lantrel_walk";
  private static final String ROW = "here";
  private static final String ABOVE = "above";
  private static final String LEVEL = "lvl";
  private static final String TOP = "top";
  private static final String BELOW = "lantrel_below";

  private final Reference reference;
  private final Table table;
  private final Asker asker;

  /**
   * @param reference a reference of a table to itself
   */
  public HierarchyWalk(Reference reference, Asker asker) {
    this.reference = reference;
    this.table = reference.from();
    this.asker = asker;
  }

  /**
   * What the walk met.
   *
   * @param roots rows that refer to none
   * @param levels levels from the roots down
   * @param reached rows that were reached from the roots, those included
   * @param hanging rows that refer to nothing, and those below them
   */
  public record Levels(long roots, long levels, long reached, long hanging) {}

  /**
   * How many rows each level has: a row for each kind of beginning and level, with 1 for roots and
   * 0 for rows that refer to nothing, the level, and the number.
   */
  public Rows counts() {
    QueryBody counts =
        Sql.grouped(
            List.of(
                Sql.as(Sql.column(WALK, TOP), TOP),
                Sql.as(Sql.column(WALK, LEVEL), LEVEL),
                Sql.as(Sql.count(), "n")),
            Sql.table(WALK),
            List.of(Sql.column(WALK, TOP), Sql.column(WALK, LEVEL)),
            null);
    return asker.rows(walking(counts));
  }

  /** Counts the rows of each level. */
  public Levels levels() {
    Rows rows = counts();
    long roots = 0;
    long levels = 0;
    long reached = 0;
    long hanging = 0;
    for (int i = 0; i < rows.size(); i++) {
      long count = rows.figure(i, 2);
      if (rows.figure(i, 0) == 0) {
        hanging += count;
        continue;
      }
      roots += rows.figure(i, 1) == 1 ? count : 0;
      levels = Math.max(levels, rows.figure(i, 1));
      reached += count;
    }
    return new Levels(roots, levels, reached, hanging);
  }

  /**
   * The rows of the upper levels: the kind of beginning, the level, and columns of the table.
   *
   * @param columns which
   * @param deepest the last level that is wanted
   */
  public Rows upper(List<String> columns, long deepest, int limit) {
    List<SelectItem> items = new ArrayList<>();
    items.add(Sql.as(Sql.column(WALK, TOP), "t"));
    items.add(Sql.as(Sql.column(WALK, LEVEL), "l"));
    columns.forEach(name -> items.add(shown(name, items.size())));
    FromItem join =
        FromItem.Join.of(
            Sql.table(WALK), JoinKind.INNER, Sql.table(table, ROW, dialect()), isHere());
    List<Expression> order = new ArrayList<>(List.of(Sql.column(WALK, LEVEL)));
    reference.toColumns().forEach(name -> order.add(column(ROW, name)));
    return asker.rows(walking(Sql.first(Sql.select(items, join, null), order, limit), deepest));
  }

  /**
   * What lies below each row of a level: its key, how many rows its subtree has, and the sum over
   * them.
   *
   * @param sum a column; empty for none
   */
  public Rows below(String sum, long level) {
    List<Identifier> columns = new ArrayList<>();
    List<SelectItem> first = new ArrayList<>();
    List<SelectItem> further = new ArrayList<>();
    List<SelectItem> told = new ArrayList<>();
    List<Expression> groups = new ArrayList<>();
    int width = reference.toColumns().size();
    for (int i = 0; i < width; i++) {
      columns.add(Identifier.of("s" + i));
      first.add(Sql.as(Sql.column(WALK, "k" + i), "s" + i));
      further.add(Sql.as(Sql.column(BELOW, "s" + i), "s" + i));
      told.add(Sql.as(Sql.column(BELOW, "s" + i), "c" + i));
      groups.add(Sql.column(BELOW, "s" + i));
    }
    for (int i = 0; i < width; i++) {
      columns.add(Identifier.of("k" + i));
      first.add(Sql.as(Sql.column(WALK, "k" + i), "k" + i));
      further.add(Sql.as(column(ROW, reference.toColumns().get(i)), "k" + i));
    }
    told.add(Sql.as(Sql.count(), "n"));
    FromItem start = Sql.table(WALK);
    if (!sum.isEmpty()) {
      columns.add(Identifier.of("m"));
      first.add(Sql.as(column(ROW, sum), "m"));
      further.add(Sql.as(column(ROW, sum), "m"));
      told.add(Sql.as(Call.FunctionCall.of("SUM", Sql.column(BELOW, "m")), "m"));
      start = FromItem.Join.of(start, JoinKind.INNER, Sql.table(table, ROW, dialect()), isHere());
    }
    FromItem step =
        FromItem.Join.of(
            Sql.table(BELOW),
            JoinKind.INNER,
            Sql.table(table, ROW, dialect()),
            along(name -> Sql.column(BELOW, "k" + reference.toColumns().indexOf(name))));
    QueryBody members =
        QueryBody.SetOperation.unionAll(
            List.of(
                Sql.select(first, start, Sql.equal(Sql.column(WALK, LEVEL), Sql.number(level))),
                Sql.select(further, step, null)));
    CommonTable below =
        new CommonTable(
            Span.NOWHERE, Identifier.of(BELOW), columns, null, Query.of(members), null, List.of());
    Query walk = walking(Query.of(Sql.grouped(told, Sql.table(BELOW), groups, null)), level);
    List<CommonTable> with = new ArrayList<>(walk.with());
    with.add(below);
    return asker.rows(
        new Query(Span.NOWHERE, true, with, walk.body(), walk.orderBy(), walk.limit()));
  }

  /**
   * Rows, and those above each: the number of the row that is followed, from 0, how many steps it
   * is away, and columns of the table; the nearest first.
   *
   * @param of the keys of the rows that are followed, of one column, no two equal
   */
  public Rows upwards(List<Expression> of, List<String> columns) {
    Expression own = column(ROW, reference.toColumns().get(0));
    List<When> numbers = new ArrayList<>();
    List<Expression> any = new ArrayList<>();
    for (Expression key : of) {
      any.add(Sql.equal(own, key));
      numbers.add(new When(Span.NOWHERE, Sql.equal(own, key), Sql.number(numbers.size())));
    }
    List<SelectItem> first = new ArrayList<>();
    first.add(Sql.as(new Value.Case(Span.NOWHERE, null, numbers, null), TOP));
    first.add(Sql.as(Sql.number(0), LEVEL));
    first.add(Sql.as(own, "k0"));
    QueryBody start = Sql.select(first, Sql.table(table, ROW, dialect()), Sql.any(any));
    Expression above = column(ROW, reference.fromColumns().get(0));
    Expression steps = Sql.column(WALK, LEVEL);
    List<SelectItem> items = new ArrayList<>();
    items.add(Sql.as(Sql.column(WALK, TOP), TOP));
    items.add(
        Sql.as(new Arithmetic(Span.NOWHERE, ArithmeticOperator.PLUS, steps, Sql.number(1)), LEVEL));
    items.add(Sql.as(above, "k0"));
    Expression stop =
        new Comparison(Span.NOWHERE, ComparisonOperator.LESS, steps, Sql.number(DEEPEST));
    FromItem join =
        FromItem.Join.of(
            Sql.table(WALK), JoinKind.INNER, Sql.table(table, ROW, dialect()), isHere());
    QueryBody step = Sql.select(items, join, Sql.all(List.of(Sql.isNotNull(above), stop)));
    List<SelectItem> shown = new ArrayList<>();
    shown.add(Sql.as(Sql.column(WALK, TOP), "t"));
    shown.add(Sql.as(steps, "l"));
    columns.forEach(name -> shown.add(shown(name, shown.size())));
    Query query =
        Sql.first(
            Sql.select(shown, join, null),
            List.of(Sql.column(WALK, TOP), steps),
            of.size() * (DEEPEST + 1));
    return asker.rows(walking(query, QueryBody.SetOperation.unionAll(List.of(start, step))));
  }

  /** The row of the walk is this row of the table. */
  private Expression isHere() {
    List<Expression> same = new ArrayList<>();
    for (int i = 0; i < reference.toColumns().size(); i++) {
      same.add(Sql.equal(Sql.column(WALK, "k" + i), column(ROW, reference.toColumns().get(i))));
    }
    return Sql.all(same);
  }

  /** Some rows that the walk does not reach: key, then what they refer to. */
  public Rows unreached(int limit) {
    List<SelectItem> items = new ArrayList<>();
    reference.toColumns().forEach(name -> items.add(shown(name, items.size())));
    reference.fromColumns().forEach(name -> items.add(shown(name, items.size())));
    QueryBody reached =
        Sql.select(List.of(Sql.as(Sql.number(1), "one")), Sql.table(WALK), isHere());
    QueryBody body =
        Sql.select(
            items,
            Sql.table(table, ROW, dialect()),
            Sql.all(List.of(filled(ROW), Sql.not(Sql.exists(reached)))));
    List<Expression> order = reference.toColumns().stream().map(name -> column(ROW, name)).toList();
    return asker.rows(walking(Sql.first(body, order, limit), DEEPEST));
  }

  private SelectItem shown(String name, int position) {
    return Sql.as(column(ROW, name), "c" + position);
  }

  private Query walking(QueryBody body) {
    return walking(Query.of(body), DEEPEST);
  }

  /**
   * @param deepest the last level that is walked to
   */
  private Query walking(Query query, long deepest) {
    return walking(
        query,
        QueryBody.SetOperation.unionAll(List.of(beginning(), step(Math.min(deepest, DEEPEST)))));
  }

  private Query walking(Query query, QueryBody all) {
    List<Identifier> columns = new ArrayList<>(List.of(Identifier.of(TOP), Identifier.of(LEVEL)));
    for (int i = 0; i < reference.toColumns().size(); i++) {
      columns.add(Identifier.of("k" + i));
    }
    CommonTable walk =
        new CommonTable(
            Span.NOWHERE, Identifier.of(WALK), columns, null, Query.of(all), null, List.of());
    return new Query(
        Span.NOWHERE, true, List.of(walk), query.body(), query.orderBy(), query.limit());
  }

  /** The roots, and the rows that refer to a row that is not there. */
  private QueryBody beginning() {
    List<SelectItem> items = new ArrayList<>();
    items.add(Sql.as(Sql.choose(filled(ROW), Sql.number(0), Sql.number(1)), TOP));
    items.add(Sql.as(Sql.number(1), LEVEL));
    keys(items);
    QueryBody above =
        Sql.select(
            List.of(Sql.as(Sql.number(1), "one")),
            Sql.table(table, ABOVE, dialect()),
            along(name -> column(ABOVE, name)));
    return Sql.select(
        items,
        Sql.table(table, ROW, dialect()),
        new Condition.Or(Span.NOWHERE, List.of(Sql.not(filled(ROW)), Sql.not(Sql.exists(above)))));
  }

  private QueryBody step(long deepest) {
    List<SelectItem> items = new ArrayList<>();
    Expression level = Sql.column(WALK, LEVEL);
    items.add(Sql.as(Sql.column(WALK, TOP), TOP));
    items.add(
        Sql.as(new Arithmetic(Span.NOWHERE, ArithmeticOperator.PLUS, level, Sql.number(1)), LEVEL));
    keys(items);
    FromItem join =
        FromItem.Join.of(
            Sql.table(WALK),
            JoinKind.INNER,
            Sql.table(table, ROW, dialect()),
            along(name -> Sql.column(WALK, "k" + reference.toColumns().indexOf(name))));
    Expression stop =
        new Comparison(Span.NOWHERE, ComparisonOperator.LESS, level, Sql.number(deepest));
    return Sql.select(items, join, stop);
  }

  private void keys(List<SelectItem> items) {
    for (int i = 0; i < reference.toColumns().size(); i++) {
      items.add(Sql.as(column(ROW, reference.toColumns().get(i)), "k" + i));
    }
  }

  /** A row's reference equals the key of the row above it. */
  private Expression along(Function<String, Expression> above) {
    List<Expression> same = new ArrayList<>();
    for (int i = 0; i < reference.toColumns().size(); i++) {
      same.add(
          Sql.equal(
              column(ROW, reference.fromColumns().get(i)),
              above.apply(reference.toColumns().get(i))));
    }
    return Sql.all(same);
  }

  private Expression filled(String alias) {
    return Sql.all(
        reference.fromColumns().stream().map(name -> Sql.isNotNull(column(alias, name))).toList());
  }

  private Expression column(String alias, String name) {
    return new ColumnName(Span.NOWHERE, List.of(Identifier.of(alias)), dialect().exact(name));
  }

  private Dialect dialect() {
    return asker.database().dialect();
  }
}
