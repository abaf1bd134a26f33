package io.lantrel.sql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import io.lantrel.sql.tree.Query;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Collections;
import java.util.Map;
import java.util.Set;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Values in the place of parameters. */
public class ParameterValuesTest {

  @DataProvider
  static Object[][] written() {
    return new Object[][] {
      {"SELECT 1 AS a WHERE 1 = :n", Map.of("n", 5), "SELECT 1 AS a WHERE 1 = 5"},
      {"SELECT 1 AS a WHERE 1 = :n", Map.of("n", -2.5), "SELECT 1 AS a WHERE 1 = -2.5"},
      {
        "SELECT 1 AS a WHERE 1 = $1 AND 2 = $2 AND 3 = $1",
        Map.of("1", 7, "2", new BigDecimal("1E+3")),
        "SELECT 1 AS a WHERE 1 = 7 AND 2 = 1000 AND 3 = 7"
      },
      {
        "SELECT ? AS a WHERE 1 = ? AND EXISTS (SELECT 1 AS b WHERE 2 = ?)",
        Map.of("1", "x", "2", true, "3", LocalDate.of(2026, 5, 1)),
        "SELECT 'x' AS a WHERE 1 = TRUE AND EXISTS (SELECT 1 AS b WHERE 2 = '2026-05-01')"
      },
      {
        "SELECT :t AS a",
        Map.of("t", LocalDateTime.of(2026, 5, 1, 12, 30, 5)),
        "SELECT '2026-05-01 12:30:05' AS a"
      },
      {"SELECT :t AS a", Map.of("t", "it's; DROP"), "SELECT 'it''s; DROP' AS a"},
      {"SELECT :t AS a, :u AS b", Map.of("u", 1), "SELECT :t AS a, 1 AS b"},
      {"SELECT :t AS a", Collections.singletonMap("t", null), "SELECT NULL AS a"},
      {"SELECT ':t' AS a, :t AS b", Map.of("t", 1), "SELECT ':t' AS a, 1 AS b"},
    };
  }

  @Test(dataProvider = "written")
  public void standInTheQuery(String sql, Map<String, Object> values, String expected) {
    Query query = SqlReader.readQuery(sql, Dialect.DUCKDB);
    Query given = ParameterValues.of(values).in(query);
    assertThat(SqlPrinter.print(given, Dialect.DUCKDB)).isEqualTo(expected);
  }

  @Test
  public void mustBeFinite() {
    assertThatThrownBy(
            () ->
                ParameterValues.of(Map.of("n", Double.NaN))
                    .in(SqlReader.readQuery("SELECT :n AS a", Dialect.DUCKDB)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("cannot have the value NaN");
  }

  @DataProvider
  static Object[][] names() {
    return new Object[][] {
      {"SELECT :since AS a, :until AS b, :since AS c", Set.of("since", "until")},
      {"SELECT ? AS a, ? AS b", Set.of("1", "2")},
      {"SELECT $2 AS a, $1 AS b", Set.of("1", "2")},
      {"SELECT '?' AS a -- :no", Set.of()},
      {"DELETE FROM river WHERE id = :n", Set.of()},
    };
  }

  @Test(dataProvider = "names")
  public void areNamedByTheStatement(String sql, Set<String> names) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      assertThat(lantrel.study(sql).parameters()).containsExactlyInAnyOrderElementsOf(names);
    }
  }

  @DataProvider
  static Object[][] studied() {
    String sql =
        "SELECT s.name FROM station s LEFT JOIN river r ON r.id = s.river_id WHERE r.flow > ";
    return new Object[][] {
      {sql + ":f", Map.of("f", 5), sql + "5"},
      {sql + "?", Map.of("1", 5), sql + "5"},
      {sql + ":f", Collections.singletonMap("f", null), sql + "NULL"},
    };
  }

  /** With its values a query is looked at like one that has them written out. */
  @Test(dataProvider = "studied")
  public void areLookedAtLikeConstants(String sql, Map<String, Object> values, String constants) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Study given = lantrel.study(sql, values);
      Study written = lantrel.study(constants);
      assertThat(given.result()).isEqualTo(written.result());
      assertThat(given.findings()).hasSameSizeAs(written.findings());
      assertThat(given.ledger().result()).isEqualTo(written.ledger().result());
      given
          .findings()
          .forEach(
              finding ->
                  finding
                      .repair()
                      .ifPresent(repair -> assertThat(repair.sql()).containsAnyOf(":f", "?")));
    }
  }
}
