package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.QueryGenerator;
import io.lantrel.Rewriting;
import io.lantrel.rewrite.Form;
import io.lantrel.rewrite.RewriteException;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.Map;
import java.util.Set;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Generated queries brought into other forms on real engines: the rows stay the same. */
public class EngineRewriteTest {

  private static final long SEED = 20261124;
  private static final int TABLES = 4;

  private static final int QUERIES = 120;

  /** So many queries were changed on each engine, at least. */
  private static final int CHANGED = 200;

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void keepsTheRows(Engine engine) throws IOException, SQLException {
    Path folder = QueryGenerator.folder(SEED, TABLES);
    QueryGenerator generator = new QueryGenerator(SEED, TABLES);
    Map<Form, Integer> changed = new EnumMap<>(Form.class);
    int refused = 0;
    try (Lantrel lantrel = EngineLedgerTest.open(engine, folder)) {
      for (int i = 0; i < QUERIES; i++) {
        String sql =
            switch (i % 3) {
              case 0 -> generator.query().sql();
              case 1 -> generator.oldOrNested();
              default -> generator.absence();
            };
        if (sql.contains("FULL JOIN") && !EngineLedgerTest.runsAnyFullJoin(engine)) {
          continue;
        }
        for (Form form : Form.values()) {
          try {
            Rewriting rewriting = lantrel.rewrite(sql, form);
            boolean doubtful = rewriting.remarks().stream().anyMatch(each -> each.contains("NULL"));
            if (!doubtful) {
              assertThat(rewriting.difference()).as("%s%n%s", sql, rewriting.sql()).isEmpty();
            }
            if (rewriting.isChanged()) {
              assertThat(rewriting.rows().isPresent() || doubtful).isTrue();
              changed.merge(form, 1, Integer::sum);
            }
            // Each form on top of those before it.
            sql = doubtful ? sql : rewriting.sql();
          } catch (RewriteException unfit) {
            assertThat(unfit).hasMessageNotContaining("does not take");
            refused++;
          }
        }
      }
    }
    int all = changed.values().stream().mapToInt(each -> each).sum();
    assertThat(all).isGreaterThanOrEqualTo(CHANGED);
    assertThat(refused).isLessThan(all);
    // No references are declared, so that there are no roles; see RewritesInWorldsTest for others.
    Set<Form> wanted = EnumSet.range(Form.JOINS, Form.IS_NULL);
    wanted.removeAll(EnumSet.of(Form.ROLES, Form.UNION));
    assertThat(changed.keySet()).containsAll(wanted);
  }
}
