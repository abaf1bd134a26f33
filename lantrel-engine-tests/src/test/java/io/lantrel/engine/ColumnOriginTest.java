package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.trace.ColumnOrigin;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.postgresql.PGResultSetMetaData;
import org.testng.annotations.Test;

/**
 * Where columns come from, against what PostgreSQL records of a view made from the query: the
 * columns that the view depends on, and the table and column that each of its own is copied from.
 * {@code -Dlantrel.worlds=40} makes many more.
 */
public class ColumnOriginTest {

  private static final int QUERIES = 200 * Integer.getInteger("lantrel.worlds", 1);
  private static final long SEED = 20261129;

  private record Table(String name, List<String> columns) {}

  private static final List<Table> TABLES =
      List.of(
          new Table("station", List.of("id", "name", "river_id", "capacity", "keeper_id")),
          new Table("river", List.of("id", "name", "flows_into", "length_km", "flow")),
          new Table("reading", List.of("id", "station_id", "temperature", "depth_cm")),
          new Table("warden", List.of("id", "given_name", "family_name", "mentor_id")));

  /** A query, and the columns that its conditions use, which are no origin of what it shows. */
  private record Made(String sql, Set<String> conditions) {}

  /**
   * Queries within each other, over one, two or three tables, with values copied and worked out.
   */
  private static final class Maker {
    private final Random random;
    private final Set<String> conditions = new TreeSet<>();
    private int names;

    Maker(Random random) {
      this.random = random;
    }

    private <T> T oneOf(List<T> values) {
      return values.get(random.nextInt(values.size()));
    }

    Made made() {
      return new Made(select(2).sql(), conditions);
    }

    private record Item(String from, String alias, List<String> columns, String table) {}

    private Item item(int depth) {
      String alias = "x" + names++;
      if (depth > 0 && random.nextInt(3) == 0) {
        Select inner = select(depth - 1);
        List<String> columns = new ArrayList<>();
        for (int i = 0; i < inner.width(); i++) {
          columns.add("c" + i);
        }
        return new Item("(" + inner.sql() + ") " + alias, alias, columns, "");
      }
      Table table = oneOf(TABLES);
      return new Item(table.name() + " " + alias, alias, table.columns(), table.name());
    }

    private record Select(String sql, int width) {}

    private Select select(int depth) {
      List<Item> items = new ArrayList<>(List.of(item(depth)));
      StringBuilder from = new StringBuilder(items.get(0).from());
      for (int i = random.nextInt(3); i > 0; i--) {
        Item next = item(depth);
        Item before = oneOf(items);
        // Only tables are joined by columns: of a query's columns it is not known here whose they
        // are.
        if (!next.table().isEmpty() && !before.table().isEmpty()) {
          from.append(random.nextBoolean() ? " JOIN " : " LEFT JOIN ").append(next.from());
          from.append(" ON ").append(next.alias()).append(".id = ").append(before.alias());
          from.append(".id");
          conditions.add(next.table() + ".id");
          conditions.add(before.table() + ".id");
        } else {
          from.append(" CROSS JOIN ").append(next.from());
        }
        items.add(next);
      }
      // The database records every column of a query in FROM, also of those that nothing shows.
      List<String> values = new ArrayList<>();
      items.stream()
          .filter(item -> item.table().isEmpty())
          .forEach(item -> item.columns().forEach(each -> values.add(item.alias() + "." + each)));
      for (int i = 1 + random.nextInt(3); i > 0; i--) {
        values.add(value(items));
      }
      List<String> shown = new ArrayList<>();
      values.forEach(each -> shown.add(each + " AS c" + shown.size()));
      return new Select("SELECT " + String.join(", ", shown) + " FROM " + from, shown.size());
    }

    private String value(List<Item> items) {
      return switch (random.nextInt(6)) {
        case 0 -> "COALESCE(" + text(items) + ", " + text(items) + ")";
        case 1 -> "CASE WHEN " + text(items) + " = 'a' THEN " + text(items) + " ELSE '0' END";
        case 2 -> "'k'";
        default -> column(items);
      };
    }

    private String column(List<Item> items) {
      Item item = oneOf(items);
      return item.alias() + "." + oneOf(item.columns());
    }

    private String text(List<Item> items) {
      return "CAST(" + column(items) + " AS VARCHAR(100))";
    }
  }

  @Test
  public void columnsComeFromWhereTheDatabaseRecordsIt() throws SQLException {
    Access access = RiverDatabases.access(Engine.POSTGRESQL);
    Random random = new Random(SEED);
    int copied = 0;
    try (Lantrel lantrel = RiverDatabases.open(Engine.POSTGRESQL);
        Connection connection = RiverDatabases.writing(access)) {
      connection.setAutoCommit(false);
      for (int i = 0; i < QUERIES; i++) {
        Made made = new Maker(random).made();
        List<ColumnOrigin> origins = lantrel.study(made.sql()).origins();
        Set<String> ours = new TreeSet<>(made.conditions());
        origins.forEach(each -> each.from().forEach(from -> ours.add(from.words())));
        try (Statement statement = connection.createStatement()) {
          statement.execute("CREATE TEMPORARY VIEW made AS " + made.sql());
          assertThat(ours).as(made.sql()).isEqualTo(dependencies(statement));
          copied += compareCopies(statement, made.sql(), origins);
        } finally {
          connection.rollback();
        }
      }
    }
    assertThat(copied).isGreaterThan(QUERIES / 2);
  }

  private static Set<String> dependencies(Statement statement) throws SQLException {
    Set<String> found = new TreeSet<>();
    try (ResultSet rows =
        statement.executeQuery(
            "SELECT c.relname, a.attname FROM pg_rewrite w JOIN pg_depend d ON d.objid = w.oid"
                + " JOIN pg_class c ON c.oid = d.refobjid JOIN pg_attribute a ON a.attrelid = c.oid"
                + " AND a.attnum = d.refobjsubid WHERE w.ev_class = 'made'::regclass"
                + " AND d.refobjsubid > 0 AND c.relname <> 'made'")) {
      while (rows.next()) {
        found.add(rows.getString(1) + "." + rows.getString(2));
      }
    }
    return found;
  }

  /** What the driver says of the columns of a result: the table and column behind each. */
  private static int compareCopies(Statement statement, String sql, List<ColumnOrigin> origins)
      throws SQLException {
    int copied = 0;
    try (ResultSet rows = statement.executeQuery(sql + " LIMIT 0")) {
      PGResultSetMetaData meta = rows.getMetaData().unwrap(PGResultSetMetaData.class);
      for (int i = 0; i < origins.size(); i++) {
        String table = meta.getBaseTableName(i + 1);
        String expected = table.isEmpty() ? "" : table + "." + meta.getBaseColumnName(i + 1);
        ColumnOrigin origin = origins.get(i);
        String own =
            origin.copied()
                ? origin.from().stream()
                    .map(ColumnOrigin.OfTable::words)
                    .collect(Collectors.joining())
                : "";
        assertThat(own).as("column %d of %s", i + 1, sql).isEqualTo(expected);
        copied += expected.isEmpty() ? 0 : 1;
      }
    }
    return copied;
  }
}
