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
import org.jspecify.annotations.Nullable;

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
  private static final String ALL = "lantrel_all";

  private final Reference reference;
  private final Table table;
  private final Asker asker;
  private final boolean fromRoots;

  /**
   * @param reference a reference of a table to itself
   */
  public HierarchyWalk(Reference reference, Asker asker) {
    this(reference, asker, false);
  }

  private HierarchyWalk(Reference reference, Asker asker, boolean fromRoots) {
    this.reference = reference;
    this.table = reference.from();
    this.asker = asker;
    this.fromRoots = fromRoots;
  }

  /**
   * The same from the rows alone that refer to nothing, which are found without looking for the
   * others: where all rows are below them, there are no rows that refer to one that is not there.
   */
  public HierarchyWalk fromRoots() {
    return new HierarchyWalk(reference, asker, true);
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

  /** Counts the rows of each level. */
  public Levels levels() {
    QueryBody counts =
        Sql.grouped(
            List.of(
                Sql.as(Sql.column(WALK, TOP), TOP),
                Sql.as(Sql.column(WALK, LEVEL), LEVEL),
                Sql.as(Sql.count(), "n")),
            Sql.table(WALK),
            List.of(Sql.column(WALK, TOP), Sql.column(WALK, LEVEL)),
            null);
    Rows rows = asker.rows(walking(Query.of(counts), DEEPEST, List.of()));
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
   * The rows of the upper levels, those first: the kind of beginning, 1 for roots and 0 for rows
   * that refer to nothing, the level, and columns of the table.
   *
   * @param columns which
   * @param deepest the last level that is wanted
   * @param limit so many rows at most
   */
  public Rows upper(List<String> columns, long deepest, int limit) {
    List<SelectItem> items = new ArrayList<>();
    items.add(Sql.as(Sql.column(WALK, TOP), "t"));
    items.add(Sql.as(Sql.column(WALK, LEVEL), "l"));
    List<Carried> carried = new ArrayList<>();
    for (String name : columns) {
      String heading = "c" + items.size();
      items.add(Sql.as(Sql.column(WALK, heading), heading));
      carried.add(new Carried(heading, column(ROW, name), column(ROW, name)));
    }
    List<Expression> order = new ArrayList<>(List.of(Sql.column(WALK, LEVEL)));
    for (int i = 0; i < reference.toColumns().size(); i++) {
      order.add(Sql.column(WALK, "k" + i));
    }
    Query upper = Sql.first(Sql.select(items, Sql.table(WALK), null), order, limit);
    return asker.rows(walking(upper, deepest, carried));
  }

  /**
   * How many rows lie where: for each row of the upper levels and each level the row's key, the
   * level, how many rows of it lie below that row, or are it, and the sum over them.
   *
   * @param sum a column; empty for none
   * @param level the last of the upper levels, below which rows are counted for a row of it
   * @param last of the first level only rows up to this key are told by their keys; those of others
   *     have NULL in its place; null for all
   */
  public Rows below(String sum, long level, @Nullable Expression last) {
    List<Carried> carried = new ArrayList<>();
    List<SelectItem> told = new ArrayList<>();
    List<Expression> groups = new ArrayList<>();
    for (int i = 0; i < reference.toColumns().size(); i++) {
      Expression key = column(ROW, reference.toColumns().get(i));
      Expression above = Sql.column(WALK, "s" + i);
      Expression isUpper = less(Sql.column(WALK, LEVEL), Sql.number(level));
      Expression first =
          last == null
              ? key
              : Sql.choose(
                  new Comparison(Span.NOWHERE, ComparisonOperator.LESS_OR_EQUAL, key, last),
                  key,
                  Sql.nothing());
      carried.add(
          new Carried("s" + i, first, level == 1 ? above : Sql.choose(isUpper, key, above)));
      told.add(Sql.as(above, "c" + i));
      groups.add(above);
    }
    told.add(Sql.as(Sql.column(WALK, LEVEL), LEVEL));
    groups.add(Sql.column(WALK, LEVEL));
    told.add(Sql.as(Sql.count(), "n"));
    if (!sum.isEmpty()) {
      carried.add(new Carried("m", column(ROW, sum), column(ROW, sum)));
      told.add(Sql.as(Call.FunctionCall.of("SUM", Sql.column(WALK, "m")), "m"));
    }
    Query counts = Query.of(Sql.grouped(told, Sql.table(WALK), groups, null));
    return asker.rows(walking(counts, DEEPEST, carried));
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
    Expression stop = less(steps, Sql.number(DEEPEST));
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
    return asker.rows(
        walking(query, QueryBody.SetOperation.unionAll(List.of(start, step)), List.of()));
  }

  /** The row of the walk is this row of the table. */
  private Expression isHere() {
    List<Expression> same = new ArrayList<>();
    for (int i = 0; i < reference.toColumns().size(); i++) {
      same.add(Sql.equal(Sql.column(WALK, "k" + i), column(ROW, reference.toColumns().get(i))));
    }
    return Sql.all(same);
  }

  /**
   * Some rows that the walk does not reach: key, then what they refer to. All rows and those of the
   * walk are grouped together, which every engine does in about linear time.
   */
  public Rows unreached(int limit) {
    List<Carried> carried = new ArrayList<>();
    List<SelectItem> ofTable = new ArrayList<>();
    List<SelectItem> ofWalk = new ArrayList<>();
    List<SelectItem> told = new ArrayList<>();
    List<Expression> columns = new ArrayList<>();
    int width = reference.toColumns().size();
    for (int i = 0; i < 2 * width; i++) {
      boolean key = i < width;
      int at = key ? i : i - width;
      Expression own = column(ROW, (key ? reference.toColumns() : reference.fromColumns()).get(at));
      if (!key) {
        carried.add(new Carried("a" + at, own, own));
      }
      ofTable.add(Sql.as(own, "c" + i));
      ofWalk.add(Sql.as(Sql.column(WALK, (key ? "k" : "a") + at), "c" + i));
      columns.add(Sql.column(ALL, "c" + i));
      told.add(Sql.as(columns.get(i), "c" + i));
    }
    ofTable.add(Sql.as(Sql.number(0), "reached"));
    ofWalk.add(Sql.as(Sql.number(1), "reached"));
    QueryBody both =
        QueryBody.SetOperation.unionAll(
            List.of(
                Sql.select(ofTable, Sql.table(table, ROW, dialect()), filled(ROW)),
                Sql.select(ofWalk, Sql.table(WALK), null)));
    Expression isReached = Call.FunctionCall.of("MAX", Sql.column(ALL, "reached"));
    QueryBody body =
        Sql.grouped(told, Sql.derived(both, ALL), columns, Sql.equal(isReached, Sql.number(0)));
    Query first = Sql.first(body, columns.subList(0, width), limit);
    return asker.rows(walking(first, DEEPEST, carried));
  }

  private SelectItem shown(String name, int position) {
    return Sql.as(column(ROW, name), "c" + position);
  }

  /**
   * What the walk takes along besides level and key.
   *
   * @param name of the column
   * @param first its value at the beginning
   * @param further its value one level below
   */
  private record Carried(String name, Expression first, Expression further) {}

  /**
   * @param deepest the last level that is walked to
   */
  private Query walking(Query query, long deepest, List<Carried> carried) {
    QueryBody all =
        QueryBody.SetOperation.unionAll(
            List.of(beginning(carried), step(Math.min(deepest, DEEPEST), carried)));
    return walking(query, all, carried);
  }

  private Query walking(Query query, QueryBody all, List<Carried> carried) {
    List<Identifier> columns = new ArrayList<>(List.of(Identifier.of(TOP), Identifier.of(LEVEL)));
    for (int i = 0; i < reference.toColumns().size(); i++) {
      columns.add(Identifier.of("k" + i));
    }
    carried.forEach(each -> columns.add(Identifier.of(each.name())));
    CommonTable walk =
        new CommonTable(
            Span.NOWHERE, Identifier.of(WALK), columns, null, Query.of(all), null, List.of());
    return new Query(
        Span.NOWHERE, true, List.of(walk), query.body(), query.orderBy(), query.limit());
  }

  /** The roots, and the rows that refer to a row that is not there. */
  private QueryBody beginning(List<Carried> carried) {
    List<SelectItem> items = new ArrayList<>();
    items.add(Sql.as(Sql.choose(filled(ROW), Sql.number(0), Sql.number(1)), TOP));
    items.add(Sql.as(Sql.number(1), LEVEL));
    keys(items);
    carried.forEach(each -> items.add(Sql.as(each.first(), each.name())));
    Expression refersToNothing = Sql.not(filled(ROW));
    if (fromRoots) {
      return Sql.select(items, Sql.table(table, ROW, dialect()), refersToNothing);
    }
    QueryBody above =
        Sql.select(
            List.of(Sql.as(Sql.number(1), "one")),
            Sql.table(table, ABOVE, dialect()),
            along(name -> column(ABOVE, name)));
    return Sql.select(
        items,
        Sql.table(table, ROW, dialect()),
        new Condition.Or(Span.NOWHERE, List.of(refersToNothing, Sql.not(Sql.exists(above)))));
  }

  private QueryBody step(long deepest, List<Carried> carried) {
    List<SelectItem> items = new ArrayList<>();
    Expression level = Sql.column(WALK, LEVEL);
    items.add(Sql.as(Sql.column(WALK, TOP), TOP));
    items.add(
        Sql.as(new Arithmetic(Span.NOWHERE, ArithmeticOperator.PLUS, level, Sql.number(1)), LEVEL));
    keys(items);
    carried.forEach(each -> items.add(Sql.as(each.further(), each.name())));
    FromItem join =
        FromItem.Join.of(
            Sql.table(WALK),
            JoinKind.INNER,
            Sql.table(table, ROW, dialect()),
            along(name -> Sql.column(WALK, "k" + reference.toColumns().indexOf(name))));
    return Sql.select(items, join, less(level, Sql.number(deepest)));
  }

  private static Expression less(Expression one, Expression other) {
    return new Comparison(Span.NOWHERE, ComparisonOperator.LESS, one, other);
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
