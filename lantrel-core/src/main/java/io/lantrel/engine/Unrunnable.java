package io.lantrel.engine;

import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Queries that are not run: those whose values are missing, and those that call functions of the
 * products which do something that no rollback undoes, or that a read-only transaction lets
 * through: they take numbers from sequences, write files, reach other databases, end sessions,
 * change settings or hold locks.
 */
final class Unrunnable {

  private static final Set<String> NAMES =
      Set.of(
          // sequences
          "nextval",
          "setval",
          // files and other databases
          "csvwrite",
          "file_write",
          "link_schema",
          "load_extension",
          "lo_export",
          "lo_import",
          "postgres_execute",
          "mysql_execute",
          "write_log",
          "writefile",
          // sessions, settings and the server itself
          "abort_session",
          "cancel_session",
          "enable_logging",
          "force_checkpoint",
          "checkpoint",
          "set",
          "set_config",
          "spider_bg_direct_sql",
          "spider_direct_sql",
          "sys_exec",
          "sys_eval",
          "truncate_duckdb_logs",
          // locks
          "get_lock",
          "release_lock",
          "release_all_locks");

  private static final List<String> BEGINNINGS =
      List.of(
          "dblink",
          "pg_advisory_",
          "pg_backup_",
          "pg_cancel_",
          "pg_create_",
          "pg_copy_",
          "pg_drop_",
          "pg_file_",
          "pg_import_",
          "pg_log_backend",
          "pg_logical_",
          "pg_notify",
          "pg_promote",
          "pg_reload_",
          "pg_replication_origin_",
          "pg_replication_slot_advance",
          "pg_restore_",
          "pg_rotate_",
          "pg_start_",
          "pg_stat_reset",
          "pg_stop_",
          "pg_switch_",
          "pg_terminate_",
          "pg_try_advisory_",
          "pg_wal_replay_");

  private Unrunnable() {}

  /** Why a query is not run, in a sentence; empty if nothing speaks against it. */
  static Optional<String> because(Query query) {
    Optional<String> acting =
        query
            .preorder()
            .flatMap(Unrunnable::acting)
            .findFirst()
            .map(name -> name + " does more than read, so Lantrel does not run this query");
    return acting.or(
        () ->
            query
                .openParameter()
                .map(
                    parameter ->
                        "the parameter "
                            + parameter.text()
                            + " has no value here; write a value in its place"));
  }

  private static Stream<String> acting(Node node) {
    if (node instanceof FunctionCall call) {
      return Stream.of(call.name().get(call.name().size() - 1).text()).filter(Unrunnable::acts);
    }
    if (node instanceof Value.Literal literal && literal.text().startsWith("NEXT VALUE")) {
      return Stream.of(literal.text());
    }
    // MariaDB has a sequence give its next number by this name, too.
    if (node instanceof Value.ColumnName column && column.name().means("nextval")) {
      return Stream.of(column.name().text());
    }
    return Stream.empty();
  }

  private static boolean acts(String name) {
    String key = Identifier.key(name);
    return NAMES.contains(key) || BEGINNINGS.stream().anyMatch(key::startsWith);
  }
}
