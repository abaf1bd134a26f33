package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.engine.harmless.DatabaseObjects;
import io.lantrel.sql.Dialect;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import org.postgresql.Driver;

/**
 * PostgreSQL. The transactions are read-only, which the server holds against everything but a few
 * functions (see {@code harmless}); the time limit is the server's too, should this program die.
 */
final class PostgreSql extends Product {

  /** A partition is the rows of its table that meet its condition. */
  private static final String VIEWS =
      "SELECT schemaname, viewname, definition FROM pg_catalog.pg_views"
          + " WHERE schemaname NOT IN ('pg_catalog', 'information_schema')"
          + " UNION ALL SELECT n.nspname, c.relname, pg_catalog.format('SELECT * FROM %I.%I WHERE %s',"
          + " m.nspname, p.relname,"
          + " COALESCE(pg_catalog.pg_get_partition_constraintdef(c.oid), 'true'))"
          + " FROM pg_catalog.pg_inherits i JOIN pg_catalog.pg_class c ON c.oid = i.inhrelid"
          + " JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace"
          + " JOIN pg_catalog.pg_class p ON p.oid = i.inhparent"
          + " JOIN pg_catalog.pg_namespace m ON m.oid = p.relnamespace WHERE c.relispartition";

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

  /** Functions of the product that are volatile and yet only compute. */
  private static final String HARMLESS_VOLATILE =
      "'random', 'random_normal', 'clock_timestamp', 'timeofday', 'gen_random_uuid', 'array_sample',"
          + " 'array_shuffle', 'pg_relation_size', 'pg_total_relation_size', 'pg_table_size',"
          + " 'pg_indexes_size', 'pg_database_size', 'bernoulli', 'system'";

  /**
   * What users and extensions added. Operators and conversions that are written in C and immutable
   * count as harmless, since only superusers can add such: types of extensions could not be
   * compared otherwise. So do immutable functions of an extension that a superuser owns, and
   * aggregates made of such in C: with citext there is a MIN and a REPLACE of its own. That only
   * means that a known name stays known; no other function does.
   */
  private static final String OBJECTS =
      "WITH f AS (SELECT p.oid, p.proname, p.proargtypes, p.pronargs, l.lanname IN ('c', 'internal')"
          + " AND p.provolatile = 'i' AS plain, p.provolatile = 'i' AND EXISTS (SELECT 1"
          + " FROM pg_catalog.pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e'"
          + " AND d.classid = 'pg_catalog.pg_proc'::pg_catalog.regclass) AND EXISTS (SELECT 1"
          + " FROM pg_catalog.pg_roles r WHERE r.oid = p.proowner AND r.rolsuper)"
          + " AND NOT EXISTS (SELECT 1 FROM pg_catalog.pg_aggregate a JOIN pg_catalog.pg_proc s"
          + " ON s.oid IN (a.aggtransfn, a.aggfinalfn, a.aggcombinefn, a.aggserialfn,"
          + " a.aggdeserialfn, a.aggmtransfn, a.aggminvtransfn, a.aggmfinalfn)"
          + " JOIN pg_catalog.pg_language k ON k.oid = s.prolang WHERE a.aggfnoid = p.oid"
          + " AND (s.provolatile <> 'i' OR k.lanname NOT IN ('c', 'internal'))) AS extends"
          + " FROM pg_catalog.pg_proc p"
          + " JOIN pg_catalog.pg_language l ON l.oid = p.prolang"
          + " JOIN pg_catalog.pg_namespace n ON n.oid = p.pronamespace"
          + " WHERE n.nspname NOT IN ('pg_catalog', 'information_schema'))"
          + " SELECT 'function', proname::text, '' FROM f WHERE NOT extends"
          + " UNION SELECT 'function', proname::text, '' FROM pg_catalog.pg_proc"
          + " WHERE pronamespace = 'pg_catalog'::pg_catalog.regnamespace AND provolatile = 'v'"
          + " AND proname NOT IN ("
          + HARMLESS_VOLATILE
          + ") UNION SELECT 'field', f.proname::text, '' FROM f JOIN pg_catalog.pg_type t"
          + " ON t.oid = f.proargtypes[0] WHERE f.pronargs >= 1 AND t.typtype IN ('c', 'p')"
          + " UNION SELECT 'operator', o.oprname::text, '' FROM pg_catalog.pg_operator o"
          + " JOIN f ON f.oid = o.oprcode WHERE NOT f.plain"
          + " UNION SELECT 'cast', f.proname::text, '' FROM pg_catalog.pg_cast c"
          + " JOIN f ON f.oid = c.castfunc WHERE c.castcontext = 'i' AND NOT f.plain"
          + " UNION SELECT 'type', t.typname::text, '' FROM pg_catalog.pg_type t"
          + " JOIN pg_catalog.pg_namespace n ON n.oid = t.typnamespace"
          + " WHERE n.nspname <> 'information_schema' AND (EXISTS (SELECT 1"
          + " FROM pg_catalog.pg_constraint c WHERE c.contypid = t.oid) OR EXISTS (SELECT 1"
          + " FROM pg_catalog.pg_attribute a JOIN pg_catalog.pg_constraint c"
          + " ON c.contypid = a.atttypid WHERE a.attrelid = t.typrelid))"
          + " UNION SELECT 'view', n.nspname || chr(10) || c.relname, ''"
          + " FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace"
          + " WHERE c.relkind = 'v' AND n.nspname NOT IN ('pg_catalog', 'information_schema')"
          + " UNION SELECT 'table', n.nspname || chr(10) || c.relname,"
          + " 'the foreign-data wrapper ' || w.fdwname FROM (WITH RECURSIVE up AS (SELECT ftrelid AS"
          + " leaf, ftrelid AS rel FROM pg_catalog.pg_foreign_table UNION SELECT up.leaf, i.inhparent"
          + " FROM up JOIN pg_catalog.pg_inherits i ON i.inhrelid = up.rel) SELECT * FROM up) AS u"
          + " JOIN pg_catalog.pg_foreign_table t ON t.ftrelid = u.leaf"
          + " JOIN pg_catalog.pg_foreign_server s ON s.oid = t.ftserver"
          + " JOIN pg_catalog.pg_foreign_data_wrapper w ON w.oid = s.srvfdw"
          + " JOIN pg_catalog.pg_class c ON c.oid = u.rel"
          + " JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace"
          + " UNION SELECT 'condition', n.nspname || chr(10) || c.relname,"
          + " '(' || pg_catalog.pg_get_expr(p.polqual, p.polrelid) || ')'"
          + " FROM pg_catalog.pg_policy p JOIN pg_catalog.pg_class c ON c.oid = p.polrelid"
          + " JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace"
          + " WHERE c.relrowsecurity AND p.polqual IS NOT NULL";

