package io.lantrel.bench;

import io.lantrel.Lantrel;
import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Table;
import io.lantrel.engine.Access;
import io.lantrel.survey.Survey;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;

/**
 * How long a survey takes, as a multiple of the one pass over every table that counts its rows and
 * the different values of each column. The river watch is made anew at any size, the same each
 * time; it declares no references, so that all of them have to be observed.
 */
public final class SurveyAtScale {

  private static final int RUNS = 5;

  private SurveyAtScale() {}

  /**
   * Prints medians.
   *
   * @param arguments the number of readings; default: a million
   */
  public static void main(String[] arguments) throws IOException, SQLException {
    long readings = arguments.length == 0 ? 1_000_000 : Long.parseLong(arguments[0]);
    Path file = Files.createTempDirectory("river-watch").resolve("rivers.duckdb");
    String url = "jdbc:duckdb:" + file;
    try (Connection connection = DriverManager.getConnection(url);
        Statement statement = connection.createStatement()) {
      for (String sql : world(readings)) {
        statement.execute(sql);
      }
    }
    List<Long> surveys = new ArrayList<>();
    List<Long> passes = new ArrayList<>();
    try (Lantrel lantrel = Lantrel.connect(Access.to(url))) {
      List<String> counts = lantrel.catalog().tables().stream().map(SurveyAtScale::pass).toList();
      for (int run = 0; run < RUNS; run++) {
        passes.add(millis(() -> counts.forEach(sql -> lantrel.study(sql).result())));
        surveys.add(millis(() -> lantrel.survey()));
      }
      Survey survey = lantrel.survey();
      survey.references().stream()
          .filter(each -> each.reference().basis() != Basis.DECLARED)
          .forEach(
              each ->
                  System.out.println(each.reference().basis() + " " + each.reference().words()));
    }
    System.out.printf(
        "%,d readings: one pass %d ms, survey %d ms, ratio %.2f%n",
        readings, median(passes), median(surveys), (double) median(surveys) / median(passes));
  }

  private static String pass(Table table) {
    return table.columns().stream()
        .map(column -> "COUNT(DISTINCT " + column.name() + ")")
        .collect(Collectors.joining(", ", "SELECT COUNT(*), ", " FROM " + table.name()));
  }

  private static long millis(Runnable work) {
    long begun = System.nanoTime();
    work.run();
    return (System.nanoTime() - begun) / 1_000_000;
  }

  private static long median(List<Long> times) {
    return times.stream().sorted().toList().get(times.size() / 2);
  }

  /** Each value follows from the row's number, as if drawn by lot. */
  static List<String> world(long readings) {
    long stations = Math.max(14, readings / 100);
    long rivers = Math.max(12, stations / 5);
    long wardens = Math.max(10, stations / 4);
    String lot = "CAST(hash(i * 10 + %d) %% %d AS INTEGER)";
    return Arrays.asList(
        "CREATE TABLE bank_kind AS SELECT * FROM"
            + " (VALUES ('W', 'wall'), ('R', 'reeds'), ('S', 'stones'), ('M', 'mud')) v(code, label)",
        "CREATE TABLE river AS SELECT CAST(i AS INTEGER) AS id, 'river ' || i AS name,"
            + " CASE WHEN i > 3 THEN CAST(hash(i) % CAST(i - 1 AS UBIGINT) + 1 AS INTEGER) END AS flows_into,"
            + (" " + lot).formatted(1, 200)
            + " AS length_km FROM range(1, "
            + (rivers + 1)
            + ") t(i)",
        "CREATE TABLE warden AS SELECT CAST(i AS INTEGER) AS id, 'warden ' || i AS given_name,"
            + " CASE WHEN i > 1 THEN CAST(hash(i * 3) % CAST(i - 1 AS UBIGINT) + 1 AS INTEGER) END AS mentor_id"
            + " FROM range(1, "
            + (wardens + 1)
            + ") t(i)",
        "CREATE TABLE station AS SELECT CAST(i AS INTEGER) AS id, 'station ' || i AS name,"
            + (" 1 + " + lot).formatted(2, rivers)
            + " AS river_id,"
            + (" 1 + " + lot).formatted(3, wardens)
            + " AS keeper_id, substr('WRSM', CAST(1 + hash(i) % 4 AS INTEGER), 1) AS bank,"
            + (" " + lot).formatted(4, 15)
            + " AS capacity FROM range(1, "
            + (stations + 1)
            + ") t(i)",
        "CREATE TABLE reading AS SELECT CAST(i AS INTEGER) AS id,"
            + (" 1 + " + lot).formatted(5, stations)
            + " AS station_id, TIMESTAMP '2026-01-01' + INTERVAL 1 MINUTE * i AS taken_at,"
            + (" CAST(" + lot + " / 10 AS DECIMAL(4, 1))").formatted(6, 250)
            + " AS temperature,"
            + (" " + lot).formatted(7, 300)
            + " AS depth_cm FROM range(1, "
            + (readings + 1)
            + ") t(i)");
  }
}
