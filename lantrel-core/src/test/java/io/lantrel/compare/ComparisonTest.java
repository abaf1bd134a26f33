package io.lantrel.compare;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.compare.Differences.Change;
import io.lantrel.compare.Differences.LoneRow;
import io.lantrel.sql.Dialect;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Comparing in a program, on the river watch. */
public class ComparisonTest {

  private static final String RIVERS = "SELECT id, name, flow FROM river";

  private Lantrel lantrel =
      Lantrel.openSchema(RiverWatchFolder.data().resolve("schema.sql"), Dialect.DUCKDB);

  @BeforeClass
  public void open() {
    lantrel = Lantrel.open(RiverWatchFolder.data());
  }

  @AfterClass(alwaysRun = true)
  public void close() {
    lantrel.close();
  }

  private Comparison compared(String first, String second, CompareOptions options) {
    return lantrel.study(first).compare(lantrel.study(second), options);
  }

  @Test
  public void pairsRowsByAKeyOfTheQuery() {
    Comparison comparison =
        compared(
            RIVERS,
            "SELECT id, name, CASE WHEN id = 3 THEN 0 ELSE flow END AS flow FROM river",
            CompareOptions.USUAL);
    Differences differences = comparison.differences().orElseThrow();
    assertThat(differences.key()).containsExactly(0);
    assertThat(differences.changes()).hasSize(1);
    Change change = differences.changes().get(0);
    assertThat(change.cells()).containsExactly(2);
    assertThat(change.first().get(1)).isEqualTo("Keskel");
    assertThat(differences.hasMore()).isFalse();
  }

  @Test
  public void pairsRowsByWhatTheUserSays() {
    String renamed = "SELECT id + 100 AS id, name, flow FROM river";
    CompareOptions byName = CompareOptions.USUAL.by(List.of("NAME"));
    Differences differences = compared(RIVERS, renamed, byName).differences().orElseThrow();
    assertThat(differences.key()).containsExactly(1);
    assertThat(differences.changed()).isEqualTo(12);
    assertThatThrownBy(() -> compared(RIVERS, renamed, CompareOptions.USUAL.by(List.of("nam"))))
        .isInstanceOf(CompareException.class)
        .hasMessageContaining("has no column nam; close to it: name");
  }

  /** Two rows of one key are not paired: nobody knows which is which. */
  @Test
  public void pairsNothingThatIsNotOneToOne() {
    String stations = "SELECT river_id, capacity FROM station WHERE river_id = 1";
    String other = "SELECT river_id, capacity + 1 AS capacity FROM station WHERE river_id = 1";
    Differences differences =
        compared(stations, other, CompareOptions.USUAL.by(List.of("river_id")))
            .differences()
            .orElseThrow();
    assertThat(differences.changed()).isZero();
    assertThat(differences.onlyFirst()).isEqualTo(2);
    assertThat(differences.onlySecond()).isEqualTo(2);
  }

  @Test
  public void countsHowOftenARowComes() {
    Comparison comparison =
        compared(
            "SELECT bank FROM station",
            "SELECT bank FROM station WHERE id <> 1",
            CompareOptions.USUAL);
    assertThat(comparison.reason()).isEqualTo("1 row only in the first");
    LoneRow row = comparison.differences().orElseThrow().lone().get(0);
    assertThat(row.values()).containsExactly("W");
    assertThat(row.first()).isEqualTo(3);
    assertThat(row.second()).isEqualTo(2);
  }

  @Test
  public void showsAsManyAsAreWanted() {
    Differences differences =
        compared(RIVERS, RIVERS + " WHERE id > 9", CompareOptions.USUAL.showing(2))
            .differences()
            .orElseThrow();
    assertThat(differences.lone()).hasSize(2);
    assertThat(differences.onlyFirst()).isEqualTo(9);
    assertThat(differences.hasMore()).isTrue();
  }

  @DataProvider
  static Object[][] orders() {
    return new Object[][] {
      {"name", "name", Verdict.SAME},
      {"name", "2", Verdict.SAME},
      {"name", "name DESC", Verdict.DIFFERENT},
      {"flow", "length_km", Verdict.DIFFERENT},
      {"1", "id, name", Verdict.SAME_HERE},
      {"name", "", Verdict.SAME},
    };
  }

  @Test(dataProvider = "orders")
  public void theOrderCountsWhereBothHaveOne(String one, String other, Verdict verdict) {
    String first = RIVERS + " ORDER BY " + one;
    String second = RIVERS + (other.isEmpty() ? "" : " ORDER BY " + other);
    assertThat(compared(first, second, CompareOptions.USUAL).verdict()).isEqualTo(verdict);
    assertThat(compared(first, second, CompareOptions.USUAL.inAnyOrder()).verdict())
        .isEqualTo(Verdict.SAME);
    assertThat(compared(first, second, CompareOptions.USUAL.inAnyOrder().byRowsAlone()).verdict())
        .isEqualTo(Verdict.SAME_HERE);
  }

  /** Rows that ORDER BY leaves in any order may come in any. */
  @Test
  public void tiesMayComeInAnyOrder() {
    ExpectedTable turned =
        new ExpectedTable(
            "turned", List.of("bank", "id"), Arrays.asList(row("W", 11), row("W", 8), row("W", 1)));
    String byBank = "SELECT bank, id FROM station WHERE bank = 'W' ORDER BY bank";
    assertThat(lantrel.study(byBank).compare(turned, CompareOptions.USUAL).verdict())
        .isEqualTo(Verdict.SAME_HERE);
    assertThat(lantrel.study(byBank + ", id").compare(turned, CompareOptions.USUAL).verdict())
        .isEqualTo(Verdict.DIFFERENT);
  }

