package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.sql.Dialect;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * SELECTs made at random over the tables of a catalog, from what all engines and what one of them
 * has; some with a slip: a name that nothing has, or that several have, an aggregate where none can
 * be, a column beside groups, a position that is not there.
 */
final class RandomStatements {

  private static final Set<Dialect> NO_FULL = Set.of(Dialect.MARIADB, Dialect.H2);
  private static final Set<Dialect> LATERAL = Set.of(Dialect.DUCKDB, Dialect.POSTGRESQL);
  private static final Set<Dialect> ROLLUP =
      Set.of(Dialect.DUCKDB, Dialect.POSTGRESQL, Dialect.HSQLDB);
  private static final Set<Dialect> NO_NAMED_COLUMNS = Set.of(Dialect.SQLITE, Dialect.MARIADB);

  /** Where two tables cannot go by one name, whether or not they are named. */
  private static final Set<Dialect> NO_TWINS = Set.of(Dialect.POSTGRESQL, Dialect.MARIADB);

  /** How deep queries stand in queries. */
  private static final int DEPTH = 3;

  /** Sorts of values. */
  private enum Sort {
    NUMBER,
    TEXT
  }

  private record Column(String name, Sort sort) {}

  /** Something in FROM that columns can be named by. */
  private record Use(String name, List<Column> columns) {}

  /** What can be named at a place. */
  private record Scope(List<Use> uses, @Nullable Scope outer) {}

  private final List<Use> tables = new ArrayList<>();
  private final List<Use> named = new ArrayList<>();
  private final Dialect dialect;
  private final Random random;
  private int aliases;
  private boolean inParentheses;

  RandomStatements(Catalog catalog, long seed) {
    this.dialect = catalog.dialect();
    this.random = new Random(seed);
    for (Table table : catalog.tables()) {
      List<Column> columns = new ArrayList<>();
      table
          .columns()
          .forEach(
              each -> {
                TypeFamily family = each.type().family();
                if (family == TypeFamily.INTEGER || family == TypeFamily.DECIMAL) {
                  columns.add(new Column(dialect.write(each.name()), Sort.NUMBER));
                } else if (family == TypeFamily.TEXT) {
                  columns.add(new Column(dialect.write(each.name()), Sort.TEXT));
                }
              });
      tables.add(new Use(dialect.write(table.name()), columns));
    }
  }

  private boolean sometimes(int percent) {
    return random.nextInt(100) < percent;
  }

  private <T> T oneOf(List<T> values) {
    return values.get(random.nextInt(values.size()));
  }

  private String oneOf(String... values) {
    return values[random.nextInt(values.length)];
  }

  String next() {
    aliases = 0;
    named.clear();
    List<Sort> sorts = sorts();
    String with = sometimes(15) ? with() : "";
    return with + query(sorts, null, 0, true);
  }

  private List<Sort> sorts() {
    List<Sort> sorts = new ArrayList<>();
    do {
      sorts.add(oneOf(List.of(Sort.values())));
    } while (sometimes(50));
    return sorts;
  }

  // ---- WITH ----

  private String with() {
    String name = "w" + ++aliases;
    List<Sort> sorts = sorts();
    boolean recursive = sometimes(30);
    List<Column> columns = new ArrayList<>();
    for (int i = 0; i < sorts.size(); i++) {
      columns.add(new Column("c" + i, recursive ? Sort.NUMBER : sorts.get(i)));
    }
    String list = columns.stream().map(Column::name).collect(Collectors.joining(", "));
    String text;
    if (recursive) {
      String start = columns.stream().map(each -> "1").collect(Collectors.joining(", "));
      String next =
          columns.stream()
              .map(each -> name + "." + each.name() + " + 1")
              .collect(Collectors.joining(", "));
      text =
          "WITH RECURSIVE "
              + name
              + " ("
              + list
              + ") AS (SELECT "
              + start
              + " FROM river WHERE id = 1 UNION ALL SELECT "
              + next
              + " FROM "
              + (sometimes(4) ? "river" : name)
              + " WHERE "
              + name
              + ".c0 < 4) ";
    } else {
      text = "WITH " + name + " (" + list + ") AS (" + query(sorts, null, 1, false) + ") ";
    }
    named.add(new Use(name, columns));
    return text;
  }

