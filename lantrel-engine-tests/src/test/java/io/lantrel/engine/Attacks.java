package io.lantrel.engine;

import java.util.ArrayList;
import java.util.List;

/**
 * Texts that try to have a database do more than answer: by what Lantrel and the database might
 * read in two ways, and by calling what acts. Each is tried on every engine, whichever it was made
 * for.
 */
final class Attacks {

  /** What is to be smuggled in. */
  private static final List<String> WRITES =
      List.of(
          "DELETE FROM precious",
          "INSERT INTO written VALUES (9)",
          "DROP TABLE precious",
          "CREATE TABLE intruder (id INTEGER)");

  /** Where a second statement, or a clause, could come along. */
  private static final List<String> READ_IN_TWO_WAYS =
      List.of(
          "{W}",
          "SELECT 1; {W}",
          "SELECT 1 AS a; ; {W}; SELECT 2 AS b",
          "WITH d AS ({W} RETURNING *) SELECT * FROM d",
          "SELECT * FROM ({W} RETURNING *) AS d",
          "SELECT id FROM precious // ' \n; {W} -- '",
          "SELECT id // 2; {W} \n FROM precious",
          "SELECT 'a' // ' ; {W} ; // \n",
          "SELECT 'a\\'; {W}; -- '",
          "SELECT 'a\\\\'; {W}; -- '",
          "SELECT 'a\\' AS b, ' ; {W} ; -- ' FROM precious",
          "SELECT 'a\\''; {W}; -- '",
          "SELECT \"a\\\"; {W}; -- \"",
          "SELECT \"a\\\\\"; {W}; -- \"",
          "SELECT \"a\"\"; {W}; -- \"",
          "SELECT id AS \"a\\\" FROM precious; {W}; -- \"",
          "SELECT E'a\\'; {W}; -- '",
          "SELECT e'a\\\\\\'; {W}; -- '",
          "SELECT E'a''\\'; {W}; -- '",
          "SELECT N'a\\'; {W}; -- '",
          "SELECT _utf8mb4'a\\'; {W}; -- '",
          "SELECT X'27'; {W}; -- '",
          "SELECT X'4\\'; {W}; -- '",
          "SELECT B'1\\'; {W}; -- '",
          "SELECT U&'a\\0027; {W}; -- '",
          "SELECT U&'a\\'; {W}; -- '",
          "SELECT U&\"a\\0022; {W}; -- \"",
          "SELECT $$a'; {W}; -- $$",
          "SELECT $$a; {W}; --",
          "SELECT $x$ $$ $x$; {W}; -- $$",
          "SELECT $x$ '; {W}; -- $X$",
          "SELECT a$$ FROM precious; {W}; -- $$",
          "SELECT `a``; {W}; -- `",
          "SELECT `a\\`; {W}; -- `",
          "SELECT [a]]; {W}; -- ]",
          "SELECT 1 # ' \n; {W} -- '",
          "SELECT 1 #> '\n; {W}; -- '",
          "SELECT 1 # \r; {W}",
          "SELECT 1 -- \r; {W}",
          "SELECT 1 --; {W}\n",
          "SELECT 5--3; {W}\n",
          "SELECT 5 --\u00a0; {W}",
          "SELECT id FROM precious /*; {W}; */",
          "SELECT 1 /* /* */ ; {W}; */ */",
          "SELECT 1 /* ; {W}",
          "SELECT 1 /*! ; {W} */",
          "SELECT 1 /*!99999 ; {W} */",
          "SELECT 1 /*M! ; {W} */",
          "SELECT 1 /*!50000 AS a FROM precious */; {W}",
          "SELECT id FROM precious /*! INTO OUTFILE '{F}/a' */",
          "SELECT id FROM precious /*M!100100 INTO OUTFILE '{F}/b' */",
          "SELECT id FROM precious INTO OUTFILE '{F}/c'",
          "SELECT id INTO DUMPFILE '{F}/d' FROM precious",
          "SELECT * INTO stolen FROM precious",
          "SELECT '\u0000'; {W}; -- '",
          "SELECT 'a\u0000'; {W}",
          "SELECT 'a\u00bf\\'; {W}; -- '",
          "SELECT '\ud800'; {W}; -- '",
          "SELECT 1 AS \u0131nto; {W}",
          "SELECT 1\u037e {W}",
          "SELECT 1\uff1b {W}",
          "SELECT \u2019a\u2019; {W}",
          "SELECT 1 AS a\u2028; {W}",
          "SELECT {fn NOW()}; {W}",
          "SELECT {d '2026-01-01'}; {W}",
          "SELECT ?; {W}",
          "SELECT :a; {W}",
          "SELECT @a := 1; {W}",
          "DELIMITER // \n SELECT 1 // {W} //",
          "EXPLAIN ANALYZE {W}",
          "EXPLAIN {W}",
          "PREPARE p FROM '{W}'",
          "EXECUTE IMMEDIATE '{W}'",
          "BEGIN; {W}; COMMIT",
          "SELECT 1; COMMIT; {W}",
          "SET autocommit = 1; {W}");

