package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Collectors;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Findings in a world that the river watch does not have: a circle, references of two columns,
 * names that need quotes, texts that hold numbers, a table without a key and one without rows.
 */
public class OddWorldTest {

  private Path folder = Path.of("");
  private Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  private static final String SCHEMA =
      """
      CREATE TABLE "Order" ("No" INTEGER PRIMARY KEY, "Next" INTEGER REFERENCES "Order" ("No"),
        "Who" VARCHAR(20));
      CREATE TABLE basin (area CHAR(2) PRIMARY KEY, title VARCHAR(20) NOT NULL, rank_no INTEGER);
      CREATE TABLE lock (area CHAR(2) NOT NULL REFERENCES basin (area), no INTEGER NOT NULL, name VARCHAR(20),
        PRIMARY KEY (area, no));
      CREATE VIEW basin_lock AS SELECT b.title, b.rank_no AS locks, l.no FROM basin b
        JOIN lock l ON l.area = b.area;
      CREATE TABLE passage (id INTEGER PRIMARY KEY, area CHAR(2), lock_no INTEGER, boat VARCHAR(10),
        FOREIGN KEY (area, lock_no) REFERENCES lock (area, no));
      CREATE TABLE boat (code INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL);
      CREATE TABLE remark (text VARCHAR(20), boat INTEGER);
      CREATE TABLE convoy (id INTEGER PRIMARY KEY, guide INTEGER NOT NULL REFERENCES boat (code),
        checked_by INTEGER REFERENCES boat (code), front_boat_id INTEGER REFERENCES boat (code),
        rear_boat_id INTEGER REFERENCES boat (code));
      CREATE TABLE empty_one (id INTEGER PRIMARY KEY, boat INTEGER REFERENCES boat (code));
      """;

  @BeforeClass
  public void open() throws IOException {
    folder = Files.createTempDirectory("odd");
    Files.writeString(folder.resolve("schema.sql"), SCHEMA);
    Files.writeString(folder.resolve("Order.csv"), "No,Next,Who\n1,2,a\n2,3,b\n3,1,c\n4,,d\n");
    Files.writeString(
        folder.resolve("basin.csv"), "area,title,rank_no\nNO,North,4\nSO,South,5\nWE,West,6\n");
    Files.writeString(folder.resolve("lock.csv"), "area,no,name\nNO,1,one\nNO,2,two\nSO,1,three\n");
    Files.writeString(
        folder.resolve("passage.csv"), "id,area,lock_no,boat\n1,NO,1,7\n2,SO,1,8\n3,NO,2,7\n");
    Files.writeString(folder.resolve("boat.csv"), "code,name\n7,Ada\n8,Bee\n9,Bee\n");
    Files.writeString(folder.resolve("remark.csv"), "text,boat\nfine,7\nfine,7\nold,8\n");
    Files.writeString(
        folder.resolve("convoy.csv"),
        "id,guide,checked_by,front_boat_id,rear_boat_id\n1,7,8,7,8\n2,8,7,8,9\n");
    Files.writeString(folder.resolve("empty_one.csv"), "id,boat\n");
    lantrel.close();
    lantrel = Lantrel.open(folder);
  }

  @AfterClass(alwaysRun = true)
  public void close() {
    lantrel.close();
  }

