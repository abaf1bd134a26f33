package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.check.Severity;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Dialect.Rule;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.EnumSet;
import java.util.List;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Predicate;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Every rule in which dialects differ, shown on the real engines: a statement that an engine
 * accepts if, and only if, its dialect has the rule, or has it not.
 */
public class DialectRulesTest {

  /**
   * A statement that shows rules.
   *
   * @param rules what it shows
   * @param accepted in which dialects it gives rows
   */
  private record Witness(Set<Rule> rules, String sql, Predicate<Dialect> accepted) {}

  private static final List<Witness> WITNESSES =
      List.of(
          has(Rule.BACKSLASH_ESCAPES, "SELECT name FROM station WHERE name <> 'a\\'b'"),
          hasNot(Rule.ANY_SIGNS_AS_OPERATORS, "SELECT id FROM river WHERE id !=-1"),
          has(Rule.TIES_NEED_NO_ORDER, "SELECT id FROM river FETCH FIRST 2 ROWS WITH TIES"),
          has(
              Rule.NULLS_IN_ROWS_ARE_EQUAL,
              "SELECT a.id FROM station a JOIN station b ON (a.river_id, 1) = (b.river_id, 1)"
                  + " WHERE a.river_id IS NULL"),
          has(
              Rule.CONCAT_OF_NULL_IS_NULL,
              "SELECT id FROM river WHERE CONCAT(name, NULLIF(name, name)) IS NULL"),
          has(Rule.ESCAPED_TEXTS, "SELECT id FROM river WHERE E'\\x41' = 'A'"),
          has(Rule.UNICODE_TEXTS, "SELECT id FROM river WHERE U&'\\0041' = 'A'"),
          has(Rule.UNDERSCORES_IN_NUMBERS, "SELECT id FROM river WHERE 1_000 = 500 + 500"),
          has(Rule.WORDS_MAY_TOUCH_NUMBERS, "SELECT id FROM river WHERE id > 0AND id < 100"),
          has(Rule.NAMES_BEGIN_WITH_DIGITS, "SELECT 1st FROM (SELECT id AS 1st FROM river) r"),
          has(Rule.NUMBERS_OF_OTHER_BASES, "SELECT id FROM river WHERE 0x10 + 0 = 16"),
          has(Rule.WHOLE_DIVISION, "SELECT id FROM river WHERE 7 / 2 = 3 AND 1 / 2 = 0"),
          has(Rule.WHOLE_SLASH, "SELECT id FROM river WHERE id IN (7 // 2)"),
          has(Rule.SLASH_COMMENTS, "SELECT id FROM river // a comment"),
          has(Rule.SPACE_BEHIND_DASHES, "SELECT id FROM river WHERE id = -1--4"),
          has(Rule.ONLY_LINE_FEED_ENDS_COMMENT, "SELECT id FROM river -- a\r WHERE id = -1"),
          has(Rule.RUNS_COMMENTS, "SELECT id FROM river WHERE id = -1 /*! OR id = 1 */"),
          has(Rule.HASH_COMMENTS, "SELECT 1 AS a FROM river # a comment"),
          has(Rule.NESTED_COMMENTS, "SELECT 1 AS a FROM river /* a /* b */ c */"),
          has(Rule.BRACKET_NAMES, "SELECT name FROM [station]"),
          either(
              Rule.DOUBLE_QUOTED_TEXT,
              Rule.UNKNOWN_QUOTED_NAME_IS_TEXT,
              "SELECT name FROM station WHERE name <> \"Mill Weir\""),
          has(Rule.DOUBLE_QUOTED_TEXT, "SELECT name FROM station WHERE id < LENGTH(\"id\" \"id\")"),
          has(Rule.DOLLAR_QUOTES, "SELECT $$it's$$ AS a FROM river"),
          has(Rule.VARIABLES, "SELECT @a AS b FROM river"),
          has(Rule.JOINS_WITHOUT_CONDITION, "SELECT s.name FROM station s JOIN river r"),
          hasNot(Rule.BARS_ARE_OR, "SELECT id FROM river WHERE 'a' || 'b' = 'ab'"),
          has(Rule.EMPTY_SELECT_LIST, "SELECT FROM river"),
          has(Rule.WHOLE_ROW_BY_NAME, "SELECT r FROM river r"),
          hasNot(Rule.DATES_ARE_TEXTS, "SELECT DATE '2026-05-01' AS d FROM river"),
          has(
              Rule.GROUPING_TELLS_WAYS,
              "SELECT bank, GROUPING(bank) AS g FROM station GROUP BY ROLLUP (bank)"),
          has(Rule.FUNCTION_NAMES_ITS_COLUMN, "SELECT g + 1 FROM generate_series(1, 2) g"),
          hasNot(Rule.FOLDS_TO_LOWER, "SELECT \"NAME\" FROM river"),
          hasNot(Rule.FOLDS_TO_UPPER, "SELECT \"name\" FROM river"),
          has(Rule.LABELS_IN_WHERE, "SELECT name AS n FROM station WHERE n <> 'x'"),
          has(Rule.LABELS_IN_SELECT, "SELECT name AS n, n AS m FROM station"),
          has(Rule.LABELS_IN_GROUP_BY, "SELECT bank AS b, COUNT(*) FROM station GROUP BY b"),
          has(
              Rule.LABELS_IN_HAVING,
              "SELECT bank, COUNT(*) AS c FROM station GROUP BY bank HAVING c > 1"),
          has(Rule.FIRST_OF_ONE_NAME, "SELECT name FROM river a, station b"),
          has(Rule.FIRST_OF_ONE_NAME, "SELECT a.name FROM river a, station a"),
          new Witness(
              EnumSet.of(Rule.REPEATED_ALIASES, Rule.NAMES_ARE_MET_WHEN_USED),
              "SELECT COUNT(*) FROM river a, station a",
              dialect -> dialect.has(Rule.REPEATED_ALIASES)),
          new Witness(
              EnumSet.of(Rule.NAMES_ARE_MET_WHEN_USED, Rule.FIRST_OF_ONE_NAME),
              "SELECT COUNT(*) FROM (station s JOIN river r ON r.id = s.river_id) JOIN (station s"
                  + " JOIN reading d ON d.station_id = s.id) ON d.depth_cm = r.id",
              dialect ->
                  dialect.has(Rule.NAMES_ARE_MET_WHEN_USED) || dialect.has(Rule.FIRST_OF_ONE_NAME)),
          new Witness(
              EnumSet.of(Rule.AGGREGATES_BELONG_TO_THEIR_COLUMNS),
              "SELECT s.name, (SELECT COUNT(s.id) FROM bank_kind b) FROM station s",
              // MariaDB refuses it too, and in WHERE takes it for one of the subquery.
              // Trino has no way to run it.
              dialect ->
                  !dialect.has(Rule.AGGREGATES_BELONG_TO_THEIR_COLUMNS)
                      && !dialect.has(Rule.HAVING_SEES_WHAT_IS_SHOWN)
                      && dialect != Dialect.TRINO),
          hasNot(
              Rule.ON_SEEKS_IN_ALL_TABLES,
              "SELECT COUNT(*) FROM bank_kind b LEFT JOIN river r ON id > 0 LEFT JOIN warden w ON"
                  + " w.id > 0"),
          new Witness(
              EnumSet.of(Rule.ON_SEEKS_IN_ALL_TABLES, Rule.INNER_ON_SEES_ALL_TABLES),
              "SELECT COUNT(*) FROM bank_kind b JOIN river r ON id > 0 LEFT JOIN warden w ON w.id > 0",
              dialect ->
                  !dialect.has(Rule.ON_SEEKS_IN_ALL_TABLES)
                      && !dialect.has(Rule.INNER_ON_SEES_ALL_TABLES)),
          new Witness(
              EnumSet.of(Rule.ON_SEES_BEYOND_COMMA, Rule.INNER_ON_SEES_ALL_TABLES),
              "SELECT a.name FROM river a, river b LEFT JOIN river c ON c.id = a.id",
              dialect ->
                  dialect.has(Rule.ON_SEES_BEYOND_COMMA)
                      && !dialect.has(Rule.INNER_ON_SEES_ALL_TABLES)),
          hasNot(
              Rule.USING_LOOKS_AT_FIRST_TABLES,
              "SELECT r.flow FROM warden w JOIN river r ON r.id = w.id JOIN (SELECT name FROM river) n"
                  + " USING (name)"),
          hasNot(
              Rule.LABELS_STAND_ALONE_IN_ORDER_BY,
              "SELECT name AS n FROM station ORDER BY COALESCE(n, 'x')"),
          new Witness(
              EnumSet.of(Rule.HAVING_SEES_WHAT_IS_SHOWN),
              "SELECT MIN(name) FROM station GROUP BY id HAVING capacity > 0",
              dialect ->
                  !dialect.has(Rule.HAVING_SEES_WHAT_IS_SHOWN)
                      && !dialect.has(Rule.FIRST_OF_ONE_NAME)
                      && (dialect.has(Rule.ANY_UNGROUPED_COLUMN)
                          || dialect.has(Rule.KEY_GROUPS_ITS_TABLE))),
          either(
              Rule.USING_TAKES_THE_FIRST,
              Rule.NATURAL_WITH_LAST_TABLE,
              "SELECT COUNT(*) FROM river r JOIN station s ON s.river_id = r.id JOIN species p USING"
                  + " (id)"),
          has(
              Rule.MERGED_COLUMNS_STAY_IN_PLACE,
              "SELECT c FROM (SELECT label AS c, code AS k FROM bank_kind UNION ALL SELECT * FROM"
                  + " (SELECT label AS a, code AS k FROM bank_kind) x JOIN (SELECT code AS k FROM"
                  + " bank_kind) y USING (k)) u GROUP BY c HAVING COUNT(*) > 1"),
          new Witness(
              EnumSet.of(Rule.MERGED_NAMES_COME_FIRST, Rule.FIRST_OF_ONE_NAME),
              "SELECT id FROM species JOIN species_group USING (id) JOIN reading ON id = group_id",
              dialect ->
                  dialect.has(Rule.MERGED_NAMES_COME_FIRST) || dialect.has(Rule.FIRST_OF_ONE_NAME)),
          hasNot(
              Rule.USING_MERGES_NO_NAMES,
              "SELECT station_id FROM reading d JOIN sighting g USING (station_id)"),
          new Witness(
              EnumSet.of(Rule.NATURAL_WITH_LAST_TABLE),
              "SELECT station_id FROM sighting g JOIN warden w ON w.id = g.species_id"
                  + " NATURAL JOIN reading",
              // Trino has no NATURAL.
              dialect -> !dialect.has(Rule.NATURAL_WITH_LAST_TABLE) && dialect != Dialect.TRINO),
          has(
              Rule.RECURSION_REPEATS_ROWS,
              "WITH RECURSIVE r (c) AS (SELECT bank FROM station WHERE bank = 'W' UNION SELECT t.bank"
                  + " FROM r JOIN station t ON t.bank = 'S' WHERE r.c = 'W') SELECT c FROM r GROUP BY"
                  + " c HAVING COUNT(*) > 1"),
          has(
              Rule.BARE_VALUES_ARE_ONE_ROW,
              "SELECT COUNT(*) FROM (VALUES 1, 2) AS v HAVING COUNT(*) = 1"),
          has(
              Rule.ON_SEES_LATER_TABLES,
              "SELECT a.name FROM river a JOIN river b ON b.id = c.id JOIN river c ON c.id = a.id"),
          has(
              Rule.ON_SEES_BEYOND_COMMA,
              "SELECT a.name FROM river a, river b JOIN river c ON c.id = a.id"),
          has(Rule.NUMBERS_BESIDE_TEXTS_ARE_TEXTS, "SELECT id FROM river WHERE name > 5"),
          has(
              Rule.COMMA_IS_A_JOIN,
              "SELECT s.name FROM reading d, station s JOIN sighting g USING (station_id)"),
          has(Rule.ANY_UNGROUPED_COLUMN, "SELECT bank, name, COUNT(*) FROM station GROUP BY bank"),
          // That only a primary key does it, a table with another key would have to show.
          new Witness(
              EnumSet.of(
                  Rule.ANY_UNGROUPED_COLUMN,
                  Rule.KEY_GROUPS_ITS_TABLE,
                  Rule.ONLY_PRIMARY_KEY_GROUPS),
              "SELECT id, name, COUNT(*) FROM station GROUP BY id",
              dialect ->
                  dialect.has(Rule.ANY_UNGROUPED_COLUMN) || dialect.has(Rule.KEY_GROUPS_ITS_TABLE)),
          has(Rule.POSITIONS_IN_GROUP_BY, "SELECT bank, COUNT(*) FROM station GROUP BY 1"),
          hasNot(Rule.EXACT_TABLE_NAMES, "SELECT id FROM Station"),
          has(Rule.TEXTS_AS_LABELS, "SELECT bank 'a label' FROM station"),
          has(Rule.NATIONAL_TEXTS, "SELECT id FROM river WHERE N'a' = 'a'"),
          has(Rule.WORDS_IN_DOLLARS, "SELECT $x$it's$x$ AS a FROM river"),
          has(Rule.ROWS_NUMBERED_IN_ANY_ORDER, "SELECT ROW_NUMBER() OVER () AS n FROM river"),
          hasNot(
              Rule.WINDOWS_ONLY_NUMBER_ROWS,
              "SELECT MAX(id) OVER (PARTITION BY bank) AS most FROM station"),
          has(
              Rule.UNUSED_WINDOWS_ARE_NOT_READ,
              "SELECT id FROM river WINDOW w AS (ORDER BY nothing)"),
          has(Rule.LATERAL_BY_ITSELF, "SELECT q.n FROM river r, (SELECT r.name AS n) AS q"),
          has(
              Rule.WRONG_CASTS_ARE_NULL,
              "SELECT id FROM river WHERE CAST('not a day' AS DATE) IS NULL"),
          has(
              Rule.WITH_MAY_RECUR,
              "WITH w (n) AS (SELECT id FROM river WHERE id = 1 UNION ALL SELECT n + 1 FROM w WHERE n < 2)"
                  + " SELECT id FROM river WHERE id IN (SELECT n FROM w)"),
          has(
              Rule.UNION_ORDERED_BY_TABLES,
              "SELECT r.name FROM river r UNION SELECT s.name FROM station s ORDER BY r.name"),
          hasNot(Rule.STAR_STANDS_ALONE, "SELECT *, 1 AS n FROM river"),
          has(
              Rule.CASTS_KEEP_NAMES,
              "SELECT q.name FROM (SELECT CAST(s.name AS CHAR(40)) FROM station s) q"),
          hasNot(
              Rule.BARE_NULLS_ARE_TEXTS,
              "SELECT NULL AS n FROM river UNION ALL SELECT NULL FROM river UNION ALL"
                  + " SELECT id FROM river"),
          has(Rule.SELECT_MAY_REPEAT_ROWS, "SELECT unnest(ARRAY[1, 2]) AS n FROM river"),
          has(
              Rule.UNITS_BEHIND_VALUES,
              "SELECT (CURRENT_TIMESTAMP - CURRENT_TIMESTAMP) SECOND AS d FROM river"));

