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

/** Accounts from the command line, in a small world of its own: an orchard and its pickers. */
public class LedgerCommandTest {

  private static final Map<String, String> FILES = new TreeMap<>();

  static {
    FILES.put(
        "orchard/schema.sql",
        "CREATE TABLE \"Apple Sort\" (code VARCHAR(6) PRIMARY KEY, \"Full Name\" VARCHAR(20),"
            + " parent VARCHAR(6) REFERENCES \"Apple Sort\" (code));\n"
            + "CREATE TABLE tree (row_no INTEGER, place INTEGER, sort VARCHAR(6) REFERENCES"
            + " \"Apple Sort\" (code), PRIMARY KEY (row_no, place));\n"
            + "CREATE TABLE picker (name VARCHAR(20), team INTEGER);\n"
            + "CREATE TABLE basket (id INTEGER PRIMARY KEY, row_no INTEGER, place INTEGER, picker"
            + " VARCHAR(20), kilos DECIMAL(6,2), FOREIGN KEY (row_no, place) REFERENCES tree (row_no,"
            + " place));\n"
            + "CREATE TABLE closed_day (day DATE PRIMARY KEY);\n");
    FILES.put(
        "orchard/Apple Sort.csv",
        "code,Full Name,parent\nPIP,Pip,\nRED,Red Pip,PIP\nDRK,Dark Red,RED\nGLD,Gold,GLD\n");
    FILES.put("orchard/tree.csv", "row_no,place,sort\n1,1,RED\n1,2,RED\n1,3,\n2,1,DRK\n2,2,OLD\n");
    FILES.put("orchard/picker.csv", "name,team\nAnn,1\nBo,2\nBo,2\n,3\n");
    FILES.put(
        "orchard/basket.csv",
        "id,row_no,place,picker,kilos\n1,1,1,Ann,12.5\n2,1,1,Bo,\n3,1,2,Bo,9\n4,1,3,,4\n5,2,9,Cy,3\n"
            + "6,,,Ann,1\n");
    FILES.put("orchard/closed_day.csv", "day\n");
    FILES.put(
        "sums.sql",
        "SELECT t.row_no, t.place, s.\"Full Name\", SUM(b.kilos) AS kilos\nFROM tree t\n"
            + "LEFT JOIN \"Apple Sort\" s ON s.code = t.sort\n"
            + "JOIN basket b ON b.row_no = t.row_no AND b.place = t.place\n"
            + "JOIN picker p ON p.name = b.picker\n"
            + "LEFT JOIN \"Apple Sort\" o ON o.code = s.parent\n"
            + "WHERE b.kilos > 5\nGROUP BY t.row_no, t.place, s.\"Full Name\"");
    FILES.put("sorts.sql", "SELECT code FROM \"Apple Sort\" EXCEPT SELECT sort FROM tree");
    FILES.put(
        "up.sql",
        "WITH RECURSIVE up AS (SELECT code, parent FROM \"Apple Sort\" WHERE code IN ('DRK', 'GLD')"
            + " UNION SELECT s.code, s.parent FROM \"Apple Sort\" s JOIN up ON s.code = up.parent)"
            + " SELECT * FROM up");
    FILES.put(
        "not-in.sql",
        "SELECT t.row_no, t.place FROM tree t WHERE t.sort NOT IN (SELECT parent FROM \"Apple Sort\")"
            + " AND NOT EXISTS (SELECT 1 FROM basket b WHERE b.row_no = t.row_no)");
    FILES.put("empty.sql", "SELECT b.id FROM basket b, closed_day");
    FILES.put("one.sql", "SELECT row_no FROM tree");
    FILES.put("idle.sql", "SELECT b.id FROM basket b LEFT JOIN tree t USING (row_no, place)");
    FILES.put(
        "two.sql", "SELECT id FROM basket;\nSELECT 1 AS one FROM tree a JOIN tree b ON TRUE;");
  }

  private Path folder = Path.of("");

  @BeforeClass
  public void write() throws IOException {
    folder = Fixture.folder("orchard", FILES);
  }

