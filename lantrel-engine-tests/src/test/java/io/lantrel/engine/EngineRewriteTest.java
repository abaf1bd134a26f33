package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.QueryGenerator;
import io.lantrel.Rewriting;
import io.lantrel.write.Form;
import io.lantrel.write.WishException;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Generated queries brought into other forms on real engines: the rows stay the same. */
public class EngineRewriteTest {

  private static final long SEED = 20261124;
  private static final int TABLES = 4;

  /** So many queries were changed on each engine, at least. */
  private static final int CHANGED = 50;

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void keepsTheRows(Engine engine) throws IOException, SQLException {
    Path folder = QueryGenerator.folder(SEED, TABLES);
    QueryGenerator generator = new QueryGenerator(SEED, TABLES);
    int changed = 0;
    int refused = 0;
    try (Lantrel lantrel = EngineLedgerTest.open(engine, folder)) {
      for (int i = 0; i < 1_000 && changed < CHANGED; i++) {
        String sql = i % 2 == 0 ? generator.query().sql() : generator.oldOrNested();
        if (sql.contains("FULL JOIN") && !EngineLedgerTest.runsAnyFullJoin(engine)) {
          continue;
        }
        for (Form form : List.of(Form.JOINS, Form.ON, Form.LEFT, Form.QUALIFIED, Form.COLUMNS)) {
          try {
            Rewriting rewriting = lantrel.rewrite(sql, form);
            assertThat(rewriting.difference()).as("%s%n%s", sql, rewriting.sql()).isEmpty();
            changed += rewriting.isChanged() ? 1 : 0;
            // Each form on top of those before it.
            sql = rewriting.sql();
          } catch (WishException unfit) {
            refused++;
          }
        }
      }
    }
    assertThat(changed).isGreaterThanOrEqualTo(CHANGED);
    assertThat(refused).isLessThan(changed);
  }
}
