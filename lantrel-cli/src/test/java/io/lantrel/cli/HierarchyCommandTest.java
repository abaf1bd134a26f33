package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
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
            + "CREATE TABLE \"Kit Part\" (no INTEGER PRIMARY KEY, label VARCHAR(20) NOT NULL, grams"
            + " DECIMAL(8,2));\n"
            + "CREATE TABLE assembly (whole_no INTEGER REFERENCES \"Kit Part\" (no), part_no INTEGER"
            + " REFERENCES \"Kit Part\" (no), pieces INTEGER);\n"
            + "CREATE TABLE beside (one_no INTEGER, tool_id INTEGER REFERENCES tool (id));\n"
            + "CREATE TABLE empty_one (id INTEGER PRIMARY KEY, up INTEGER REFERENCES empty_one (id));\n");
    FILES.put(
        "mason.csv",
        "id,Full Name,master_id,friend_id,stones\n"
            + "1,Aldo,,,10.5\n2,Berta,1,,2\n3,Carl,1,1,\n4,Dora,2,1,4.5\n5,Emil,99,,1\n6,Fina,5,,1\n"
            + "7,Gero,8,,1\n8,Hilda,9,,1\n9,Ivo,7,,1\n10,Jana,10,,1\n11,Kuno,7,,1\n12,Lena,,,\n");
    FILES.put("chest.csv", "room,no,in_room,in_no\nA,1,,\nA,2,A,1\nB,1,A,1\nB,2,B,1\n");
    FILES.put("tool.csv", "id\n1\n");
    FILES.put("beside.csv", "one_no,tool_id\n1,1\n");
    FILES.put(
        "Kit Part.csv",
        "no,label,grams\n1,Cart,\n2,Sledge,\n3,Axle,120.5\n4,Wheel,40\n5,Bolt,2\n6,Nut,1\n"
            + "7,Runner,300\n8,Knot A,1\n9,Knot B,1\n10,Loose,5\n11,Under knot,7\n12,Self,1\n");
    FILES.put(
        "assembly.csv",
        "whole_no,part_no,pieces\n1,3,2\n3,4,2\n3,4,4\n4,5,4\n5,6,1\n1,5,8\n2,7,2\n2,5,6\n7,5,3\n"
            + "8,9,1\n9,8,1\n9,11,1\n12,12,1\n,5,1\n1,,1\n77,4,1\n");
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

  private Answer kit(String... more) {
    List<String> args = new ArrayList<>(List.of("Kit Part", "--over", "assembly"));
    args.addAll(List.of(more));
    return hierarchy(args.toArray(String[]::new));
  }

  @Test
  public void overAJunctionEachWayIsShown() {
    assertThat(kit("--by", "whole_no", "--sum", "grams").out())
        .isEqualTo(
            """
            Kit Part over assembly, part_no below whole_no: 12 rows, 5 levels (3, 4, 4, 2, 1 ways)

              Kit Part           level  ways  grams
              1 Cart                 1     7  166.5
              ├─ 3 Axle              2     4  163.5
              │  └─ 4 Wheel          3     3     43
              │     └─ 5 Bolt        4     2      3
              │        └─ 6 Nut      5     1      1
              └─ 5 Bolt              2     2      3
                 └─ 6 Nut            3     1      1
              2 Sledge               1     6    306
              ├─ 5 Bolt              2     2      3
              │  └─ 6 Nut            3     1      1
              └─ 7 Runner            2     3    303
                 └─ 5 Bolt           3     2      3
                    └─ 6 Nut         4     1      1
              10 Loose               1     1      5

              circle: 8 Knot A → 9 Knot B → 8 Knot A
              circle: 12 Self refers to itself
              1 row hangs below a circle, so that no root reaches it.
              1 row is below several others and shown below each: 5 Bolt (4)
              1 pair of assembly names a row that is not there.
            """);
    assertThat(kit("--by", "whole_no", "--levels", "2").out())
        .contains("  └─ 5 Bolt                 2     2\n", "7 ways are not shown")
        .doesNotContain("Wheel");
    assertThat(kit("--by", "part_no").out())
        .contains("whole_no below part_no", "  6 Nut ", "each: 1 Cart (2), 2 Sledge (2)\n");
  }

  /** What is below Bolt comes once for each way, and a pair that is written twice counts once. */
  @Test
  public void overAJunctionQueriesAreWritten() throws IOException {
    Path file = folder.resolve("walk.sql");
    for (String[] more :
        new String[][] {{"--by", "whole_no"}, {"--by", "whole_no", "--levels", "5"}}) {
      List<String> args = new ArrayList<>(List.of(more));
      args.add("--write");
      Files.writeString(file, kit(args.toArray(String[]::new)).out());
      Answer rows = Answer.to("rows", "--data", folder.toString(), file.toString());
      assertThat(rows.out()).contains(more.length == 2 ? "14 rows" : "5 rows");
      Answer check = Answer.to("check", "--data", folder.toString(), file.toString());
      assertThat(check.out()).isEqualTo("1 statement checked: nothing found.\n");
    }
    assertThat(kit("--by", "whole_no", "--levels", "3", "--write").err())
        .contains("3 rows lie deeper than 3 levels");
  }

  @DataProvider
  static Object[][] wrong() {
    return new Object[][] {
      {
        List.of("Kit Part"),
        3,
        "Kit Part does not refer to itself, by any reference that is declared or that its rows show;"
            + " assembly refers to it twice, and may put its rows below each other: name it as the"
            + " junction"
      },
      {
        List.of("Kit Part", "--over", "assembly"),
        3,
        "which of the two names the row above: assembly.whole_no → Kit Part.no and assembly.part_no"
      },
      {
        List.of("assembly"),
        3,
        "assembly does not refer to itself, by any reference that is declared or that its rows show;"
            + " but it refers to Kit Part twice, and may put the rows of that below each other: ask"
            + " for Kit Part, with assembly as the junction"
      },
      {List.of("Kit Part", "--over", "assembly", "--by", "pieces"), 3, "by pieces: assembly.whole"},
      {List.of("Kit Part", "--over", "assembley"), 3, "no table assembley; close to it: assembly"},
      {
        List.of("tool", "--over", "beside", "--by", "one_no"),
        3,
        "beside puts no row of tool below another: it would refer to tool twice, by references that"
            + " are declared or that its rows show; there is beside.tool_id → tool.id"
      },
      {List.of("mason"), 3, "in several ways: mason.master_id → mason.id, mason.friend_id"},
      {List.of("mason", "--by", "stones"), 3, "does not refer to itself by stones, but so: "},
      {List.of("tool"), 3, "tool does not refer to itself"},
      {List.of("maison"), 3, "there is no table maison; close to it: mason"},
      {
        List.of("mason", "--by", "master_id", "--sum", "full name"),
        3,
        "Full Name is VARCHAR(20), which is not summed up; numbers of mason are id, master_id,"
            + " friend_id and stones"
      },
      {
        List.of("Kit Part", "--over", "assembly", "--by", "whole_no", "--sum", "label"),
        3,
        "label is VARCHAR(20), which is not summed up; numbers of Kit Part are no and grams"
      },
      {List.of("chest", "--sum", "noo"), 3, "chest has no column noo; close to it: no"},
      {List.of("chest", "--write"), 3, "has several columns"},
      {
        List.of("mason", "--by", "master_id", "--between", "1 OR 1=1", "2"),
        3,
        "mason.id is a number, which 1 OR 1=1 is not"
      },
      {
        List.of("mason", "--by", "master_id", "--between", "1", "77"),
        3,
        "no row of mason has the id 77"
      },
      {List.of("mason", "--between", "1", "2"), 3, "in several ways"},
      {List.of("mason", "--between", "1"), 2, "requires at least 2 values"},
      {
        List.of("mason", "--between", "1", "2", "--levels", "3"),
        2,
        "--levels is about trees, and --between shows none; leave one of the two out"
      },
      {List.of("chest", "--between", "1", "2"), 3, "the key of chest has several columns"},
      {
        List.of("Kit Part", "--over", "assembly", "--by", "whole_no", "--between", "1", "2"),
        3,
        "over a junction several ways lead from row to row"
      },
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

  @DataProvider
  static Object[][] pairs() {
    return new Object[][] {
      {"4", "3", "3 steps | up 4, up 2, common 1, down 3"},
      {"2", "4", "1 step | common 2, down 4"},
      {"6", "6", "0 steps | common 6"},
      // In a circle, and below it; one refers to itself; one to nothing that is there.
      {"8", "9", "1 step | up 8, common 9"},
      {"11", "9", "2 steps | up 11, common 7, down 9"},
      {"10", "1", "no row in common | up 10, down 1"},
      {"6", "12", "no row in common | up 6, up 5, down 12"},
    };
  }

  /** Told as a line for each row on the way, the common one in the middle. */
  @Test(dataProvider = "pairs")
  public void whatLiesBetweenTwoRows(String first, String second, String expected) {
    Answer answer = hierarchy("mason", "--by", "master_id", "--between", first, second);
    assertThat(answer.err()).isEmpty();
    List<String> steps = new ArrayList<>();
    for (String line : answer.out().lines().skip(1).toList()) {
      if (!line.isBlank()) {
        steps.add(line.strip().replaceFirst(" +mason ([0-9]+) .*", " $1"));
      }
    }
    String head =
        answer
            .out()
            .lines()
            .findFirst()
            .orElseThrow()
            .replaceFirst(".*: ([0-9]+ steps?) along.*", "$1");
    assertThat(
            head.replaceFirst(".* have (no row in common):", "$1")
                + " | "
                + String.join(", ", steps))
        .isEqualTo(expected);
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
          {"empty_one", "--format", "json"},
          {"Kit Part", "--over", "assembly", "--by", "whole_no", "--format", "json"}
        }) {
      String json = hierarchy(args).out();
      assertThat(Fixture.violations("hierarchy", json)).as(json).isEmpty();
    }
    for (String other : List.of("3", "12")) {
      String json =
          hierarchy("mason", "--by", "master_id", "--between", "4", other, "--format", "json")
              .out();
      assertThat(Fixture.violations("between", json)).as(json).isEmpty();
      assertThat(json.contains("\"distance\" : 3")).isEqualTo(other.equals("3"));
    }
  }
}
