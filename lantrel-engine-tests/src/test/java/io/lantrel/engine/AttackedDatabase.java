package io.lantrel.engine;

import io.lantrel.Scratch;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Properties;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;

/**
 * A database with everything in it that can be turned against it, its user an administrator. Its
 * fingerprint is all that an attack could change: rows, sequences, tables, settings, sessions,
 * locks, and the files around it.
 */
public final class AttackedDatabase implements AutoCloseable {

  private static final AtomicInteger CALLS = new AtomicInteger();

  private final Engine engine;
  private final Access access;
  private final Path folder;
  private final List<Connection> open = new ArrayList<>();
  private final String victim;

  private AttackedDatabase(Engine engine, Access access, Path folder, String victim) {
    this.engine = engine;
    this.access = access;
    this.folder = folder;
    this.victim = victim;
  }

  /** What users' functions of H2 and HSQLDB call. */
  public static int mark(int n) {
    CALLS.incrementAndGet();
    return n;
  }

  static AttackedDatabase create(Engine engine) throws SQLException, IOException {
    Path folder = Scratch.folder("lantrel-attacked");
    Access access =
        switch (engine) {
          // In memory nothing but Lantrel's own walls holds an administrator.
          case H2 -> Access.to("jdbc:h2:mem:attacked").as("OWNER", "");
          case HSQLDB -> Access.to("jdbc:hsqldb:mem:attacked").as("SA", "");
          case SQLITE -> Access.to("jdbc:sqlite:" + folder.resolve("a.db"));
          case DUCKDB -> Access.to("jdbc:duckdb:" + folder.resolve("a.duckdb"));
          default -> RiverDatabases.empty(engine, "attacked");
        };
    Connection first = writing(access);
    RiverDatabases.run(
        first,
        "CREATE TABLE precious (id INTEGER PRIMARY KEY)",
        "CREATE TABLE written (id INTEGER)",
        "INSERT INTO precious VALUES (1)",
        "INSERT INTO precious VALUES (2)");
    for (String sql : weapons(engine)) {
      RiverDatabases.run(first, sql);
    }
    if (engine == Engine.SQLITE || engine == Engine.DUCKDB) {
      first.close();
      return new AttackedDatabase(engine, access, folder, "0");
    }
    Connection victim = writing(access);
    AttackedDatabase made = new AttackedDatabase(engine, access, folder, id(victim, engine));
    made.open.addAll(List.of(first, victim));
    return made;
  }

  private static Connection writing(Access access) throws SQLException {
    Properties properties = access.properties();
    if (access.engine() == Engine.POSTGRESQL) {
      properties.setProperty("ApplicationName", "victim");
    }
    return DriverManager.getConnection(access.url(), properties);
  }

  private static String id(Connection connection, Engine engine) throws SQLException {
    return switch (engine) {
      case POSTGRESQL -> text(connection, "SELECT pg_backend_pid()");
      case MARIADB -> text(connection, "SELECT CONNECTION_ID()");
      default -> "0";
    };
  }

