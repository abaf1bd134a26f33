package io.lantrel;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** Writes queries at random over tables that all have the columns id, ref and val. */
public final class QueryGenerator {

  private static final String[] JOINS = {"JOIN", "LEFT JOIN", "RIGHT JOIN", "FULL JOIN"};

  /**
   * A query, and its FROM step by step, so that the database can be asked about each prefix.
   *
   * @param sql the query
   * @param steps its joins
   */
  public record Generated(String sql, List<Step> steps) {}

  /**
   * One join of it.
   *
   * @param left the FROM before it
   * @param kind its words
   * @param right the table that is joined, with its alias
   * @param condition its condition, over both sides
   * @param whole the FROM behind it
   */
  public record Step(String left, String kind, String right, String condition, String whole) {}

  private final Random random;
  private final int tables;

  public QueryGenerator(long seed, int tables) {
    this.random = new Random(seed);
    this.tables = tables;
  }

  private <T> T oneOf(List<T> values) {
    return values.get(random.nextInt(values.size()));
  }

  private boolean sometimes(int percent) {
    return random.nextInt(100) < percent;
  }

  public Generated query() {
    int uses = 2 + random.nextInt(4);
    List<Step> steps = new ArrayList<>();
    List<String> names = new ArrayList<>(List.of("a"));
    String from = table(0);
    boolean using = sometimes(10);
    for (int i = 1; i < uses; i++) {
      String right = table(i);
      String name = String.valueOf((char) ('a' + i));
      String kind = JOINS[random.nextInt(JOINS.length)];
      String whole;
      String condition;
      if (using) {
        // FULL would merge the columns, and the prefix could not be asked about by one name.
        kind = JOINS[random.nextInt(2)];
        condition = name + ".ref = a.ref";
        whole = from + " " + kind + " " + right + " USING (ref)";
      } else {
        condition = condition(names, name);
        whole = from + " " + kind + " " + right + " ON " + condition;
      }
      steps.add(new Step(from, kind, right, condition, whole));
      names.add(name);
      from = whole;
    }
    return new Generated(finished(from, names), steps);
  }

  /** Tables between commas, joined in WHERE; or joined within parentheses. */
  public String oldOrNested() {
    int uses = 3 + random.nextInt(2);
    List<String> names = new ArrayList<>(List.of("a"));
    if (sometimes(50)) {
      List<String> items = new ArrayList<>(List.of(table(0)));
      List<String> conditions = new ArrayList<>();
      for (int i = 1; i < uses; i++) {
        String name = String.valueOf((char) ('a' + i));
        items.add(table(i));
        conditions.add(condition(names, name));
        names.add(name);
      }
      return "SELECT a.id, b.id FROM "
          + String.join(", ", items)
          + " WHERE "
          + String.join(" AND ", conditions);
    }
    String inner =
        "("
            + table(1)
            + " "
            + JOINS[random.nextInt(4)]
            + " "
            + table(2)
            + " ON "
            + condition(List.of("b"), "c")
            + ")";
    return "SELECT a.id, c.id FROM "
        + table(0)
        + " "
        + JOINS[random.nextInt(4)]
        + " "
        + inner
        + " ON "
        + condition(List.of("a"), "b");
  }

  /** Rows without a partner, said in one of the three ways. */
  public String absence() {
    String one = "t" + random.nextInt(tables);
    String other = "t" + random.nextInt(tables);
    String also = sometimes(50) ? " AND below.val > 1" : "";
    String outer = sometimes(50) ? "a.ref" : "a.id";
    String inner = sometimes(50) ? "below.ref" : "below.id";
    String absent =
        oneOf(
            List.of(
                outer
                    + " NOT IN (SELECT "
                    + inner
                    + " FROM "
                    + other
                    + " below WHERE below.id IS NOT NULL"
                    + also
                    + ")",
                "NOT "
                    + outer
                    + " IN (SELECT ref FROM "
                    + one
                    + (sometimes(30) ? " GROUP BY ref" : " WHERE ref > 0")
                    + ")",
                "NOT EXISTS (SELECT * FROM "
                    + other
                    + " below WHERE "
                    + inner
                    + " = "
                    + outer
                    + also
                    + ")"));
    if (sometimes(40)) {
      return "SELECT a.id, a.val FROM "
          + one
          + " a LEFT JOIN "
          + other
          + " below ON "
          + inner
          + " = "
          + outer
          + also
          + " WHERE "
          + (sometimes(50) ? "a.val > 1 AND " : "")
          + inner
          + " IS NULL";
    }
    return "SELECT id, val FROM "
        + one
        + " a WHERE "
        + absent
        + (sometimes(50) ? " AND val > 1" : "");
  }

