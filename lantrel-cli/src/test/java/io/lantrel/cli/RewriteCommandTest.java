package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.rewrite.Form;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.stream.Stream;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Queries over a small world in other forms; one of its keys is broken. */
public class RewriteCommandTest {

  private static final String SCHEMA =
      """
      CREATE TABLE "Shelf" ("No" INTEGER PRIMARY KEY, room VARCHAR(10));
      CREATE TABLE box (id INTEGER PRIMARY KEY, shelf INTEGER REFERENCES "Shelf" ("No"),
        label VARCHAR(20), kg INTEGER);
      CREATE TABLE tag (code VARCHAR(4) PRIMARY KEY, word VARCHAR(10));
      CREATE TABLE box_tag (box INTEGER REFERENCES box (id), tag VARCHAR(4) REFERENCES tag (code));
      """;

  private Path folder = Path.of("");

  @BeforeClass
  public void write() throws IOException {
    folder =
        Fixture.folder(
            "boxes",
            Map.of(
                "schema.sql",
                SCHEMA,
                "Shelf.csv",
                "No,room\n1,north\n2,south\n3,\n",
                "box.csv",
                "id,shelf,label,kg\n1,1,maps,4\n2,1,,9\n3,2,coins,\n4,,lenses,2\n",
                "tag.csv",
                "code,word\nold,old\nold,aged\nnew,new\n",
                "box_tag.csv",
                "box,tag\n1,old\n1,new\n3,old\n4,\n"));
  }

  private Answer rewrite(String form, String sql, String... more) throws IOException {
    Path file = folder.resolve("query.sql");
    Files.writeString(file, sql);
    return Answer.to(
        Stream.concat(
                Stream.of("rewrite", "--form", form, "--data", folder.toString(), file.toString()),
                Stream.of(more))
            .toList());
  }

  @DataProvider
  static Object[][] told() {
    return new Object[][] {
      {
        "join-once",
        "SELECT b.label FROM box b WHERE b.shelf IN (SELECT \"No\" FROM \"Shelf\" WHERE room ="
            + " 'north')",
        0,
        "JOIN \"Shelf\" ON Shelf.\"No\" = b.shelf AND room = 'north'",
        "The same 2 rows before and after; proven to be the same for any data in which Shelf.No is a"
            + " key"
      },
      {
        // A key that the rows break keeps no row single.
        "join-once",
        "SELECT t.box FROM box_tag t WHERE t.tag IN (SELECT code FROM tag)",
        0,
        "JOIN (SELECT DISTINCT code FROM tag) listed ON listed.code = t.tag",
        "Here it does not hold that tag.code is a key; nothing was built on it"
      },
      {
        "scalar",
        "SELECT t.box, g.word FROM box_tag t LEFT JOIN tag g ON g.code = t.tag",
        1,
        "Not rewritten: the join of g stays: a row may have several partners; here it does not hold"
            + " that",
        ""
      },
      {
        "no-scalar",
        "SELECT s.\"No\", (SELECT SUM(b.kg) FROM box b WHERE b.shelf = s.\"No\") FROM \"Shelf\" s",
        0,
        "LEFT JOIN (SELECT b.shelf, SUM(b.kg) AS total FROM box b GROUP BY b.shelf) boxes",
        "The same 3 rows before and after"
      },
      {
        "coalesce",
        "SELECT id, 'box ' || label AS t FROM box",
        1,
        "'box ' || COALESCE(label, '') AS t",
        "The rows are not the same: before: 2, NULL; now: 2, box"
      },
      {
        "filter-on",
        "SELECT b.id FROM \"Shelf\" s JOIN box b ON b.shelf = s.\"No\" WHERE b.kg > ?",
        0,
        "ON b.shelf = s.\"No\" AND b.kg > ?",
        "It has parameters without values, so it was not run"
      },
      {"with", "SELECT id FROM box", 0, "It has WITH in place of queries", ""},
    };
  }

  @Test(dataProvider = "told")
  public void tellsTheTextAndWhatRunningBothTold(
      String form, String sql, int exit, String text, String told) throws IOException {
    Answer answer = rewrite(form, sql);
    String words = answer.out().replaceAll("\\s+", " ");
    assertThat(words).contains(text).contains(told);
    assertThat(answer.exit()).isEqualTo(exit);
    Answer json = rewrite(form, sql, "--format", "json");
    assertThat(Fixture.violations("rewrite", json.out())).isEmpty();
    assertThat(json.out().contains("provenFor")).isEqualTo(words.contains("proven to be the same"));
  }

  @Test
  public void helpTellsEveryForm() {
    String help = Answer.to("rewrite", "--help").out();
    for (Form form : Form.values()) {
      assertThat(help).containsPattern("\\b" + form.id() + "\\b");
    }
  }
}
