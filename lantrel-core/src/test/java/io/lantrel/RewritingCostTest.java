package io.lantrel;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.rewrite.Form;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** How many statements a rewriting sends: to compare the rows, and to see what a form rests on. */
public class RewritingCostTest {

  @DataProvider
  static Object[][] rewritings() {
    return new Object[][] {
      {Form.LEFT, "SELECT s.name FROM station s RIGHT JOIN river r ON r.id = s.river_id", 3, 3},
      // Keys and NOT NULL are asked of both tables, once.
      {
        Form.JOIN_ONCE,
        "SELECT s.name FROM station s WHERE s.river_id IN (SELECT id FROM river)",
        5,
        3
      },
      // The form rests on nothing, the proof on a key, here and below.
      {
        Form.IN_LIST,
        "SELECT s.name, (SELECT r.name FROM river r WHERE r.id = s.river_id) AS river FROM station s"
            + " WHERE s.id = 1 OR s.id = 2",
        4,
        3
      },
      {
        Form.ROLES,
        "SELECT w.given_name FROM warden w LEFT JOIN warden m ON m.id = w.mentor_id",
        4,
        3
      },
      {Form.LEFT, "SELECT name FROM river", 0, 0},
    };
  }

  @Test(dataProvider = "rewritings")
  public void asksFewStatements(Form form, String sql, int first, int again) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      long before = lantrel.statementsSent();
      lantrel.rewrite(sql, form);
      long once = lantrel.statementsSent();
      lantrel.rewrite(sql, form);
      assertThat(once - before).isEqualTo(first);
      assertThat(lantrel.statementsSent() - once).isEqualTo(again);
    }
  }
}
