package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.ColumnType;
import io.lantrel.engine.DatabaseException.Reason;
import io.lantrel.sql.Dialect;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.Properties;
import java.util.UUID;
import org.hsqldb.jdbc.JDBCDriver;

/** HSQLDB. A file is opened read-only, and so is every connection. */
final class HsqlDb extends EmbeddedProduct {

  @Override
  String urlPrefix() {
    return "jdbc:hsqldb:";
  }

  @Override
  Optional<DriverClass> driver() {
    return Optional.of(new DriverClass("org.hsqldb.jdbc.JDBCDriver", "org.hsqldb:hsqldb"));
  }

  @Override
  String title() {
    return "HSQLDB";
  }

  @Override
  Dialect dialect() {
    return Dialect.HSQLDB;
  }

  @Override
  Connection connect(Access access) throws SQLException {
    Properties properties = access.properties();
    properties.setProperty("ifexists", "true");
    String key = access.url().toLowerCase(Locale.ROOT);
    boolean served = key.matches("jdbc:hsqldb:(?:hsqls?|https?|mem):.*");
    if (!served) {
      properties.setProperty("readonly", "true");
    }
    Connection connection = connect(access.url(), properties);
    return settled(connection, () -> requireOwnWay(connection));
  }

  @Override
  void lend(Connection connection, Limits limits, PutBack back) throws SQLException {
    super.lend(connection, limits, back);
    requireOwnWay(connection);
  }

  private static void requireOwnWay(Connection connection) throws SQLException {
    connection.setReadOnly(true);
    List<String> other =
        row(
            connection,
            "SELECT PROPERTY_NAME FROM INFORMATION_SCHEMA.SYSTEM_PROPERTIES"
                + " WHERE PROPERTY_NAME LIKE 'sql.syntax%' AND PROPERTY_VALUE = 'true'");
    if (!other.isEmpty()) {
      throw unsafe(
          "this database is set to "
              + other.get(0)
              + ", so it reads SQL in the way of another product; Lantrel reads HSQLDB's own");
    }
  }

  @Override
  String objectsQuery(Connection connection) {
    return "SELECT 'function', ROUTINE_NAME, '' FROM INFORMATION_SCHEMA.ROUTINES"
        + " WHERE ROUTINE_SCHEMA <> 'INFORMATION_SCHEMA'"
        + " UNION ALL SELECT 'type', DOMAIN_NAME, '' FROM INFORMATION_SCHEMA.DOMAINS"
        + " WHERE DOMAIN_SCHEMA <> 'INFORMATION_SCHEMA'"
        + " UNION ALL SELECT 'view', TABLE_SCHEMA || U&'\\000a' || TABLE_NAME, ''"
        + " FROM INFORMATION_SCHEMA.VIEWS WHERE TABLE_SCHEMA <> 'INFORMATION_SCHEMA'";
  }

  @Override
  Optional<String> noteOnRights(Connection connection) throws SQLException {
    List<String> user =
        row(
            connection,
            "SELECT USER_NAME FROM INFORMATION_SCHEMA.SYSTEM_USERS"
                + " WHERE USER_NAME = CURRENT_USER AND ADMIN");
    return user.isEmpty()
        ? Optional.empty()
        : Optional.of(
            "the user "
                + user.get(0)
                + " is an administrator; for reading it is enough to have: CREATE USER READER"
                + " PASSWORD '…'; GRANT SELECT ON TABLE … TO READER");
  }

  private static Connection connect(String url, Properties properties) throws SQLException {
    return Objects.requireNonNull(JDBCDriver.getConnection(url, properties));
  }

  /** Who loads owns a schema and nothing else; the administrator leaves. */
  @Override
  Connection open(Limits limits, boolean small) throws SQLException {
    String url = "jdbc:hsqldb:mem:lantrel_" + UUID.randomUUID();
    try (Connection first = connect(url, user("SA"))) {
      execute(
          first,
          List.of(
              "CREATE USER LOADER PASSWORD ''",
              "CREATE SCHEMA SAMPLE AUTHORIZATION LOADER",
              "ALTER USER LOADER SET INITIAL SCHEMA SAMPLE"));
      return connect(url, user("LOADER"));
    }
  }

  private static Properties user(String name) {
    Properties properties = new Properties();
    properties.setProperty("user", name);
    properties.setProperty("password", "");
    // In memory it would stay when the last connection ends.
    properties.setProperty("shutdown", "true");
    return properties;
  }

  @Override
  Connection seal(Connection connection) throws SQLException {
    connection.setReadOnly(true);
    return connection;
  }

  @Override
  String type(ColumnType type) {
    return isEndlessText(type) ? "LONGVARCHAR" : super.type(type);
  }

  @Override
  List<Integer> decimalDefaults() {
    return List.of(128, 0);
  }

  @Override
  boolean mixesUpWith() {
    return true;
  }

  @Override
  boolean holdsTimeLimits() {
    return true;
  }

  @Override
  Catalog catalog(Connection connection) throws SQLException {
    return new CatalogReader(connection, dialect())
        .withSearchPath("VALUES(CURRENT_SCHEMA)")
        .withoutSchemas("INFORMATION_SCHEMA", "SYSTEM_LOBS")
        .withViews(CatalogReader.STANDARD_VIEWS)
        .read();
  }

  @Override
  Reason reason(SQLException failure) {
    String state = String.valueOf(failure.getSQLState());
    if (state.equals("40502") || state.equals("57014")) {
      return Reason.TOOK_TOO_LONG;
    }
    // "User lacks privilege or object not found": it does not tell which.
    return state.equals("42501") ? Reason.REFUSED : super.reason(failure);
  }

  /** Class 42, 581 to 591: unexpected tokens and the like. */
  @Override
  boolean isSyntax(SQLException failure) {
    return String.valueOf(failure.getSQLState()).matches("4258\\d|42590|42591");
  }

  @Override
  String words(SQLException failure) {
    return super.words(failure).replaceFirst(" in statement \\[.*$", "");
  }
}
