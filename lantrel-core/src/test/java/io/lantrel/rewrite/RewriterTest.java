package io.lantrel.rewrite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Rewriting;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.engine.Engine;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
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
        "SELECT name FROM river WHERE NOT EXISTS (SELECT 1 FROM station s WHERE s.river_id = river.id"
            + " AND s.river_id > 0)"
      },
      {Form.LEFT, "SELECT name FROM river", "SELECT name FROM river"},
      {
        // The first parenthesis is not around the whole.
        Form.NOT_EXISTS,
        "SELECT name FROM river WHERE id NOT IN (SELECT d.id FROM reading d WHERE (d.id > 3) OR"
            + " (d.id = 2))",
        "SELECT name FROM river WHERE NOT EXISTS (SELECT 1 FROM reading d WHERE d.id = river.id AND"
            + " ((d.id > 3) OR (d.id = 2)))"
      },
      {
        Form.NOT_EXISTS,
        "SELECT name FROM station WHERE id NOT IN (SELECT station_id FROM reading GROUP BY"
            + " station_id)",
        "SELECT name FROM station WHERE NOT EXISTS (SELECT 1 FROM (SELECT station_id FROM reading"
            + " GROUP BY station_id) listed WHERE listed.station_id = station.id)"
      },
      {
        Form.NOT_EXISTS,
        "SELECT r.name\nFROM river r\nLEFT JOIN station s -- none\n  ON s.river_id = r.id\n  AND"
            + " s.capacity > 3\nWHERE r.flow > 1 AND s.id IS NULL",
        "SELECT r.name\nFROM river r\nWHERE r.flow > 1 AND NOT EXISTS (SELECT 1 FROM station s"
            + " -- none\n  WHERE s.river_id = r.id\n  AND s.capacity > 3)"
      },
      {
        Form.NOT_EXISTS,
        "SELECT r.name, r.id NOT IN (SELECT d.station_id FROM reading d) AS bare FROM river r",
        "SELECT r.name, NOT EXISTS (SELECT 1 FROM reading d WHERE d.station_id = r.id) AS bare FROM"
            + " river r"
      },
      {
        Form.IS_NULL,
        "SELECT r.name FROM river r, bank_kind b WHERE NOT EXISTS (SELECT 1 FROM station s WHERE"
            + " s.river_id = r.id)",
        "SELECT r.name FROM river r LEFT JOIN station s ON s.river_id = r.id, bank_kind b WHERE"
            + " s.id IS NULL"
      },
      {
        Form.NOT_IN,
        "select r.name from river r where not exists (select 1 from station s where s.river_id ="
            + " r.id and s.capacity > 3)",
        "select r.name from river r where r.id not in (select s.river_id from station s where"
            + " s.capacity > 3)"
      },
      {
        Form.IS_NULL,
        "SELECT name FROM river WHERE flow > 1 AND NOT EXISTS (SELECT * FROM station WHERE river_id"
            + " = river.id)",
        "SELECT river.name FROM river LEFT JOIN station ON river_id = river.id WHERE flow >"
            + " 1 AND station.id IS NULL"
      },
      {
        Form.JOINS,
        "SELECT r.name, s.name FROM station s, -- all\n  river r\nWHERE r.id = s.river_id(+) AND"
            + " s.capacity(+) > 3 AND r.flow > 1",
        "SELECT r.name, s.name FROM river r\nLEFT JOIN station s ON r.id = s.river_id AND s.capacity"
            + " > 3 -- all\nWHERE r.flow > 1"
      },
      {
        Form.FLAT,
        "SELECT 1 FROM river r JOIN (station s LEFT JOIN reading d ON d.station_id = s.id) ON"
            + " s.river_id = r.id",
        "SELECT 1 FROM river r JOIN station s ON s.river_id = r.id LEFT JOIN reading d ON"
            + " d.station_id = s.id"
      },
      {
        Form.FLAT,
        "SELECT 1 FROM (station s LEFT JOIN reading d JOIN station t ON t.id = d.station_id"
            + " ON d.station_id = s.id)",
        "SELECT 1 FROM station s LEFT JOIN reading d ON d.station_id = s.id LEFT JOIN station t ON"
            + " t.id = d.station_id"
      },
      {
        Form.UNION,
        "SELECT s.name, r.name AS river FROM station s FULL JOIN river r ON r.id = s.river_id WHERE"
            + " r.flow > 1 ORDER BY s.name, river",
        "SELECT s.name, r.name AS river FROM station s LEFT JOIN river r ON r.id = s.river_id WHERE"
            + " r.flow > 1\nUNION ALL\nSELECT s.name, r.name AS river FROM station s RIGHT JOIN"
            + " river r ON r.id = s.river_id WHERE r.flow > 1 AND s.id IS NULL ORDER BY 1, river"
      },
      {
        Form.UNION,
        "SELECT s.id FROM station s FULL JOIN river r ON r.id = s.river_id UNION SELECT 1",
        "SELECT * FROM (\nSELECT s.id FROM station s LEFT JOIN river r ON r.id = s.river_id\nUNION"
            + " ALL\nSELECT s.id FROM station s RIGHT JOIN river r ON r.id = s.river_id WHERE s.id"
            + " IS NULL\n) AS halves UNION SELECT 1"
      },
      {
        Form.SHORT,
        "SELECT station.name, river.*, (SELECT COUNT(*) FROM reading WHERE reading.station_id ="
            + " station.id) FROM station JOIN river ON river.id = station.river_id",
        "SELECT s.name, r.*, (SELECT COUNT(*) FROM reading WHERE reading.station_id ="
            + " s.id) FROM station s JOIN river r ON r.id = s.river_id"
      },
      {
        Form.ROLES,
        "SELECT w.given_name, m.given_name FROM warden AS w LEFT JOIN warden AS m ON m.id = w.mentor_id",
        "SELECT w.given_name, mentor.given_name FROM warden AS w LEFT JOIN warden AS mentor ON mentor.id ="
            + " w.mentor_id"
      },
      {
        Form.IN_LIST,
        "SELECT name FROM station WHERE (bank = 'L' OR bank = 'R' -- both\n OR capacity = 3) AND id"
            + " > 0",
        "SELECT name FROM station WHERE (bank IN ('L', 'R') -- both\n OR capacity = 3) AND id > 0"
      },
      {
        Form.IN_LIST,
        "SELECT name FROM station s WHERE (s.river_id = 1 OR 2 = s.river_id OR river_id IN (3, 1))",
        "SELECT name FROM station s WHERE s.river_id IN (1, 2, 3)"
      },
      {
        Form.FILTER_WHERE,
        "SELECT s.name FROM river r JOIN station s ON s.river_id = r.id AND s.capacity > 3 LEFT JOIN"
            + " reading d ON d.station_id = s.id AND d.depth_cm > 9",
        "SELECT s.name FROM river r JOIN station s ON s.river_id = r.id LEFT JOIN reading d ON"
            + " d.station_id = s.id AND d.depth_cm > 9 WHERE s.capacity > 3"
      },
      {
        Form.FILTER_WHERE,
        "SELECT r.name FROM river r JOIN station s ON s.river_id = r.id AND (s.capacity > 3 OR s.id"
            + " = 1) WHERE r.flow > 1 OR r.id = 2",
        "SELECT r.name FROM river r JOIN station s ON s.river_id = r.id WHERE (r.flow > 1 OR r.id ="
            + " 2) AND (s.capacity > 3 OR s.id = 1)"
      },
      {
        Form.FILTER_ON,
        "SELECT s.name\nFROM river r\nJOIN station s ON s.river_id = r.id\nLEFT JOIN reading d ON"
            + " d.station_id = s.id\nWHERE r.flow > 1\n  AND s.capacity > 3\n  AND d.id IS NULL",
        "SELECT s.name\nFROM river r\nJOIN station s ON s.river_id = r.id AND s.capacity > 3\nLEFT"
            + " JOIN reading d ON d.station_id = s.id\nWHERE r.flow > 1\n  AND d.id IS NULL"
      },
      {
        Form.FLAT,
        "SELECT 1 FROM river r RIGHT JOIN (station s JOIN warden k ON k.id = s.keeper_id) ON"
            + " s.river_id = r.id",
        "SELECT 1 FROM station s JOIN warden k ON k.id = s.keeper_id LEFT JOIN river r ON s.river_id"
            + " = r.id"
      },
      {
        // What was in the way is done first, by itself.
        Form.LEFT,
        "SELECT * FROM bank_kind b RIGHT JOIN (SELECT 1 AS one) o ON b.code = 'L'",
        "SELECT b.code, b.label, o.one FROM (SELECT 1 AS one) o LEFT JOIN bank_kind b ON b.code ="
            + " 'L'"
      },
      {
        Form.COLUMNS,
        "SELECT * FROM (SELECT id, 1 AS a FROM river) x JOIN (SELECT id, 2 AS b FROM river) y USING"
            + " (id)",
        "SELECT x.id, x.a, y.b FROM (SELECT id, 1 AS a FROM river) x JOIN (SELECT id, 2 AS b FROM"
            + " river) y USING (id)"
      },
      {
        Form.ON,
        "SELECT * FROM (SELECT id, 1 AS a FROM river) x NATURAL JOIN (SELECT id, 2 AS b FROM river)"
            + " y",
        "SELECT x.id, x.a, y.b FROM (SELECT id, 1 AS a FROM river) x JOIN (SELECT id, 2 AS b FROM"
            + " river) y ON x.id = y.id"
      },
      {
        Form.FLAT,
        "SELECT 1 FROM river r JOIN (station s JOIN reading d ON d.station_id = s.id) ON s.river_id"
            + " = r.id JOIN sighting USING (station_id)",
        "SELECT 1 FROM river r JOIN station s ON s.river_id = r.id JOIN reading d ON d.station_id ="
            + " s.id JOIN sighting ON d.station_id = sighting.station_id"
      },
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

  @DataProvider
  static Object[][] doubtful() {
    return new Object[][] {
      {
        // A river that flows into none is a NULL in the list, here and now.
        Form.NOT_EXISTS,
        "SELECT name FROM river WHERE NOT id IN (SELECT flows_into FROM river WHERE flow > 1 OR id"
            + " = 2)",
        "SELECT name FROM river WHERE NOT EXISTS (SELECT 1 FROM river other_river WHERE"
            + " other_river.flows_into = river.id AND (flow > 1 OR id = 2))",
        "only now: ",
        "empty other_river.flows_into"
      },
      {
        Form.NOT_EXISTS,
        "SELECT name FROM river WHERE id NOT IN (SELECT river_id FROM station WHERE id < 4)",
        "SELECT name FROM river WHERE NOT EXISTS (SELECT 1 FROM station WHERE station.river_id ="
            + " river.id AND id < 4)",
        "",
        "made up: with one more row in the list, whose station.river_id is empty, NOT IN gives 0 in"
            + " place of 10 rows"
      },
      {
        Form.NOT_IN,
        "SELECT name FROM river WHERE NOT EXISTS (SELECT 1 FROM station WHERE id < 4 AND"
            + " station.river_id = river.id)",
        "SELECT name FROM river WHERE river.id NOT IN (SELECT station.river_id FROM station WHERE id"
            + " < 4)",
        "",
        "NOT IN gives 0 in place of 10 rows"
      },
      {
        Form.NOT_EXISTS,
        "SELECT name FROM station s WHERE keeper_id NOT IN (SELECT id FROM warden WHERE id > 5) AND"
            + " s.id < 4",
        "SELECT name FROM station s WHERE NOT EXISTS (SELECT 1 FROM warden WHERE warden.id ="
            + " s.keeper_id AND id > 5) AND s.id < 4",
        "",
        "made up: with an empty keeper_id in every row, NOT IN gives 0 in place of"
      },
      {
        Form.NOT_IN,
        "SELECT given_name FROM warden w WHERE NOT EXISTS (SELECT 1 FROM warden m WHERE m.id ="
            + " w.mentor_id)",
        "SELECT given_name FROM warden w WHERE w.mentor_id NOT IN (SELECT m.id FROM warden m)",
        "only before: ",
        "where w.mentor_id is empty NOT IN is never true"
      },
    };
  }

  @DataProvider
  static Object[][] marks() {
    return new Object[][] {
      {
        Form.JOINS,
        "SELECT 1 FROM river r, station s WHERE r.flow > ? AND s.river_id = r.id AND s.capacity > ?",
        "SELECT 1 FROM river r JOIN station s ON s.river_id = r.id WHERE r.flow > ? AND s.capacity >"
            + " ?",
        ""
      },
      {
        Form.FILTER_ON,
        "SELECT 1 FROM river r JOIN station s ON s.river_id = r.id WHERE r.flow > ? AND s.capacity >"
            + " ?",
        "SELECT 1 FROM river r JOIN station s ON s.river_id = r.id AND s.capacity > ? WHERE r.flow"
            + " > ?",
        "the parameters ? stand in another order now: 2, 1"
      },
      {
        Form.DERIVED,
        "WITH big AS (SELECT id FROM river WHERE flow > ?) SELECT a.id FROM big a JOIN big b ON b.id"
            + " > a.id",
        "SELECT a.id FROM (SELECT id FROM river WHERE flow > ?) a JOIN (SELECT id FROM river WHERE"
            + " flow > ?) b ON b.id > a.id",
        "the parameters ? stand in another order now: 1, 1"
      },
    };
  }

  /** Values are given to question marks by their order, which a program must know. */
  @Test(dataProvider = "marks")
  public void saysWhereQuestionMarksHaveGone(
      Form form, String sql, String expected, String remark) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Rewriting rewriting = lantrel.rewrite(sql, form);
      assertThat(rewriting.sql()).isEqualTo(expected);
      assertThat(String.join("; ", rewriting.remarks())).contains(remark);
      assertThat(rewriting.remarks().stream().anyMatch(each -> each.contains("order now")))
          .isEqualTo(!remark.isEmpty());
    }
  }

  @Test
  public void saysForWhichDataItIsProven() {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Rewriting turned =
          lantrel.rewrite(
              "SELECT s.name FROM station s RIGHT JOIN river r ON r.id = s.river_id", Form.LEFT);
      assertThat(turned.provenFor()).contains("any data");
      Rewriting once =
          lantrel.rewrite(
              "SELECT s.name FROM station s WHERE s.river_id IN (SELECT r.id FROM river r)",
              Form.JOIN_ONCE);
      assertThat(once.provenFor())
          .hasValueSatisfying(data -> assertThat(data).contains("river.id"));
    }
  }

  /** A missing part no longer makes the whole text missing: that is wanted, and told. */
  @Test
  public void coalesceChangesWhatIsMissing() {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Rewriting rewriting =
          lantrel.rewrite(
              "SELECT r.name || ' to ' || i.name || r.flows_into AS way, r.id FROM river r LEFT JOIN river"
                  + " i ON i.id = r.flows_into",
              Form.COALESCE);
      assertThat(rewriting.sql())
          .isEqualTo(
              "SELECT r.name || ' to ' || COALESCE(i.name, '') || COALESCE(CAST(r.flows_into AS"
                  + " VARCHAR(50)), '') AS way, r.id FROM river r LEFT JOIN river i ON i.id ="
                  + " r.flows_into");
      assertThat(rewriting.difference())
          .hasValueSatisfying(row -> assertThat(row).contains("before").contains("NULL"));
      assertThat(rewriting.provenFor()).isEmpty();
      assertThat(rewriting.remarks())
          .anyMatch(each -> each.contains("i.name or r.flows_into is NULL"));
      assertThat(lantrel.rewrite(rewriting.sql(), Form.COALESCE).isChanged()).isFalse();
    }
  }

  /** A text within a text that is put together gets its turn, too. */
  @Test
  public void coalesceReachesTextsWithinTexts() {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      String sql =
          "SELECT UPPER(r.name || i.name) || i.name AS way FROM river r LEFT JOIN river i ON i.id ="
              + " r.flows_into";
      assertThat(lantrel.rewrite(sql, Form.COALESCE).sql())
          .startsWith(
              "SELECT COALESCE(UPPER(r.name || COALESCE(i.name, '')), '') || COALESCE(i.name, '')");
    }
  }

  @Test
  public void doubtsNothingWhereNeitherSideCanBeNull() {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Rewriting rewriting =
          lantrel.rewrite(
              "SELECT name FROM station s WHERE keeper_id NOT IN (SELECT id FROM warden WHERE id <"
                  + " 5) AND keeper_id > 0",
              Form.NOT_EXISTS);
      assertThat(rewriting.sql())
          .isEqualTo(
              "SELECT name FROM station s WHERE NOT EXISTS (SELECT 1 FROM warden WHERE warden.id ="
                  + " s.keeper_id AND id < 5) AND keeper_id > 0");
      assertThat(rewriting.difference()).isEmpty();
      assertThat(rewriting.remarks()).isEmpty();
    }
  }

  @Test(dataProvider = "doubtful")
  public void showsWhereTheFormsDoNotShareTheirRows(
      Form form, String sql, String expected, String difference, String remark) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Rewriting rewriting = lantrel.rewrite(sql, form);
      assertThat(rewriting.sql()).isEqualTo(expected);
      assertThat(rewriting.difference().orElse("")).startsWith(difference);
      assertThat(rewriting.difference().isPresent()).isEqualTo(!difference.isEmpty());
      assertThat(String.join("; ", rewriting.remarks())).contains(remark);
    }
  }

  @DataProvider
  static Object[][] unfit() {
    return new Object[][] {
      {Form.JOINS, "SELECT nme FROM river", "line 1, column 8: river has no column nme"},
      {Form.JOINS, "DELETE FROM river", "this is no query"},
      {Form.JOINS, "SELECT 1; SELECT 2", "here are 2 statements"},
      {
        Form.FLAT,
        "SELECT 1 FROM station s LEFT JOIN (reading d JOIN warden w ON w.id = d.depth_cm) ON"
            + " d.station_id = s.id",
        "nothing in the schema says that each has one"
      },
      {
        Form.FLAT,
        "SELECT 1 FROM river r LEFT JOIN (station s LEFT JOIN warden k ON k.id = 1) ON s.river_id ="
            + " r.id",
        "can be true although s is missing"
      },
      {
        Form.UNION,
        "SELECT COUNT(*) FROM river r FULL JOIN station s ON s.river_id = r.id",
        "put together after the FULL JOIN"
      },
      {
        Form.UNION,
        "SELECT r.id FROM river r FULL JOIN station s ON s.river_id = r.id ORDER BY s.name",
        "a UNION can only be put in order by what it shows"
      },
      {
        Form.JOINS,
        "SELECT 1 FROM river r, station s WHERE r.id (+) = s.river_id (+)",
        "only one table of it can be optional"
      },
      {
        Form.JOINS,
        "SELECT 1 FROM river r, station s WHERE r.id (+) = s.river_id AND s.id (+) = r.flow",
        "optional to one another"
      },
      {
        Form.IS_NULL,
        "SELECT name FROM river r WHERE r.id = 3 OR NOT EXISTS (SELECT 1 FROM station s WHERE"
            + " s.river_id = r.id)",
        "stands beside OR, or outside of WHERE"
      },
      {
        Form.NOT_IN,
        "SELECT name FROM river r WHERE NOT EXISTS (SELECT 1 FROM station s WHERE s.river_id ="
            + " r.id AND s.capacity > r.flow)",
        "only if equalities, and nothing else"
      },
      {
        Form.NOT_EXISTS,
        "SELECT r.name, s.name FROM river r LEFT JOIN station s ON s.river_id = r.id WHERE s.id IS"
            + " NULL",
        "columns of s are used besides"
      },
      {
        Form.NOT_EXISTS,
        "SELECT name FROM river WHERE id NOT IN (SELECT * FROM bank_kind)",
        "gives 2 columns"
      },
    };
  }

  @Test(dataProvider = "unfit")
  public void saysWhyAQueryCannotHaveAForm(Form form, String sql, String words) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      assertThatThrownBy(() -> lantrel.rewrite(sql, form))
          .isInstanceOf(RewriteException.class)
          .hasMessageContaining(words);
    }
  }

  @DataProvider
  static Object[][] embedded() {
    return Stream.of(Engine.values())
        .filter(Engine::isEmbedded)
        .map(each -> new Object[] {each})
        .toArray(Object[][]::new);
  }

  /** Names in quotes, small ones and ones with blanks, in every form and every engine. */
  @Test(dataProvider = "embedded")
  public void keepsOddNames(Engine engine) throws IOException {
    Path folder = Scratch.folder("odd");
    Files.writeString(
        folder.resolve("schema.sql"),
        """
        CREATE TABLE "Odd River" ("The Id" INTEGER PRIMARY KEY, "select" VARCHAR(10),
          "flows into" INTEGER REFERENCES "Odd River" ("The Id"));
        CREATE TABLE stop (id INTEGER PRIMARY KEY, odd INTEGER NOT NULL);
        """);
    Files.writeString(
        folder.resolve("Odd River.csv"), "The Id,select,flows into\n1,a,\n2,it's,1\n3,c,2\n");
    Files.writeString(folder.resolve("stop.csv"), "id,odd\n1,1\n2,3\n");
    List<String> queries =
        List.of(
            "SELECT \"select\" FROM \"Odd River\" WHERE NOT EXISTS (SELECT 1 FROM stop WHERE odd ="
                + " \"The Id\")",
            "SELECT o.\"select\" AS \"a b\", s.id FROM stop s RIGHT JOIN (\"Odd River\" o JOIN"
                + " \"Odd River\" p ON p.\"The Id\" = o.\"flows into\") ON s.odd = o.\"The Id\"",
            "SELECT s.*, \"Odd River\".* FROM stop s, \"Odd River\" WHERE odd = \"The Id\"");
    try (Lantrel here = Lantrel.open(folder);
        Lantrel there = Lantrel.open(folder, engine)) {
      for (String sql : queries) {
        assertThat(here.translate(sql, there).difference()).as(sql).isEmpty();
        for (Form form : Form.values()) {
          try {
            assertThat(there.rewrite(sql, form).difference()).as(sql).isEmpty();
          } catch (RewriteException unfit) {
            assertThat(unfit).hasMessageNotContaining("does not take");
          }
        }
      }
    }
  }
}
