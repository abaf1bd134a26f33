package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Codes that were written by several hands: which rows a join misses for that alone. */
public class NearlyEqualTest {

  private static final List<String> WORLD =
      List.of(
          "CREATE TABLE \"Kind\" (\"Code\" VARCHAR(8) PRIMARY KEY, label VARCHAR(20));",
          "CREATE TABLE apple (id INTEGER PRIMARY KEY, \"Code\" VARCHAR(8), note VARCHAR(20));",
          "CREATE TABLE pear (id INTEGER PRIMARY KEY, kind VARCHAR(8), stem VARCHAR(8));",
          "CREATE TABLE plum (id INTEGER PRIMARY KEY, kind VARCHAR(8) REFERENCES \"Kind\""
              + " (\"Code\"));",
          "CREATE TABLE empty_crate (id INTEGER PRIMARY KEY, kind VARCHAR(8));",
          "INSERT INTO \"Kind\" VALUES ('RUS', 'Russet'), ('PIP', 'Pippin'), ('mol', 'Molly');",
          "INSERT INTO apple VALUES (1, 'RUS', 'x'), (2, 'rus', 'x'), (3, 'PIP ', NULL),"
              + " (4, ' Mol', ''), (5, NULL, 'x'), (6, 'QUE', 'x'), (7, '', ' ');",
          "INSERT INTO empty_crate VALUES (1, NULL);",
          "INSERT INTO pear VALUES (1, 'RUS', 'PIP'), (2, 'PIP', 'que');",
          "INSERT INTO plum VALUES (1, 'RUS'), (2, NULL);");

