package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.engine.Engine;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** References that a schema does not declare: written out for review, and given back. */
public class ReferencesOptionTest {

  private Path folder = Path.of("");

  @BeforeClass
  public void write() throws IOException {
    Map<String, String> files = new TreeMap<>();
    files.put(
        "schema.sql",
        "CREATE TABLE mill (river CHAR(1), no INTEGER, owner VARCHAR(10), PRIMARY KEY (river, no));\n"
            + "CREATE TABLE \"Stone Set\" (id INTEGER PRIMARY KEY, river CHAR(1), mill_no INTEGER);\n"
            + "CREATE TABLE sack (id INTEGER PRIMARY KEY, stone_set_id INTEGER, kilos INTEGER);\n"
            + "CREATE TABLE plain (word VARCHAR(10));\n");
    files.put("mill.csv", "river,no,owner\nA,1,Ysolt\nA,2,Bran\nB,1,\n");
    files.put("Stone Set.csv", "id,river,mill_no\n1,A,1\n2,A,1\n3,B,1\n4,B,9\n5,,\n");
    files.put("sack.csv", "id,stone_set_id,kilos\n1,1,5\n2,1,6\n3,3,7\n4,,8\n5,4,1\n");
    files.put("plain.csv", "word\n");
    files.put(
        "query.sql", "SELECT s.id, m.owner FROM \"Stone Set\" s JOIN mill m ON m.no = s.mill_no");
    folder = Fixture.folder("mill", files);
  }

  private Answer with(String references, String command, String... more) throws IOException {
    Path file = folder.resolve("known.sql");
    Files.writeString(file, references, StandardCharsets.UTF_8);
    List<String> args = new ArrayList<>(List.of(command, "--data", folder.toString()));
    args.addAll(List.of("--references", file.toString()));
    args.addAll(List.of(more));
    return Answer.to(args);
  }

  private static final String KNOWN =
      "-- what the millers say\n"
          + "ALTER TABLE \"Stone Set\" ADD CONSTRAINT at_mill FOREIGN KEY (river, mill_no) REFERENCES"
          + " mill;\nALTER TABLE sack ADD FOREIGN KEY (stone_set_id) REFERENCES \"Stone Set\" (id);\n";

  @Test
  public void whatIsKnownIsBelieved() throws IOException {
    String query = folder.resolve("query.sql").toString();
    // Without it the key alone speaks, with it the reference.
    assertThat(Answer.to("check", "--data", folder.toString(), query).out())
        .contains("m.no = s.mill_no is only a part of the key of mill m: ")
        .doesNotContain("a part of the reference");
    Answer answer = with(KNOWN, "check", query);
    assertThat(answer.out())
        .containsOnlyOnce("partial-key")
        .contains("m.no = s.mill_no is only a part of the reference: ")
        .contains("Add s.river = m.river.");
    assertThat(answer.err())
        .contains(
            "note: known.sql: Stone Set(river, mill_no) → mill(river, no) does not hold: rows of"
                + " Stone Set refer to nothing")
        .doesNotContain("sack");
    assertThat(with(KNOWN, "draft", "sack.kilos", "mill.owner").out())
        .contains("JOIN \"Stone Set\"", "JOIN mill");
    assertThat(with(KNOWN, "survey").out()).contains("sack.stone_set_id → Stone Set.id");
  }

  /** Else nothing found would be taken for nothing wrong. */
  @Test
  public void tablesWithoutAKnownReferenceAreTold() throws IOException {
    String joined = folder.resolve("query.sql").toString();
    Path alone = folder.resolve("alone.sql");
    Files.writeString(alone, "SELECT id FROM sack WHERE kilos IN (SELECT kilos FROM sack)");
    Answer answer =
        Answer.to("check", "--data", folder.toString(), joined, alone.toString(), joined);
    assertThat(answer.err())
        .containsOnlyOnce(
            "note: no reference of Stone Set and mill is known, so that a join by a wrong column is"
                + " not seen; lantrel survey --format sql writes those that the rows show, and"
                + " --references FILE.sql gives them")
        .doesNotContain("sack");
    assertThat(with(KNOWN, "check", joined).err()).doesNotContain("no reference");
    Answer json = Answer.to("check", "--data", folder.toString(), "--format", "json", joined);
    assertThat(json.out()).contains("\"tablesWithoutReference\" : [ \"Stone Set\", \"mill\" ]");
    assertThat(with(KNOWN, "check", "--format", "json", joined).out())
        .contains("\"tablesWithoutReference\" : [ ]");
  }

