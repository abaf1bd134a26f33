package io.lantrel.world;

import io.lantrel.world.World.Table;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * A query in parts, so that parts can be left out.
 *
 * @param first the first table use of FROM
 * @param steps what is joined to it
 * @param where what WHERE demands
 * @param head what is shown of the joined rows
 * @param wraps what is made of that, the innermost first
 */
public record WorldQuery(
    Use first, List<Step> steps, List<Term> where, Head head, List<Wrap> wraps) {

  public record Use(Table table, String alias) {
    String inFrom() {
      return table.name() + " " + alias;
    }
  }

  /**
   * One table more.
   *
   * @param words {@code LEFT JOIN}, or a comma
   * @param condition behind it, as {@code ON …}; of a comma, a term of WHERE
   */
  public record Step(String words, Use use, String condition) {
    public boolean isComma() {
      return words.equals(",");
    }

    String inFrom() {
      return (isComma() ? ", " : " " + words + " ")
          + use.inFrom()
          + (isComma() || condition.isEmpty() ? "" : " " + condition);
    }
  }

  /** A condition of WHERE, and the aliases that it names. */
  public record Term(String text, Set<String> aliases) {}

  /** What is shown. */
  public enum Head {
    PLAIN,
    DISTINCT,
    WINDOW,
    SCALAR,
    GROUPED,
    HAVING,
    STAR,
    BARS,
    CONCAT
  }

  /** What a query is put into. */
  public enum Wrap {
    DERIVED,
    WITH,
    UNION,
    UNION_ALL,
    LIMITED,
    RECURSIVE
  }

  /** Values for the parameters that a query may have. */
  public static Map<String, Object> values() {
    return Map.of("least", 2);
  }

  /** FROM with the first so many steps. */
  public String from(int count) {
    return first.inFrom()
        + steps.stream().limit(count).map(Step::inFrom).collect(Collectors.joining());
  }

  public boolean hasCommas() {
    return steps.stream().anyMatch(Step::isComma);
  }

  private List<Use> uses() {
    return Stream.concat(Stream.of(first), steps.stream().map(Step::use)).toList();
  }

  private String whereText() {
    List<String> terms = new ArrayList<>();
    steps.stream().filter(Step::isComma).map(Step::condition).forEach(terms::add);
    where.stream().map(Term::text).forEach(terms::add);
    return terms.isEmpty() ? "" : " WHERE " + String.join(" AND ", terms);
  }

  public String sql() {
    String sql = block();
    for (Wrap wrap : wraps) {
      sql = wrapped(wrap, sql);
    }
    return sql;
  }

  private String wrapped(Wrap wrap, String sql) {
    return switch (wrap) {
      case DERIVED ->
          "SELECT q.c0, COUNT(*) AS c1 FROM (" + sql + ") AS q GROUP BY q.c0 HAVING COUNT(*) < 9";
      case WITH ->
          "WITH w AS (" + sql + ") SELECT w.c0, z.c1 FROM w LEFT JOIN w AS z ON z.c0 = w.c0";
      case UNION -> sql + " UNION " + sql;
      case UNION_ALL -> sql + " UNION ALL " + sql;
      case RECURSIVE ->
          "WITH RECURSIVE r (c0, c1) AS (SELECT q.c0, 1 FROM ("
              + sql
              + ") AS q UNION SELECT r.c0, r.c1 + 1 FROM r JOIN "
              + first.table().name()
              + " AS t ON t."
              + first.table().key().get(0)
              + " = r.c0 WHERE r.c1 < 3) SELECT r.c0, r.c1 FROM r";
      case LIMITED -> "SELECT l.c0, l.c1 FROM (" + sql + " ORDER BY 1, 2 LIMIT 3) AS l";
    };
  }

  private String block() {
    Use last = uses().get(uses().size() - 1);
    String key = String.join(", ", keyOf(first));
    String size = last.alias() + "." + last.table().name() + "_size";
    String label = last.alias() + "." + last.table().label();
    String rest = " FROM " + from(steps.size()) + whereText();
    String show = keyOf(first).get(0) + " AS c0, ";
    return switch (head) {
      case PLAIN -> "SELECT " + show + label + " AS c1" + rest;
      case DISTINCT -> "SELECT DISTINCT " + show + label + " AS c1" + rest;
      case WINDOW -> "SELECT " + show + "COUNT(*) OVER (PARTITION BY " + label + ") AS c1" + rest;
      case SCALAR -> "SELECT " + show + counted(last) + " AS c1" + rest;
      case STAR -> "SELECT *" + rest;
      case BARS -> "SELECT " + show + "'of ' || " + label + " AS c1" + rest;
      case CONCAT -> "SELECT " + show + "CONCAT('of ', " + label + ") AS c1" + rest;
      case GROUPED -> "SELECT " + show + "SUM(" + size + ") AS c1" + rest + " GROUP BY " + key;
      case HAVING ->
          "SELECT "
              + show
              + "COUNT(*) AS c1"
              + rest
              + " GROUP BY "
              + key
              + " HAVING COUNT(*) > 1 OR MIN("
              + size
              + ") > 2";
    };
  }

  /** How many rows of its table share the label of a row. */
  private static String counted(Use use) {
    String label = use.table().label();
    return "(SELECT COUNT(*) FROM "
        + use.table().name()
        + " AS s WHERE s."
        + label
        + " = "
        + use.alias()
        + "."
        + label
        + ")";
  }

  private static List<String> keyOf(Use use) {
    return use.table().key().stream().map(each -> use.alias() + "." + each).toList();
  }

  /** The same with less of it. */
  Stream<WorldQuery> smaller() {
    Stream<WorldQuery> fewerWraps =
        IntStream.range(0, wraps.size())
            .mapToObj(i -> new WorldQuery(first, steps, where, head, without(wraps, i)));
    Stream<WorldQuery> fewerTerms =
        IntStream.range(0, where.size())
            .mapToObj(i -> new WorldQuery(first, steps, without(where, i), head, wraps));
    Stream<WorldQuery> plain =
        head == Head.PLAIN
            ? Stream.of()
            : Stream.of(new WorldQuery(first, steps, where, Head.PLAIN, wraps));
    return Stream.of(fewerWraps, plain, fewerTerms, fewerSteps()).flatMap(each -> each);
  }

  private Stream<WorldQuery> fewerSteps() {
    if (steps.isEmpty()) {
      return Stream.of();
    }
    String gone = steps.get(steps.size() - 1).use().alias();
    List<Term> left = where.stream().filter(each -> !each.aliases().contains(gone)).toList();
    return Stream.of(new WorldQuery(first, steps.subList(0, steps.size() - 1), left, head, wraps));
  }

  private static <T> List<T> without(List<T> all, int at) {
    List<T> fewer = new ArrayList<>(all);
    fewer.remove(at);
    return fewer;
  }
}
