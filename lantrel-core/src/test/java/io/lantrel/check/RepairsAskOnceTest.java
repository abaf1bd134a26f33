package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.SentStatements;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * A repair is tried with what its edits touch: the rest was answered when the query was checked.
 */
public class RepairsAskOnceTest {

  private static final String LOSES =
      "SELECT s.name, k.family_name AS other FROM station s JOIN warden k ON k.id = s.keeper_id";

  private static final String SEEN =
      "SELECT p.name, g.name FROM species p JOIN species_group g ON g.id = p.group_id";

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

  /**
   * A query with a finding that is mended, and what questions about another part of it speak of: in
   * quotes, which the query itself does without.
   */
  @DataProvider
  static Object[][] queries() {
    return new Object[][] {
      {LOSES + " UNION ALL " + SEEN, "\"g\".\"id\""},
      {SEEN + " UNION ALL " + LOSES, "\"g\".\"id\""},
      {"WITH q AS (" + SEEN + ") " + LOSES + " WHERE EXISTS (SELECT 1 FROM q)", "\"g\".\"id\""},
      {
        LOSES
            + " WHERE s.id IN (SELECT x.station_id FROM sighting x JOIN species p ON p.id ="
            + " x.species_id JOIN species_group g ON g.id = p.group_id)",
        "\"g\".\"id\""
      },
      // A total over repeated rows is told, whatever becomes of what is lost.
      {
        "SELECT r.name, k.family_name, SUM(s.capacity) AS c FROM river r JOIN station s ON"
            + " s.river_id = r.id JOIN reading d ON d.station_id = s.id JOIN warden k ON k.id ="
            + " s.keeper_id GROUP BY r.name, k.family_name",
        "lantrel_per_group"
      },
    };
  }

  @Test(dataProvider = "queries")
  public void whatNoEditTouchesIsAskedOnce(String sql, String asked) {
    assertThat(lantrel.study(sql).findings()).anyMatch(each -> each.repair().isPresent());
    assertThat(sent.texts()).filteredOn(each -> each.contains(asked)).hasSize(1);
  }
}
