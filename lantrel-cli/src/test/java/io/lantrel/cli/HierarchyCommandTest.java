package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Trees from the command line, in a small world of its own: a guild, and chests within chests. */
public class HierarchyCommandTest {

  private static final Map<String, String> FILES = new TreeMap<>();

  static {
    FILES.put(
        "schema.sql",
        "CREATE TABLE mason (id INTEGER PRIMARY KEY, \"Full Name\" VARCHAR(20) NOT NULL,"
            + " master_id INTEGER REFERENCES mason (id), friend_id INTEGER REFERENCES mason (id),"
            + " stones DECIMAL(6,1));\n"
            + "CREATE TABLE chest (\"room\" CHAR(1), no INTEGER, in_room CHAR(1), in_no INTEGER,"
            + " PRIMARY KEY (\"room\", no),"
            + " FOREIGN KEY (in_room, in_no) REFERENCES chest (\"room\", no));\n"
            + "CREATE TABLE tool (id INTEGER PRIMARY KEY);\n"
            + "CREATE TABLE empty_one (id INTEGER PRIMARY KEY, up INTEGER REFERENCES empty_one (id));\n");
    FILES.put(
        "mason.csv",
        "id,Full Name,master_id,friend_id,stones\n"
            + "1,Aldo,,,10.5\n2,Berta,1,,2\n3,Carl,1,1,\n4,Dora,2,1,4.5\n5,Emil,99,,1\n6,Fina,5,,1\n"
            + "7,Gero,8,,1\n8,Hilda,9,,1\n9,Ivo,7,,1\n10,Jana,10,,1\n11,Kuno,7,,1\n12,Lena,,,\n");
    FILES.put("chest.csv", "room,no,in_room,in_no\nA,1,,\nA,2,A,1\nB,1,A,1\nB,2,B,1\n");
    FILES.put("tool.csv", "id\n1\n");
    FILES.put("empty_one.csv", "id,up\n");
  }

  private Path folder = Path.of("");

  @BeforeClass
  public void write() throws IOException {
    folder = Fixture.folder("guild", FILES);
  }

  private Answer hierarchy(String... args) {
    List<String> all = new ArrayList<>(List.of("hierarchy", "--data", folder.toString()));
    all.addAll(List.of(args));
    return Answer.to(all);
  }

  @Test
  public void treesCirclesAndWhatRefersToNothing() {
    Answer answer = hierarchy("mason", "--by", "master_id", "--sum", "stones");
    assertThat(answer.err()).isEmpty();
    assertThat(answer.out())
        .isEqualTo(
            """
            mason along mason.master_id → mason.id: 12 rows, 3 levels (3, 3, 1)

              mason                                     level  rows  stones
              1 Aldo                                        1     4      17
              ├─ 2 Berta                                    2     2     6.5
              │  └─ 4 Dora                                  3     1     4.5
              └─ 3 Carl                                     2     1    NULL
              5 Emil  refers to 99, which is not there      1     2       2
              └─ 6 Fina                                     2     1       1
              12 Lena                                       1     1    NULL

              circle: 7 → 8 → 9 → 7
              circle: 10 refers to itself
              1 row hangs below a circle, so that no root reaches it.
              1 row refers to a row that is not there, and begins a tree of its own here.
            """);
  }

  @Test
  public void ofLargeOnesTheUpperLevelsAndWhatIsBelow() {
    Answer answer = hierarchy("mason", "--by", "master_id", "--sum", "stones", "--levels", "1");
    assertThat(answer.out())
        .contains("  1 Aldo                                        1     4      17\n")
        .contains("  └─ … 3 more below\n")
        .contains("4 rows of the trees are not shown")
        .doesNotContain("Berta");
    assertThat(hierarchy("mason", "--by", "friend_id", "--rows", "3").out())
        .contains("of the trees are not shown");
  }

  @Test
  public void aKeyOfSeveralColumnsAndNoRows() {
    assertThat(hierarchy("chest").out())
        .contains("4 rows, 3 levels (1, 2, 1)", "└─ B 1", "   └─ B 2");
    assertThat(hierarchy("empty_one").out())
        .isEqualTo("empty_one along empty_one.up → empty_one.id: 0 rows, 0 levels\n");
  }

  @DataProvider
  static Object[][] wrong() {
    return new Object[][] {
      {List.of("mason"), 3, "in several ways: mason.master_id → mason.id, mason.friend_id"},
      {List.of("mason", "--by", "stones"), 3, "does not refer to itself by stones, but so: "},
      {List.of("tool"), 3, "tool does not refer to itself"},
      {List.of("maison"), 3, "there is no table maison; close to it: mason"},
      {List.of("chest", "--sum", "noo"), 3, "chest has no column noo; close to it: no"},
      {List.of("chest", "--write"), 3, "has several columns"},
      {List.of("mason", "--rows", "0"), 2, "whole numbers from 1 on"},
      {List.of(), 2, "TABLE"},
    };
  }

  @Test(dataProvider = "wrong")
  public void whatIsNoHierarchyIsToldInASentence(List<String> args, int exit, String expected) {
    Answer answer = hierarchy(args.toArray(String[]::new));
    assertThat(answer.exit()).as(answer.err()).isEqualTo(exit);
    assertThat(answer.err()).contains(expected).doesNotContain("Exception");
    assertThat(answer.out()).isEmpty();
  }

  @Test
  public void queriesAreWritten() {
    Answer walk = hierarchy("mason", "--by", "master_id", "--write");
    assertThat(walk.out()).startsWith("WITH RECURSIVE walk (id, \"Full Name\", walk_level,");
    Answer chain = hierarchy("mason", "--by", "master_id", "--write", "--levels", "2");
    assertThat(chain.out())
        .startsWith("SELECT l1.\"Full Name\" AS level_1, l2.\"Full Name\" AS level_2\n");
    assertThat(chain.err())
        .isEqualTo(
            "lantrel: note: 1 row lies deeper than 2 levels and is not in its result\n"
                .replace("\n", System.lineSeparator()));
  }

  @Test
  public void programsReadTheSame() throws IOException {
    for (String[] args :
        new String[][] {
          {"mason", "--by", "master_id", "--sum", "stones", "--format", "json"},
          {"chest", "--format", "json", "--levels", "1"},
          {"empty_one", "--format", "json"}
        }) {
      String json = hierarchy(args).out();
      assertThat(Fixture.violations("hierarchy", json)).as(json).isEmpty();
    }
  }
}
