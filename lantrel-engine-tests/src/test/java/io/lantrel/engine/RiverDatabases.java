package io.lantrel.engine;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.SchemaFile;
import io.lantrel.catalog.Table;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlPrinter;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/** The river watch in databases as a user has them: with keys and references, on disk or served. */
final class RiverDatabases {

  private static final CSVFormat WITH_HEADINGS =
      CSVFormat.RFC4180.builder().setHeader().setSkipHeaderRecord(true).get();

  private static final Map<Engine, Access> FILLED = new EnumMap<>(Engine.class);

  private RiverDatabases() {}

  /** One engine alone, where that is wished for. */
  private static final String ALONE = System.getProperty("lantrel.engine", "");

  /**
   * The engines that every test of engines runs on. A cluster takes a good part of a second for any
   * statement, so all of them run there only if it is wished for alone: {@code
   * -Dlantrel.engine=trino}.
   */
  static List<Engine> engines() {
    return Stream.of(Engine.values())
        .filter(each -> each != Engine.OTHER)
        .filter(each -> ALONE.isEmpty() ? each != Engine.TRINO : each.id().equals(ALONE))
        .toList();
  }

  /** Those as rows of a data provider. */
  static Object[][] rows() {
    return engines().stream().map(each -> new Object[] {each}).toArray(Object[][]::new);
  }

  /** Sample data in an embedded engine; a filled database on a server. */
  static Lantrel open(Engine engine) {
    return engine.isEmbedded()
        ? Lantrel.open(RiverWatchFolder.data(), engine)
        : withKeys(Lantrel.connect(access(engine)), RiverWatchFolder.data());
  }

  /**
   * A server with the keys and references of a folder, if it has none of its own.
   *
   * @param folder sample data
   */
  static Lantrel withKeys(Lantrel lantrel, Path folder) {
    if (lantrel.catalog().dialect() != Dialect.TRINO) {
      return lantrel;
    }
    try {
      String schema = Files.readString(folder.resolve("schema.sql"));
      Catalog catalog = SchemaFile.read(new SourceText(schema), Dialect.TRINO).catalog();
      Path file = Scratch.file("keys", ".sql");
      Files.writeString(file, KeysFile.of(catalog));
      return lantrel.withReferences(file);
    } catch (IOException failure) {
      throw new IllegalStateException(failure);
    }
  }

  /** Each of the six, open. */
  static Map<Engine, Lantrel> openAll() {
    Map<Engine, Lantrel> all = new EnumMap<>(Engine.class);
    engines().forEach(engine -> all.put(engine, open(engine)));
    return all;
  }

  /** The same as a user has it, and open beside a connection that writes, which DuckDB forbids. */
  static Lantrel beside(Engine engine) {
    return engine == Engine.DUCKDB ? open(engine) : Lantrel.connect(access(engine));
  }

  /** A database that was filled with the river watch, as its user reaches it. */
  static synchronized Access access(Engine engine) {
    return FILLED.computeIfAbsent(engine, RiverDatabases::filled);
  }

  private static Access filled(Engine engine) {
    try {
      Access access = empty(engine, "river_watch");
      try (Connection connection = writing(access)) {
        fill(connection, engine);
      }
      return access;
    } catch (IOException | SQLException failure) {
      throw new IllegalStateException(failure);
    }
  }

  /** A connection that may write. */
  static Connection writing(Access access) throws SQLException {
    return DriverManager.getConnection(access.url(), access.properties());
  }

