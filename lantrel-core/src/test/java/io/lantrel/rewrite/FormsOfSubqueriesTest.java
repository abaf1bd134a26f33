package io.lantrel.rewrite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Rewriting;
import io.lantrel.RiverWatchFolder;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Subqueries, joins and members of WITH, each in place of another: these characters, same rows. */
public class FormsOfSubqueriesTest {

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass(alwaysRun = true)
  public void close() {
    lantrel.close();
  }

  @DataProvider
  static Object[][] forms() {
    return new Object[][] {
      {
        Form.WITH,
        "SELECT r.name, n.total\nFROM river r JOIN (\n  SELECT river_id, COUNT(*) AS total -- all\n"
            + "  FROM station GROUP BY river_id\n) n ON n.river_id = r.id",
        "WITH n AS (\n  SELECT river_id, COUNT(*) AS total -- all\n  FROM station GROUP BY"
            + " river_id\n)\nSELECT r.name, n.total\nFROM river r JOIN n ON n.river_id = r.id"
      },
      {
        Form.WITH,
        "WITH a AS (SELECT id FROM (SELECT * FROM river) r) SELECT a.id FROM a, (SELECT 1 AS x) r"
            + " WHERE a.id IN (SELECT river_id FROM station)",
        "WITH r2 AS (SELECT * FROM river),\na AS (SELECT id FROM r2 r),\nr3 AS (SELECT 1 AS x) SELECT"
            + " a.id FROM a, r3 r WHERE a.id IN (SELECT river_id FROM station)"
      },
      {
        // What looks at the row outside stays.
        Form.WITH,
        "SELECT name FROM river r WHERE r.flow = (SELECT MAX(flow) FROM river) AND EXISTS (SELECT 1"
            + " FROM (SELECT * FROM station) s WHERE s.river_id = r.id)",
        "WITH rivers AS (SELECT MAX(flow) AS figure FROM river),\ns AS (SELECT * FROM station)\nSELECT"
            + " name FROM river r WHERE r.flow = (SELECT figure FROM rivers) AND EXISTS (SELECT 1"
            + " FROM s WHERE s.river_id = r.id)"
      },
      {
        Form.DERIVED,
        "-- big ones\nWITH big (id, label) AS (SELECT id, name FROM river WHERE flow > 1), -- two\n"
            + " s AS (SELECT b.label FROM big b JOIN station ON river_id = b.id)\nSELECT big.label,"
            + " (SELECT COUNT(*) FROM s) AS n FROM big",
        "-- big ones\n-- two\nSELECT big.label, (SELECT COUNT(*) FROM (SELECT b.label FROM (SELECT id"
            + " AS id, name AS label FROM river WHERE flow > 1) b JOIN station ON river_id = b.id)"
            + " s) AS n FROM (SELECT id AS id, name AS label FROM river WHERE flow > 1) big"
      },
      {
        Form.JOIN_ONCE,
        "SELECT name FROM station WHERE river_id IN (SELECT id FROM river WHERE flow > 1) AND id > 2",
        "SELECT station.name FROM station JOIN river ON river.id = station.river_id AND flow > 1"
            + " WHERE station.id > 2"
      },
      {
        Form.JOIN_ONCE,
        "SELECT * FROM bank_kind WHERE EXISTS (SELECT 1 FROM station s WHERE s.bank = code AND"
            + " s.capacity > 3)",
        "SELECT bank_kind.code, bank_kind.label FROM bank_kind JOIN (SELECT DISTINCT s.bank FROM"
            + " station s WHERE s.capacity > 3) listed ON listed.bank = bank_kind.code"
      },
      {
        Form.NO_SCALAR,
        "SELECT r.name, (SELECT COUNT(*) FROM station s WHERE s.river_id = r.id) AS stations,"
            + " (SELECT MAX(s.capacity) + 1 FROM station s WHERE s.river_id = r.id) AS room FROM"
            + " river r WHERE r.flow > 1",
        "SELECT r.name, COALESCE(stations.number, 0) AS stations, stations.room + 1 AS room FROM"
            + " river r LEFT JOIN (SELECT s.river_id, COUNT(*) AS number, MAX(s.capacity) AS room"
            + " FROM station s GROUP BY s.river_id) stations ON stations.river_id = r.id WHERE"
            + " r.flow > 1"
      },
      {
        Form.NO_SCALAR,
        "SELECT name, (SELECT name FROM river WHERE id = river_id) AS river FROM station",
        "SELECT station.name, river.name AS river FROM station LEFT JOIN river ON river.id = river_id"
      },
      {
        Form.SCALAR,
        "SELECT s.name, r.name AS river, k.given_name FROM station s LEFT JOIN river r ON r.id ="
            + " s.river_id LEFT JOIN warden k ON k.id = s.keeper_id ORDER BY s.name",
        "SELECT s.name, (SELECT r.name FROM river r WHERE r.id = s.river_id) AS river, (SELECT"
            + " k.given_name FROM warden k WHERE k.id = s.keeper_id) AS given_name FROM station s"
            + " ORDER BY s.name"
      },
      {
        // Names that the columns have already are not told again.
        Form.WITH,
        "SELECT name FROM river WHERE (id, flow) IN (SELECT river_id, MAX(capacity) FROM station"
            + " WHERE id > 0 GROUP BY river_id)",
        "WITH stations AS (SELECT river_id, MAX(capacity) AS figure2 FROM station WHERE id > 0 GROUP"
            + " BY river_id)\nSELECT name FROM river WHERE (id, flow) IN (SELECT river_id, figure2"
            + " FROM stations)"
      },
    };
  }

