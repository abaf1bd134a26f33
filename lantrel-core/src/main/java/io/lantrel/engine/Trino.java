package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.engine.DatabaseException.Reason;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Properties;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Trino, a cluster over tables that lie elsewhere. The transactions are read-only; the tables have
 * no keys, and what a transaction sees of them is up to where they lie.
 */
final class Trino extends Product {

  // Codes of errors, io.trino.spi.StandardErrorCode.
  private static final int SYNTAX_ERROR = 1;
  private static final int PERMISSION_DENIED = 4;
  private static final Set<Integer> STOPPED = Set.of(2, 3, 38, 131_075);

  /** Transport of rows, workers that are gone, a coordinator that starts or ends. */
  private static final Set<Integer> LOST =
      Set.of(
          65_537, 65_539, 65_540, 65_541, 65_542, 65_544, 65_545, 65_547, 65_548, 65_553, 65_558,
          65_563);

  /** Whoever connects without a name is somebody all the same. */
  private static final String NOBODY = "lantrel";

  @Override
  String urlPrefix() {
    return "jdbc:trino:";
  }

  @Override
  Optional<DriverClass> driver() {
    return Optional.of(new DriverClass("io.trino.jdbc.TrinoDriver", "io.trino:trino-jdbc"));
  }

  @Override
  String title() {
    return "Trino";
  }

  @Override
  Dialect dialect() {
    return Dialect.TRINO;
  }

  @Override
  Connection connect(Access access) throws SQLException {
    Properties properties = access.properties();
    if (!properties.containsKey("user") && !access.url().matches("(?i).*[?&]user=.*")) {
      properties.setProperty("user", NOBODY);
    }
    Connection connection = DriverManager.getConnection(access.url(), properties);
    return settled(
        connection,
        () -> {
          refuseWithoutCatalog(connection);
          limit(connection, access.limits());
        });
  }

  /** All tables of all catalogs are more than anybody means. */
  private static void refuseWithoutCatalog(Connection connection) throws SQLException {
    if (connection.getCatalog() == null) {
      throw new SQLException(
          "it names no catalog; write it behind the host, as in jdbc:trino://host:8080/catalog/schema");
    }
  }

  @Override
  void lend(Connection connection, Limits limits, PutBack back) throws SQLException {
    refuseWithoutCatalog(connection);
    String old = row(connection, "SHOW SESSION LIKE 'query_max_run_time'").get(1);
    if (limit(connection, limits)) {
      back.with(() -> limit(connection, old));
    }
    lendAutoCommit(connection, back);
  }

  /**
   * A little more than is waited for: this is for when nobody waits any more.
   *
   * @return false if it is not permitted: a query that is waited for is cancelled all the same
   */
  private static boolean limit(Connection connection, Limits limits) throws SQLException {
    try {
      limit(connection, (limits.time().toSeconds() + 2) + "s");
      return true;
    } catch (SQLException refused) {
      if (refused.getErrorCode() != PERMISSION_DENIED) {
        throw refused;
      }
      return false;
    }
  }

  private static void limit(Connection connection, String time) throws SQLException {
    execute(
        connection, List.of("SET SESSION query_max_run_time = '" + time.replace("'", "''") + "'"));
  }

  @Override
  Catalog catalog(Connection connection) throws SQLException {
    // A catalog may hold thousands of tables, and to list them takes its time.
    return new CatalogReader(connection, dialect())
        .ofCatalog(connection.getCatalog(), schema(connection))
        .withoutSchemas("information_schema")
        .withViews(CatalogReader.STANDARD_VIEWS + ofSchema(connection))
        .withoutKeys()
        .read();
  }

  @Override
  String objectsQuery(Connection connection) throws SQLException {
    return "SELECT 'view', table_schema || CHR(10) || table_name, '' FROM"
        + " information_schema.views"
        + ofSchema(connection);
  }

  /** The schema that the URL names; names are stored in small letters there. */
  private static @Nullable String schema(Connection connection) throws SQLException {
    String schema = connection.getSchema();
    return schema == null || schema.isEmpty() ? null : schema.toLowerCase(Locale.ROOT);
  }

  private static String ofSchema(Connection connection) throws SQLException {
    String schema = schema(connection);
    return schema == null ? "" : " WHERE table_schema = '" + schema.replace("'", "''") + "'";
  }

  @Override
  Optional<String> noteOnRights(Connection connection) {
    return Optional.of(
        "Trino has no keys, so what --references does not tell is taken from the rows; and where"
            + " tables change meanwhile, the statements of one answer may see different rows");
  }

  @Override
  String beginning() {
    return "START TRANSACTION READ ONLY";
  }

  /**
   * What the driver tells of a query is read off its text; many a fault shows in the plan alone.
   */
  @Override
  void plan(Connection connection, String sql, TimeLimit time) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      time.watch(statement);
      try (ResultSet plan = statement.executeQuery("EXPLAIN " + sql)) {
        while (plan.next()) {
          time.check();
        }
      }
    }
  }

  /** To close a result that goes on is to stop its query, and with it the transaction. */
  @Override
  boolean readsToTheEnd() {
    return true;
  }

  /** So that there is little to be read to the end. */
  @Override
  Query capped(Query query, int most) {
    Limit limit = query.limit();
    if (limit == null) {
      return limited(query, most);
    }
    boolean more =
        limit.count() instanceof Value.Literal count
            && count.text().matches("[0-9]{1,18}")
            && Long.parseLong(count.text()) > most
            && !limit.withTies();
    return more
        ? new Query(
            query.span(),
            query.recursive(),
            query.with(),
            query.body(),
            query.orderBy(),
            new Limit(Span.NOWHERE, Value.Literal.number(most), limit.skip(), false, false))
        : query;
  }

  @Override
  Statement statement(Connection connection, int rows) throws SQLException {
    return connection.createStatement();
  }

  @Override
  Reason reason(SQLException failure) {
    int code = failure.getErrorCode();
    if (code == PERMISSION_DENIED) {
      return Reason.NO_PERMISSION;
    }
    if (STOPPED.contains(code)) {
      return Reason.TOOK_TOO_LONG;
    }
    boolean unheard =
        code == 0
            && (failure.getCause() instanceof IOException
                || failure.getCause() instanceof UncheckedIOException
                || words(failure).startsWith("Error executing query"));
    return unheard || LOST.contains(code) ? Reason.CONNECTION_LOST : super.reason(failure);
  }

  @Override
  boolean isSyntax(SQLException failure) {
    return failure.getErrorCode() == SYNTAX_ERROR;
  }

  /** The driver puts the number of the query before the message, and an exception's name. */
  @Override
  String words(SQLException failure) {
    return super.words(failure)
        .replaceFirst("^Query failed \\(#[^)]*\\): ", "")
        .replaceFirst("^[a-z]+(?:\\.\\w+)+: ", "")
        // The place is one of what was sent, and not of the user's text.
        .replaceFirst("^line [0-9]+:[0-9]+: ", "");
  }
}
