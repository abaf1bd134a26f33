package io.lantrel.write;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Rewriting;
import io.lantrel.RiverWatchFolder;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Queries in other forms: exactly these characters, and the same rows. */
public class RewriterTest {

  @DataProvider
  static Object[][] forms() {
    return new Object[][] {
      {
        Form.JOINS,
        "SELECT s.name -- one\nFROM station s, river r,\n     reading d\nWHERE s.river_id = r.id"
            + "\n  AND d.station_id = s.id -- the link\n  AND d.depth_cm > 100",
        "SELECT s.name -- one\nFROM station s JOIN river r ON s.river_id = r.id\n     JOIN reading d"
            + " ON d.station_id = s.id\nWHERE  -- the link\n  d.depth_cm > 100"
      },
      {
        Form.JOINS,
        "select s.name from station s,river r where r.id = s.river_id or r.id = 1",
        "select s.name from station s join river r on (r.id = s.river_id or r.id = 1)"
      },
      {
        Form.JOINS,
        "SELECT 1 FROM bank_kind b, river r WHERE r.id > 3",
        "SELECT 1 FROM bank_kind b CROSS JOIN river r WHERE r.id > 3"
      },
      {
        Form.JOINS,
        "SELECT 1 FROM river r, station s LEFT JOIN warden k ON k.id = s.keeper_id"
            + " WHERE s.river_id = r.id",
        "SELECT 1 FROM river r JOIN (station s LEFT JOIN warden k ON k.id = s.keeper_id) ON"
            + " s.river_id = r.id"
      },
      {
        Form.ON,
        "SELECT station_id, seen_on, taken_at FROM sighting LEFT JOIN reading USING (station_id)",
        "SELECT sighting.station_id, seen_on, taken_at FROM sighting LEFT JOIN reading ON"
            + " sighting.station_id = reading.station_id"
      },
      {
        Form.ON,
        "SELECT station_id FROM sighting a FULL JOIN reading b USING (station_id)",
        "SELECT COALESCE(a.station_id, b.station_id) AS station_id FROM sighting a FULL JOIN"
            + " reading b ON a.station_id = b.station_id"
      },
      {
        Form.LEFT,
        "SELECT s.name, r.name FROM station s RIGHT OUTER JOIN river r ON r.id = s.river_id",
        "SELECT s.name, r.name FROM river r LEFT OUTER JOIN station s ON r.id = s.river_id"
      },
      {
        Form.LEFT,
        "SELECT 1 FROM reading d JOIN station s ON s.id = d.station_id RIGHT JOIN river r ON r.id ="
            + " s.river_id",
        "SELECT 1 FROM river r LEFT JOIN (reading d JOIN station s ON s.id = d.station_id) ON r.id ="
            + " s.river_id"
      },
      {
        Form.QUALIFIED,
        "SELECT capacity AS c, flow FROM station s JOIN river ON river.id = river_id WHERE EXISTS"
            + " (SELECT 1 FROM reading WHERE station_id = s.id) ORDER BY c",
        "SELECT s.capacity AS c, river.flow FROM station s JOIN river ON river.id = s.river_id WHERE"
            + " EXISTS (SELECT 1 FROM reading WHERE reading.station_id = s.id) ORDER BY c"
      },
      {
        Form.COLUMNS,
        "SELECT b.*, s.name FROM bank_kind b JOIN station s ON s.bank = b.code",
        "SELECT b.code, b.label, s.name FROM bank_kind b JOIN station s ON s.bank = b.code"
      },
      {
        Form.NOT_EXISTS,
        "SELECT name FROM river WHERE id NOT IN (SELECT s.river_id FROM station s WHERE s.river_id"
            + " > 0)",
        "SELECT name FROM river WHERE NOT EXISTS (SELECT 1 FROM station s WHERE s.river_id > 0 AND"
            + " s.river_id = river.id)"
      },
      {Form.LEFT, "SELECT name FROM river", "SELECT name FROM river"},
    };
  }

  @Test(dataProvider = "forms")
  public void changesJustWhatIsOfTheOldForm(Form form, String sql, String expected) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Rewriting rewriting = lantrel.rewrite(sql, form);
      assertThat(rewriting.sql()).isEqualTo(expected);
      assertThat(rewriting.difference()).isEmpty();
      assertThat(lantrel.rewrite(expected, form).isChanged()).isFalse();
    }
  }

  @Test
  public void showsARowThatTheFormsDoNotShare() {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Rewriting rewriting =
          lantrel.rewrite(
              "SELECT name FROM river WHERE id NOT IN (SELECT river_id FROM station)",
              Form.NOT_EXISTS);
      assertThat(rewriting.difference().orElseThrow()).startsWith("only now: ");
      assertThat(rewriting.remark().orElseThrow()).contains("NULL");
    }
  }

  @DataProvider
  static Object[][] unfit() {
    return new Object[][] {
      {Form.LEFT, "SELECT * FROM station s RIGHT JOIN river r ON r.id = s.river_id", "write them"},
      {Form.ON, "SELECT * FROM sighting JOIN reading USING (station_id)", "write its columns out"},
      {Form.COLUMNS, "SELECT * FROM sighting JOIN reading USING (station_id)", "write ON first"},
      {Form.JOINS, "SELECT nme FROM river", "has an error"},
      {Form.JOINS, "DELETE FROM river", "only one query"},
      {Form.JOINS, "SELECT 1; SELECT 2", "only one query"},
      {
        Form.NOT_EXISTS,
        "SELECT 1 FROM river WHERE id NOT IN (SELECT flows_into FROM river)",
        "outside and inside"
      },
    };
  }

  @Test(dataProvider = "unfit")
  public void saysWhyAQueryCannotHaveAForm(Form form, String sql, String words) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      assertThatThrownBy(() -> lantrel.rewrite(sql, form))
          .isInstanceOf(WishException.class)
          .hasMessageContaining(words);
    }
  }
}