  /** An empty database of an engine. */
  static Access empty(Engine engine, String name) throws IOException, SQLException {
    if (engine == Engine.POSTGRESQL || engine == Engine.MARIADB) {
      Servers.Server server = Servers.of(engine);
      Access all =
          Access.to(server.url() + (engine == Engine.POSTGRESQL ? "postgres" : ""))
              .as(server.user(), null);
      try (Connection connection = writing(all)) {
        run(connection, "DROP DATABASE IF EXISTS " + name, "CREATE DATABASE " + name);
      }
      return Access.to(server.url() + name).as(server.user(), null);
    }
    if (engine == Engine.TRINO) {
      Servers.Server server = Servers.of(engine);
      Access all = Access.to(server.url()).as(server.user(), null);
      try (Connection connection = writing(all)) {
        run(connection, "DROP SCHEMA IF EXISTS " + name + " CASCADE", "CREATE SCHEMA " + name);
      }
      return Access.to(server.url().replaceFirst("default$", name))
          .as(server.user(), null)
          .within(Duration.ofMinutes(5));
    }
    Path file = Scratch.folder("lantrel-test").resolve(name);
    return switch (engine) {
      case DUCKDB -> Access.to("jdbc:duckdb:" + file + ".duckdb");
      case SQLITE -> Access.to("jdbc:sqlite:" + file + ".db");
      case H2 -> Access.to("jdbc:h2:file:" + file).as("OWNER", "");
      case HSQLDB -> Access.to("jdbc:hsqldb:file:" + file + ";shutdown=true").as("SA", "");
      default -> throw new IllegalArgumentException(engine + " is no embedded engine");
    };
  }

  static void run(Connection connection, String... statements) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  /**
   * One row of the river watch refers to nothing, so references must not be held while it comes.
   */
  private static void fill(Connection connection, Engine engine) throws SQLException, IOException {
    String schema = Files.readString(RiverWatchFolder.data().resolve("schema.sql"));
    Catalog catalog = SchemaFile.read(new SourceText(schema), engine.dialect()).catalog();
    if (engine == Engine.TRINO) {
      for (Table table : catalog.tables()) {
        createWithoutKeys(connection, table, engine.dialect());
        insert(connection, table, RiverWatchFolder.data(), engine.dialect());
      }
      return;
    }
    String withoutComments = schema.replaceAll("(?m)^--.*$", "");
    for (String sql : withoutComments.split(";", -1)) {
      if (!sql.isBlank()) {
        run(connection, typed(sql, engine));
      }
    }
    for (String sql : before(engine)) {
      run(connection, sql);
    }
    for (Table table : catalog.tables()) {
      insert(connection, table, RiverWatchFolder.data(), engine.dialect());
    }
  }

  /** DuckDB holds references always; MariaDB's TIMESTAMP sets itself. */
  private static String typed(String sql, Engine engine) {
    return switch (engine) {
      case DUCKDB -> sql.replaceAll("REFERENCES \\w+ \\(\\w+\\)", "");
      case MARIADB -> sql.replace("TIMESTAMP", "DATETIME");
      default -> sql;
    };
  }

  static List<String> before(Engine engine) {
    return switch (engine) {
      case POSTGRESQL -> List.of("SET session_replication_role = replica");
      case MARIADB -> List.of("SET foreign_key_checks = 0");
      case H2 -> List.of("SET REFERENTIAL_INTEGRITY FALSE");
      case HSQLDB -> List.of("SET DATABASE REFERENTIAL INTEGRITY FALSE");
      default -> List.of();
    };
  }

  /** A table as Lantrel's own databases have it. */
  static void createWithoutKeys(Connection connection, Table table, Dialect dialect)
      throws SQLException {
    String columns =
        table.columns().stream()
            .map(column -> column.name() + " " + made(column.type().text(), dialect))
            .collect(Collectors.joining(", "));
    String name = SqlPrinter.print(dialect.exact(table.name()), dialect);
    run(connection, "CREATE TABLE " + name + " (" + columns + ")");
  }

  /** Declares the keys of tables that have their rows, and the references that these keep. */
  static void declareKeys(Connection connection, Catalog catalog, Dialect dialect)
      throws SQLException {
    for (Table table : catalog.tables()) {
      for (Key key : table.keys()) {
        run(connection, alter(table, dialect) + "UNIQUE (" + names(key.columns(), dialect) + ")");
      }
    }
    for (Reference each : catalog.references()) {
      if (!isKept(connection, each, dialect)) {
        continue;
      }
      run(
          connection,
          alter(each.from(), dialect)
              + "FOREIGN KEY ("
              + names(each.fromColumns(), dialect)
              + ") REFERENCES "
              + names(List.of(each.to().name()), dialect)
              + " ("
              + names(each.toColumns(), dialect)
              + ")");
    }
  }

