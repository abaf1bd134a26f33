package io.lantrel.bench;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Comparison;
import io.lantrel.engine.Access;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;

/**
 * What comparing two results of many rows costs on one engine, as a multiple of counting the rows
 * of both.
 */
public final class PriceOfComparing {

  private static final int RUNS = 5;

  private static final String TWICE =
      "SELECT f.id, f.place, p.name, f.amount FROM fact f JOIN place p ON p.id = f.place";

  /** Another way to write it, or another result. */
  private static final List<String[]> OTHERS =
      List.of(
          new String[] {
            "same", "SELECT f.id, p.id, p.name, f.amount FROM place p, fact f WHERE p.id = f.place"
          },
          new String[] {
            "same, not proven",
            "SELECT f.id, f.place, p.name, f.amount + 0 FROM fact f JOIN place p ON p.id = f.place"
          },
          new String[] {
            "10 rows differ",
            "SELECT f.id, f.place, p.name, f.amount + CASE WHEN f.id <= 10 THEN 1 ELSE 0 END"
                + " FROM fact f JOIN place p ON p.id = f.place"
          },
          new String[] {
            "all rows differ",
            "SELECT f.id, f.place, p.name, f.amount + 1 FROM fact f JOIN place p ON p.id = f.place"
          });

  private PriceOfComparing() {}

  /**
   * Prints a table of medians.
   *
   * @param arguments how many rows; default: a million
   */
  public static void main(String[] arguments) throws IOException, SQLException {
    long rows = arguments.length == 0 ? 1_000_000 : Long.parseLong(arguments[0]);
    Path folder = Files.createTempDirectory("price");
    String url = "jdbc:duckdb:" + folder.resolve("world.duckdb");
    try (Connection connection = DriverManager.getConnection(url);
        Statement statement = connection.createStatement()) {
      statement.execute(
          "CREATE TABLE place AS SELECT i AS id, 'place ' || i AS name FROM range(1000) t(i)");
      statement.execute("ALTER TABLE place ADD PRIMARY KEY (id)");
      statement.execute(
          "CREATE TABLE fact AS SELECT i AS id, i % 1000 AS place,"
              + " CAST(i % 9973 AS INTEGER) AS amount FROM range("
              + rows
              + ") t(i)");
    }
    System.out.printf(
        "%-18s %10s %10s %6s %5s  %s%n", "", "counted", "compared", "times", "sent", "");
    try (Lantrel lantrel = Lantrel.connect(Access.to(url))) {
      for (String[] other : OTHERS) {
        measure(lantrel, other[0], other[1]);
      }
    }
  }

  private static void measure(Lantrel lantrel, String name, String other) {
    List<Long> counted = new ArrayList<>();
    List<Long> compared = new ArrayList<>();
    long sent = 0;
    String verdict = "";
    for (int run = 0; run < RUNS; run++) {
      counted.add(
          micros(
              () -> {
                for (String sql : List.of(TWICE, other)) {
                  lantrel.study("SELECT COUNT(*) FROM (" + sql + ") AS q").result();
                }
              }));
      Study first = lantrel.study(TWICE);
      Study second = lantrel.study(other);
      List<Comparison> found = new ArrayList<>();
      compared.add(micros(() -> found.add(first.compare(second, CompareOptions.USUAL))));
      sent = first.statementsSent() + second.statementsSent();
      verdict = found.get(0).verdict().id();
    }
    double once = median(counted);
    double price = median(compared);
    System.out.printf(
        "%-18s %8.1f ms %7.1f ms %6.1f %5d  %s%n",
        name, once / 1_000, price / 1_000, price / once, sent, verdict);
  }

  private static long micros(Runnable work) {
    long start = System.nanoTime();
    work.run();
    return (System.nanoTime() - start) / 1_000;
  }

  private static double median(List<Long> times) {
    List<Long> sorted = new ArrayList<>(times);
    Collections.sort(sorted);
    return sorted.get(sorted.size() / 2);
  }
}