  // ---- queries ----

  private String query(List<Sort> sorts, @Nullable Scope outer, int depth, boolean ordered) {
    if (depth < 2 && sometimes(12)) {
      String operator = oneOf("UNION", "UNION ALL", "EXCEPT", "INTERSECT");
      String both =
          select(sorts, outer, depth, false)
              + " "
              + operator
              + " "
              + select(sorts, outer, depth, false);
      return ordered && sometimes(40) ? both + " ORDER BY " + position(sorts.size()) : both;
    }
    return select(sorts, outer, depth, ordered);
  }

  private String position(int count) {
    return String.valueOf(sometimes(5) ? count + 1 + random.nextInt(2) : 1 + random.nextInt(count));
  }

  private String select(List<Sort> sorts, @Nullable Scope outer, int depth, boolean ordered) {
    List<Use> uses = new ArrayList<>();
    String from = from(uses, outer, depth);
    Scope scope = new Scope(uses, outer);
    boolean grouped = sometimes(25);
    List<String> labels = new ArrayList<>();
    List<String> groups = new ArrayList<>();
    List<String> items = new ArrayList<>();
    for (int i = 0; i < sorts.size(); i++) {
      String value = item(sorts.get(i), scope, depth, grouped, groups);
      String label = sometimes(60) ? "l" + i : "";
      labels.add(label);
      items.add(value + (label.isEmpty() ? "" : " AS " + label));
    }
    StringBuilder sql = new StringBuilder("SELECT ");
    boolean distinct = sometimes(8);
    sql.append(distinct ? "DISTINCT " : "").append(String.join(", ", items)).append(from);
    if (sometimes(50)) {
      sql.append(" WHERE ").append(condition(scope, depth));
    } else if (dialect != Dialect.HSQLDB && sometimes(2)) {
      sql.append(" WHERE ").append(aggregate(Sort.NUMBER, scope, depth)).append(" > 1");
    } else if (sometimes(3)) {
      sql.append(" WHERE l0 IS NOT NULL");
    }
    if (grouped && !groups.isEmpty()) {
      sql.append(" GROUP BY ").append(grouping(groups, labels, items));
    }
    if (grouped && sometimes(30)) {
      sql.append(" HAVING ").append(having(scope, depth, groups, labels));
    }
    if (ordered && sometimes(40)) {
      sql.append(" ORDER BY ")
          .append(order(sorts.size(), labels, scope, grouped, groups, distinct));
    }
    return sql.toString();
  }

  private String item(Sort sort, Scope scope, int depth, boolean grouped, List<String> groups) {
    if (!grouped) {
      return sometimes(2) && depth == 0 ? window(scope) : value(sort, scope, depth);
    }
    if (sometimes(50)) {
      return aggregate(sort, scope, depth);
    }
    String column = sometimes(75) ? column(sort, scope) : value(sort, scope, DEPTH);
    if (!sometimes(4)) {
      groups.add(column);
    }
    return sometimes(15) && sort == Sort.NUMBER ? column + " + 1" : column;
  }

  private String window(Scope scope) {
    return "SUM("
        + column(Sort.NUMBER, scope)
        + ") OVER (PARTITION BY "
        + column(Sort.TEXT, scope)
        + ")";
  }

  private String grouping(List<String> groups, List<String> labels, List<String> items) {
    List<String> by = new ArrayList<>();
    for (String group : groups) {
      boolean there = items.stream().anyMatch(item -> item.startsWith(group));
      String position =
          String.valueOf(
              1
                  + items.indexOf(
                      items.stream().filter(i -> i.startsWith(group)).findFirst().orElse("")));
      String label = labels.stream().filter(each -> !each.isEmpty()).findFirst().orElse(group);
      by.add(there && sometimes(8) ? position : sometimes(5) ? label : group);
    }
    String list = String.join(", ", by);
    return ROLLUP.contains(dialect) && sometimes(10) ? "ROLLUP (" + list + ")" : list;
  }