  private String table(int position) {
    String name = String.valueOf((char) ('a' + position));
    return sometimes(10)
        ? "(SELECT id, ref, val FROM t" + random.nextInt(tables) + " WHERE val > 1) " + name
        : "t" + random.nextInt(tables) + " " + name;
  }

  private String condition(List<String> names, String right) {
    String left = oneOf(names);
    List<String> forms =
        List.of(
            right + ".id = " + left + ".ref",
            left + ".id = " + right + ".ref",
            right + ".ref = " + left + ".ref",
            right + ".val = " + left + ".val AND " + right + ".id <> " + left + ".id",
            right + ".id = " + left + ".ref AND " + right + ".val > 2");
    return oneOf(forms);
  }

  private String finished(String from, List<String> names) {
    StringBuilder sql = new StringBuilder();
    List<String> conditions = new ArrayList<>();
    for (int i = random.nextInt(3); i > 0; i--) {
      String name = oneOf(names);
      conditions.add(
          oneOf(
              List.of(
                  name + ".val > 1",
                  name + ".ref IS NULL",
                  "(" + name + ".val = 2 OR " + name + ".id IS NOT NULL)",
                  "NOT EXISTS (SELECT 1 FROM t0 x WHERE x.id = " + name + ".ref)",
                  name + ".val NOT IN (1, 3)")));
    }
    String where = conditions.isEmpty() ? "" : " WHERE " + String.join(" AND ", conditions);
    String name = oneOf(names);
    switch (random.nextInt(5)) {
      case 0 ->
          sql.append("SELECT ")
              .append(name)
              .append(".val AS v, COUNT(*) AS n FROM ")
              .append(from)
              .append(where)
              .append(" GROUP BY v")
              .append(sometimes(50) ? " HAVING COUNT(*) > 1" : "");
      case 1 ->
          sql.append("SELECT DISTINCT ")
              .append(name)
              .append(".val FROM ")
              .append(from)
              .append(where);
      case 2 -> sql.append("SELECT COUNT(*), MAX(a.id) FROM ").append(from).append(where);
      default ->
          sql.append("SELECT a.id, ")
              .append(name)
              .append(".id FROM ")
              .append(from)
              .append(where)
              .append(sometimes(30) ? " LIMIT 7 OFFSET 2" : "");
    }
    return sql.toString();
  }

  /** Tables with NULLs, repeated ids, dangling references; now and then an empty one. */
  public static Path folder(long seed, int tables) throws IOException {
    Random random = new Random(seed);
    Path folder = Scratch.folder("generated");
    StringBuilder schema = new StringBuilder();
    for (int table = 0; table < tables; table++) {
      schema
          .append("CREATE TABLE t")
          .append(table)
          .append(" (id INTEGER, ref INTEGER, val INTEGER);\n");
      StringBuilder rows = new StringBuilder("id,ref,val\n");
      int count = random.nextInt(5) == 0 ? 0 : 1 + random.nextInt(9);
      for (int row = 0; row < count; row++) {
        rows.append(number(random, 6))
            .append(',')
            .append(number(random, 7))
            .append(',')
            .append(number(random, 4))
            .append('\n');
      }
      Files.writeString(folder.resolve("t" + table + ".csv"), rows);
    }
    Files.writeString(folder.resolve("schema.sql"), schema);
    return folder;
  }

  private static String number(Random random, int below) {
    return random.nextInt(6) == 0 ? "" : String.valueOf(random.nextInt(below));
  }
}
