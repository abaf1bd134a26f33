package io.lantrel.probe;

import io.lantrel.engine.SampleData;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Rows that questions are about. What a question needs of a row is worked out where the user's own
 * names are known, and is known outside under a short name; of all that, each statement works out
 * only what its own questions use.
 */
public final class Relation {

  private static final String ROWS = SampleData.RESERVED + "rows";

  private final FromItem from;
  private final List<Added> added;
  private final @Nullable Expression where;
  private final List<CommonTable> with;
  private final boolean recursive;
  private final Map<String, Expression> names = new LinkedHashMap<>();
  private final Map<String, Expression> values = new LinkedHashMap<>();

  /**
   * A table or more that is joined to the rows.
   *
   * @param right what is joined
   * @param condition by what
   * @param showsOnly whether the join is only needed for what it shows, since it neither repeats
   *     nor loses a row
   * @param names what its tables are called
   * @param inner whether it is an inner join, since that is meant, or since it is known by now that
   *     every row has a partner, and engines are faster at it; else rows without a partner stay
   */
  record Added(
      FromItem right,
      Expression condition,
      boolean showsOnly,
      Set<String> names,
      BooleanSupplier inner) {}

  /**
   * @param from the rows
   * @param added what is joined to them, if it is needed
   * @param where which of them; null for all
   * @param with the queries of WITH that these may name
   * @param recursive whether RECURSIVE is written with them
   */
  Relation(
      FromItem from,
      List<Added> added,
      @Nullable Expression where,
      List<CommonTable> with,
      boolean recursive) {
    this.from = from;
    this.added = List.copyOf(added);
    this.where = where;
    this.with = with;
    this.recursive = recursive;
  }

  /** A table or query that needs no WITH. */
  public static Relation of(FromItem from, @Nullable Expression where) {
    return new Relation(from, List.of(), where, List.of(), false);
  }

  /**
   * A table or query that can name queries of WITH.
   *
   * @param recursive whether RECURSIVE is written with them
   */
  public static Relation of(FromItem from, List<CommonTable> with, boolean recursive) {
    return new Relation(from, List.of(), null, with, recursive);
  }

  List<CommonTable> with() {
    return with;
  }

  boolean isRecursive() {
    return recursive;
  }

  /**
   * What a value of the rows is called in questions.
   *
   * @param value in the names of the rows
   */
  public Expression named(Expression value) {
    return names.computeIfAbsent(
        SqlPrinter.text(value),
        text -> {
          String name = "v" + (values.size() + 1);
          values.put(name, value);
          return Sql.column(ROWS, name);
        });
  }

  /** The same for a condition. */
  Expression holds(Expression condition) {
    return Sql.equal(named(Sql.choose(condition, Sql.number(1), Sql.number(0))), Sql.number(1));
  }

  /** A SELECT over the rows, in the short names. */
  public QueryBody.Select select(List<SelectItem> items, @Nullable Expression condition) {
    return select(false, items, condition, List.of(), null);
  }

  /** The same with groups, or with each row once. */
  public QueryBody.Select select(
      boolean distinct,
      List<SelectItem> items,
      @Nullable Expression condition,
      List<Expression> groupBy,
      @Nullable Expression having) {
    List<Node> parts = new ArrayList<>(items);
    parts.addAll(groupBy);
    Stream.of(condition, having).filter(each -> each != null).forEach(parts::add);
    return new QueryBody.Select(
        Span.NOWHERE, distinct, items, rows(used(parts)), condition, groupBy, having);
  }

  private static Set<String> used(List<? extends Node> nodes) {
    Set<String> used = new LinkedHashSet<>();
    for (Node node : nodes) {
      node.preorder()
          .filter(ColumnName.class::isInstance)
          .map(ColumnName.class::cast)
          .filter(name -> isOurs(name.qualifier()))
          .forEach(name -> used.add(name.name().text()));
    }
    return used;
  }

  private static boolean isOurs(List<Identifier> qualifier) {
    return qualifier.size() == 1 && qualifier.get(0).text().equals(ROWS);
  }

  /** How many joins its rows need if nothing of them is shown. */
  int joinsNeeded() {
    return needed(List.of()).size();
  }

  private FromItem rows(Set<String> used) {
    List<SelectItem> items = new ArrayList<>();
    values.forEach(
        (name, value) -> {
          if (used.contains(name)) {
            items.add(Sql.as(value, name));
          }
        });
    if (items.isEmpty()) {
      items.add(Sql.as(Sql.number(1), "one"));
    }
    return Sql.derived(Sql.select(items, joined(items), where), ROWS);
  }

  /** Without the joins that show nothing of what is used, and repeat no row. */
  private FromItem joined(List<SelectItem> items) {
    FromItem joined = from;
    for (Added each : needed(items)) {
      JoinKind kind = each.inner().getAsBoolean() ? JoinKind.INNER : JoinKind.LEFT;
      joined = FromItem.Join.of(joined, kind, each.right(), each.condition());
    }
    return joined;
  }

  private Collection<Added> needed(List<SelectItem> items) {
    Set<String> needed = new HashSet<>();
    boolean all = !collect(items, needed) || (where != null && !collect(List.of(where), needed));
    Deque<Added> kept = new ArrayDeque<>();
    for (int i = added.size() - 1; i >= 0; i--) {
      Added each = added.get(i);
      if (all || !each.showsOnly() || each.names().stream().anyMatch(needed::contains)) {
        kept.addFirst(each);
        all |= !collect(List.of(each.right(), each.condition()), needed);
      }
    }
    return kept;
  }

  /** Collects the tables that columns are named by; false if a column is named without. */
  private static boolean collect(List<? extends Node> nodes, Set<String> tables) {
    boolean[] named = {true};
    for (Node node : nodes) {
      node.preorder()
          .filter(ColumnName.class::isInstance)
          .map(ColumnName.class::cast)
          .forEach(
              name -> {
                named[0] &= !name.qualifier().isEmpty();
                name.qualifier().forEach(part -> tables.add(part.text()));
              });
    }
    return named[0];
  }
}
