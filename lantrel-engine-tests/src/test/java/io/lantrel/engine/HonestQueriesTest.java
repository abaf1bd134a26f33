package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import java.io.IOException;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

/** The walls hold off nobody who only asks: unusual functions, texts and names still run. */
public class HonestQueriesTest {

  private static final List<String> EVERYWHERE =
      List.of(
          "SELECT name FROM river WHERE name <> 'it''s; -- /* \"odd\" */ # ?'",
          "SELECT name FROM river WHERE name <> '\\'",
          "SELECT name FROM river WHERE name <> 'a\nb\tc'",
          "SELECT name AS \"a \"\"quoted\"\" name\" FROM river",
          "SELECT name FROM river WHERE name LIKE '%\\_%' ESCAPE '\\'",
          "SELECT name FROM river WHERE name LIKE '%!%%' ESCAPE '!' OR 1 = 1",
          "SELECT UPPER(name), LOWER(name), LENGTH(name) FROM river",
          "SELECT COALESCE(NULLIF(name, 'x'), 'none') FROM river",
          "SELECT ABS(-id), MOD(id, 3), ROUND(id / 3.0, 2) FROM river",
          "SELECT SUBSTRING(name, 1, 3) FROM river",
          "SELECT REPLACE(name, 'e', '\u00e9') FROM river",
          "SELECT COUNT(DISTINCT name), MIN(name), MAX(id), AVG(id) FROM river",
          "SELECT 5 - -3, -id, +id FROM river",
          "SELECT CASE WHEN id > 5 THEN 'big' ELSE 'small' END FROM river",
          "SELECT CAST(id AS DECIMAL(9, 2)) FROM river",
          "SELECT r.name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id)",
          "SELECT TRIM(name) FROM river UNION SELECT name FROM station",
          "SELECT name FROM river /* a comment; with -- signs */ -- and another");

  private static final Map<Engine, List<String>> OWN = new EnumMap<>(Engine.class);