  private static final List<String> STATEMENTS =
      List.of(
          "EXPLAIN ANALYZE DELETE FROM precious",
          "CALL write_row(7)",
          "TRUNCATE TABLE precious",
          "COPY precious TO '{F}/e'",
          "COPY (SELECT 1) TO PROGRAM 'touch {F}/f'",
          "EXPORT DATABASE '{F}/g'",
          "ATTACH '{F}/h.db' AS h",
          "PRAGMA writable_schema = ON",
          "PRAGMA journal_mode = DELETE",
          "SET GLOBAL general_log = 0",
          "ALTER SYSTEM SET work_mem = '1MB'",
          "LOAD 'x'",
          "INSTALL httpfs",
          "VACUUM INTO '{F}/i.db'",
          "SCRIPT TO '{F}/j.sql'",
          "BACKUP TO '{F}/k.zip'",
          "SHUTDOWN",
          "KILL 1",
          "DO $$ BEGIN DELETE FROM precious; END $$",
          "SELECT id FROM precious FOR UPDATE",
          "LOCK TABLE precious",
          "HANDLER precious OPEN",
          "MERGE INTO precious USING written ON FALSE WHEN NOT MATCHED THEN INSERT VALUES (3)",
          "TABLE precious; DELETE FROM precious",
          "(SELECT 1); (DELETE FROM precious)",
          "FROM precious SELECT id; DELETE FROM precious");

  /** Where a value can stand; what writes is put into each. */
  private static final List<String> POSITIONS =
      List.of(
          "SELECT {E} AS a FROM precious",
          "SELECT id FROM precious WHERE {E} IS NOT NULL",
          "SELECT id FROM precious ORDER BY {E}",
          "SELECT COUNT(*) FROM precious GROUP BY {E}",
          "SELECT id FROM precious GROUP BY id HAVING COUNT(*) > 0 OR {E} IS NULL",
          "SELECT p.id FROM precious p JOIN precious q ON q.id = p.id AND {E} IS NOT NULL",
          "SELECT p.id FROM precious p LEFT JOIN written q ON q.id = {E}",
          "SELECT CASE WHEN {E} IS NULL THEN 1 END AS a FROM precious",
          "SELECT CASE {E} WHEN 1 THEN 1 END AS a FROM precious",
          "WITH t AS (SELECT {E} AS a) SELECT a FROM t",
          "WITH RECURSIVE t (n) AS (SELECT 1 UNION SELECT {E} FROM t WHERE n < 2) SELECT n FROM t",
          "SELECT id FROM precious LIMIT 1 OFFSET {E}",
          "SELECT id FROM precious FETCH FIRST {E} ROWS ONLY",
          "SELECT * FROM (SELECT {E} AS a) AS t",
          "SELECT * FROM precious p, LATERAL (SELECT {E} AS a) AS t",
          "SELECT * FROM LATERAL {E} AS t",
          "SELECT * FROM {E} AS t",
          "SELECT * FROM ROWS FROM ({E}) AS t",
          "SELECT * FROM TABLE({E}) AS t",
          "SELECT id FROM precious TABLESAMPLE BERNOULLI ({E})",
          "SELECT id FROM precious TABLESAMPLE SYSTEM (50) REPEATABLE ({E})",
          "SELECT id FROM precious FOR SYSTEM_TIME AS OF {E}",
          "SELECT SUM(id) OVER (ORDER BY {E}) FROM precious",
          "SELECT SUM(id) OVER (PARTITION BY {E}) FROM precious",
          "SELECT SUM(id) OVER (ORDER BY id ROWS {E} PRECEDING) FROM precious",
          "SELECT COUNT(*) FILTER (WHERE {E} IS NOT NULL) FROM precious",
          "SELECT PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY {E}) FROM precious",
          "SELECT COUNT(DISTINCT {E}) FROM precious",
          "SELECT DISTINCT ON ({E}) id FROM precious",
          "SELECT id FROM precious GROUP BY GROUPING SETS ((id), ({E}))",
          "SELECT id FROM precious WHERE id IN (1, {E})",
          "SELECT id FROM precious WHERE id BETWEEN 0 AND {E}",
          "SELECT id FROM precious WHERE EXISTS (SELECT {E})",
          "SELECT id FROM precious WHERE id = ANY (SELECT {E})",
          "SELECT id FROM precious UNION SELECT {E}",
          "VALUES ({E})",
          "SELECT ARRAY[{E}] FROM precious",
          "SELECT ROW({E}, 1) FROM precious",
          "SELECT CAST({E} AS INTEGER) FROM precious",
          "SELECT SUBSTRING('a' FROM {E}) FROM precious",
          "SELECT TRIM(BOTH 'a' FROM CAST({E} AS VARCHAR(9))) FROM precious",
          "SELECT EXTRACT(DAY FROM CURRENT_DATE + {E}) FROM precious",
          "SELECT JSON_VALUE('{}', '$.a' DEFAULT {E} ON EMPTY) FROM precious",
          "SELECT * FROM JSON_TABLE('[1]', '$[*]' PASSING {E} AS x COLUMNS (a INTEGER PATH '$')) AS j",
          "SELECT * FROM JSON_TABLE('[1]', '$[*]' COLUMNS (a INTEGER PATH '$' DEFAULT {E} ON EMPTY)) j",
          "SELECT LIST_TRANSFORM([1], x -> {E}) FROM precious",
          "SELECT [{E} FOR x IN [1]] FROM precious",
          "SELECT INTERVAL ({E}) DAY FROM precious",
          "SELECT COALESCE(NULL, {E}) FROM precious",
          "SELECT id COLLATE \"C\" || {E} FROM precious");