  /**
   * What Lantrel asks of the catalog itself: names mean what the product has, whatever somebody put
   * before it. Gone with the transaction.
   */
  private static final String ONLY_OWN_NAMES = "SET LOCAL search_path = pg_catalog";

  private static final String RIGHTS =
      "SELECT current_user, r.rolsuper, (SELECT bool_or(pg_catalog.pg_has_role(x.oid, 'USAGE'))"
          + " FROM pg_catalog.pg_roles x WHERE x.rolname IN ('pg_write_server_files',"
          + " 'pg_read_server_files', 'pg_execute_server_program')), EXISTS (SELECT 1"
          + " FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace"
          + " WHERE c.relkind IN ('r', 'p') AND n.nspname !~ '^pg_' AND n.nspname <>"
          + " 'information_schema' AND pg_catalog.has_table_privilege(c.oid,"
          + " 'INSERT, UPDATE, DELETE, TRUNCATE')) FROM pg_catalog.pg_roles r"
          + " WHERE r.rolname = current_user";

  @Override
  String urlPrefix() {
    return "jdbc:postgresql:";
  }

  @Override
  Optional<DriverClass> driver() {
    return Optional.of(new DriverClass("org.postgresql.Driver", "org.postgresql:postgresql"));
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
    // Whoever waits has left long before; this is for the thread that was left alone.
    properties.setProperty(
        "socketTimeout", String.valueOf(access.limits().time().toSeconds() + SOCKET_GRACE));
    properties.setProperty(
        "options",
        "-c default_transaction_read_only=on -c standard_conforming_strings=on"
            + " -c statement_timeout="
            + access.limits().time().plusSeconds(2).toMillis());
    Connection connection = connected(new Driver(), access.url(), properties);
    return settled(connection, () -> reading(connection));
  }