  private static List<String> weapons(Engine engine) {
    return switch (engine) {
      case POSTGRESQL ->
          List.of(
              "CREATE SEQUENCE counter",
              "CREATE FUNCTION write_row(n INTEGER) RETURNS INTEGER LANGUAGE sql AS"
                  + " 'INSERT INTO written VALUES (n) RETURNING id'",
              "CREATE FUNCTION honest_liar(n INTEGER) RETURNS INTEGER IMMUTABLE LANGUAGE plpgsql AS"
                  + " 'BEGIN PERFORM nextval(''counter''); RETURN n; END'",
              "CREATE FUNCTION lower(n INTEGER) RETURNS INTEGER LANGUAGE sql AS"
                  + " 'SELECT nextval(''counter'')::integer'",
              "CREATE FUNCTION abs(p precious) RETURNS INTEGER LANGUAGE sql AS"
                  + " 'SELECT nextval(''counter'')::integer'",
              "CREATE FUNCTION write_field(p precious) RETURNS INTEGER LANGUAGE sql AS"
                  + " 'SELECT nextval(''counter'')::integer'",
              "CREATE FUNCTION passes(n INTEGER) RETURNS BOOLEAN LANGUAGE plpgsql AS"
                  + " 'BEGIN PERFORM nextval(''counter''); RETURN true; END'",
              "CREATE FUNCTION two(a INTEGER, b INTEGER) RETURNS INTEGER LANGUAGE sql AS"
                  + " 'SELECT nextval(''counter'')::integer'",
              "CREATE OPERATOR <%> (FUNCTION = two, LEFTARG = integer, RIGHTARG = integer)",
              "CREATE DOMAIN checked AS INTEGER CHECK (passes(VALUE))",
              "CREATE TYPE holder AS (a checked)",
              "CREATE VIEW acting_view AS SELECT id, honest_liar(id) AS n FROM precious",
              "CREATE VIEW view_of_view AS SELECT id, n FROM acting_view",
              "CREATE TABLE guarded (id INTEGER)",
              "INSERT INTO guarded VALUES (1)",
              "ALTER TABLE guarded ENABLE ROW LEVEL SECURITY",
              "CREATE POLICY p ON guarded USING (passes(id))",
              "CREATE TABLE triggered (id INTEGER)",
              "CREATE FOREIGN DATA WRAPPER nothing",
              "CREATE SERVER nowhere FOREIGN DATA WRAPPER nothing",
              "CREATE FOREIGN TABLE elsewhere (id INTEGER) SERVER nowhere");
      case MARIADB ->
          List.of(
              "CREATE SEQUENCE counter",
              "CREATE FUNCTION write_row(n INTEGER) RETURNS INTEGER MODIFIES SQL DATA"
                  + " BEGIN INSERT INTO written VALUES (n); RETURN n; END",
              "CREATE FUNCTION honest_liar(n INTEGER) RETURNS INTEGER DETERMINISTIC NO SQL"
                  + " BEGIN SET GLOBAL max_connections = 77; RETURN n; END",
              "CREATE VIEW acting_view AS SELECT id, honest_liar(id) AS n FROM precious",
              "CREATE VIEW view_of_view AS SELECT id, n FROM acting_view",
              "CREATE TABLE guarded (id INTEGER)",
              "CREATE TABLE triggered (id INTEGER)");
      case H2 ->
          List.of(
              "CREATE SEQUENCE counter",
              "CREATE ALIAS write_row FOR 'io.lantrel.engine.AttackedDatabase.mark'",
              "CREATE ALIAS honest_liar DETERMINISTIC FOR 'io.lantrel.engine.AttackedDatabase.mark'",
              "CREATE DOMAIN checked AS INTEGER CHECK (write_row(VALUE) > 0)",
              "CREATE VIEW acting_view AS SELECT id, NEXT VALUE FOR counter AS n FROM precious",
              "CREATE VIEW view_of_view AS SELECT id, n FROM acting_view",
              "CREATE TABLE guarded (id INTEGER)",
              "CREATE TABLE triggered (id INTEGER)",
              "CREATE TRIGGER looking BEFORE SELECT ON triggered CALL"
                  + " 'io.lantrel.engine.AttackedDatabase$Looking'",
              "CREATE LINKED TABLE elsewhere ('org.h2.Driver', 'jdbc:h2:mem:attacked', 'OWNER', '',"
                  + " 'PRECIOUS')");
      case HSQLDB ->
          List.of(
              "CREATE SEQUENCE counter",
              "CREATE FUNCTION write_row(n INTEGER) RETURNS INTEGER LANGUAGE JAVA NO SQL EXTERNAL NAME"
                  + " 'CLASSPATH:io.lantrel.engine.AttackedDatabase.mark'",
              "CREATE FUNCTION honest_liar(n INTEGER) RETURNS INTEGER LANGUAGE JAVA DETERMINISTIC NO"
                  + " SQL EXTERNAL NAME 'CLASSPATH:io.lantrel.engine.AttackedDatabase.mark'",
              "CREATE VIEW acting_view AS SELECT id, write_row(id) AS n FROM precious",
              "CREATE VIEW view_of_view AS SELECT id, n FROM acting_view",
              "CREATE TABLE guarded (id INTEGER)",
              "CREATE TABLE triggered (id INTEGER)");
      case SQLITE ->
          List.of(
              "CREATE VIEW acting_view AS SELECT id, load_extension('x') AS n FROM precious",
              "CREATE VIEW view_of_view AS SELECT id, n FROM acting_view",
              "CREATE TABLE guarded (id INTEGER)",
              "CREATE TABLE triggered (id INTEGER)");
      case DUCKDB ->
          List.of(
              "CREATE SEQUENCE counter",
              "CREATE MACRO write_row(n) AS nextval('counter')",
              "CREATE MACRO honest_liar(n) AS nextval('counter')",
              "CREATE MACRO elsewhere() AS TABLE SELECT * FROM read_text('/etc/hostname')",
              "CREATE VIEW acting_view AS SELECT id, nextval('counter') AS n FROM precious",
              "CREATE VIEW view_of_view AS SELECT id, n FROM acting_view",
              "CREATE TABLE guarded (id INTEGER)",
              "CREATE TABLE triggered (id INTEGER)");
      default -> throw new IllegalArgumentException();
    };
  }

  /** A trigger of H2 that runs when somebody reads. */
  public static final class Looking implements org.h2.api.Trigger {
    @Override
    public void fire(Connection connection, Object[] before, Object[] after) {
      CALLS.incrementAndGet();
    }
  }