  private Answer ledger(String query, String... args) {
    List<String> all = new ArrayList<>(List.of("ledger"));
    all.addAll(List.of("--data", folder.resolve("orchard").toString()));
    all.addAll(List.of(args));
    all.add(folder.resolve(query).toString());
    return Answer.to(all);
  }

  @DataProvider
  static Object[][] told() {
    return new Object[][] {
      {"sums.sql", "    3 of 5 rows found a partner; 2 of 4 rows of Apple Sort s were found\n"},
      {"sums.sql", "    filled 1       t.sort names an Apple Sort that is not there\n"},
      {
        "sums.sql", "    dropped 1      b.picker is empty\n                   tree 1 (3, NULL) with"
      },
      {"sums.sql", "    dropped 2      b.kilos > 5 is unknown, since b.kilos is NULL\n"},
      {"sums.sql", "  7  GROUP BY t.row_no, t.pl"},
      {"sorts.sql", "  2  EXCEPT query 2       4          2        2\n"},
      {"up.sql", "  2  level 1                    2        2         1        3\n"},
      {"up.sql", "  4  level 3: nothing new       4                           4\n"},
      {"up.sql", "The rows of the start of up\n"},
      {"not-in.sql", "is unknown, since a value in it\n"},
      {
        "not-in.sql",
        "    Of 5 rows outside, 0 find none, 2 find one and 3 find several (at most 4); 14 rows in all."
      },
      {"empty.sql", "    dropped 6      closed_day has no row\n"},
    };
  }

  @Test(dataProvider = "told")
  public void eachStepIsAccountedFor(String query, String expected) {
    Answer answer = ledger(query);
    assertThat(answer.err()).isEmpty();
    assertThat(answer.exit()).isZero();
    assertThat(answer.out())
        .contains(expected)
        .doesNotContain("lantrel_")
        .doesNotContain("NULL (NULL)");
  }

  @DataProvider
  static Object[][] asked() {
    return new Object[][] {
      {"sums.sql", "--rows unused@3", "    unused 1       b.row_no or b.place is empty\n"},
      {"sums.sql", "--rows unused@3", "                   basket 5 (Cy)\n"},
      {"sums.sql", "--rows filled@3", "    No row is filled at this step.\n"},
      {"sums.sql", "--rows merged@7", "    merged 1       several rows are in one group\n"},
      {"sums.sql", "--rows 1", "                   tree 2 (1, DRK), and 1 more\n"},
      {"sums.sql", "--rows all", "                   tree 2 (1, DRK), tree 2 (2, OLD)\n"},
      {
        "sums.sql",
        "--against left",
        "  3  JOIN basket b         4             6           2         2\n"
      },
      {"sums.sql", "--against left@4", "    would come 1   b.picker is empty\n"},
      {"sums.sql", "--against INNER", "    would go 1     t.sort is empty\n"},
      {
        "sums.sql",
        "--against inner@4",
        "  Nothing to compare: no join, or only such joins already.\n"
      },
      {"one.sql", "--against left", "  Nothing to compare: no join, or only such joins already.\n"},
      {"empty.sql", "--against full", "    Not possible: a comma and CROSS JOIN have no condition"},
      {
        "sums.sql",
        "--without 2",
        "  What is joined to it falls away with it: LEFT JOIN Apple Sort o.\n"
      },
      {"sums.sql", "--without 2", "  Its columns are used in SELECT and GROUP BY.\n"},
      {"sums.sql", "--without 3", "  Conditions of WHERE fall away with it: b.kilos > 5.\n"},
      {"idle.sql", "--without 2", "on this data it does nothing.\n"},
      {
        "sums.sql", "--about 0.01%", "  None of the 5 rows of tree t is in so small a part; more of"
      },
      {"sums.sql", "--about 100%", "were looked at, so that the figures are exact.\n"},
      {
        "sums.sql",
        "--about 1000",
        "  4  JOIN picker p                4          1           2        5\n"
      },
      {
        "sums.sql",
        "--about 50%",
        "  Looked at: 3 of 5 rows of tree t (60.0 %), taken by row_no and place. The"
      },
      {
        "sums.sql",
        "--about 50%",
        "  6  WHERE                       ≈8         ≈3                   ≈5"
      },
      {"sums.sql", "--about 50%", "    all rows that were looked at found a partner\n"},
      {"sums.sql", "--about 50.0%", "  Only all rows tell which rows of the joined tables find no"},
    };
  }

