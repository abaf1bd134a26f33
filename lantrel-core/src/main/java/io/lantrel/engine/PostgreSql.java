package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.sql.Dialect;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Objects;
import java.util.Properties;
import org.postgresql.Driver;

/**
 * PostgreSQL. The transactions are read-only, which the server holds against everything but a few
 * functions (see {@link Unrunnable}); the time limit is the server's too, should this program die.
 */
final class PostgreSql extends Product {

  private static final String VIEWS =
      "SELECT schemaname, viewname, definition FROM pg_catalog.pg_views"
          + " WHERE schemaname NOT IN ('pg_catalog', 'information_schema')";

  /** The driver tells unique indexes of one table at a time only. */
  private static final String UNIQUE_KEYS =
      "SELECT n.nspname AS \"TABLE_SCHEM\", t.relname AS \"TABLE_NAME\", i.relname AS \"INDEX_NAME\","
          + " k.n AS \"ORDINAL_POSITION\", a.attname AS \"COLUMN_NAME\","
          + " pg_catalog.pg_get_expr(x.indpred, x.indrelid) AS \"FILTER_CONDITION\""
          + " FROM pg_catalog.pg_index x"
          + " JOIN pg_catalog.pg_class t ON t.oid = x.indrelid"
          + " JOIN pg_catalog.pg_class i ON i.oid = x.indexrelid"
          + " JOIN pg_catalog.pg_namespace n ON n.oid = t.relnamespace"
          + " CROSS JOIN LATERAL unnest(x.indkey) WITH ORDINALITY AS k (attnum, n)"
          + " LEFT JOIN pg_catalog.pg_attribute a"
          + " ON a.attrelid = t.oid AND a.attnum = k.attnum AND k.attnum > 0"
          + " WHERE x.indisunique AND x.indisvalid AND NOT x.indisprimary AND k.n <= x.indnkeyatts"
          + " AND n.nspname NOT IN ('pg_catalog', 'pg_toast')"
          + " ORDER BY 1, 2, 3, 4";

  @Override
  String urlPrefix() {
    return "jdbc:postgresql:";
  }

  @Override
  String title() {
    return "PostgreSQL";
  }

  @Override
  Dialect dialect() {
    return Dialect.POSTGRESQL;
  }

  @Override
  Connection connect(Access access) throws SQLException {
    Properties properties = access.properties();
    properties.setProperty("ApplicationName", "lantrel");
    properties.setProperty("connectTimeout", String.valueOf(Access.CONNECT_SECONDS));
    properties.setProperty("loginTimeout", String.valueOf(Access.CONNECT_SECONDS));
    properties.setProperty("tcpKeepAlive", "true");
    properties.setProperty(
        "options",
        "-c default_transaction_read_only=on -c statement_timeout="
            + access.timeout().plusSeconds(2).toMillis());
    Connection connection = Objects.requireNonNull(new Driver().connect(access.url(), properties));
    connection.setAutoCommit(false);
    // Each transaction then begins with BEGIN READ ONLY.
    connection.setReadOnly(true);
    return connection;
  }

  @Override
  Catalog catalog(Connection connection) throws SQLException {
    return new CatalogReader(connection, dialect())
        .withSearchPath("SELECT unnest(current_schemas(false))")
        .withoutSchemas("pg_catalog", "information_schema", "pg_toast")
        .withViews(VIEWS)
        .withUniqueKeys(UNIQUE_KEYS)
        .allTablesAtOnce()
        .read();
  }

  /**
   * The driver takes a question mark for a parameter, even in an operator, unless it is doubled.
   */
  @Override
  void plan(Connection connection, String sql) throws SQLException {
    StringBuilder doubled = new StringBuilder();
    char quote = 0;
    for (int i = 0; i < sql.length(); i++) {
      char sign = sql.charAt(i);
      if (quote == 0 && (sign == '\'' || sign == '"')) {
        quote = sign;
      } else if (sign == quote) {
        quote = 0;
      }
      doubled.append(quote == 0 && sign == '?' ? "??" : String.valueOf(sign));
    }
    super.plan(connection, doubled.toString());
  }

  @Override
  String words(SQLException failure) {
    return super.words(failure).replaceFirst("^(?:ERROR|FATAL): ", "");
  }
}
