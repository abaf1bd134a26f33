package io.lantrel.engine.harmless;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.SchemaFile;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import java.util.Optional;
import java.util.Set;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What may run, decided without a database. */
public class PermissionTest {

  private static final String SCHEMA =
      "CREATE TABLE river (id INTEGER, name VARCHAR(9)); CREATE TABLE linked (id INTEGER);"
          + " CREATE TABLE guarded (id INTEGER); CREATE TABLE unread (id INTEGER);"
          + " CREATE VIEW plain AS SELECT id FROM river;"
          + " CREATE VIEW acting AS SELECT nextval('c') AS n FROM river;"
          + " CREATE VIEW over AS SELECT n FROM acting;";

  private static Permission permission(Dialect dialect, String... allowed) {
    DatabaseObjects objects = DatabaseObjects.none();
    objects.add("function", "own", "");
    objects.add("function", "upper", "");
    objects.add("field", "own", "");
    objects.add("operator", "@@", "");
    objects.add("type", "mood", "");
    objects.add("view", DatabaseObjects.key("", "unread"), "");
    objects.add("table", DatabaseObjects.key("", "linked"), "the wrapper file_reader");
    objects.add("condition", DatabaseObjects.key("", "guarded"), "own(id)");
    Catalog catalog = SchemaFile.read(new SourceText(SCHEMA), dialect).catalog();
    return new Permission(catalog, objects, Set.of(allowed));
  }

  @DataProvider
  static Object[][] refused() {
    return new Object[][] {
      {"SELECT own(1) FROM river", "the function own"},
      {"SELECT OWN(1) FROM river", "the function OWN"},
      {"SELECT upper(name) FROM river", "the function upper"},
      {"SELECT public.lower(name) FROM river", "the function public.lower"},
      {"SELECT \"Lower\"(name) FROM river", "the function Lower"},
      {"SELECT l\u0131wer(name) FROM river", "the function l\u0131wer"},
      {"SELECT pg_read_file('a') FROM river", "the function pg_read_file"},
      {"SELECT 1 FROM river ORDER BY setval('a', 1)", "the function setval"},
      {"SELECT 1 FROM river TABLESAMPLE bernoulli (own(1))", "the function own"},
      {"SELECT 1 FROM river TABLESAMPLE odd (1)", "the function odd"},
      {"SELECT JSON_VALUE(name, '$' DEFAULT own(1) ON EMPTY) FROM river", "the function own"},
      {"SELECT r.own FROM river r", "the function own, which is called like a column,"},
      {"SELECT 1 FROM river WHERE id @@ 2", "the operator @@"},
      {"SELECT 1 FROM river WHERE id OPERATOR(public.@@) 2", "the operator @@"},
      {"SELECT CAST(id AS mood) FROM river", "the type mood"},
      {"SELECT CAST(id AS public.mood[]) FROM river", "the type mood"},
      {"SELECT mood 'x' FROM river", "the type mood"},
      {"SELECT JSON_VALUE(name, '$' RETURNING mood) FROM river", "the type mood"},
      {"SELECT * FROM JSON_TABLE(name, '$' COLUMNS (a mood PATH '$')) AS j", "the type mood"},
      {"SELECT * FROM json_to_record('{}') AS x (a mood)", "the type mood"},
      {"SELECT json_populate_record(r, '{}') FROM river r", "the function json_populate_record"},
      {"SELECT pg_input_is_valid('1', 'mood')", "the function pg_input_is_valid"},
      {"SELECT n FROM acting", "behind the view acting: the function nextval"},
      {"SELECT n FROM over", "behind the view over: behind the view acting: the function nextval"},
      {"SELECT id FROM linked", "the wrapper file_reader, which is behind the table linked,"},
      {"SELECT id FROM guarded", "in the row security of the table guarded: the function own"},
      {"SELECT id FROM unread", "the view unread, which Lantrel cannot read,"},
      {"SELECT id FROM nowhere", "the table nowhere is not among those that were read"},
      {"SELECT id FROM other.river_x", "the table other.river_x is not among those"},
      {"WITH t AS (SELECT own(1) AS a) SELECT a FROM t", "the function own"},
      {"SELECT 1 FROM river UNION SELECT own(1)", "the function own"},
      {"SELECT NEXT VALUE FOR c FROM river", "draws a number from a sequence"},
    };
  }

  @Test(dataProvider = "refused")
  public void whatIsNotKnownDoesNotRun(String sql, String reason) {
    Dialect dialect = Dialect.POSTGRESQL;
    Optional<String> refusal = permission(dialect).refusal(SqlReader.readQuery(sql, dialect));
    assertThat(refusal).as(sql).isPresent();
    assertThat(refusal.get()).contains(reason);
  }

  @DataProvider
  static Object[][] allowed() {
    return new Object[][] {
      {"SELECT pg_catalog.lower(name), COUNT(*), r.id FROM river r GROUP BY 1, 3", ""},
      {"SELECT id FROM plain, pg_class, information_schema.tables", ""},
      {"WITH nowhere AS (SELECT id FROM river) SELECT id FROM nowhere", ""},
      {"SELECT own(1) FROM river", "own"},
      {"SELECT OWN(1), r.own FROM river r", "Own"},
      {"SELECT public.own(1) FROM river", "public.own"},
      {"SELECT upper(name) FROM river", "upper"},
      {"SELECT 1 FROM river WHERE id @@ 2", "@@"},
      {"SELECT CAST(id AS mood) FROM river", "mood"},
      {"SELECT n FROM over", "nextval"},
      {"SELECT n FROM over", "over"},
      {"SELECT id FROM linked", "the wrapper file_reader"},
      {"SELECT id FROM linked", "linked"},
      {"SELECT id FROM guarded", "guarded"},
      {"SELECT id FROM unread", "unread"},
    };
  }

  @Test(dataProvider = "allowed")
  public void whatIsKnownOrAllowedByNameRuns(String sql, String name) {
    Dialect dialect = Dialect.POSTGRESQL;
    assertThat(permission(dialect, name).refusal(SqlReader.readQuery(sql, dialect))).isEmpty();
  }

  @Test
  public void everyProductHasItsList() {
    for (Dialect dialect : Dialect.values()) {
      assertThat(HarmlessFunctions.of(dialect)).contains("count", "upper", "cast");
      assertThat(HarmlessFunctions.of(dialect))
          .allMatch(name -> name.matches("[a-z_][a-z0-9_]*"))
          .doesNotContain(
              "nextval",
              "setval",
              "pg_read_file",
              "load_file",
              "file_read",
              "csvwrite",
              "query",
              "read_csv",
              "load_extension",
              "set_config",
              "get_lock",
              "dblink",
              "sleep",
              "pg_sleep");
    }
  }
}