  @Test(dataProvider = "asked")
  public void whatIsAskedIsTold(String query, String option, String expected) {
    Answer answer = ledger(query, option.split(" ", -1));
    assertThat(answer.err()).isEmpty();
    assertThat(answer.exit()).isZero();
    assertThat(answer.out()).contains(expected);
  }

  @DataProvider
  static Object[][] wrong() {
    return new Object[][] {
      {"sums.sql", "--rows -1", 2, "--rows takes a whole number from 0 on, all, or a figure"},
      {"sums.sql", "--rows lost@3", 2, "figures are dropped, repeated, added, merged, cut"},
      {"sums.sql", "--rows dropped@0", 2, "--rows takes"},
      {"sums.sql", "--rows dropped@99", 2, "there is no step 99 in this account: it has 7"},
      {"sums.sql", "--against sideways", 2, "--against takes inner, left, right or full"},
      {
        "sums.sql",
        "--against left@9",
        3,
        "step 9 is no join of this query: its joins are the steps 2"
      },
      {"sums.sql", "--without 1", 3, "step 1 is no join of this query"},
      {"sums.sql", "--without x", 2, "--without"},
      {"one.sql", "--without 2", 3, "step 2 is no join of this query: it has none"},
      {"sorts.sql", "--without 2", 3, "a query that puts several together has no steps of its own"},
      {"sorts.sql", "--against left", 3, "a query that puts several together has no steps"},
      {"sums.sql", "--about 0", 2, "--about takes a number of rows from 1 on, or a part of them"},
      {"sums.sql", "--about 101%", 2, "as 0.5% or 10%; not 101%"},
      {"sums.sql", "--about 0.0%", 2, "--about takes"},
      {"sums.sql", "--about 1.5", 2, "--about takes"},
      {"sums.sql", "--about .5%", 2, "--about takes"},
      {"sums.sql", "--about 100.000001%", 2, "--about takes"},
      {"sums.sql", "--about half", 2, "--about takes"},
      {"sums.sql", "--about 50% --rows dropped@7", 2, "no step 7 in this account: it has 6"},
      {"sums.sql", "--about 5 --without 2", 2, "--about"},
      {"sorts.sql", "--about 5", 3, "a query that puts several together has no steps"},
    };
  }

  @Test(dataProvider = "wrong")
  public void whatIsWrongIsOneSentence(String query, String option, int exit, String expected) {
    Answer answer = ledger(query, option.split(" ", -1));
    assertThat(answer.exit()).isEqualTo(exit);
    assertThat(answer.err()).contains(expected).doesNotContain("\tat ");
  }

  @DataProvider
  static Object[][] forPrograms() {
    return new Object[][] {
      {"sums.sql", "--rows 2", "\"with\" : [ {"},
      {"sums.sql", "--rows 0", "\"partners\" : {"},
      {"sorts.sql", "--rows 3", "\"kind\" : \"except\""},
      {"up.sql", "--rows 3", "\"kind\" : \"level\""},
      {"not-in.sql", "--rows 3", "\"found\" : [ {"},
      {"sums.sql", "--against full", "\"otherResult\" : "},
      {"empty.sql", "--against full", "\"refusal\" : \"a comma"},
      {"sums.sql", "--without 3", "\"conditions\" : [ \"b.kilos > 5\" ]"},
      {"two.sql", "--rows 3", "\"statement\" : 2"},
      {"sums.sql", "--about 50%", "\"about\" : {"},
    };
  }