  private static List<Object> row(Object... values) {
    return Arrays.asList(values);
  }

  @DataProvider
  static Object[][] values() {
    return new Object[][] {
      {"38.0", Verdict.SAME_HERE},
      {"38", Verdict.SAME_HERE},
      {new BigDecimal("38.00"), Verdict.SAME_HERE},
      {38L, Verdict.SAME_HERE},
      {"3.8e1", Verdict.SAME_HERE},
      {"38.04", Verdict.DIFFERENT},
      {"thirty-eight", Verdict.DIFFERENT},
      {"", Verdict.DIFFERENT},
    };
  }

  @Test(dataProvider = "values")
  public void numbersGoByValue(Object value, Verdict verdict) {
    ExpectedTable expected =
        new ExpectedTable("expected", List.of("flow"), List.of(List.of(value)));
    Comparison comparison =
        lantrel
            .study("SELECT flow FROM river WHERE id = 1")
            .compare(expected, CompareOptions.USUAL);
    assertThat(comparison.verdict()).as(comparison + "").isEqualTo(verdict);
  }

  @Test
  public void aToleranceIsForNumbersAlone() {
    CompareOptions lenient = CompareOptions.USUAL.within(new BigDecimal("0.05"));
    String nearly = "SELECT id, name, flow + 0.04 AS flow FROM river";
    assertThat(compared(RIVERS, nearly, CompareOptions.USUAL).verdict())
        .isEqualTo(Verdict.DIFFERENT);
    assertThat(compared(RIVERS, nearly, lenient).verdict()).isEqualTo(Verdict.SAME_HERE);
    assertThat(compared(RIVERS, nearly.replace("0.04", "0.06"), lenient).verdict())
        .isEqualTo(Verdict.DIFFERENT);
    assertThat(compared(RIVERS, nearly.replace("name,", "name || '.' AS name,"), lenient).verdict())
        .isEqualTo(Verdict.DIFFERENT);
  }

  @DataProvider
  static Object[][] undecided() {
    return new Object[][] {
      {"SELECT nme FROM river", "the second: line 1, column 8: river has no column nme"},
      {"SELECT name FROM rivr", "there is no table rivr"},
      {"DELETE FROM river", "this is no query but DELETE"},
      {"SELECT name FROM river WHERE id = ?", "has no value here"},
      {"SELECT CAST(name AS INTEGER) AS id, name, flow FROM river", "the second does not run"},
    };
  }

  @Test(dataProvider = "undecided")
  public void whatDoesNotRunIsNotCompared(String second, String why) {
    Comparison comparison = compared(RIVERS, second, CompareOptions.USUAL);
    assertThat(comparison.verdict()).as(comparison + "").isEqualTo(Verdict.UNDECIDED);
    assertThat(comparison.reason()).contains(why);
    assertThat(comparison.first()).isEmpty();
  }

  /** Columns that are paired by their headings need not be the ones that stand in one place. */
  @Test
  public void nothingIsProvenOfColumnsThatStandElsewhere() {
    String straight = "SELECT id AS a, length_km AS b FROM river";
    Comparison crossed =
        compared(straight, "SELECT id AS b, length_km AS a FROM river", CompareOptions.USUAL);
    assertThat(crossed.verdict()).isEqualTo(Verdict.DIFFERENT);
    Comparison turned =
        compared(straight, "SELECT length_km AS b, id AS a FROM river", CompareOptions.USUAL);
    assertThat(turned.verdict()).isEqualTo(Verdict.SAME_HERE);
    assertThat(turned.remarks()).anyMatch(each -> each.contains("compared by their headings"));
  }

  /** Too many tables to look for a proof. */
  @Test
  public void longChainsAreComparedByTheirRows() {
    StringBuilder down = new StringBuilder("SELECT t0.id FROM river t0");
    StringBuilder up = new StringBuilder("SELECT t0.id FROM river t0");
    for (int i = 1; i < 128; i++) {
      down.append(" LEFT JOIN river t" + i + " ON t" + i + ".id = t" + (i - 1) + ".flows_into");
      up.append(" LEFT JOIN river t" + i + " ON t" + (i - 1) + ".flows_into = t" + i + ".id");
    }
    Comparison comparison = compared(down.toString(), up.toString(), CompareOptions.USUAL);
    assertThat(comparison.verdict()).isEqualTo(Verdict.SAME_HERE);
    assertThat(comparison.first()).hasValue(12);
  }

  @Test
  public void aSchemaAloneHasNothingToCompare() {
    try (Lantrel tables = lantrel.tablesAlone(Dialect.DUCKDB)) {
      assertThatThrownBy(
              () -> tables.study(RIVERS).compare(tables.study(RIVERS), CompareOptions.USUAL))
          .isInstanceOf(IllegalStateException.class)
          .hasMessageContaining("a schema alone has no rows");
    }
  }

  @Test
  public void aTableHasAValueForEveryHeading() {
    assertThatThrownBy(() -> new ExpectedTable("x", List.of("a", "b"), List.of(List.of("1"))))
        .hasMessageContaining("a row has 1 values, and there are 2 headings");
    assertThatThrownBy(() -> CompareOptions.USUAL.within(new BigDecimal("-1")))
        .hasMessageContaining("from 0 on");
  }
}