  private final WorldOnEngines world = new WorldOnEngines("crates", WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  /** A query, how many rows it keeps from a partner, and their names. */
  @DataProvider
  static Object[][] missed() {
    String from = "SELECT a.id, k.label FROM apple a ";
    List<String> apples = List.of("apple 2 (rus)", "apple 3 ('PIP ')", "apple 4 (' Mol')");
    return new Object[][] {
      {from + "LEFT JOIN \"Kind\" k ON k.\"Code\" = a.\"Code\"", 3L, apples},
      {from + "JOIN \"Kind\" k ON a.\"Code\" = k.\"Code\" AND k.label <> 'x'", 3L, apples},
      {from + "JOIN \"Kind\" k USING (\"Code\")", 3L, apples},
      {from + ", \"Kind\" k WHERE k.\"Code\" = a.\"Code\" AND a.id < 3", 3L, apples},
      {
        "SELECT k.label, COUNT(a.id) AS n FROM \"Kind\" k LEFT JOIN apple a ON a.\"Code\" ="
            + " k.\"Code\" GROUP BY k.\"Code\", k.label",
        3L,
        apples
      },
      // neither is a key: the rows that come first are told, as they find nothing
      {
        "SELECT p.id, a.id FROM pear p LEFT JOIN apple a ON a.\"Code\" = p.stem",
        2L,
        List.of("pear 1 (RUS)", "pear 2 (PIP)")
      },
      // those of the other side, where those that come first find one
      {
        "SELECT p.id, a.id FROM (SELECT id, kind FROM pear WHERE id = 1) p JOIN apple a ON"
            + " a.\"Code\" = p.kind",
        1L,
        List.of("apple 2 (rus)")
      },
      {
        "SELECT p.id, a.id FROM apple a RIGHT JOIN (SELECT id, kind FROM pear WHERE id = 1) p ON"
            + " p.kind = a.\"Code\"",
        1L,
        List.of("apple 2 (rus)")
      },
      {
        "SELECT p.id, k.label FROM (SELECT id, LOWER(kind) AS kind FROM pear) p LEFT JOIN \"Kind\" k"
            + " ON k.\"Code\" = p.kind",
        2L,
        List.of("p 1 (rus)", "p 2 (pip)")
      },
      // beyond joins: IN, EXISTS, a value of another table, and within one that stands in FROM
      {
        "SELECT a.id FROM apple a WHERE a.\"Code\" IN (SELECT k.\"Code\" FROM \"Kind\" k)",
        3L,
        apples
      },
      {
        "SELECT q.id FROM (SELECT a.id FROM apple a WHERE a.\"Code\" NOT IN (SELECT \"Code\" FROM"
            + " \"Kind\" WHERE label IS NOT NULL)) q",
        3L,
        apples
      },
      {
        "SELECT k.label FROM \"Kind\" k WHERE k.\"Code\" IN (SELECT DISTINCT a.\"Code\" FROM apple"
            + " a WHERE a.id < 9)",
        3L,
        apples
      },
      {
        "SELECT a.id FROM apple a WHERE NOT EXISTS (SELECT 1 FROM \"Kind\" k WHERE k.\"Code\" ="
            + " a.\"Code\")",
        3L,
        apples
      },
      {
        "SELECT a.id, (SELECT k.label FROM \"Kind\" k WHERE a.\"Code\" = k.\"Code\") AS kind FROM"
            + " apple a",
        3L,
        apples
      },
      {
        "SELECT k.label, (SELECT COUNT(*) FROM apple a WHERE a.\"Code\" = k.\"Code\") AS apples"
            + " FROM \"Kind\" k",
        3L,
        apples
      },
    };
  }

  @Test(dataProvider = "missed")
  public void isFoundWithItsRows(String sql, long rows, List<String> names) {
    world.forEach(
        (engine, lantrel) -> {
          List<Finding> found =
              lantrel.study(sql).findings().stream()
                  .filter(each -> each.kind() == Kind.NEARLY_EQUAL)
                  .toList();
          assertThat(found).as(engine + sql).hasSize(1);
          assertThat(found.get(0).evidence().figures())
              .as(engine + sql)
              .containsEntry("rows kept from a partner", rows);
          assertThat(found.get(0).evidence().rows())
              .as(engine + sql)
              .extracting(each -> each.words())
              .containsExactlyElementsOf(names);
        });
    Repaired.keepsItsWord(sql, world.duckdb());
  }

  @DataProvider
  static Object[][] right() {
    return new Object[][] {
      // a reference, the same column, other types, no equality
      {"SELECT p.id, k.label FROM plum p LEFT JOIN \"Kind\" k ON k.\"Code\" = p.kind"},
      {"SELECT a.id, b.id FROM apple a JOIN apple b ON b.\"Code\" = a.\"Code\" AND b.id > a.id"},
      {"SELECT p.id, a.id FROM pear p LEFT JOIN apple a ON a.id = p.id"},
      {"SELECT p.id, a.id FROM pear p LEFT JOIN apple a ON a.\"Code\" < p.stem"},
      // all find one, or there is none to find
      {"SELECT p.id, k.label FROM pear p LEFT JOIN \"Kind\" k ON k.\"Code\" = p.kind"},
      {"SELECT e.id, k.label FROM empty_crate e LEFT JOIN \"Kind\" k ON k.\"Code\" = e.kind"},
      {"SELECT p.id, e.id FROM pear p LEFT JOIN empty_crate e ON e.kind = p.kind"},
      {"SELECT a.id, b.id FROM apple a LEFT JOIN pear b ON b.kind = a.note"},
      // made alike
      {
        "SELECT a.id, k.label FROM apple a LEFT JOIN \"Kind\" k ON UPPER(TRIM(k.\"Code\")) ="
            + " UPPER(TRIM(a.\"Code\"))"
      },
      {
        "SELECT a.id FROM apple a WHERE UPPER(TRIM(a.\"Code\")) IN (SELECT UPPER(TRIM(k.\"Code\"))"
            + " FROM \"Kind\" k)"
      },
      {"SELECT p.id FROM plum p WHERE p.kind IN (SELECT k.\"Code\" FROM \"Kind\" k)"},
      {"SELECT p.id FROM pear p WHERE p.kind IN (SELECT k.\"Code\" FROM \"Kind\" k)"},
      {"SELECT p.id FROM pear p WHERE EXISTS (SELECT 1 FROM \"Kind\" k WHERE k.\"Code\" = p.kind)"},
      {"SELECT e.id FROM empty_crate e WHERE e.kind IN (SELECT a.\"Code\" FROM apple a)"},
    };
  }

  @Test(dataProvider = "right")
  public void isNot(String sql) {
    world.forEach(
        (engine, lantrel) ->
            assertThat(lantrel.study(sql).findings())
                .as(engine + sql)
                .noneMatch(each -> each.kind() == Kind.NEARLY_EQUAL));
  }

  /** A condition on a key or what refers to it, and whether a constant is never written so. */
  @DataProvider
  static Object[][] codes() {
    return new Object[][] {
      {"p.kind = 'rus'", true},
      {"p.kind IN ('RUS', 'pip ')", false}, // no plum is one
      {"p.kind IN ('PIP', 'rus')", true},
      {"p.kind = 'RUS'", false},
      {"p.kind <> 'Rus'", true},
      {"EXISTS (SELECT 1 FROM \"Kind\" k WHERE k.\"Code\" = 'MOL' AND p.id > 0)", true},
      {"EXISTS (SELECT 1 FROM \"Kind\" k WHERE k.\"Code\" = 'mol' AND p.id > 0)", false},
    };
  }

  @Test(dataProvider = "codes")
  public void ofCodesOnlyConstantsAreTold(String condition, boolean told) {
    String sql = "SELECT p.id FROM plum p WHERE " + condition;
    world.forEach(
        (engine, lantrel) ->
            assertThat(lantrel.study(sql).findings().stream())
                .as(engine + sql)
                .filteredOn(each -> each.kind() == Kind.NEARLY_EQUAL)
                .hasSize(told ? 1 : 0)
                .allSatisfy(each -> assertThat(each.message()).endsWith("Write what it holds.")));
  }

  /** Small letters behind a backslash are other characters where it begins an escape. */
  @Test
  public void aConstantWithABackslashIsNotRewritten() {
    String sql =
        "SELECT q.id FROM (SELECT id, CASE WHEN id = 1 THEN 'Crate\\New' ELSE 'crate\\New' END AS place"
            + " FROM apple) q WHERE q.place = 'crate\\New'";
    assertThat(world.duckdb().study(sql).findings())
        .filteredOn(each -> each.kind() == Kind.NEARLY_EQUAL)
        .singleElement()
        .satisfies(each -> assertThat(each.repair()).isEmpty());
  }

  private static final String GROUPED = " AS n FROM apple a GROUP BY ";
  private static final String CODES = "SELECT a.id FROM apple a WHERE a.\"Code\" ";

  /** A query of one table, and the figures of its findings of this kind. */
  @DataProvider
  static Object[][] alone() {
    return new Object[][] {
      // groups that are kept apart; NULL and what is empty are values of their own
      {"SELECT a.\"Code\", COUNT(*)" + GROUPED + "a.\"Code\"", List.of(6L, 5L)},
      {
        "SELECT a.\"Code\" AS c, MAX(a.id)" + GROUPED + "a.\"Code\" HAVING MIN(a.id) < 9",
        List.of(6L, 5L)
      },
      {
        "SELECT 'x' AS a, a.\"Code\", 1" + GROUPED + "a.\"Code\" ORDER BY a.\"Code\"",
        List.of(6L, 5L)
      },
      {"SELECT a.note, COUNT(*)" + GROUPED + "a.note, a.\"Code\"", List.of(3L, 2L, 6L, 5L)},
      {"SELECT COUNT(DISTINCT a.\"Code\") AS codes FROM apple a", List.of(6L, 5L)},
      {
        "SELECT q.c, COUNT(*) AS n FROM (SELECT \"Code\" AS c FROM apple WHERE id < 4) q GROUP BY q.c",
        List.of(3L, 2L)
      },
      {
        "SELECT LOWER(TRIM(a.\"Code\")) AS code, 1" + GROUPED + "LOWER(TRIM(a.\"Code\"))", List.of()
      },
      {"SELECT a.\"Code\", COUNT(*)" + GROUPED + "a.id, a.\"Code\"", List.of()},
      {
        "SELECT a.\"Code\", COUNT(*) AS n FROM apple a WHERE a.id > 2 GROUP BY a.\"Code\"",
        List.of()
      },
      {"SELECT k.\"Code\", COUNT(*) AS n FROM \"Kind\" k GROUP BY k.\"Code\"", List.of()},
      {"SELECT p.kind, COUNT(*) AS n FROM plum p GROUP BY p.kind", List.of()},
      {"SELECT e.kind, COUNT(*) AS n FROM empty_crate e GROUP BY e.kind", List.of()},
      {"SELECT COUNT(DISTINCT a.id) AS n FROM apple a", List.of()},
      // constants
      {CODES + "= 'PIP'", List.of(1L)},
      {"SELECT a.id FROM apple a WHERE 'que' = a.\"Code\"", List.of(1L)},
      {CODES + "<> 'RUS'", List.of(1L)},
      {CODES + "IN ('Mol', 'QUE')", List.of(1L)},
      {CODES + "NOT IN ('pip', 'que')", List.of(2L)},
      {"SELECT SUM(CASE WHEN a.note = 'X' THEN 1 ELSE 0 END) AS n FROM apple a", List.of(4L)},
      {
        "SELECT k.label FROM \"Kind\" k WHERE EXISTS (SELECT 1 FROM apple a WHERE a.note = 'X ' AND"
            + " a.id < 3)",
        List.of(4L)
      },
      {CODES + "= 'RUS' OR a.\"Code\" = 'rus'", List.of()},
      {CODES + "IN ('RUS', 'rus')", List.of()},
      {CODES + "= 'QUE'", List.of()},
      {CODES + "= 'it''s'", List.of()},
      {CODES + "< 'pip'", List.of()},
      {"SELECT k.label FROM \"Kind\" k WHERE k.\"Code\" = 'rus'", List.of(1L)},
      {"SELECT p.id FROM plum p WHERE p.kind = 'rus'", List.of(1L)},
      {"SELECT e.id FROM empty_crate e WHERE e.kind = 'rus'", List.of()},
      {"SELECT a.id FROM apple a WHERE LOWER(a.note) = 'x'", List.of()},
    };
  }

  @Test(dataProvider = "alone")
  public void isFoundInOneTable(String sql, List<Long> figures) {
    world.forEach(
        (engine, lantrel) ->
            assertThat(
                    lantrel.study(sql).findings().stream()
                        .filter(each -> each.kind() == Kind.NEARLY_EQUAL)
                        .flatMap(
                            each ->
                                each.evidence().figures().entrySet().stream()
                                    .sorted(Map.Entry.comparingByKey())
                                    .map(Map.Entry::getValue)))
                .as(engine + sql)
                .isEqualTo(figures));
    Repaired.keepsItsWord(sql, world.duckdb());
  }

  @Test
  public void saysWhatStandsThereInstead() {
    Finding found = world.duckdb().study(CODES + "IN ('Rus', 'que')").findings().get(0);
    assertThat(found.message()).contains("make 3 apples miss", "is never written so");
    assertThat(found.evidence().facts()).containsExactly("some hold 'QUE', 'RUS' and 'rus'");
    assertThat(found.repair().orElseThrow().sql())
        .endsWith("WHERE LOWER(TRIM(a.\"Code\")) IN ('rus', 'que')");
    found =
        world
            .duckdb()
            .study("SELECT COUNT(DISTINCT a.\"Code\") AS n FROM apple a")
            .findings()
            .get(0);
    assertThat(found.evidence().facts()).containsExactly("'RUS' and 'rus' are there");
  }
}