  private static final List<String> ACTING =
      List.of(
          // sequences
          "nextval('counter')",
          "NEXTVAL(counter)",
          "setval('counter', 99)",
          "SETVAL(counter, 99)",
          "NEXT VALUE FOR counter",
          "counter.nextval",
          "currval('counter')",
          "lastval()",
          // what users made
          "write_row(7)",
          "public.write_row(7)",
          "\"write_row\"(7)",
          "\"WRITE_ROW\"(7)",
          "attacked.write_row(7)",
          "`write_row`(7)",
          "PUBLIC.write_row(7)",
          "main.write_row(7)",
          "honest_liar(7)",
          "lower(7)",
          "abs(precious)",
          "wr\u0131te_row(7)",
          "WRITE_ROW (7)",
          "5 <%> 6",
          "5 OPERATOR(public.<%>) 6",
          "CAST(5 AS checked)",
          "CAST('5' AS checked)",
          "checked '5'",
          "5::checked",
          "CAST(ROW(5) AS holder)",
          // files
          "pg_read_file('/etc/hostname')",
          "pg_ls_dir('/')",
          "lo_import('/etc/hostname')",
          "lo_export(1, '{F}/l')",
          "lo_from_bytea(0, 'x')",
          "lo_creat(-1)",
          "lo_unlink(1)",
          "pg_file_write('{F}/m', 'x', false)",
          "LOAD_FILE('/etc/hostname')",
          "FILE_READ('/etc/hostname')",
          "FILE_WRITE('x', '{F}/n')",
          "CSVWRITE('{F}/o', 'SELECT 1')",
          "CSVREAD('/etc/hostname')",
          "writefile('{F}/p', 'x')",
          "readfile('/etc/hostname')",
          "read_text('/etc/hostname')",
          "read_blob('/etc/*')",
          "read_csv('/etc/hostname')",
          "read_csv('/etc/hostname', store_rejects = true)",
          "glob('/*')",
          "sniff_csv('/etc/hostname')",
          "read_parquet('{F}/q')",
          "read_duckdb('{F}/q')",
          "parquet_metadata('{F}/q')",
          "LOAD_EXTENSION('{F}/r')",
          "load_extension('x', 'y')",
          "edit('x')",
          "fsdir('/')",
          // SQL as a text
          "query_to_xml('DELETE FROM precious', true, true, '')",
          "query_to_xml('SELECT write_row(7)', true, true, '')",
          "table_to_xml('acting_view', true, true, '')",
          "cursor_to_xml('c', 1, true, true, '')",
          "database_to_xml(true, true, '')",
          "schema_to_xml('public', true, true, '')",
          "ts_stat('SELECT to_tsvector(CAST(write_row(7) AS TEXT))')",
          "ts_rewrite(CAST('a' AS tsquery), 'SELECT write_row(7)')",
          "dblink_exec('dbname=attacked', 'DELETE FROM precious')",
          "dblink('dbname=attacked', 'SELECT write_row(7)')",
          "query('SELECT 1')",
          "query_table('precious')",
          "json_execute_serialized_sql('{}')",
          "json_serialize_plan('SELECT 1')",
          "LINK_SCHEMA('A', '', 'jdbc:h2:mem:b', '', '', 'B')",
          "DATA_TYPE_SQL('A', 'B', 'C', 'D')",
          "crosstab('SELECT write_row(7)')",
          // settings, sessions, locks, the server
          "set_config('default_transaction_read_only', 'off', false)",
          "set_config('transaction_read_only', 'off', false)",
          "set_config('a.b', 'c', true)",
          "setseed(0.5)",
          "pg_reload_conf()",
          "pg_rotate_logfile()",
          "pg_terminate_backend({V})",
          "pg_cancel_backend({V})",
          "pg_advisory_lock(1)",
          "pg_try_advisory_lock(2)",
          "pg_advisory_xact_lock(3)",
          "pg_notify('a', 'b')",
          "pg_switch_wal()",
          "pg_create_restore_point('a')",
          "pg_logical_emit_message(false, 'a', 'b')",
          "txid_current()",
          "pg_current_xact_id()",
          "pg_export_snapshot()",
          "pg_sleep(0)",
          "pg_stat_reset()",
          "pg_stat_reset_shared('bgwriter')",
          "pg_promote()",
          "pg_backup_start('a')",
          "pg_create_physical_replication_slot('a')",
          "pg_drop_replication_slot('a')",
          "pg_import_system_collations('public')",
          "pg_log_backend_memory_contexts({V})",
          "GET_LOCK('a', 0)",
          "RELEASE_ALL_LOCKS()",
          "SLEEP(0)",
          "BENCHMARK(1, 1)",
          "LAST_INSERT_ID(5)",
          "MASTER_POS_WAIT('a', 1, 1)",
          "UUID_SHORT()",
          "sys_exec('touch {F}/s')",
          "ABORT_SESSION(1)",
          "CANCEL_SESSION(1)",
          "SIGNAL('45000', 'a')",
          "MEMORY_FREE()",
          "SET(@a, 1)",
          "DATABASE_PATH()",
          "LOCK_TIMEOUT()",
          "IDENTITY()",
          "checkpoint()",
          "force_checkpoint()",
          "enable_logging()",
          "disable_logging()",
          "truncate_duckdb_logs()",
          "write_log('a')",
          "getenv('HOME')",
          "duckdb_secrets()",
          "sleep_ms(1)",
          "which_secret('a', 'b')",
          "pragma_storage_info('precious')",
          "register_external_resource('a')",
          "optimize(1)",
          "fts3_tokenizer('a')",
          "fts3_tokenizer('a', X'00')",
          "sqlite_log(1, 'a')",
          "randomblob(9)",
          "zeroblob(9)",
          "last_insert_rowid()",
          "CRYPT_KEY('a', 'b')",
          "\"java.lang.System.exit\"(0)",
          "\"java.lang.Runtime.getRuntime\"()",
          "xmlparse_x('a')",
          "no_such_function()");

