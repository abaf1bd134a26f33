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
import java.util.Properties;
import java.util.UUID;
import org.h2.Driver;
import org.h2.api.ErrorCode;

/**
 * H2. It passes over a connection's wish to read only; so a file is opened for reading, and sample
 * data is read by a user who may do nothing else.
 */
final class H2 extends EmbeddedProduct {

  @Override
  String urlPrefix() {
    return "jdbc:h2:";
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
    return connect(url + settings, access.properties());
  }

  private static Connection connect(String url, Properties properties) throws SQLException {
    return Objects.requireNonNull(new Driver().connect(url, properties));
  }

  @Override
  Connection open() throws SQLException {
    return connect("jdbc:h2:mem:lantrel_" + UUID.randomUUID(), user("LANTREL"));
  }

  private static Properties user(String name) {
    Properties properties = new Properties();
    properties.setProperty("user", name);
    properties.setProperty("password", "");
    return properties;
  }

  @Override
  Connection seal(Connection connection, long rows) throws SQLException {
    execute(
        connection,
        List.of("CREATE USER READER PASSWORD ''", "GRANT SELECT ON SCHEMA PUBLIC TO READER"));
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