  private String having(Scope scope, int depth, List<String> groups, List<String> labels) {
    if (sometimes(10)) {
      return column(Sort.NUMBER, scope) + " > 1";
    }
    if (sometimes(8)) {
      return labels.get(0).isEmpty() ? "COUNT(*) > 1" : labels.get(0) + " IS NOT NULL";
    }
    return !groups.isEmpty() && sometimes(20)
        ? groups.get(0) + " IS NOT NULL"
        : aggregate(Sort.NUMBER, scope, depth) + " > 1";
  }

  private String order(
      int count,
      List<String> labels,
      Scope scope,
      boolean grouped,
      List<String> groups,
      boolean distinct) {
    return switch (random.nextInt(5)) {
      case 0 -> position(count);
      case 1 -> labels.get(0).isEmpty() ? "1 DESC" : labels.get(0);
      case 2 -> labels.get(0).isEmpty() ? "1" : "COALESCE(" + labels.get(0) + ", NULL)";
      case 3 ->
          grouped && !groups.isEmpty()
              ? groups.get(0)
              : distinct ? "1" : column(Sort.NUMBER, scope);
      default -> grouped ? "COUNT(*)" : distinct ? "1" : column(Sort.TEXT, scope) + " DESC";
    };
  }

  // ---- FROM ----

  private String from(List<Use> uses, @Nullable Scope outer, int depth) {
    StringBuilder from = new StringBuilder(" FROM ").append(table(uses, outer, depth));
    while (sometimes(depth == 0 ? 55 : 30) && uses.size() < 4) {
      int before = uses.size();
      String right = right(uses, outer, depth);
      from.append(join(uses, before, right, outer, depth));
    }
    return from.toString();
  }

  private String right(List<Use> uses, @Nullable Scope outer, int depth) {
    if (!sometimes(8)) {
      return table(uses, outer, depth);
    }
    List<Use> inner = new ArrayList<>();
    inParentheses = true;
    String first = table(inner, outer, depth);
    String second = table(inner, outer, depth);
    inParentheses = false;
    String text =
        "(" + first + " JOIN " + second + " ON " + on(new Scope(inner, outer), depth) + ")";
    uses.addAll(inner);
    return text;
  }

  private String join(List<Use> uses, int before, String right, @Nullable Scope outer, int depth) {
    Scope all = new Scope(uses, outer);
    String common = common(uses, before);
    return switch (random.nextInt(12)) {
      case 0 -> ", " + right;
      case 1 -> " CROSS JOIN " + right;
      case 2 -> " NATURAL " + oneOf("JOIN ", "LEFT JOIN ") + right;
      case 3, 4 ->
          " "
              + oneOf("JOIN ", "LEFT JOIN ", "RIGHT JOIN ")
              + right
              + " USING ("
              + (sometimes(4) ? "nope" : common)
              + ")";
      case 5 ->
          (NO_FULL.contains(dialect) ? " LEFT JOIN " : " FULL JOIN ")
              + right
              + " ON "
              + on(all, depth);
      case 6, 7, 8 -> " LEFT JOIN " + right + " ON " + on(all, depth);
      case 9 -> " RIGHT JOIN " + right + " ON " + on(all, depth);
      default -> " JOIN " + right + " ON " + on(all, depth);
    };
  }

  /** A column that both sides have, if there is one. */
  private String common(List<Use> uses, int before) {
    List<String> left =
        uses.subList(0, before).stream()
            .flatMap(u -> u.columns().stream())
            .map(Column::name)
            .toList();
    List<String> both =
        uses.subList(before, uses.size()).stream()
            .flatMap(u -> u.columns().stream())
            .map(Column::name)
            .filter(left::contains)
            .toList();
    return both.isEmpty() ? "id" : oneOf(both);
  }