  static {
    OWN.put(
        Engine.DUCKDB,
        List.of(
            "SELECT list_transform([1, 2], LAMBDA x : x + 1), [1, 2, 3][2:3], {'a': 1}.a FROM river",
            "SELECT 7 // 2, 2 ** 3, name ^@ 'O', name ~ 'a' FROM river",
            "SELECT name.upper() FROM river",
            "SELECT E'a\\tb', $$it's$$, X'41' FROM river",
            "SELECT strftime(CURRENT_DATE, '%Y'), date_diff('day', DATE '2026-01-01', CURRENT_DATE)",
            "SELECT regexp_replace(name, '\\s+', ' ', 'g'), levenshtein(name, 'x') FROM river",
            "SELECT json_extract('{\"a\": 1}', '$.a'), md5(name), hash(name) FROM river",
            "SELECT * FROM range(3) AS r (n), unnest([1, 2]) AS u (m)",
            "SELECT arg_max(name, id), quantile_cont(id, 0.5), string_agg(name, ', ') FROM river",
            "SELECT jaro_winkler_similarity(name, 'a'), bar(id, 0, 9), printf('%d', id) FROM river",
            "SELECT id FROM river TABLESAMPLE reservoir(50%)",
            "SELECT * EXCLUDE (name) FROM river",
            "SELECT COLUMNS(*) FROM river",
            "SELECT 1_000, current_setting('threads') FROM river"));
    OWN.put(
        Engine.POSTGRESQL,
        List.of(
            "SELECT E'a\\tb\\u00e9', U&'\\00e9', $q$it's$q$, B'101', X'1F' FROM river",
            "SELECT ARRAY[1, 2] @> ARRAY[1], '[1,2]'::int4range, ROW(1, 'a') FROM river",
            "SELECT to_tsvector('english', name) @@ to_tsquery('mill') FROM river",
            "SELECT jsonb_build_object('a', id) ->> 'a', '{\"a\":1}'::jsonb ? 'a' FROM river",
            "SELECT * FROM generate_series(1, 3) WITH ORDINALITY AS g (n, o)",
            "SELECT name ~* 'a', name !~~ 'b%', name ^@ 'O' FROM river",
            "SELECT string_agg(name, ', ' ORDER BY name) FILTER (WHERE id > 3) FROM river",
            "SELECT percentile_cont(0.5) WITHIN GROUP (ORDER BY id) FROM river",
            "SELECT extract(epoch FROM now()), age(now()), date_trunc('day', now()) FROM river",
            "SELECT (now() AT TIME ZONE 'UTC')::date, INTERVAL '1' DAY * 3 FROM river",
            "SELECT random(), gen_random_uuid(), pg_typeof(name), pg_catalog.upper(name) FROM river",
            "SELECT id FROM river TABLESAMPLE BERNOULLI (50) REPEATABLE (1)",
            "SELECT width_bucket(id, 0, 20, 4), regexp_match(name, '(a)') FROM river",
            "SELECT DISTINCT ON (length(name)) name FROM river ORDER BY length(name)",
            "SELECT relname FROM pg_class, information_schema.tables LIMIT 1",
            "SELECT name COLLATE \"C\" FROM river ORDER BY 1",
            "SELECT hash_record(ROW(id, name)), hash_record_extended(ROW(id), 7) FROM river"));
    OWN.put(
        Engine.MARIADB,
        List.of(
            "SELECT 'it\\'s', \"a \\\"text\\\"\", 'a\\\\b', '\\%' FROM river",
            "SELECT 5--3, 7 DIV 2, 7 % 2, id <=> NULL FROM river",
            "SELECT name FROM river # a comment",
            "SELECT GROUP_CONCAT(name ORDER BY name SEPARATOR '; ') FROM river",
            "SELECT DATE_ADD(NOW(), INTERVAL 1 DAY), TIMESTAMPDIFF(DAY, NOW(), NOW()) FROM river",
            "SELECT IF(id > 3, 'a', 'b'), IFNULL(name, ''), ELT(1, name), FIELD(id, 1, 2) FROM river",
            "SELECT JSON_EXTRACT('{\"a\": 1}', '$.a'), REGEXP_REPLACE(name, 'a', 'b') FROM river",
            "SELECT CONVERT(name USING utf8mb4), CAST(id AS CHAR), HEX(name) FROM river",
            "SELECT name REGEXP '^a', name RLIKE 'b', name SOUNDS LIKE 'c' FROM river",
            "SELECT @a, 0x41, b'1', _utf8mb4'x', X'41' FROM river",
            "SELECT CRC32(name), MD5(name), SHA2(name, 256), UUID(), RAND(1) FROM river",
            "SELECT ROW_NUMBER() OVER (ORDER BY id), LAG(name) OVER (ORDER BY id) FROM river",
            "SELECT table_name FROM information_schema.tables LIMIT 1"));
    OWN.put(
        Engine.SQLITE,
        List.of(
            "SELECT iif(id > 3, 'a', 'b'), ifnull(name, ''), instr(name, 'a') FROM river",
            "SELECT strftime('%Y', 'now'), julianday('now'), date('now', '+1 day') FROM river",
            "SELECT json_extract('{\"a\": 1}', '$.a'), '{\"a\": 1}' -> 'a' FROM river",
            "SELECT value FROM json_each('[1, 2]')",
            "SELECT group_concat(name, '; '), total(id) FROM river",
            "SELECT name GLOB 'A*', hex(name), quote(name), typeof(id) FROM river",
            "SELECT printf('%05d', id), [name], \"name\", `name` FROM river",
            "SELECT name FROM pragma_table_info('river')",
            "SELECT sql FROM sqlite_schema",
            "SELECT unicode(name), char(65), likely(id), 0x1F, 1_000 FROM river"));
    OWN.put(
        Engine.H2,
        List.of(
            "SELECT U&'\\00e9', $$it's$$, X'41', 1_000, 0x1F FROM river",
            "SELECT LISTAGG(name, '; ') WITHIN GROUP (ORDER BY name) FROM river",
            "SELECT X FROM SYSTEM_RANGE(1, 3)",
            "SELECT DATEADD(DAY, 1, CURRENT_DATE), FORMATDATETIME(NOW(), 'yyyy') FROM river",
            "SELECT ARRAY[1, 2][1], JSON_OBJECT('a': id), REGEXP_LIKE(name, 'a') FROM river",
            "SELECT SOUNDEX(name), RANDOM_UUID(), HASH('SHA-256', 'a'), IFNULL(name, '') FROM river",
            "SELECT name FROM river // a comment",
            "SELECT MEDIAN(id), MODE() WITHIN GROUP (ORDER BY id) FROM river",
            "SELECT TABLE_NAME FROM INFORMATION_SCHEMA.TABLES"));
    OWN.put(
        Engine.HSQLDB,
        List.of(
            "SELECT U&'\\00e9', X'41', N'a' FROM river",
            "SELECT GROUP_CONCAT(name ORDER BY name SEPARATOR '; ') FROM river",
            "SELECT DATE_ADD(CURRENT_DATE, INTERVAL '1' DAY), TO_CHAR(NOW(), 'YYYY') FROM river",
            "SELECT REGEXP_MATCHES(name, '.*a.*'), SOUNDEX(name), NVL(name, '') FROM river",
            "SELECT LOCATE('a', name), TRANSLATE(name, 'a', 'b'), REVERSE(name) FROM river",
            "SELECT ROUND(id, 1), LOG10(id), BITAND(id, 1), UUID() FROM river",
            "SELECT ARRAY[1, 2], CARDINALITY(ARRAY[1, 2]) FROM river",
            "SELECT TABLE_NAME FROM INFORMATION_SCHEMA.TABLES"));
  }

