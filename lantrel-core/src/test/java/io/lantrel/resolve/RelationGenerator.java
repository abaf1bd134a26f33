package io.lantrel.resolve;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * Writes random queries over the tables {@code a}, {@code b}, {@code c}, {@code d} and the view
 * {@code v}, nested in all ways in which rows can be put together; all columns are whole numbers,
 * and all output columns are called {@code c0}, {@code c1} and so on.
 */
final class RelationGenerator {

  /** The tables: keys of one and two columns, a key that lets NULL repeat, references, none. */
  static final String SCHEMA =
      """
      CREATE TABLE a (id INTEGER PRIMARY KEY, u INTEGER UNIQUE, x INTEGER NOT NULL, y INTEGER);
      CREATE TABLE b (id INTEGER PRIMARY KEY, a_id INTEGER REFERENCES a, k INTEGER NOT NULL,
        up INTEGER REFERENCES b);
      CREATE TABLE c (p INTEGER, q INTEGER, a_id INTEGER NOT NULL REFERENCES a, z INTEGER,
        PRIMARY KEY (p, q));
      CREATE TABLE d (m INTEGER, n INTEGER NOT NULL);
      CREATE VIEW v AS SELECT b.id, b.k, a.x, a.y FROM b LEFT JOIN a ON a.id = b.a_id;
      """;

  private static final List<Relation> TABLES =
      List.of(
          new Relation("a", List.of("id", "u", "x", "y")),
          new Relation("b", List.of("id", "a_id", "k", "up")),
          new Relation("c", List.of("p", "q", "a_id", "z")),
          new Relation("d", List.of("m", "n")),
          new Relation("v", List.of("id", "k", "x", "y")));

  private final Random random;
  private int aliases;

  RelationGenerator(long seed) {
    this.random = new Random(seed);
  }

  /** The rows of a table, as CSV, that keep what the schema promises. */
  String rows(String table) {
    StringBuilder csv = new StringBuilder();
    int count = random.nextInt(6);
    List<Integer> free = new ArrayList<>(List.of(0, 1, 2, 3, 4, 5, 6));
    switch (table) {
      case "a" -> {
        csv.append("id,u,x,y\n");
        for (int id = 0; id < ROWS_OF_A; id++) {
          String unique = chance(50) ? "" : free.remove(random.nextInt(free.size())).toString();
          csv.append(id).append(',').append(unique).append(',').append(small()).append(',');
          csv.append(smallOrNone()).append('\n');
        }
      }
      case "b" -> {
        csv.append("id,a_id,k,up\n");
        for (int id = 0; id < count; id++) {
          String up = id == 0 || chance(40) ? "" : String.valueOf(random.nextInt(id));
          String of = chance(30) ? "" : String.valueOf(random.nextInt(ROWS_OF_A));
          csv.append(id).append(',').append(of).append(',').append(small()).append(',');
          csv.append(up).append('\n');
        }
      }
      case "c" -> {
        csv.append("p,q,a_id,z\n");
        for (int i = 0; i < count; i++) {
          csv.append(i / 2).append(',').append(i % 2).append(',');
          csv.append(random.nextInt(ROWS_OF_A)).append(',').append(smallOrNone()).append('\n');
        }
      }
      default -> {
        csv.append("m,n\n");
        for (int i = 0; i < count; i++) {
          csv.append(smallOrNone()).append(',').append(small()).append('\n');
        }
      }
    }
    return csv.toString();
  }

  private static final int ROWS_OF_A = 4;

  private int small() {
    return random.nextInt(4);
  }

  private String smallOrNone() {
    return chance(35) ? "" : String.valueOf(small());
  }

  private boolean chance(int percent) {
    return random.nextInt(100) < percent;
  }

  private <T> T pick(List<T> list) {
    return list.get(random.nextInt(list.size()));
  }

  /** Something that can stand in FROM, with its columns. */
  private record Relation(String sql, List<String> columns) {}

  /** A query. */
  String query() {
    aliases = 0;
    if (chance(12)) {
      int width = 1 + random.nextInt(3);
      String common = query(1, width);
      Relation table = new Relation("w", names(width));
      return "WITH w AS (" + common + ") " + select(1, 1 + random.nextInt(3), List.of(table));
    }
    return query(2, 1 + random.nextInt(3));
  }

  private static List<String> names(int width) {
    List<String> names = new ArrayList<>();
    for (int i = 0; i < width; i++) {
      names.add("c" + i);
    }
    return names;
  }