  private String on(Scope scope, int depth) {
    if (sometimes(15)) {
      return condition(scope, depth + 1);
    }
    return column(Sort.NUMBER, scope) + " = " + column(Sort.NUMBER, scope);
  }

  private String table(List<Use> uses, @Nullable Scope outer, int depth) {
    boolean member = !named.isEmpty() && (depth == 0 || sometimes(40));
    if (!member && depth < DEPTH && sometimes(14)) {
      return derived(uses, outer, depth);
    }
    Use table = member ? oneOf(named) : oneOf(tables);
    if (sometimes(1)) {
      uses.add(new Use("nowhere", table.columns()));
      return "nowhere";
    }
    boolean again = uses.stream().anyMatch(use -> use.name().equals(table.name()));
    if (!again && !inParentheses && sometimes(30)) {
      uses.add(table);
      return table.name();
    }
    boolean slip = NO_TWINS.contains(dialect) && sometimes(2) && !uses.isEmpty();
    String alias = slip ? uses.get(0).name() : "a" + ++aliases;
    uses.add(new Use(alias, table.columns()));
    return table.name() + (sometimes(50) ? " AS " : " ") + alias;
  }

  private String derived(List<Use> uses, @Nullable Scope outer, int depth) {
    List<Sort> sorts = sorts();
    String alias = "d" + ++aliases;
    List<Column> columns = new ArrayList<>();
    boolean lateral = LATERAL.contains(dialect) && sometimes(30);
    Scope seen = lateral ? new Scope(List.copyOf(uses), outer) : null;
    if (!NO_NAMED_COLUMNS.contains(dialect) && sometimes(50)) {
      for (int i = 0; i < sorts.size(); i++) {
        columns.add(new Column("c" + i, sorts.get(i)));
      }
      String list = columns.stream().map(Column::name).collect(Collectors.joining(", "));
      uses.add(new Use(alias, columns));
      return (lateral ? "LATERAL " : "")
          + "("
          + query(sorts, seen, depth + 1, false)
          + ") AS "
          + alias
          + " ("
          + list
          + ")";
    }
    List<Use> inner = new ArrayList<>();
    String from = from(inner, seen, depth + 1);
    Scope scope = new Scope(inner, seen);
    List<String> items = new ArrayList<>();
    for (int i = 0; i < sorts.size(); i++) {
      items.add(value(sorts.get(i), scope, depth + 1) + " AS c" + i);
      columns.add(new Column("c" + i, sorts.get(i)));
    }
    uses.add(new Use(alias, columns));
    return (lateral ? "LATERAL " : "")
        + "(SELECT "
        + String.join(", ", items)
        + from
        + ") "
        + alias;
  }

  // ---- values ----

  private String column(Sort sort, Scope scope) {
    boolean outside = scope.outer() != null && sometimes(25);
    Scope where = outside ? Objects.requireNonNull(scope.outer()) : scope;
    if (where.uses().isEmpty()) {
      return constant(sort);
    }
    Use use = oneOf(where.uses());
    if (sometimes(1)) {
      return oneOf(use.name() + ".nope", "nope", "zz.id", oneOf(tables).name() + ".id");
    }
    List<Column> fitting = use.columns().stream().filter(each -> each.sort() == sort).toList();
    if (fitting.isEmpty()) {
      return constant(sort);
    }
    String name = oneOf(fitting).name();
    boolean alone =
        !outside
            && where.uses().stream()
                    .filter(u -> u.columns().stream().anyMatch(c -> c.name().equals(name)))
                    .count()
                == 1;
    return sometimes(alone ? 40 : 3) ? name : use.name() + "." + name;
  }

  private String constant(Sort sort) {
    return sort == Sort.NUMBER ? String.valueOf(random.nextInt(9)) : "'a" + random.nextInt(9) + "'";
  }