  @DataProvider
  static Object[][] queries() {
    String walk = "SELECT o.\"No\", o.\"Next\" FROM \"Order\" o ";
    return new Object[][] {
      // A circle is known before the query is run; from the top down none is entered.
      {
        "WITH RECURSIVE t (n, up) AS ("
            + walk
            + "WHERE o.\"No\" = 1 UNION ALL "
            + walk
            + "JOIN t ON o.\"No\" = t.up) SELECT n FROM t",
        "endless-recursion"
      },
      {
        "WITH RECURSIVE t (n, up) AS ("
            + walk
            + "WHERE o.\"No\" = 1 UNION "
            + walk
            + "JOIN t ON o.\"No\" = t.up) SELECT n FROM t",
        ""
      },
      {
        "WITH RECURSIVE t (n, up) AS ("
            + walk
            + "WHERE o.\"Next\" IS NULL UNION ALL "
            + walk
            + "JOIN t ON o.\"Next\" = t.n) SELECT n FROM t",
        ""
      },
      {"SELECT p.id, l.name FROM passage p JOIN lock l ON l.no = p.lock_no", "partial-key"},
      {
        "SELECT p.id, l.name FROM passage p JOIN lock l ON l.no = p.lock_no AND l.area = p.area", ""
      },
      {"SELECT p.id, l.name FROM passage p, lock l WHERE l.no = p.lock_no AND l.area = p.area", ""},
      {
        "WITH x AS (SELECT l.area, l.no, l.name FROM lock l WHERE l.no > 0) SELECT p.id, x.name FROM"
            + " passage p JOIN x ON x.no = p.lock_no",
        "partial-key"
      },
      {
        "SELECT q.id, l.name FROM (SELECT * FROM passage) q, lock l WHERE l.area = q.area",
        "partial-key"
      },
      {
        "SELECT q.id, x.name FROM (SELECT * FROM passage) q JOIN (SELECT l.no AS n, l.area AS a,"
            + " l.name FROM lock l) x ON x.n = q.lock_no AND x.a = q.area",
        ""
      },
      {
        "SELECT p.id, x.n FROM passage p LEFT JOIN (SELECT l.area, COUNT(*) AS n FROM lock l GROUP BY"
            + " l.area) x ON x.area = p.area",
        ""
      },
      {
        "SELECT v.title, SUM(v.locks) AS locks FROM basin_lock v GROUP BY v.title",
        "repeated-in-total"
      },
      {"SELECT v.no, SUM(v.locks) AS locks FROM basin_lock v GROUP BY v.no", ""},
      {
        "SELECT l.area, l.no, COUNT(*) AS n FROM lock l GROUP BY l.no, l.area",
        "groups-of-one (note)"
      },
      {"SELECT l.area, l.no, COUNT(*) AS n FROM lock l GROUP BY ROLLUP (l.area, l.no)", ""},
      // Called by the name of another role than the one it is joined by.
      {
        "SELECT c.id, b.name AS checker FROM convoy c JOIN boat b ON b.code = c.guide",
        "alias-of-other-table"
      },
      {
        "SELECT c.id, guide.name FROM convoy c LEFT JOIN boat guide ON c.checked_by = guide.code",
        "alias-of-other-table"
      },
      {
        "SELECT c.id, g.name AS checked_by, k.name AS k FROM convoy c JOIN boat g ON g.code = c.guide"
            + " JOIN boat k ON k.code = c.checked_by",
        "alias-of-other-table"
      },
      {
        "SELECT c.id, g.name AS guide, k.name AS checker FROM convoy c JOIN boat g ON g.code ="
            + " c.guide JOIN boat k ON k.code = c.checked_by",
        ""
      },
      {
        "SELECT c.id, b.name AS guide FROM convoy c LEFT JOIN boat b ON b.code = c.guide AND"
            + " b.code = c.checked_by",
        ""
      },
      {
        "SELECT c.id, b.name AS rear FROM convoy c LEFT JOIN boat b ON b.code = c.front_boat_id",
        "alias-of-other-table"
      },
      {
        "SELECT c.id, f.name AS front_boat, r.name AS rear_boat FROM convoy c LEFT JOIN boat f ON"
            + " f.code = c.front_boat_id LEFT JOIN boat r ON r.code = c.rear_boat_id",
        ""
      },
      // What is compared within EXISTS, a value in SELECT, or IN: of the whole key, or too little.
      {
        "SELECT l.name FROM lock l WHERE NOT EXISTS (SELECT 1 FROM passage p WHERE p.lock_no = l.no)",
        "partial-key"
      },
      {"SELECT l.name FROM lock l WHERE l.no IN (SELECT p.lock_no FROM passage p)", "partial-key"},
      {
        "SELECT l.name, (SELECT COUNT(*) FROM passage p WHERE p.area = l.area) AS n FROM lock l",
        "partial-key"
      },
      {
        "SELECT l.name FROM lock l WHERE EXISTS (SELECT 1 FROM passage p WHERE p.area = l.area)",
        "partial-key (note)"
      },
      {
        "SELECT l.name FROM lock l WHERE NOT EXISTS (SELECT 1 FROM passage p WHERE l.no = p.lock_no"
            + " AND p.area = l.area)",
        ""
      },
      // LATERAL says that it is about each row.
      {
        "SELECT b.name, q.id FROM boat b CROSS JOIN LATERAL (SELECT c.id FROM convoy c ORDER BY c.id"
            + " LIMIT 1) q",
        "cross-product"
      },
      {
        "SELECT b.name, q.id FROM boat b CROSS JOIN LATERAL (SELECT c.id FROM convoy c WHERE c.guide"
            + " = b.code ORDER BY c.id LIMIT 1) q",
        "rows-without-partner (note)"
      },
      // A part of a reference leads on to what that refers to.
      {"SELECT p.id, a.title FROM passage p JOIN basin a ON a.area = p.area", ""},
      {
        "SELECT a.title FROM basin a WHERE NOT EXISTS (SELECT 1 FROM passage p WHERE p.area = a.area)",
        ""
      },
      {"SELECT p.id, b.name FROM passage p JOIN boat b ON b.code = p.boat", "type-mismatch"},
      {"SELECT p.id FROM passage p WHERE p.boat = '7%'", "wildcard-outside-like"},
      // Without a key nothing is said of rows that are alike.
      {"SELECT r.text, COUNT(*) AS n FROM remark r GROUP BY r.text", ""},
      {"SELECT b.name, COUNT(*) AS n FROM boat b GROUP BY b.name", "grouped-by-name"},
      {
        "SELECT b.name, r.text FROM boat b LEFT JOIN remark r ON r.boat = b.code WHERE r.text ="
            + " 'fine'",
        "outer-join-cancelled"
      },
      // A table without rows shows nothing, and is no fault of the query.
      {"SELECT e.id, b.name FROM empty_one e JOIN boat b ON b.code = e.boat", ""},
      {"SELECT o.\"Who\" FROM \"Order\" o WHERE o.\"Next\" = NULL", "null-comparison"},
      {
        "SELECT a.\"Who\", b.\"Who\" AS other FROM \"Order\" a JOIN \"Order\" b ON a.\"No\" = b.\"No\"",
        "self-match"
      },
      {"SELECT b.name FROM boat b WHERE EXISTS (SELECT 1 FROM passage p)", "uncorrelated-exists"},
      {
        "SELECT b.name FROM boat b WHERE b.code NOT IN (SELECT r.boat FROM remark r)",
        "not-in-null (note)"
      },
    };
  }