  private static boolean isKept(Connection connection, Reference reference, Dialect dialect)
      throws SQLException {
    String filled = "";
    String same = "";
    for (int i = 0; i < reference.fromColumns().size(); i++) {
      String from = "f." + names(List.of(reference.fromColumns().get(i)), dialect);
      filled += " AND " + from + " IS NOT NULL";
      same += " AND t." + names(List.of(reference.toColumns().get(i)), dialect) + " = " + from;
    }
    String lost =
        "SELECT 1 FROM %s f WHERE 1 = 1%s AND NOT EXISTS (SELECT 1 FROM %s t WHERE 1 = 1%s)"
            .formatted(
                names(List.of(reference.from().name()), dialect),
                filled,
                names(List.of(reference.to().name()), dialect),
                same);
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(lost)) {
      return !rows.next();
    }
  }

  private static String alter(Table table, Dialect dialect) {
    return "ALTER TABLE " + names(List.of(table.name()), dialect) + " ADD ";
  }

  private static String names(List<String> names, Dialect dialect) {
    return names.stream()
        .map(each -> SqlPrinter.print(dialect.exact(each), dialect))
        .collect(Collectors.joining(", "));
  }

  private static String made(String type, Dialect dialect) {
    return dialect == Dialect.TRINO ? type.replace("TEXT", "VARCHAR") : type;
  }

  /** Fills a table from its CSV file. */
  static void insert(Connection connection, Table table, Path folder, Dialect dialect)
      throws SQLException, IOException {
    if (dialect == Dialect.TRINO) {
      insertAtOnce(connection, table, folder);
      return;
    }
    String places =
        table.columns().stream()
            .map(column -> "CAST(? AS " + castType(column, dialect) + ")")
            .collect(Collectors.joining(", "));
    String name = SqlPrinter.print(dialect.exact(table.name()), dialect);
    Path file = folder.resolve(table.name() + ".csv");
    try (PreparedStatement statement =
            connection.prepareStatement("INSERT INTO " + name + " VALUES (" + places + ")");
        CSVParser csv = CSVParser.parse(file, StandardCharsets.UTF_8, WITH_HEADINGS)) {
      for (CSVRecord row : csv) {
        for (int i = 0; i < table.columns().size(); i++) {
          String text = row.get(i);
          statement.setString(i + 1, text.isEmpty() ? null : text);
        }
        statement.execute();
      }
    }
  }

  /** Any statement takes a good part of a second there. */
  private static void insertAtOnce(Connection connection, Table table, Path folder)
      throws SQLException, IOException {
    List<String> rows = new ArrayList<>();
    try (CSVParser csv =
        CSVParser.parse(
            folder.resolve(table.name() + ".csv"), StandardCharsets.UTF_8, WITH_HEADINGS)) {
      for (CSVRecord row : csv) {
        List<String> values = new ArrayList<>();
        for (int i = 0; i < table.columns().size(); i++) {
          String text = row.get(i);
          values.add(
              "CAST("
                  + (text.isEmpty() ? "NULL" : "'" + text.replace("'", "''") + "'")
                  + " AS "
                  + castType(table.columns().get(i), Dialect.TRINO)
                  + ")");
        }
        rows.add("(" + String.join(", ", values) + ")");
      }
    }
    if (!rows.isEmpty()) {
      String name = SqlPrinter.print(Dialect.TRINO.exact(table.name()), Dialect.TRINO);
      run(connection, "INSERT INTO " + name + " VALUES " + String.join(", ", rows));
    }
  }

  private static String castType(Column column, Dialect dialect) {
    String type = column.type().text();
    return switch (dialect) {
      case MARIADB ->
          type.replace("INTEGER", "SIGNED")
              .replace("VARCHAR", "CHAR")
              .replace("TIMESTAMP", "DATETIME");
      case SQLITE -> type.equals("TIMESTAMP") || type.equals("DATE") ? "TEXT" : type;
      case TRINO -> type.replace("TEXT", "VARCHAR");
      default -> type;
    };
  }

  /** What can be put on the command line to reach a database. */
  static List<String> options(Engine engine) {
    Access access = access(engine);
    Properties properties = access.properties();
    List<String> options = new ArrayList<>(List.of("--db", access.url()));
    if (properties.containsKey("user")) {
      options.addAll(List.of("--user", properties.getProperty("user")));
    }
    return options;
  }
}
