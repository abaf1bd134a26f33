package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.ColumnType;
import io.lantrel.engine.DatabaseException.Reason;
import io.lantrel.sql.Dialect;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Properties;
import java.util.Set;
import java.util.UUID;
import org.h2.Driver;
import org.h2.api.ErrorCode;

/**
 * H2. It passes over a connection's wish to read only; so a file is opened for reading, and sample
 * data is read by a user who may do nothing else.
 */
final class H2 extends EmbeddedProduct {

  /** Modes in which texts, names and comments begin and end where the regular one has it. */
  private static final Set<String> MODES =
      Set.of("REGULAR", "STRICT", "LEGACY", "POSTGRESQL", "ORACLE", "DERBY", "HSQLDB");

  @Override
  String urlPrefix() {
    return "jdbc:h2:";
  }

  @Override
  Optional<DriverClass> driver() {
    return Optional.of(new DriverClass("org.h2.Driver", "com.h2database:h2"));
  }

  @Override
  String title() {
    return "H2";
  }

  @Override
  Dialect dialect() {
    return Dialect.H2;
  }

  @Override
  Connection connect(Access access) throws SQLException {
    String url = access.url();
    String key = url.toUpperCase(Locale.ROOT);
    boolean served = key.startsWith("JDBC:H2:TCP:") || key.startsWith("JDBC:H2:SSL:");
    boolean file = !served && !key.startsWith("JDBC:H2:MEM:");
    String settings =
        (key.contains(";IFEXISTS=") ? "" : ";IFEXISTS=TRUE")
            + (file && !key.contains(";ACCESS_MODE_DATA=") && !key.contains(";AUTO_SERVER=")
                ? ";ACCESS_MODE_DATA=r"
                : "");
    Connection connection = connect(url + settings, access.properties());
    return settled(
        connection,
        () -> {
          requireOwnWay(connection);
          connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
        });
  }

  /** It has no read-only session, so only Lantrel's own care and rolling back remain. */
  @Override
  void lend(Connection connection, Limits limits, PutBack back) throws SQLException {
    requireOwnWay(connection);
    lendTransactions(connection, back);
    connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
  }

  private static void requireOwnWay(Connection connection) throws SQLException {
    String mode =
        String.join(
            "",
            row(
                connection,
                "SELECT SETTING_VALUE FROM INFORMATION_SCHEMA.SETTINGS WHERE SETTING_NAME = 'MODE'"));
    if (!MODES.contains(mode.toUpperCase(Locale.ROOT))) {
      throw unsafe(
          "this database is in the mode "
              + mode
              + ", in which it reads SQL in the way of another product; Lantrel reads it in the mode"
              + " REGULAR");
    }
  }

  @Override
  String objectsQuery(Connection connection) {
    return "SELECT 'function', ROUTINE_NAME, '' FROM INFORMATION_SCHEMA.ROUTINES"
        + " WHERE ROUTINE_SCHEMA <> 'INFORMATION_SCHEMA'"
        + " UNION ALL SELECT 'type', DOMAIN_NAME, '' FROM INFORMATION_SCHEMA.DOMAINS"
        + " UNION ALL SELECT 'view', TABLE_SCHEMA || U&'\\000a' || TABLE_NAME, ''"
        + " FROM INFORMATION_SCHEMA.VIEWS WHERE TABLE_SCHEMA <> 'INFORMATION_SCHEMA'"
        + " UNION ALL SELECT 'table', TABLE_SCHEMA || U&'\\000a' || TABLE_NAME,"
        + " 'a link to another database' FROM INFORMATION_SCHEMA.TABLES"
        + " WHERE STORAGE_TYPE = 'TABLE LINK'"
        + " UNION ALL SELECT 'table', TABLE_SCHEMA || U&'\\000a' || TABLE_NAME,"
        + " 'a table of the class ' || TABLE_CLASS FROM INFORMATION_SCHEMA.TABLES"
        + " WHERE TABLE_CLASS NOT LIKE 'org.h2.%'"
        + " UNION ALL SELECT 'table', EVENT_OBJECT_SCHEMA || U&'\\000a' || EVENT_OBJECT_TABLE,"
        + " 'the trigger ' || TRIGGER_NAME FROM INFORMATION_SCHEMA.TRIGGERS"
        + " WHERE EVENT_MANIPULATION LIKE '%SELECT%'";
  }