  private String value(Sort sort, Scope scope, int depth) {
    if (depth >= DEPTH || sometimes(60)) {
      return sometimes(85) ? column(sort, scope) : constant(sort);
    }
    return switch (random.nextInt(7)) {
      case 0 -> "COALESCE(" + column(sort, scope) + ", " + constant(sort) + ")";
      case 1 ->
          "CASE WHEN "
              + condition(scope, depth + 1)
              + " THEN "
              + value(sort, scope, depth + 1)
              + " ELSE "
              + constant(sort)
              + " END";
      case 2 ->
          sort == Sort.NUMBER
              ? column(sort, scope) + " + " + constant(sort)
              : "UPPER(" + column(sort, scope) + ")";
      case 3 -> "(" + single(sort, scope, depth) + ")";
      case 4 ->
          sort == Sort.NUMBER
              ? "LENGTH(" + column(Sort.TEXT, scope) + ")"
              : "LOWER(" + value(sort, scope, depth + 1) + ")";
      case 5 ->
          sort == Sort.NUMBER ? "ABS(" + value(sort, scope, depth + 1) + ")" : column(sort, scope);
      default -> "NULLIF(" + column(sort, scope) + ", " + constant(sort) + ")";
    };
  }

  /** A query that gives one value. */
  private String single(Sort sort, Scope scope, int depth) {
    List<Use> uses = new ArrayList<>();
    String from = from(uses, scope, depth + 1);
    Scope inner = new Scope(uses, scope);
    String where = sometimes(60) ? " WHERE " + condition(inner, depth + 1) : "";
    return "SELECT "
        + (sort == Sort.NUMBER ? oneOf("MAX", "COUNT") : "MIN")
        + "("
        + column(sort, inner)
        + ")"
        + from
        + where;
  }

  private String aggregate(Sort sort, Scope scope, int depth) {
    String argument =
        sometimes(2) ? "MAX(" + column(sort, scope) + ")" : value(sort, scope, depth + 1);
    if (sort == Sort.TEXT) {
      return oneOf("MIN", "MAX") + "(" + argument + ")";
    }
    return sometimes(30)
        ? "COUNT(*)"
        : oneOf("SUM(", "COUNT(DISTINCT ", "MAX(", "AVG(") + argument + ")";
  }

  // ---- conditions ----

  private String condition(Scope scope, int depth) {
    if (depth >= DEPTH || sometimes(45)) {
      Sort sort = oneOf(List.of(Sort.values()));
      return column(sort, scope) + oneOf(" = ", " < ", " >= ", " <> ") + value(sort, scope, DEPTH);
    }
    Sort sort = oneOf(List.of(Sort.values()));
    return switch (random.nextInt(10)) {
      case 0 -> "(" + condition(scope, depth + 1) + " OR " + condition(scope, depth + 1) + ")";
      case 1 -> condition(scope, depth + 1) + " AND " + condition(scope, depth + 1);
      case 2 -> "NOT (" + condition(scope, depth + 1) + ")";
      case 3 -> column(sort, scope) + oneOf(" IS NULL", " IS NOT NULL");
      case 4 ->
          column(sort, scope)
              + " IN ("
              + constant(sort)
              + ", "
              + value(sort, scope, depth + 1)
              + ")";
      case 5 ->
          column(sort, scope)
              + oneOf(" IN (", " NOT IN (")
              + query(List.of(sort), scope, depth + 1, false)
              + ")";
      case 6 -> oneOf("EXISTS (", "NOT EXISTS (") + query(sorts(), scope, depth + 1, false) + ")";
      case 7 ->
          column(Sort.NUMBER, scope) + " BETWEEN 1 AND " + value(Sort.NUMBER, scope, depth + 1);
      case 8 -> column(Sort.TEXT, scope) + " LIKE 'a%'";
      default -> value(sort, scope, depth + 1) + " = (" + single(sort, scope, depth) + ")";
    };
  }
}
