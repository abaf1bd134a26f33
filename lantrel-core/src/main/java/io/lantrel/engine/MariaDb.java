package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.engine.DatabaseException.Reason;
import io.lantrel.sql.Dialect;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import java.util.Set;
import java.util.stream.Collectors;
import org.mariadb.jdbc.Driver;

/** MariaDB. The transactions are read-only, and the time limit is the server's too. */
final class MariaDb extends Product {

  /** The driver asks with SHOW, table by table. */
  private static final String PRIMARY_KEYS =
      "SELECT table_schema AS TABLE_CAT, table_name AS TABLE_NAME, index_name AS PK_NAME,"
          + " seq_in_index AS KEY_SEQ, column_name AS COLUMN_NAME FROM information_schema.statistics"
          + " WHERE index_name = 'PRIMARY' ORDER BY 1, 2, 3, 4";

  private static final String UNIQUE_KEYS =
      "SELECT table_schema AS TABLE_CAT, table_name AS TABLE_NAME, index_name AS INDEX_NAME,"
          + " seq_in_index AS ORDINAL_POSITION, column_name AS COLUMN_NAME, '' AS FILTER_CONDITION"
          + " FROM information_schema.statistics WHERE non_unique = 0 AND index_name <> 'PRIMARY'"
          + " ORDER BY 1, 2, 3, 4";

  private static final String FOREIGN_KEYS =
      "SELECT table_schema AS FKTABLE_CAT, table_name AS FKTABLE_NAME, column_name AS FKCOLUMN_NAME,"
          + " referenced_table_schema AS PKTABLE_CAT, referenced_table_name AS PKTABLE_NAME,"
          + " referenced_column_name AS PKCOLUMN_NAME, constraint_name AS FK_NAME,"
          + " ordinal_position AS KEY_SEQ FROM information_schema.key_column_usage"
          + " WHERE referenced_table_name IS NOT NULL ORDER BY 1, 2, 7, 8";

  /** Access denied: to a database, to anyone, to a command, to a table, to a column. */
  private static final Set<Integer> NO_PERMISSION =
      Set.of(1044, 1045, 1142, 1143, 1227, 1370, 1698);

  /** Modes in which quotes, backslashes, blanks and operators mean something else. */
  private static final Set<String> OTHER_WAYS =
      Set.of(
          "ANSI",
          "ANSI_QUOTES",
          "DB2",
          "HIGH_NOT_PRECEDENCE",
          "IGNORE_SPACE",
          "MAXDB",
          "MSSQL",
          "NO_BACKSLASH_ESCAPES",
          "ORACLE",
          "PIPES_AS_CONCAT",
          "POSTGRESQL");

  private static final String RIGHTS =
      "SELECT CURRENT_USER(), (SELECT COUNT(*) FROM information_schema.user_privileges"
          + " WHERE grantee = u.grantee AND privilege_type IN ('FILE', 'SUPER', 'SET USER')),"
          + " (SELECT COUNT(*) FROM information_schema.user_privileges WHERE grantee = u.grantee"
          + " AND privilege_type IN ('INSERT', 'UPDATE', 'DELETE', 'DROP'))"
          + " + (SELECT COUNT(*) FROM information_schema.schema_privileges WHERE grantee = u.grantee"
          + " AND privilege_type IN ('INSERT', 'UPDATE', 'DELETE', 'DROP'))"
          + " + (SELECT COUNT(*) FROM information_schema.table_privileges WHERE grantee = u.grantee"
          + " AND privilege_type IN ('INSERT', 'UPDATE', 'DELETE', 'DROP'))"
          + " FROM (SELECT CONCAT('''', SUBSTRING_INDEX(CURRENT_USER(), '@', 1), '''@''',"
          + " SUBSTRING_INDEX(CURRENT_USER(), '@', -1), '''') AS grantee) AS u";

  /** Stopped by KILL QUERY, or by max_statement_time. */
  private static final Set<Integer> STOPPED = Set.of(1317, 1969);

  @Override
  String urlPrefix() {
    return "jdbc:mariadb:";
  }

  @Override
  Optional<DriverClass> driver() {
    return Optional.of(
        new DriverClass("org.mariadb.jdbc.Driver", "org.mariadb.jdbc:mariadb-java-client"));
  }

  @Override
  String title() {
    return "MariaDB";
  }

  @Override
  Dialect dialect() {
    return Dialect.MARIADB;
  }

  @Override
  Connection connect(Access access) throws SQLException {
    Properties properties = access.properties();
    properties.setProperty("connectTimeout", String.valueOf(Access.CONNECT_SECONDS * 1_000));
    properties.setProperty("allowLocalInfile", "false");
    // Statements are planned by the server, not by the driver.
    properties.setProperty("useServerPrepStmts", "true");
    properties.setProperty("tcpKeepAlive", "true");
    // A year is no first of January.
    properties.setProperty("yearIsDateType", "false");
    // Whoever waits has left long before; this is for the thread that was left alone.
    properties.setProperty(
        "socketTimeout",
        String.valueOf((access.limits().time().toSeconds() + SOCKET_GRACE) * 1_000));
    Connection connection = connected(new Driver(), access.url(), properties);
    return settled(
        connection,
        () -> {
          limit(connection, atMost(access.limits()));
          readsAsWritten(connection);
        });
  }

