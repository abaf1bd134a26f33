package io.lantrel.bench;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.SchemaFile;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.TearDown;
import org.openjdk.jmh.annotations.Warmup;

/**
 * Reading and resolving a chain of joined tables, each referring to the next, beside the time in
 * which the embedded engine prepares the same statement.
 */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MICROSECONDS)
@Warmup(iterations = 3, time = 2)
@Measurement(iterations = 3, time = 2)
@Fork(1)
public class ReadAndResolve {

  /** How many tables are joined. */
  @Param({"5", "64", "256"})
  public int tables;

  /** How they are joined. */
  @Param({"JOIN", "LEFT JOIN", ","})
  public String join = "JOIN";

  private String sql = "";
  private Catalog catalog = new Catalog(Dialect.DUCKDB, List.of(), List.of(), List.of());
  private List<Connection> connections = List.of();

  /** Makes the tables, in Lantrel's catalog and in the engine. */
  @Setup
  public void makeTables() throws SQLException {
    String schema =
        IntStream.range(0, tables).mapToObj(this::table).collect(Collectors.joining("\n"));
    catalog = SchemaFile.read(new SourceText(schema), Dialect.DUCKDB).catalog();
    sql = chain();
    Connection connection = DriverManager.getConnection("jdbc:duckdb:");
    connections = List.of(connection);
    try (Statement statement = connection.createStatement()) {
      for (int i = 0; i < tables; i++) {
        statement.execute("CREATE TABLE t" + i + " (id INTEGER, next_id INTEGER, name VARCHAR)");
      }
    }
  }

  private String table(int number) {
    String reference = number + 1 < tables ? " REFERENCES t" + (number + 1) : "";
    return "CREATE TABLE t"
        + number
        + " (id INTEGER PRIMARY KEY, next_id INTEGER"
        + reference
        + ", name VARCHAR(40) NOT NULL);";
  }

  private String chain() {
    StringBuilder from = new StringBuilder("t0 a0");
    StringBuilder where = new StringBuilder();
    for (int i = 1; i < tables; i++) {
      String condition = "a" + i + ".id = a" + (i - 1) + ".next_id";
      boolean comma = join.equals(",");
      from.append(comma ? ", " : " " + join + " ").append("t").append(i).append(" a").append(i);
      (comma ? where : from).append(comma ? (i == 1 ? " WHERE " : " AND ") : " ON ");
      (comma ? where : from).append(condition);
    }
    String names =
        IntStream.range(0, tables)
            .mapToObj(i -> "a" + i + ".name AS n" + i)
            .collect(Collectors.joining(", "));
    return "SELECT " + names + " FROM " + from + where;
  }

  /** Reads and resolves; the keys of the result are worked out too. */
  @Benchmark
  public int readAndResolve() {
    Resolution resolution = Resolver.resolve(SqlReader.readQuery(sql, Dialect.DUCKDB), catalog);
    int found = resolution.result().keys().size() + resolution.problems().size();
    for (var step : resolution.root().steps()) {
      found += resolution.root().partnersOnTheRight(step).ordinal();
    }
    for (var output : resolution.result().outputs()) {
      found += resolution.result().isNullable(output) ? 1 : 0;
    }
    return found;
  }

  /** What the engine takes to prepare the same statement. */
  @Benchmark
  public boolean prepareInTheEngine() throws SQLException {
    try (PreparedStatement statement = connections.get(0).prepareStatement(sql)) {
      return statement.isClosed();
    }
  }

  /** Ends the engine. */
  @TearDown
  public void close() throws SQLException {
    for (Connection connection : connections) {
      connection.close();
    }
  }
}