  @Override
  Optional<String> noteOnRights(Connection connection) throws SQLException {
    List<String> user =
        row(
            connection,
            "SELECT USER_NAME FROM INFORMATION_SCHEMA.USERS"
                + " WHERE USER_NAME = CURRENT_USER AND IS_ADMIN");
    return user.isEmpty()
        ? Optional.empty()
        : Optional.of(
            "the user "
                + user.get(0)
                + " is an administrator; for reading it is enough to have: CREATE USER READER"
                + " PASSWORD '…'; GRANT SELECT ON SCHEMA PUBLIC TO READER");
  }

  private static Connection connect(String url, Properties properties) throws SQLException {
    return connected(new Driver(), url, properties);
  }

  /** Who loads may make tables and views, and nothing that only administrators may. */
  @Override
  Connection open(Limits limits, boolean small) throws SQLException {
    String url = "jdbc:h2:mem:lantrel_" + UUID.randomUUID();
    try (Connection first = connect(url, user("LANTREL"))) {
      execute(
          first,
          List.of(
              "CREATE USER LOADER PASSWORD ''",
              "GRANT ALTER ANY SCHEMA TO LOADER",
              "GRANT ALL ON SCHEMA PUBLIC TO LOADER",
              "CREATE USER READER PASSWORD ''",
              "GRANT SELECT ON SCHEMA PUBLIC TO READER"));
      return connect(url, user("LOADER"));
    }
  }

  private static Properties user(String name) {
    Properties properties = new Properties();
    properties.setProperty("user", name);
    properties.setProperty("password", "");
    return properties;
  }

  @Override
  Connection seal(Connection connection) throws SQLException {
    // The first connection ends once the second holds the database open.
    try (connection) {
      return connect(connection.getMetaData().getURL(), user("READER"));
    }
  }

  @Override
  String type(ColumnType type) {
    return isEndlessText(type) ? "VARCHAR" : super.type(type);
  }

  @Override
  List<Integer> decimalDefaults() {
    return List.of(100_000, 0);
  }

  @Override
  boolean holdsTimeLimits() {
    return true;
  }

  @Override
  Catalog catalog(Connection connection) throws SQLException {
    return new CatalogReader(connection, dialect())
        .withSearchPath("SELECT SCHEMA()")
        .withoutSchemas("INFORMATION_SCHEMA")
        .withViews(CatalogReader.STANDARD_VIEWS)
        .read();
  }

  @Override
  Reason reason(SQLException failure) {
    return switch (failure.getErrorCode()) {
      case ErrorCode.STATEMENT_WAS_CANCELED, ErrorCode.LOCK_TIMEOUT_1 -> Reason.TOOK_TOO_LONG;
      case ErrorCode.NOT_ENOUGH_RIGHTS_FOR_1,
          ErrorCode.ADMIN_RIGHTS_REQUIRED,
          ErrorCode.WRONG_USER_OR_PASSWORD ->
          Reason.NO_PERMISSION;
      case ErrorCode.CONNECTION_BROKEN_1,
          ErrorCode.DATABASE_IS_CLOSED,
          ErrorCode.OBJECT_CLOSED,
          ErrorCode.DATABASE_CALLED_AT_SHUTDOWN ->
          Reason.CONNECTION_LOST;
      default -> super.reason(failure);
    };
  }

  @Override
  boolean isSyntax(SQLException failure) {
    return failure.getErrorCode() == ErrorCode.SYNTAX_ERROR_1
        || failure.getErrorCode() == ErrorCode.SYNTAX_ERROR_2;
  }

  /** Behind the message the driver repeats the statement and its own version. */
  @Override
  String words(SQLException failure) {
    return super.words(failure)
        .replaceFirst("; SQL statement:$", "")
        .replaceFirst(" \\[[0-9]+-[0-9]+\\]$", "");
  }
}