  @Test
  public void whatIsFoundIsWrittenForReviewAndReadAgain() throws IOException {
    Answer found = Answer.to("survey", "--data", folder.toString(), "--format", "sql");
    assertThat(found.out())
        .contains(
            "-- 3 of 3 values name a row\n"
                + "ALTER TABLE sack ADD FOREIGN KEY (stone_set_id) REFERENCES \"Stone Set\" (id);\n");
    Answer again = with(found.out(), "survey", "--format", "sql");
    assertThat(again.exit()).as(again.err()).isZero();
    assertThat(again.out()).doesNotContain("sack ADD FOREIGN KEY");
  }

  /** What findings are judged by stays, in whatever order a program says it. */
  @Test
  public void theRulesOfAProjectStay() throws IOException {
    Path file = folder.resolve("more.sql");
    Files.writeString(file, KNOWN);
    try (Lantrel lantrel = Lantrel.open(folder).alsoOn(Set.of(Engine.MARIADB))) {
      assertThat(
              lantrel
                  .withReferences(file)
                  .study("SELECT s.id FROM sack s ORDER BY s.kilos NULLS FIRST")
                  .findings())
          .extracting(finding -> finding.kind().id())
          .contains("not-in-engine");
    }
  }

  /** A key that people know is used where the rows have it, and told and left out where not. */
  @Test
  public void keysAreTakenIfTheyHold() throws IOException {
    Path file = folder.resolveSibling("keys-" + folder.getFileName() + ".sql");
    Files.writeString(
        file,
        "ALTER TABLE plain ADD UNIQUE (a);\nALTER TABLE plain ADD PRIMARY KEY (b);\n"
            + "ALTER TABLE plain ALTER COLUMN c SET NOT NULL;\n");
    Path rows = folder.resolveSibling("rows-" + folder.getFileName());
    Files.createDirectories(rows);
    Files.writeString(
        rows.resolve("schema.sql"), "CREATE TABLE plain (a INTEGER, b INTEGER, c INTEGER);");
    Files.writeString(rows.resolve("plain.csv"), "a,b,c\n1,1,\n1,2,5\n");
    try (Lantrel lantrel = Lantrel.open(rows).withReferences(file)) {
      assertThat(lantrel.notes())
          .anyMatch(each -> each.contains("plain.a is a key: that does not hold"))
          .anyMatch(each -> each.contains("plain.c is never NULL: that does not hold"))
          .noneMatch(each -> each.contains("plain.b"));
      assertThat(lantrel.catalog().table("plain").orElseThrow().keys())
          .extracting(key -> key.columns().get(0))
          .containsExactly("b");
      lantrel.study("SELECT p.c FROM plain p").verify("one row per p").assertMet();
    }
  }

  @DataProvider
  static Object[][] wrong() {
    String fk = " ADD FOREIGN KEY ";
    return new Object[][] {
      {"ALTER TABLE mil" + fk + "(no) REFERENCES mill (no)", "1:13: there is no table mil; close"},
      {
        "ALTER TABLE sack" + fk + "(set) REFERENCES \"Stone Set\"",
        "the table sack has no column set"
      },
      {"ALTER TABLE sack" + fk + "(id) REFERENCES mill", "a reference from 1 to 2 columns"},
      {"ALTER TABLE sack" + fk + "(id) REFERENCES plain", "plain has no primary key to refer to"},
      {"ALTER TABLE sack" + fk + "(id) REFERENCES nowhere (id)", "there is no table nowhere"},
      {"DROP TABLE sack", "1:1: a file of references holds nothing but ALTER TABLE"},
      {"ALTER TABLE sack ADD COLUMN x INTEGER", "a file of references holds nothing but"},
      {"ALTER TABLE sack ADD PRIMARY KEY (weight)", "the table sack has no column weight"},
      {"CREATE TABLE sack (id INTEGER)", "a file of references holds nothing but"},
      {"-- nothing", "there is no ALTER TABLE … ADD FOREIGN KEY … REFERENCES … in this file"},
    };
  }

  @Test(dataProvider = "wrong")
  public void whatIsWrongIsOneSentenceWithItsPlace(String text, String expected)
      throws IOException {
    Answer answer = with("\n" + text + ";\n", "survey");
    assertThat(answer.exit()).isEqualTo(3);
    assertThat(answer.err())
        .contains("known.sql:")
        .contains(expected.replaceFirst("^1:", "2:"))
        .doesNotContain("\tat ");
    assertThat(answer.out()).isEmpty();
  }

  @Test
  public void withoutTheFileThereIsASentence() {
    Answer answer =
        Answer.to(
            "survey", "--data", folder.toString(), "--references", folder.resolve("no").toString());
    assertThat(answer.exit()).isEqualTo(3);
    assertThat(answer.err()).contains("there is no such file; it must hold references");
  }
}