  @Test(dataProvider = "forms")
  public void changesJustWhatIsOfTheOldForm(Form form, String sql, String expected) {
    Rewriting rewriting = lantrel.rewrite(sql, form);
    assertThat(rewriting.sql()).isEqualTo(expected);
    assertThat(rewriting.difference()).isEmpty();
    assertThat(lantrel.rewrite(expected, form).isChanged()).isFalse();
  }

  @DataProvider
  static Object[][] unfit() {
    return new Object[][] {
      {
        Form.JOIN_ONCE,
        "SELECT name FROM river r WHERE r.id = 3 OR r.id IN (SELECT river_id FROM station)",
        "beside OR, or outside of WHERE, stays"
      },
      {
        Form.JOIN_ONCE,
        "SELECT name FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.capacity > r.flow)",
        "anything but equalities"
      },
      {
        Form.NO_SCALAR,
        "SELECT r.name, (SELECT s.name FROM station s WHERE s.river_id = r.id) FROM river r WHERE"
            + " r.id = 12",
        "nothing in the schema says that it gives one row at most"
      },
      {
        Form.NO_SCALAR,
        "SELECT r.name, (SELECT s.name FROM station s WHERE s.river_id = r.id LIMIT 1) FROM river r",
        "groups, an order or a limit of its own"
      },
      {
        Form.SCALAR,
        "SELECT r.name, s.name FROM river r LEFT JOIN station s ON s.river_id = r.id",
        "the join of s stays: a row may have several partners"
      },
      {
        Form.SCALAR,
        "SELECT s.name, r.name FROM station s LEFT JOIN river r ON r.id = s.river_id ORDER BY r.flow",
        "used outside of SELECT too"
      },
      {
        Form.DERIVED,
        "WITH RECURSIVE up (id, n) AS (SELECT id, 1 FROM river WHERE id = 3 UNION ALL SELECT"
            + " r.flows_into, n + 1 FROM up JOIN river r ON r.id = up.id WHERE n < 9) SELECT id FROM"
            + " up",
        "the member up of WITH stays: it is recursive"
      },
      {
        Form.JOIN_ONCE,
        "SELECT 1 AS one WHERE 3 IN (SELECT id FROM river)",
        "IN stays: there is no FROM here to join it to"
      },
      {
        Form.IS_NULL,
        "SELECT 1 AS one WHERE NOT EXISTS (SELECT 1 FROM river WHERE id = 99)",
        "a plain SELECT, FROM and WHERE"
      },
      {
        // DuckDB takes it, most engines do not.
        Form.QUALIFIED,
        "SELECT k.given_name FROM river r, station s RIGHT JOIN warden k ON k.id = r.id",
        "r.id is of a table before a comma, and JOIN binds more tightly than the comma; write CROSS"
            + " JOIN in place of the comma"
      },
      {
        Form.NO_SCALAR,
        "SELECT s.name, (SELECT (SELECT COUNT(*) FROM reading d WHERE d.station_id = s.id)) AS n"
            + " FROM station s",
        "a scalar subquery in SELECT stays"
      },
      {
        // The rows that RIGHT JOIN fills have no name of a river; a subquery would find one.
        Form.SCALAR,
        "SELECT k.given_name, r.name FROM station s LEFT JOIN river r ON r.id = 3 RIGHT JOIN warden k"
            + " ON k.id = s.keeper_id",
        "the join of r stays: another join fills its columns too"
      },
    };
  }

  @Test(dataProvider = "unfit")
  public void saysWhyAQueryCannotHaveAForm(Form form, String sql, String words) {
    assertThatThrownBy(() -> lantrel.rewrite(sql, form))
        .isInstanceOf(RewriteException.class)
        .hasMessageContaining(words);
  }

  /** Conditions that belong where they are: nothing is changed, and it is said why. */
  @DataProvider
  static Object[][] belonging() {
    return new Object[][] {
      {
        // A join that may be filled as a whole decides about partners.
        Form.FILTER_WHERE,
        "SELECT r.name FROM river r LEFT JOIN (station s JOIN reading d ON d.station_id = s.id AND"
            + " d.depth_cm > 9) ON s.river_id = r.id",
        "d.depth_cm > 9 stays in ON: that join keeps rows without a partner, and WHERE would drop"
      },
      {
        Form.FILTER_WHERE,
        "SELECT r.name FROM river r LEFT JOIN station s ON s.river_id = r.id AND r.flow > 1",
        "r.flow > 1 stays in ON"
      },
      {
        Form.FILTER_ON,
        "SELECT r.name FROM river r LEFT JOIN station s ON s.river_id = r.id WHERE s.capacity > 3",
        "s.capacity > 3 stays in WHERE: an outer join brings its table, and in ON it would drop no"
            + " row"
      },
    };
  }

  @Test(dataProvider = "belonging")
  public void saysWhatBelongsWhereItIs(Form form, String sql, String words) {
    Rewriting rewriting = lantrel.rewrite(sql, form);
    assertThat(rewriting.sql()).isEqualTo(sql);
    assertThat(rewriting.remarks()).anyMatch(each -> each.contains(words));
  }
}