  @Override
  void lend(Connection connection, Limits limits, PutBack back) throws SQLException {
    set(connection, "standard_conforming_strings", "on", back);
    String most = String.valueOf(limits.time().plusSeconds(2).toMillis());
    set(connection, "statement_timeout", most, back);
    super.lend(connection, limits, back);
    reading(connection);
  }

  private static void reading(Connection connection) throws SQLException {
    connection.setAutoCommit(false);
    connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
    // Each transaction then begins with BEGIN READ ONLY.
    connection.setReadOnly(true);
    verify(connection);
  }

  private static void set(Connection connection, String name, String value, PutBack back)
      throws SQLException {
    String old = row(connection, "SELECT pg_catalog.current_setting('" + name + "')").get(0);
    back.with(() -> set(connection, name, old));
    set(connection, name, value);
  }

  private static void set(Connection connection, String name, String value) throws SQLException {
    try (PreparedStatement setting =
        connection.prepareStatement("SELECT pg_catalog.set_config(?, ?, false)")) {
      setting.setString(1, name);
      setting.setString(2, value);
      setting.executeQuery().close();
    }
  }

  /** What a database or a role is set to can win over what a session asks for. */
  private static void verify(Connection connection) throws SQLException {
    List<String> settings =
        row(
            connection,
            "SELECT pg_catalog.current_setting('standard_conforming_strings'),"
                + " pg_catalog.current_setting('transaction_read_only'),"
                + " pg_catalog.current_setting('client_encoding')");
    if (!settings.equals(List.of("on", "on", "UTF8"))) {
      throw unsafe(
          "the session is not what was asked for: standard_conforming_strings, read only and UTF-8"
              + " are "
              + String.join(", ", settings));
    }
    connection.rollback();
  }

  @Override
  Savepoint savepoint(Connection connection) throws SQLException {
    return connection.setSavepoint("lantrel");
  }

  @Override
  String objectsQuery(Connection connection) {
    return OBJECTS;
  }

  @Override
  DatabaseObjects objects(Connection connection) throws SQLException {
    execute(connection, List.of(ONLY_OWN_NAMES));
    return super.objects(connection);
  }

  @Override
  Optional<String> noteOnRights(Connection connection) throws SQLException {
    execute(connection, List.of(ONLY_OWN_NAMES));
    List<String> rights = row(connection, RIGHTS);
    String user = rights.get(0);
    String may =
        rights.get(1).equals("t")
            ? "is a superuser"
            : rights.get(2).equals("t")
                ? "may read or write files of the server or run programs there"
                : rights.get(3).equals("t") ? "may change rows" : "";
    return may.isEmpty()
        ? Optional.empty()
        : Optional.of(
            "the user "
                + user
                + " "
                + may
                + "; for reading it is enough to have: CREATE ROLE reader LOGIN; GRANT USAGE ON SCHEMA"
                + " public TO reader; GRANT SELECT ON ALL TABLES IN SCHEMA public TO reader");
  }

  @Override
  Catalog catalog(Connection connection) throws SQLException {
    return new CatalogReader(connection, dialect())
        .withSearchPath("SELECT pg_catalog.unnest(pg_catalog.current_schemas(false))")
        .thenExecuting(ONLY_OWN_NAMES)
        .withoutSchemas("pg_catalog", "information_schema", "pg_toast")
        .withViews(VIEWS)
        .withUniqueKeys(UNIQUE_KEYS)
        .allTablesAtOnce()
        .read();
  }

  /** Preparing a statement would not tell whether the user may run it; explaining it does. */
  @Override
  void plan(Connection connection, String sql, TimeLimit time) throws SQLException {
    try (Statement statement = statement(connection, 1)) {
      time.watch(statement);
      statement.executeQuery("EXPLAIN (COSTS OFF) " + sql).close();
    }
  }

  /** Its driver would take the operator ? of a statement that is prepared for a parameter. */
  @Override
  List<ResultColumn> columns(Connection connection, String sql, TimeLimit time)
      throws SQLException {
    try (Statement statement = statement(connection, 1)) {
      time.watch(statement);
      String none = "SELECT * FROM (" + sql + ") AS " + SampleData.RESERVED + "none LIMIT 0";
      try (ResultSet result = statement.executeQuery(none)) {
        return columns(result.getMetaData());
      }
    }
  }

  @Override
  String words(SQLException failure) {
    return super.words(failure).replaceFirst("^(?:ERROR|FATAL): ", "");
  }
}