  @Override
  void lend(Connection connection, Limits limits, PutBack back) throws SQLException {
    List<String> old = row(connection, "SELECT @@SESSION.sql_mode, @@SESSION.max_statement_time");
    back.with(() -> setModes(connection, old.get(0)));
    back.with(() -> limit(connection, new BigDecimal(old.get(1))));
    limit(connection, atMost(limits));
    lendTransactions(connection, back);
    readsAsWritten(connection);
  }

  /** A little more than is waited for, in seconds: this is for when nobody waits any more. */
  private static BigDecimal atMost(Limits limits) {
    return BigDecimal.valueOf(limits.time().toSeconds() + 2);
  }

  private static void limit(Connection connection, BigDecimal seconds) throws SQLException {
    execute(connection, List.of("SET SESSION max_statement_time = " + seconds.toPlainString()));
  }

  private static void setModes(Connection connection, String modes) throws SQLException {
    try (PreparedStatement setting = connection.prepareStatement("SET SESSION sql_mode = ?")) {
      setting.setString(1, modes);
      setting.execute();
    }
  }

  /** Takes from the session what makes it read texts, names and operators in other ways. */
  private static void readsAsWritten(Connection connection) throws SQLException {
    String modes = row(connection, "SELECT @@SESSION.sql_mode").get(0);
    String kept =
        Arrays.stream(modes.split(",", -1))
            .filter(mode -> mode.matches("[A-Z_]+") && !OTHER_WAYS.contains(mode))
            .collect(Collectors.joining(","));
    execute(connection, List.of("SET SESSION sql_mode = '" + kept + "'"));
    connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
    List<String> now =
        row(
            connection,
            "SELECT @@SESSION.sql_mode, @@character_set_client, @@character_set_connection");
    boolean set =
        Arrays.stream(now.get(0).split(",", -1)).noneMatch(OTHER_WAYS::contains)
            && now.get(1).equals("utf8mb4")
            && now.get(2).equals("utf8mb4");
    if (!set) {
      throw unsafe(
          "the session is not what was asked for: sql_mode and character sets are "
              + String.join("; ", now));
    }
  }

  @Override
  String objectsQuery(Connection connection) {
    return "SELECT 'function', routine_name, '' FROM information_schema.routines"
        + " WHERE routine_type = 'FUNCTION'"
        + " UNION SELECT 'view', CONCAT(table_schema, CHAR(10), table_name), ''"
        + " FROM information_schema.views"
        + " UNION SELECT 'table', CONCAT(table_schema, CHAR(10), table_name),"
        + " CONCAT('the storage engine ', engine) FROM information_schema.tables"
        + " WHERE table_type = 'BASE TABLE' AND engine NOT IN ('InnoDB', 'MyISAM', 'Aria', 'MEMORY',"
        + " 'ARCHIVE', 'CSV', 'MRG_MyISAM', 'ROCKSDB', 'Columnstore', 'SEQUENCE')";
  }

  @Override
  Optional<String> noteOnRights(Connection connection) throws SQLException {
    List<String> rights = row(connection, RIGHTS);
    String may =
        rights.get(0).equals("@")
            ? "may do everything, since this server checks no rights"
            : !rights.get(1).equals("0")
                ? "may touch files or settings of the server"
                : !rights.get(2).equals("0") ? "may change rows" : "";
    return may.isEmpty()
        ? Optional.empty()
        : Optional.of(
            "the user "
                + rights.get(0)
                + " "
                + may
                + "; for reading it is enough to have: CREATE USER reader IDENTIFIED BY '…'; GRANT"
                + " SELECT, SHOW VIEW ON name.* TO reader");
  }

  @Override
  String beginning() {
    return "START TRANSACTION READ ONLY";
  }

  @Override
  Catalog catalog(Connection connection) throws SQLException {
    return new CatalogReader(connection, dialect())
        .withSearchPath("SELECT DATABASE()")
        .withViews(CatalogReader.STANDARD_VIEWS)
        .withPrimaryKeys(PRIMARY_KEYS)
        .withUniqueKeys(UNIQUE_KEYS)
        .withForeignKeys(FOREIGN_KEYS)
        .read();
  }

  @Override
  Reason reason(SQLException failure) {
    if (NO_PERMISSION.contains(failure.getErrorCode())) {
      return Reason.NO_PERMISSION;
    }
    return STOPPED.contains(failure.getErrorCode()) ? Reason.TOOK_TOO_LONG : super.reason(failure);
  }

  @Override
  boolean isSyntax(SQLException failure) {
    return failure.getErrorCode() == 1064;
  }

  /** The driver puts the number of the connection before the message. */
  @Override
  String words(SQLException failure) {
    return super.words(failure).replaceFirst("^\\(conn=[0-9]+\\) ", "");
  }
}