  /** Tables behind which something acts, and tables that are none. */
  private static final List<String> TABLES =
      List.of(
          "acting_view",
          "public.acting_view",
          "view_of_view",
          "guarded",
          "triggered",
          "elsewhere",
          "\"/etc/hostname\"",
          "'/etc/hostname'",
          "\"{F}/t.csv\"",
          "counter",
          "pragma_journal_mode",
          "pragma_wal_checkpoint",
          "sqlite_dbpage",
          "fts5vocab",
          "unknown_table",
          "mysql.general_log",
          "seq_1_to_3",
          "information_schema.no_such",
          "pg_catalog.no_such");

  private Attacks() {}

  /** Those that are about how texts, names and comments are read: for every lexical setting. */
  static List<String> readInTwoWays() {
    List<String> all = new ArrayList<>();
    for (String frame : READ_IN_TWO_WAYS) {
      if (frame.contains("{W}")) {
        WRITES.forEach(write -> all.add(frame.replace("{W}", write)));
      } else {
        all.add(frame);
      }
    }
    return all;
  }

  /** All others. */
  static List<String> acting() {
    List<String> all = new ArrayList<>(STATEMENTS);
    POSITIONS.forEach(frame -> all.add(frame.replace("{E}", "write_row(7)")));
    for (int i = 0; i < ACTING.size(); i++) {
      String one = POSITIONS.get(i % POSITIONS.size());
      String other = i % 2 == 0 ? "SELECT {E}" : "SELECT * FROM {E} AS t";
      all.add(one.replace("{E}", ACTING.get(i)));
      all.add(other.replace("{E}", ACTING.get(i)));
    }
    for (String table : TABLES) {
      all.add("SELECT * FROM " + table);
      all.add("SELECT p.id FROM precious p JOIN " + table + " t ON t.id = p.id");
    }
    all.add("SELECT p.write_field FROM precious p");
    all.add("SELECT (p).write_field FROM precious p");
    all.add("SELECT precious.write_field FROM precious");
    return all;
  }
}