  private static Witness has(Rule rule, String sql) {
    return new Witness(EnumSet.of(rule), sql, dialect -> dialect.has(rule));
  }

  private static Witness hasNot(Rule rule, String sql) {
    return new Witness(EnumSet.of(rule), sql, dialect -> !dialect.has(rule));
  }

  private static Witness either(Rule one, Rule other, String sql) {
    return new Witness(
        EnumSet.of(one, other), sql, dialect -> dialect.has(one) || dialect.has(other));
  }

  @Test
  public void everyRuleIsShown() {
    Set<Rule> shown = EnumSet.noneOf(Rule.class);
    WITNESSES.forEach(each -> shown.addAll(each.rules()));
    assertThat(shown).containsExactlyInAnyOrder(Rule.values());
  }

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void dialectsDifferAsTheEnginesDo(Engine engine) throws SQLException {
    try (Connection connection = RiverDatabases.writing(RiverDatabases.access(engine));
        Lantrel lantrel = RiverDatabases.beside(engine)) {
      for (Witness witness : WITNESSES) {
        OptionalInt rows = rows(connection, witness.sql());
        assertThat(rows.orElse(0) > 0)
            .as(witness.sql())
            .isEqualTo(witness.accepted().test(engine.dialect()));
        Study study = lantrel.study(witness.sql());
        boolean error =
            study.findings().stream().anyMatch(each -> each.severity() == Severity.ERROR);
        String refusal = EngineCorpusTest.refusal(connection, witness.sql());
        // Where a word stands before a text, other engines look for a column or a type; and of
        // functions Lantrel does not know which there are.
        boolean told =
            !witness.rules().contains(Rule.ESCAPED_TEXTS)
                && !witness.rules().contains(Rule.SELECT_MAY_REPEAT_ROWS)
                && !witness.rules().contains(Rule.FUNCTION_NAMES_ITS_COLUMN)
                && study.isUnderstood();
        if (told && (refusal.isEmpty() || EngineCorpusTest.isAboutNames(refusal))) {
          assertThat(error).as("%s: %s", witness.sql(), refusal).isEqualTo(!refusal.isEmpty());
        }
      }
    }
  }

  /** How many rows it gives; empty if it is refused. */
  private static OptionalInt rows(Connection connection, String sql) {
    try (Statement statement = connection.createStatement();
        ResultSet result = statement.executeQuery(sql)) {
      int rows = 0;
      while (result.next()) {
        rows++;
      }
      return OptionalInt.of(rows);
    } catch (SQLException refused) {
      return OptionalInt.empty();
    }
  }
}
