package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.Study;
import io.lantrel.check.Finding;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Wherever a join stands, it is looked at, on every engine. */
public class EveryBlockTest {

  private static final String CANCELLED =
      " station t LEFT JOIN river r ON r.id = t.river_id WHERE r.flow > 1";

  /** Where a join can stand; each query has the same fault in it. */
  private static final List<String> FAULTY =
      List.of(
          "SELECT t.name FROM" + CANCELLED,
          "SELECT d.name FROM (SELECT t.name FROM" + CANCELLED + ") d",
          "WITH w AS (SELECT t.name FROM" + CANCELLED + ") SELECT w.name FROM w",
          "SELECT s.name FROM station s WHERE s.id IN (SELECT t.id FROM" + CANCELLED + ")",
          "SELECT s.name FROM station s WHERE EXISTS (SELECT 1 FROM"
              + CANCELLED
              + " AND t.id = s.id)",
          "SELECT s.name, (SELECT COUNT(*) FROM"
              + CANCELLED
              + " AND t.keeper_id = s.keeper_id) AS n FROM station s",
          "SELECT b.label FROM bank_kind b UNION SELECT t.name FROM" + CANCELLED,
          "SELECT s.keeper_id FROM station s GROUP BY s.keeper_id HAVING COUNT(*) > (SELECT COUNT(*)"
              + " FROM"
              + CANCELLED
              + " AND t.keeper_id = s.keeper_id)");

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void isLookedAt(Engine engine) {
    try (Lantrel lantrel = Lantrel.connect(RiverDatabases.access(engine))) {
      for (String sql : FAULTY) {
        Study study = lantrel.study(sql);
        assertThat(study.inspection().unchecked()).as(sql).isEmpty();
        assertThat(study.inspection().refusal()).as(sql).isEmpty();
        assertThat(study.findings())
            .as(sql)
            .extracting(finding -> finding.kind().id())
            .contains("outer-join-cancelled");
        Finding finding =
            study.findings().stream()
                .filter(each -> each.kind().id().equals("outer-join-cancelled"))
                .findFirst()
                .orElseThrow();
        assertThat(finding.evidence().figures().get("rows lost")).as(sql).isPositive();
        assertThat(finding.evidence().rows()).as(sql).isNotEmpty();
        assertThat(finding.repair()).as(sql).isPresent();
      }
    }
  }

  @Test(dataProvider = "engines")
  public void takesValuesForParameters(Engine engine) {
    String sql =
        "SELECT s.name FROM station s JOIN river r ON r.id = s.river_id WHERE r.name = :name AND"
            + " s.capacity > :least";
    try (Lantrel lantrel = Lantrel.connect(RiverDatabases.access(engine))) {
      Study open = lantrel.study(sql);
      assertThat(open.parameters()).containsExactly("least", "name");
      assertThat(open.inspection().isComplete()).isFalse();
      Study study = lantrel.study(sql, Map.of("name", "Ombrel", "least", 0));
      assertThat(study.inspection().isComplete()).isTrue();
      assertThat(study.result().size()).isEqualTo(2);
      assertThat(study.ledger().result()).isEqualTo(2);
      for (String hostile : List.of("a\\' OR 1=1 -- ", "'; DROP TABLE river; --", "\\", "/* */")) {
        String others = "SELECT r.id FROM river r WHERE r.name <> :name";
        assertThat(lantrel.study(others, Map.of("name", hostile)).result().size())
            .as(hostile)
            .isEqualTo(12);
      }
    }
  }

  /**
   * SQLite has references and does not see to them: what one promises is looked at all the same.
   */
  @Test
  public void referencesThatDoNotHoldAreNotReliedOn() throws IOException, SQLException {
    Path folder = Scratch.folder("dangling");
    Access access = Access.to("jdbc:sqlite:" + folder.resolve("d.db"));
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE dam (id INTEGER NOT NULL PRIMARY KEY)",
          "CREATE TABLE gate (id INTEGER NOT NULL PRIMARY KEY, dam_id INTEGER NOT NULL REFERENCES"
              + " dam (id))",
          "INSERT INTO dam VALUES (1), (2)",
          "INSERT INTO gate VALUES (10, 1), (11, 2), (12, 9)");
    }
    try (Lantrel lantrel = Lantrel.connect(access)) {
      // WHERE would drop the lost row too: the account must still say where it went.
      Ledger ledger =
          lantrel
              .study("SELECT g.id FROM gate g JOIN dam d ON d.id = g.dam_id WHERE g.id < 12")
              .ledger();
      assertThat(ledger.entries().get(1).rows(Figure.DROPPED)).isEqualTo(1);
      assertThat(ledger.entries().get(2).rows(Figure.DROPPED)).isZero();
    }
  }
}
