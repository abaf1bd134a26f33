package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Functions in FROM: what they give is a column of their alias, and they are worked out by row. */
public class FunctionsInFromTest {

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  /** A query, and the kinds that are told. */
  @DataProvider
  static Object[][] queries() {
    String counted = " LEFT JOIN reading d ON d.station_id = ";
    return new Object[][] {
      {"SELECT n, COUNT(d.id) AS n2 FROM generate_series(1, 30) n" + counted + "n GROUP BY n", ""},
      {"SELECT g.g, COUNT(d.id) AS n FROM range(1, 31) AS g" + counted + "g.g GROUP BY g.g", ""},
      {
        "SELECT t.n, COUNT(d.id) AS c FROM generate_series(1, 30) AS t (n)"
            + counted
            + "t.n GROUP BY t.n",
        ""
      },
      {
        "SELECT generate_series, s.name FROM generate_series(1, 3) JOIN station s ON s.id ="
            + " generate_series",
        ""
      },
      {
        "SELECT m::DATE AS month, COUNT(d.id) AS n FROM generate_series(DATE '2026-03-01', DATE"
            + " '2026-06-01', INTERVAL 1 MONTH) m LEFT JOIN reading d ON date_trunc('month',"
            + " d.taken_at) = m GROUP BY m",
        ""
      },
      {"SELECT s.name, t FROM station s, unnest([s.bank, 'x']) t WHERE t IS NOT NULL", ""},
      {"SELECT s.name, t.t FROM station s CROSS JOIN LATERAL unnest([s.bank, 'x']) t", ""},
      {"SELECT s.name, k.key FROM station s, json_each({'a': s.id}) k", ""},
      {
        "SELECT n, d.id FROM generate_series(1, 3) n JOIN reading d ON d.depth_cm > 0",
        "cross-product"
      },
    };
  }

  @Test(dataProvider = "queries")
  public void areKnownByTheirAlias(String sql, String kinds) {
    Study study = lantrel.study(sql);
    assertThat(String.join(", ", study.findings().stream().map(each -> each.kind().id()).toList()))
        .isEqualTo(kinds);
    assertThat(study.inspection().unchecked()).isEmpty();
    String counted =
        sql.replaceFirst("SELECT .*? FROM ", "SELECT COUNT(*) AS n FROM ")
            .replaceFirst(" (GROUP BY|WHERE) .*", "");
    assertThat(study.ledger().entries().get(1).after())
        .isEqualTo(lantrel.study(counted).result().figure(0));
  }
}