  private String query(int depth, int width) {
    if (depth > 0 && chance(18)) {
      String sign = pick(List.of("UNION", "UNION ALL", "EXCEPT", "INTERSECT", "EXCEPT ALL"));
      return query(depth - 1, width) + " " + sign + " " + parenthesised(depth - 1, width);
    }
    return select(depth, width, List.of());
  }

  private String parenthesised(int depth, int width) {
    return "(" + query(depth, width) + ")";
  }

  private String select(int depth, int width, List<Relation> more) {
    List<String> columns = new ArrayList<>();
    StringBuilder from = new StringBuilder();
    int tables = 1 + random.nextInt(3);
    for (int i = 0; i < tables; i++) {
      join(from, columns, relation(depth, more));
    }
    boolean grouped = chance(25);
    StringBuilder sql = new StringBuilder("SELECT ");
    List<String> groups = new ArrayList<>();
    if (grouped) {
      for (int i = random.nextInt(3); i > 0; i--) {
        groups.add(pick(columns));
      }
    }
    sql.append(!grouped && chance(15) ? "DISTINCT " : "");
    for (int i = 0; i < width; i++) {
      sql.append(i == 0 ? "" : ", ");
      sql.append(grouped ? ofGroup(groups, columns) : value(columns)).append(" AS c").append(i);
    }
    sql.append(" FROM ").append(from);
    if (chance(50)) {
      sql.append(" WHERE ").append(condition(columns));
      sql.append(chance(40) ? " AND " + condition(columns) : "");
    }
    if (!groups.isEmpty()) {
      sql.append(" GROUP BY ").append(String.join(", ", groups));
    }
    if (chance(6)) {
      return "(" + sql + " LIMIT 1)";
    }
    return sql.toString();
  }

  private Relation relation(int depth, List<Relation> more) {
    if (!more.isEmpty() && chance(50)) {
      return pick(more);
    }
    if (depth > 0 && chance(30)) {
      int width = 1 + random.nextInt(3);
      return new Relation(parenthesised(depth - 1, width), names(width));
    }
    return pick(TABLES);
  }

  private void join(StringBuilder from, List<String> columns, Relation relation) {
    String alias = "t" + aliases++;
    List<String> own = relation.columns().stream().map(name -> alias + "." + name).toList();
    if (columns.isEmpty()) {
      from.append(relation.sql()).append(' ').append(alias);
      columns.addAll(own);
      return;
    }
    String kind =
        pick(
            List.of(
                "JOIN", "JOIN", "LEFT JOIN", "LEFT JOIN", "RIGHT JOIN", "FULL JOIN", "CROSS JOIN"));
    from.append(' ').append(kind).append(' ').append(relation.sql()).append(' ').append(alias);
    if (!kind.equals("CROSS JOIN")) {
      from.append(" ON ").append(pick(own)).append(" = ").append(pick(columns));
      boolean second = own.size() > 1 && chance(35);
      from.append(second ? " AND " + pick(own) + " = " + pick(columns) : "");
      from.append(chance(15) ? " AND " + pick(own) + " = " + small() : "");
      from.append(!kind.equals("FULL JOIN") && chance(15) ? " AND " + condition(columns) : "");
    }
    columns.addAll(own);
  }

  private String value(List<String> columns) {
    String column = pick(columns);
    return switch (random.nextInt(9)) {
      case 0 -> column + " + " + pick(columns);
      case 1 -> "COALESCE(" + column + ", " + pick(columns) + ")";
      case 2 -> "CASE WHEN " + condition(columns) + " THEN " + column + " ELSE 1 END";
      case 3 -> chance(50) ? String.valueOf(small()) : "-" + column;
      default -> column;
    };
  }

  private String ofGroup(List<String> groups, List<String> columns) {
    if (!groups.isEmpty() && chance(65)) {
      return pick(groups);
    }
    return switch (random.nextInt(4)) {
      case 0 -> "COUNT(" + pick(columns) + ")";
      case 1 -> "MIN(" + pick(columns) + ")";
      case 2 -> "CAST(SUM(" + pick(columns) + ") AS INTEGER)";
      default -> "COUNT(*)";
    };
  }

  private String condition(List<String> columns) {
    String column = pick(columns);
    return switch (random.nextInt(9)) {
      case 0 -> column + " IS NULL";
      case 1 -> column + " IS NOT NULL";
      case 2 -> column + " = " + small();
      case 3 -> column + " = " + pick(columns);
      case 4 -> "(" + column + " > 0 OR " + pick(columns) + " IS NULL)";
      case 5 -> "NOT (" + column + " = " + pick(columns) + ")";
      case 6 -> column + " IN (0, 1, " + small() + ")";
      case 7 -> column + " IS DISTINCT FROM " + pick(columns);
      default -> column + " < " + pick(columns);
    };
  }
}
