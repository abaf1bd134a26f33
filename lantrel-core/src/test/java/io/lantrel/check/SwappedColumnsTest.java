package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Columns that stand below each other in parts of a set operation, by the schema alone. */
public class SwappedColumnsTest {

  private static final String SCHEMA =
      "CREATE TABLE captain (no INTEGER PRIMARY KEY, first_name VARCHAR(20), \"Last name\""
          + " VARCHAR(20), home VARCHAR(20));"
          + " CREATE TABLE deckhand (no INTEGER PRIMARY KEY, first_name VARCHAR(20), \"Last name\""
          + " VARCHAR(20), port VARCHAR(20));";

  private static final String CAPTAINS = "SELECT c.first_name, c.\"Last name\" FROM captain c ";

  /** A query, and what takes the place of a part in its repair; the same where it is right. */
  @DataProvider
  static Object[][] queries() {
    return new Object[][] {
      {
        CAPTAINS + "UNION SELECT d.\"Last name\", d.first_name FROM deckhand d",
        CAPTAINS + "UNION SELECT d.first_name, d.\"Last name\" FROM deckhand d"
      },
      {
        CAPTAINS + "EXCEPT SELECT d.\"Last name\", d.first_name FROM deckhand d WHERE d.no > 3",
        CAPTAINS + "EXCEPT SELECT d.first_name, d.\"Last name\" FROM deckhand d WHERE d.no > 3"
      },
      {
        CAPTAINS
            + "UNION ALL SELECT d.first_name, d.\"Last name\" FROM deckhand d UNION ALL SELECT"
            + " e.\"Last name\", e.first_name FROM deckhand e",
        CAPTAINS
            + "UNION ALL SELECT d.first_name, d.\"Last name\" FROM deckhand d UNION ALL SELECT"
            + " e.first_name, e.\"Last name\" FROM deckhand e"
      },
      {
        "SELECT COUNT(*) AS n FROM (SELECT c.no, c.first_name AS a, c.\"Last name\" AS b FROM captain c"
            + " UNION ALL SELECT d.no, d.\"Last name\", d.first_name FROM deckhand d) q",
        "SELECT COUNT(*) AS n FROM (SELECT c.no, c.first_name AS a, c.\"Last name\" AS b FROM captain c"
            + " UNION ALL SELECT d.no, d.first_name, d.\"Last name\" FROM deckhand d) q"
      },
      // Only one of the two has a namesake; pairs that hold both ways; values that are worked out.
      {
        CAPTAINS + "UNION SELECT d.\"Last name\", d.port FROM deckhand d",
        CAPTAINS + "UNION SELECT d.\"Last name\", d.port FROM deckhand d"
      },
      {
        CAPTAINS + "UNION SELECT d.\"Last name\", d.first_name FROM captain d",
        CAPTAINS + "UNION SELECT d.\"Last name\", d.first_name FROM captain d"
      },
      {
        CAPTAINS + "UNION SELECT UPPER(d.\"Last name\"), d.first_name FROM deckhand d",
        CAPTAINS + "UNION SELECT UPPER(d.\"Last name\"), d.first_name FROM deckhand d"
      },
    };
  }

  @Test(dataProvider = "queries")
  public void areTold(String sql, String right) throws IOException {
    Path file = Scratch.folder("crews").resolve("schema.sql");
    Files.writeString(file, SCHEMA);
    try (Lantrel lantrel = Lantrel.openSchema(file, Dialect.DUCKDB)) {
      List<Finding> found =
          lantrel.study(sql).findings().stream()
              .filter(each -> each.kind() == Kind.SWAPPED_COLUMNS)
              .toList();
      assertThat(found).as(sql).hasSize(sql.equals(right) ? 0 : 1);
      assertThat(found).allMatch(each -> each.severity() == Severity.WARNING);
      assertThat(lantrel.study(right).findings())
          .noneMatch(each -> each.kind() == Kind.SWAPPED_COLUMNS);
      found.forEach(
          each -> each.repair().ifPresent(repair -> assertThat(repair.sql()).isEqualTo(right)));
    }
  }
}
