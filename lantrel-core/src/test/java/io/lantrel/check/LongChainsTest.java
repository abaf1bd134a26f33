package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.SentStatements;
import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Naming;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Many joins, each of which loses rows: down the rivers, of which none flows through more than five
 * others.
 */
public class LongChainsTest {

  private final SentStatements sent = new SentStatements();

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data()).watchedBy(sent);

  @AfterClass
  void close() {
    lantrel.close();
  }

  @BeforeMethod
  void forget() {
    sent.forget();
  }

  private static String chain(int joins) {
    StringBuilder sql =
        new StringBuilder("SELECT s.name FROM station s JOIN river r1 ON r1.id = s.river_id");
    for (int i = 2; i <= joins; i++) {
      sql.append(" JOIN river r%d ON r%d.id = r%d.flows_into".formatted(i, i, i - 1));
    }
    return sql.toString();
  }

  /** A chain, how many of the five joins that lose rows get their repair, and what it may cost. */
  @DataProvider
  static Object[][] chains() {
    return new Object[][] {{6, 5, 400}, {20, 5, 700}, {50, 5, 1400}, {70, 3, 1700}};
  }

  @Test(dataProvider = "chains")
  public void repairsAreTriedAsFarAsThatIsNotDear(int joins, int repaired, int most) {
    List<Finding> findings = lantrel.study(chain(joins)).findings();
    assertThat(findings)
        .filteredOn(each -> each.kind() == Kind.ROWS_WITHOUT_PARTNER)
        .filteredOn(each -> each.severity() == Severity.WARNING)
        .hasSize(5)
        .as("the rows that are lost are named of all")
        .allMatch(each -> !each.evidence().rows().isEmpty())
        .as("a repair, or why there is none")
        .allMatch(
            each ->
                each.repair().isEmpty()
                    == each.evidence()
                        .facts()
                        .contains(
                            "with 70 joins in the statement, no more repairs were tried than 3"))
        .filteredOn(each -> each.repair().isPresent())
        .hasSize(repaired);
    assertThat(sent.joins()).isLessThan(most);
  }

  @Test
  public void aRepairMakesOptionalWhatWouldDropTheRowAndNothingElse() {
    Finding lost =
        lantrel
            .study(
                "SELECT s.name, t.name, u.name FROM station s JOIN river r ON r.id = s.river_id"
                    + " JOIN river t ON t.id = r.flows_into JOIN river u ON u.id ="
                    + " COALESCE(r.flows_into, 1) JOIN bank_kind b ON b.code = s.bank")
            .findings()
            .stream()
            .filter(each -> each.kind() == Kind.ROWS_WITHOUT_PARTNER)
            .findFirst()
            .orElseThrow();
    assertThat(lost.repair().map(Repair::sql))
        .hasValue(
            "SELECT s.name, t.name, u.name FROM station s LEFT JOIN river r ON r.id = s.river_id"
                + " LEFT JOIN river t ON t.id = r.flows_into JOIN river u ON u.id ="
                + " COALESCE(r.flows_into, 1) JOIN bank_kind b ON b.code = s.bank");
  }

  @Test
  public void rowsThatNoneCouldMeetAreCountedAndNotNamed() {
    List<Entry> entries = lantrel.study(chain(12)).ledger().entries();
    assertThat(entries).hasSize(13);
    for (Entry entry : entries.subList(1, 13)) {
      Cause unused = entry.change(Figure.UNUSED).orElseThrow().causes().get(0);
      boolean reached = entry.before() > 0;
      assertThat(unused.examples().isEmpty()).as(entry.words()).isEqualTo(!reached);
      assertThat(unused.reason().equals("no row comes this far")).isEqualTo(!reached);
      assertThat(entry.rows(Figure.UNUSED))
          .as(entry.words())
          .matches(rows -> reached || rows == 12);
      assertThat(entry.balances()).isTrue();
    }
    assertThat(sent.joins()).isLessThan(120);
  }

  @Test
  public void whoAsksForRowsThatNoneCouldMeetGetsTheirNames() {
    Entry entry = lantrel.study(chain(12)).ledger(Naming.of(Figure.UNUSED, 10)).entries().get(9);
    assertThat(entry.before()).isZero();
    assertThat(entry.change(Figure.UNUSED).orElseThrow().causes())
        .flatExtracting(Cause::examples)
        .hasSize(12);
  }
}
