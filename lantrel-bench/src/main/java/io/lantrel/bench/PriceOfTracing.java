package io.lantrel.bench;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.engine.Access;
import io.lantrel.hierarchy.HierarchyWish;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;

/**
 * What it costs to follow rows, as a multiple of running the query; and to draw a hierarchy, as a
 * multiple of the recursive query that counts its levels.
 */
public final class PriceOfTracing {

  private static final int RUNS = 5;

  private static final List<String> QUERIES =
      List.of(
          "SELECT s.name, r.name AS river, COUNT(d.id) AS readings FROM station s JOIN river r ON"
              + " r.id = s.river_id JOIN reading d ON d.station_id = s.id WHERE d.depth_cm > 20"
              + " GROUP BY s.id, s.name, r.name ORDER BY s.id",
          "SELECT d.id, s.name, w.given_name FROM reading d JOIN station s ON s.id = d.station_id"
              + " LEFT JOIN warden w ON w.id = s.keeper_id WHERE d.temperature > 24 ORDER BY d.id",
          "SELECT s.name, q.warmest FROM station s LEFT JOIN (SELECT d.station_id,"
              + " MAX(d.temperature) AS warmest FROM reading d GROUP BY d.station_id) q ON"
              + " q.station_id = s.id WHERE s.capacity > 5 ORDER BY s.id");

  private static final String LEVELS =
      "WITH RECURSIVE walk (id, lvl) AS (SELECT n.id, 1 FROM node n WHERE n.above IS NULL UNION ALL"
          + " SELECT n.id, walk.lvl + 1 FROM walk JOIN node n ON n.above = walk.id) SELECT lvl,"
          + " COUNT(*) AS n FROM walk GROUP BY lvl ORDER BY lvl";

  private PriceOfTracing() {}

  /**
   * Prints medians.
   *
   * @param arguments the number of readings, and of rows of the hierarchy; default: a million
   */
  public static void main(String[] arguments) throws IOException, SQLException {
    long rows = arguments.length == 0 ? 1_000_000 : Long.parseLong(arguments[0]);
    Path file = Files.createTempDirectory("river-watch").resolve("rivers.duckdb");
    String url = "jdbc:duckdb:" + file;
    try (Connection connection = DriverManager.getConnection(url);
        Statement statement = connection.createStatement()) {
      for (String sql : SurveyAtScale.world(rows)) {
        statement.execute(sql);
      }
    }
    try (Lantrel lantrel = Lantrel.connect(Access.to(url))) {
      for (String sql : QUERIES) {
        Study study = lantrel.study(sql);
        double query = median(() -> lantrel.study(sql).result(1_000));
        long before = study.statementsSent();
        study.trace(5, 10);
        long sent = study.statementsSent() - before;
        double row = median(() -> lantrel.study(sql).trace(5, 10));
        double lost = median(() -> lantrel.study(sql).missing("station where id = 77", 1));
        System.out.printf(
            Locale.ROOT,
            "query %.0f ms; a row of it %.0f ms, %.1f times, %d statements; a row of a table %.0f"
                + " ms, %.1f times%n",
            query,
            row,
            row / query,
            sent,
            lost,
            lost / query);
      }
    }
    hierarchy(rows);
  }

  /** As sample data: engines take rows that refer to each other only one by one. */
  private static void hierarchy(long rows) throws IOException {
    Path folder = Files.createTempDirectory("nodes");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE node (id INTEGER PRIMARY KEY, above INTEGER REFERENCES node (id), name"
            + " VARCHAR(20), amount INTEGER);");
    Random random = new Random(1);
    try (BufferedWriter out = Files.newBufferedWriter(folder.resolve("node.csv"))) {
      out.write("id,above,name,amount\n");
      for (int i = 1; i <= rows; i++) {
        String above = i > 3 ? String.valueOf(1 + random.nextInt(i - 1)) : "";
        out.write(i + "," + above + ",node " + i + "," + i % 10 + "\n");
      }
    }
    try (Lantrel lantrel = Lantrel.open(folder)) {
      double levels = median(() -> lantrel.study(LEVELS).result());
      HierarchyWish wish = HierarchyWish.of("node").summing("amount").showing(2, 100);
      double upper = median(() -> lantrel.hierarchy(wish));
      System.out.printf(
          Locale.ROOT,
          "levels of %,d rows counted in %.0f ms; the upper ones drawn with sums in %.0f ms, %.1f"
              + " times%n",
          rows,
          levels,
          upper,
          upper / levels);
    }
  }

  private static double median(Runnable work) {
    List<Double> times = new ArrayList<>();
    for (int i = 0; i < RUNS; i++) {
      long begun = System.nanoTime();
      work.run();
      times.add((System.nanoTime() - begun) / 1e6);
    }
    return times.stream().sorted().toList().get(RUNS / 2);
  }
}