  @Test
  public void run() {
    List<String> refused = new ArrayList<>();
    int asked = 0;
    for (Engine engine : RiverDatabases.engines()) {
      List<String> all = new ArrayList<>(engine == Engine.MARIADB ? List.of() : EVERYWHERE);
      all.addAll(OWN.get(engine));
      try (Lantrel lantrel = RiverDatabases.beside(engine)) {
        for (String sql : all) {
          asked++;
          try {
            assertThat(lantrel.study(sql).result()).isNotNull();
          } catch (DatabaseException | IllegalStateException failure) {
            refused.add(engine + ": " + sql + ": " + failure.getMessage());
          }
        }
      }
    }
    assertThat(refused).isEmpty();
    assertThat(asked).isGreaterThan(150);
  }

  /** Functions of an extension have names of known ones; what others add by such a name has not. */
  @Test
  public void extensionsHinderNobody() throws IOException, SQLException {
    Access access = RiverDatabases.empty(Engine.POSTGRESQL, "extended");
    String least = "SELECT MIN(r.mark) AS least, MAX(r.id) AS greatest FROM river r";
    String replaced = "SELECT REPLACE(r.mark, 'a', 'b') AS other FROM river r";
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE EXTENSION citext",
          "CREATE TABLE river (id INTEGER PRIMARY KEY, mark CITEXT)",
          "INSERT INTO river VALUES (1, 'a')");
      assertThat(values(access, least)).isEqualTo("a, 1");
      assertThat(values(access, replaced)).isEqualTo("b");
      try (Lantrel lantrel = Lantrel.connect(access)) {
        assertThat(lantrel.survey().tables()).hasSize(1);
      }
      RiverDatabases.run(
          connection,
          "CREATE FUNCTION later(CITEXT, INTEGER, CITEXT) RETURNS CITEXT IMMUTABLE LANGUAGE plpgsql"
              + " AS 'BEGIN RETURN $3; END'",
          "CREATE FUNCTION replace(CITEXT, INTEGER, INTEGER) RETURNS CITEXT IMMUTABLE LANGUAGE sql"
              + " AS 'SELECT $1'",
          "CREATE AGGREGATE min(INTEGER, CITEXT) (SFUNC = later, STYPE = CITEXT)");
    }
    assertThatThrownBy(() -> values(access, least))
        .hasMessageContaining("MIN is not known to only");
    assertThatThrownBy(() -> values(access, replaced))
        .hasMessageContaining("REPLACE is not known to only");
  }

  private static String values(Access access, String sql) {
    try (Lantrel lantrel = Lantrel.connect(access)) {
      return ValueText.row(lantrel.study(sql).result().rows().get(0));
    }
  }
}