  @Test(dataProvider = "forPrograms")
  public void programsReadTheSame(String query, String option, String expected) throws IOException {
    List<String> options = new ArrayList<>(List.of(option.split(" ", -1)));
    options.addAll(List.of("--format", "json"));
    String json = ledger(query, options.toArray(String[]::new)).out();
    assertThat(json).contains(expected);
    assertThat(Fixture.violations("ledger", json)).as(json).isEmpty();
  }

  /**
   * A query, which rows are wanted, and what the account says of those that a clause takes away.
   */
  @DataProvider
  static Object[][] taken() {
    String baskets = "SELECT b.picker, COUNT(*) AS n FROM basket b GROUP BY b.picker";
    return new Object[][] {
      {
        baskets + " HAVING COUNT(*) > 1 AND SUM(b.kilos) > 10",
        "3",
        "dropped 2      COUNT(*) > 1 is false b.picker Cy, b.picker NULL"
            + " dropped 1      SUM(b.kilos) > 10 is false b.picker Bo"
      },
      {
        "SELECT b.row_no FROM basket b GROUP BY b.row_no HAVING MAX(b.row_no) > 1",
        "3",
        "dropped 1      MAX(b.row_no) > 1 is false b.row_no 1"
            + " dropped 1      MAX(b.row_no) > 1 is unknown, since a value in it is NULL b.row_no NULL"
      },
      {
        "SELECT DISTINCT b.row_no, b.place FROM basket b",
        "3",
        "merged 1       they show the same as another row (row_no 1, place 1, rows 2)"
      },
      {
        "SELECT DISTINCT p.team FROM picker p UNION SELECT 1 FROM closed_day",
        "1",
        "merged 1       they show the same as another row; these come most often (team 2, rows 2)"
      },
      {
        "SELECT p.team FROM picker p UNION SELECT b.row_no FROM basket b",
        "1",
        "merged 6       they are equal to another row; these come most often (team 1, rows 5)"
      },
      {
        "SELECT b.id FROM basket b ORDER BY b.id LIMIT 2 OFFSET 1",
        "2",
        "cut 1          passed over by OFFSET id 1"
            + " cut 3          behind the first 3 rows id 4, id 5, and 1 more"
      },
      {
        "SELECT b.id FROM basket b LIMIT 2",
        "2",
        "cut 4          behind the first 2 rows; without ORDER BY any rows can be these"
      },
      {
        "SELECT b.row_no FROM basket b INTERSECT SELECT t.row_no FROM tree t",
        "all",
        "merged 3       equal rows of query 1 (row_no 1, rows 4)"
            + " dropped 1      they are not in query 2 row_no NULL"
      },
    };
  }

  @Test(dataProvider = "taken")
  public void whatAClauseTakesAwayIsNamed(String sql, String rows, String expected)
      throws IOException {
    Path file = Files.writeString(folder.resolve("taken.sql"), sql);
    Answer answer = ledger(file.getFileName().toString(), "--rows", rows);
    assertThat(answer.err()).isEmpty();
    List<String> told = new ArrayList<>();
    boolean in = false;
    for (String line : answer.out().lines().toList()) {
      boolean begins = line.matches("    (dropped|merged|cut) [0-9]+ .*");
      in = begins || (in && line.startsWith("      "));
      if (in) {
        told.add(line.strip());
      }
    }
    assertThat(String.join(" ", told)).as(answer.out()).isEqualTo(expected);
  }

  /** All rows of one figure: those that GROUP BY puts together only so. */
  @Test
  public void whichRowsAreGroupedIsToldOnDemand() throws IOException {
    Files.writeString(
        folder.resolve("grouped.sql"),
        "SELECT b.row_no, COUNT(*) AS n FROM basket b GROUP BY b.row_no");
    assertThat(ledger("grouped.sql").out()).doesNotContain("several rows are in one group");
    assertThat(ledger("grouped.sql", "--rows", "merged@2").out())
        .contains("merged 3       several rows are in one group")
        .contains("(b.row_no 1, rows 4)");
    assertThat(ledger("grouped.sql", "--rows", "cut@2").out())
        .contains("No row is cut at this step.");
  }
}