  Access access() {
    return access;
  }

  String aimed(String attack) {
    return attack.replace("{F}", folder.toString()).replace("{V}", victim);
  }

  /** Sets something for all later sessions. */
  void set(String sql) throws SQLException {
    RiverDatabases.run(open.get(0), sql);
  }

  /** Does what the attacks try, as an owner does it. */
  void fire() throws SQLException {
    String weapon =
        engine == Engine.SQLITE
            ? "DELETE FROM precious WHERE id = 2"
            : "SELECT honest_liar(7) FROM precious";
    try (Connection owner = writing(access)) {
      RiverDatabases.run(owner, weapon);
    }
  }

  String fingerprint() throws SQLException {
    StringBuilder print = new StringBuilder("calls " + CALLS.get() + "\n" + files());
    for (String sql : questions()) {
      print.append(text(open.get(0), sql)).append('\n');
    }
    for (Connection connection : open) {
      print.append(text(connection, "SELECT COUNT(*) FROM precious"));
    }
    return print.toString();
  }

  private String files() {
    try (Stream<Path> files = Files.walk(folder)) {
      StringBuilder all = new StringBuilder();
      for (Path file : files.sorted().toList()) {
        boolean plain = Files.isRegularFile(file);
        all.append(file)
            .append(plain ? " " + Arrays.hashCode(Files.readAllBytes(file)) : "")
            .append('\n');
      }
      return all.toString();
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  private List<String> questions() {
    List<String> rows =
        List.of(
            "SELECT COUNT(*) * 1000 + SUM(id) FROM precious",
            "SELECT COUNT(*) FROM written",
            "SELECT COUNT(*) FROM guarded");
    List<String> own =
        switch (engine) {
          case POSTGRESQL ->
              List.of(
                  "SELECT last_value::text || is_called FROM counter",
                  "SELECT string_agg(relname, ',' ORDER BY relname) FROM pg_class"
                      + " WHERE relnamespace = 'public'::regnamespace",
                  "SELECT md5(string_agg(name || setting, ',' ORDER BY name)) FROM pg_settings",
                  "SELECT COUNT(*) FROM pg_stat_activity WHERE application_name = 'victim'",
                  "SELECT COUNT(*) FROM pg_locks WHERE locktype = 'advisory'",
                  "SELECT COUNT(*) FROM pg_largeobject_metadata",
                  "SELECT COUNT(*) FROM pg_replication_slots",
                  "SELECT COUNT(*) FROM pg_db_role_setting");
          case MARIADB ->
              List.of(
                  "SELECT next_not_cached_value FROM counter",
                  "SELECT GROUP_CONCAT(table_name ORDER BY table_name) FROM information_schema.tables"
                      + " WHERE table_schema = 'attacked'",
                  "SELECT MD5(GROUP_CONCAT(variable_name, variable_value ORDER BY variable_name))"
                      + " FROM information_schema.global_variables WHERE variable_name IN"
                      + " ('MAX_CONNECTIONS', 'GENERAL_LOG', 'SQL_MODE', 'READ_ONLY', 'EVENT_SCHEDULER')",
                  "SELECT COUNT(*) FROM information_schema.processlist WHERE id = " + victim,
                  "SELECT IS_USED_LOCK('a')");
          case H2 ->
              List.of(
                  "SELECT BASE_VALUE FROM INFORMATION_SCHEMA.SEQUENCES",
                  "SELECT LISTAGG(TABLE_NAME) WITHIN GROUP (ORDER BY TABLE_NAME)"
                      + " FROM INFORMATION_SCHEMA.TABLES",
                  "SELECT LISTAGG(SETTING_NAME || SETTING_VALUE) WITHIN GROUP (ORDER BY SETTING_NAME)"
                      + " FROM INFORMATION_SCHEMA.SETTINGS WHERE SETTING_NAME NOT LIKE 'info%'");
          case HSQLDB ->
              List.of(
                  "SELECT NEXT_VALUE FROM INFORMATION_SCHEMA.SYSTEM_SEQUENCES"
                      + " WHERE SEQUENCE_NAME = 'COUNTER'",
                  "SELECT GROUP_CONCAT(TABLE_NAME ORDER BY TABLE_NAME)"
                      + " FROM INFORMATION_SCHEMA.TABLES WHERE TABLE_SCHEMA = 'PUBLIC'");
          default -> List.of();
        };
    if (open.isEmpty()) {
      // The files are the fingerprint: a second connection would be one too many.
      return List.of();
    }
    List<String> all = new ArrayList<>(rows);
    all.addAll(own);
    return all;
  }

  private static String text(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      return rows.next() ? String.valueOf(rows.getString(1)) : "nothing";
    }
  }

  @Override
  public void close() throws SQLException {
    for (Connection connection : open) {
      connection.close();
    }
  }
}