  @Test(dataProvider = "queries")
  public void isFoundAndNothingElse(String sql, String expected) {
    Study study = lantrel.study(sql);
    String kinds =
        study.findings().stream()
            .map(each -> each.kind().id() + (each.severity() == Severity.NOTE ? " (note)" : ""))
            .collect(Collectors.joining("; "));
    assertThat(kinds).as(sql).isEqualTo(expected);
    assertThat(study.findings())
        .allSatisfy(each -> assertThat(each.message()).matches("(?s)\\p{L}.*\\."));
  }

  /** What has no rows to show is still told, by the schema alone. */
  @Test(dataProvider = "queries")
  public void isToldWithoutRowsAsFarAsTheTextTells(String sql, String expected) {
    try (Lantrel schema = Lantrel.openSchema(folder.resolve("schema.sql"), Dialect.DUCKDB)) {
      List<String> kinds =
          schema.study(sql).findings().stream().map(each -> each.kind().id()).toList();
      boolean needsRows =
          expected.isEmpty()
              || expected.startsWith("grouped-by-name")
              || expected.startsWith("endless-recursion")
              || expected.startsWith("rows-without-partner")
              || expected.startsWith("repeated-in-total");
      assertThat(kinds.contains(expected.replace(" (note)", ""))).as(sql).isEqualTo(!needsRows);
    }
  }
}
