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

/** Who is called what, in tables that refer to themselves and to others, by the schema alone. */
public class RolesOfReferencesTest {

  private static final String SCHEMA =
      """
      CREATE TABLE map (
        no INTEGER PRIMARY KEY, title VARCHAR(20), copy_of INTEGER REFERENCES map (no),
        checked_by INTEGER REFERENCES map (no), upper_map INTEGER REFERENCES map (no),
        main_office INTEGER REFERENCES map (no));
      CREATE TABLE sheet (
        map_no INTEGER REFERENCES map (no), letter CHAR(1), scale INTEGER,
        PRIMARY KEY (map_no, letter));
      CREATE TABLE mark (
        id INTEGER PRIMARY KEY, map_no INTEGER, letter CHAR(1), side INTEGER,
        home_map INTEGER REFERENCES map (no),
        FOREIGN KEY (map_no, letter) REFERENCES sheet (map_no, letter));
      """;

  /** A query, and the kinds of its warnings. */
  @DataProvider
  static Object[][] queries() {
    return new Object[][] {
      // The row with copy_of is the copy.
      {"SELECT m.title, c.title AS copy FROM map m JOIN map c ON m.copy_of = c.no", "reversed"},
      {
        "SELECT m.title, copy.title AS t FROM map m JOIN map copy ON copy.no = m.copy_of",
        "reversed"
      },
      {"SELECT m.title, c.title AS copy FROM map m JOIN map c ON c.copy_of = m.no", ""},
      {"SELECT m.title AS copy, c.title AS t FROM map m JOIN map c ON m.copy_of = c.no", ""},
      {"SELECT m.title, c.title AS copy_of FROM map m JOIN map c ON m.copy_of = c.no", ""},
      // Who is called checked_by is the row referred to; who is checked, the one that refers.
      {
        "SELECT m.title, c.title AS checked_by FROM map m JOIN map c ON c.checked_by = m.no",
        "reversed"
      },
      {
        "SELECT m.title, c.title AS checker FROM map m JOIN map c ON c.checked_by = m.no",
        "reversed"
      },
      {"SELECT m.title, c.title AS checked_by FROM map m JOIN map c ON c.no = m.checked_by", ""},
      {"SELECT m.title, c.title AS checked FROM map m JOIN map c ON c.checked_by = m.no", ""},
      {"SELECT m.title, c.checked_by FROM map m JOIN map c ON c.checked_by = m.no", ""},
      {
        "SELECT m.title, upper_map.title AS t FROM map m JOIN map upper_map ON upper_map.upper_map = m.no",
        "reversed"
      },
      {
        "SELECT m.title, upper_map.title AS t FROM map m JOIN map upper_map ON upper_map.no = m.upper_map",
        ""
      },
      // An office is no role of its own; brackets in a name are no COUNT.
      {
        "SELECT m.title, c.title AS main_office FROM map m JOIN map c ON c.main_office = m.no",
        "reversed"
      },
      {"SELECT m.title, c.title AS main_office FROM map m JOIN map c ON c.no = m.main_office", ""},
      {
        "SELECT m.title, c.title AS \"copy (old)\" FROM map m JOIN map c ON m.copy_of = c.no",
        "reversed"
      },
      // Either part of a composite reference, or something that many share.
      {
        "SELECT k.id, s.scale FROM mark k JOIN sheet s ON s.map_no = k.map_no OR s.letter = k.letter",
        "loose"
      },
      {
        "SELECT k.id, s.scale FROM mark k, sheet s WHERE (k.map_no = s.map_no OR NOT (k.letter <> s.letter))",
        "loose"
      },
      {
        "SELECT k.id FROM mark k WHERE EXISTS (SELECT 1 FROM sheet s WHERE s.map_no = k.map_no OR s.letter = k.letter)",
        "loose"
      },
      {
        "SELECT k.id, m.title FROM mark k LEFT JOIN map m ON m.no = k.home_map OR m.title = k.letter",
        "loose"
      },
      {
        "SELECT k.id, s.scale FROM mark k JOIN sheet s ON s.map_no = k.map_no AND s.letter = k.letter",
        ""
      },
      {
        "SELECT m.title, n.title AS t FROM map m JOIN map n ON n.no = m.copy_of OR n.no = m.checked_by",
        ""
      },
      {
        "SELECT k.id, m.title FROM mark k LEFT JOIN map m ON m.no = k.home_map OR m.no = k.side", ""
      },
      {
        "SELECT k.id, l.id AS other FROM mark k JOIN mark l ON l.side = k.side OR l.letter = k.letter",
        ""
      },
    };
  }

  @Test(dataProvider = "queries")
  public void areWhatTheirColumnsSay(String sql, String warning) throws IOException {
    Path file = Scratch.folder("maps").resolve("schema.sql");
    Files.writeString(file, SCHEMA);
    try (Lantrel lantrel = Lantrel.openSchema(file, Dialect.POSTGRESQL)) {
      List<String> warnings =
          lantrel.study(sql).findings().stream()
              .filter(each -> each.severity() != Severity.NOTE)
              .map(each -> each.kind().id().replaceFirst("-.*", ""))
              .toList();
      assertThat(warnings).isEqualTo(warning.isEmpty() ? List.of() : List.of(warning));
    }
  }
}
