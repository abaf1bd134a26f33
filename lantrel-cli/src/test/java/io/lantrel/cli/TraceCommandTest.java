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

/** Rows followed from the command line, in a small world of its own: a harbour and its visits. */
public class TraceCommandTest {

  private static final Map<String, String> FILES = new TreeMap<>();

  static {
    FILES.put(
        "harbour/schema.sql",
        "CREATE TABLE \"Flag State\" (code VARCHAR(10) PRIMARY KEY, label VARCHAR(20));\n"
            + "CREATE TABLE vessel (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL,"
            + " flag VARCHAR(10), tender_of INTEGER REFERENCES vessel (id));\n"
            + "CREATE TABLE berth (quay CHAR(1), no INTEGER, depth DECIMAL(4,1),"
            + " PRIMARY KEY (quay, no));\n"
            + "CREATE TABLE visit (vessel_id INTEGER REFERENCES vessel (id), quay CHAR(1),"
            + " no INTEGER, came DATE, fee DECIMAL(6,2));\n");
    FILES.put("harbour/Flag State.csv", "code,label\nNOR,Northmark\nsud,Southmark\n");
    FILES.put(
        "harbour/vessel.csv",
        "id,name,flag,tender_of\n1,Petrel,NOR,\n2,Gannet,SUD,\n3,Dunlin,\"NOR \",1\n4,Knot,,1\n"
            + "5,Petrel,NOR,9\n");
    FILES.put("harbour/berth.csv", "quay,no,depth\nA,1,6.5\nA,2,\nB,1,9.0\n");
    FILES.put(
        "harbour/visit.csv",
        "vessel_id,quay,no,came,fee\n1,A,1,2026-05-01,10.50\n1,A,1,2026-05-09,\n2,A,3,2026-05-02,7\n"
            + "3,B,1,2026-06-01,12\n3,B,1,2026-06-01,12\n4,B,2,2026-06-02,3\n");
    FILES.put(
        "flags.sql",
        "SELECT v.name, f.label FROM vessel v\nJOIN \"Flag State\" f ON f.code = v.flag ORDER BY v.id;\n");
    FILES.put(
        "berths.sql",
        "SELECT v.name, b.depth, i.fee FROM visit i JOIN berth b ON b.quay = i.quay AND b.no = i.no"
            + " JOIN vessel v ON v.id = i.vessel_id WHERE b.depth > 5 AND i.fee > 0 ORDER BY v.id");
    FILES.put(
        "tenders.sql",
        "SELECT t.name AS tender, m.name AS mother FROM vessel t LEFT JOIN vessel m ON m.id ="
            + " t.tender_of ORDER BY t.id");
    FILES.put(
        "or.sql",
        "SELECT v.name, i.fee FROM visit i JOIN vessel v ON v.id = i.vessel_id WHERE i.fee > 11 AND"
            + " v.flag IS NOT NULL OR i.no > 2");
    FILES.put(
        "sides.sql",
        "SELECT i.came FROM visit i WHERE i.no < 3 AND (i.quay = 'C' OR i.fee > 90 OR (i.no = 1 AND"
            + " i.fee > 80)) AND (i.quay = 'X' OR i.quay = 'A' OR i.fee = 1 OR i.fee = 2 OR i.fee ="
            + " 3 OR i.fee = 4 OR i.fee = 5 OR i.fee = 6 OR i.fee = 7)");
    FILES.put(
        "deep.sql",
        "SELECT i.vessel_id, -b.depth * 2 AS twice, b.quay FROM visit i LEFT JOIN berth b ON b.quay ="
            + " i.quay AND b.no = i.no AND b.depth > 7 ORDER BY i.came");
    FILES.put(
        "dear.sql",
        "SELECT v.name, i.fee FROM vessel v LEFT JOIN visit i ON i.vessel_id = v.id AND i.fee > 8"
            + " LEFT JOIN berth b USING (quay, no) ORDER BY v.id, i.came");
    FILES.put(
        "since.sql",
        "SELECT b.quay, i.came FROM berth b RIGHT JOIN visit i ON b.quay = i.quay AND b.depth < i.fee"
            + " AND i.no < 9 ORDER BY i.came, i.vessel_id");
    FILES.put(
        "both.sql",
        "SELECT name FROM vessel WHERE id > 9 UNION ALL SELECT quay FROM berth WHERE depth > 7");
    FILES.put(
        "walk.sql",
        "WITH RECURSIVE w AS (SELECT id, name FROM vessel WHERE id = 1 UNION ALL SELECT v.id, v.name"
            + " FROM vessel v JOIN w ON w.id = v.tender_of) SELECT w.name FROM w ORDER BY w.id");
    FILES.put(
        "later.sql",
        "WITH q AS (SELECT id FROM vessel) SELECT a.id FROM q a JOIN q b ON b.id = a.id AND b.id > a.id"
            + " + 1");
    FILES.put("names.sql", "SELECT DISTINCT name FROM vessel");
    FILES.put(
        "fees.sql",
        "SELECT v.name, SUM(i.fee) AS paid, COUNT(*) AS visits FROM vessel v JOIN visit i ON"
            + " i.vessel_id = v.id GROUP BY v.id, v.name HAVING COUNT(*) > 1 ORDER BY v.id LIMIT 1");
    FILES.put("wrong.sql", "\n\n  SELECT v.nme FROM vessel v");
    FILES.put("two.sql", "SELECT name FROM vessel ORDER BY id;\nSELECT quay, no FROM berth;\n");
  }

  private Path folder = Path.of("");

  @BeforeClass
  public void write() throws IOException {
    folder = Fixture.folder("harbour", FILES);
  }

  private Answer trace(String query, String... args) {
    List<String> all = new ArrayList<>(List.of("trace"));
    all.addAll(List.of("--data", folder.resolve("harbour").toString()));
    all.addAll(List.of(args));
    all.add(folder.resolve(query).toString());
    return Answer.to(all);
  }

  @DataProvider
  static Object[][] missing() {
    return new Object[][] {
      {
        "flags.sql",
        "vessel where id = 2",
        "vessel 2 (Gannet) is lost at JOIN Flag State f.\n"
            + "  v.flag is SUD, and no row of Flag State f meets f.code = v.flag.\n"
            + "  Near it is Flag State sud (Southmark): f.code is 'sud', which differs from 'SUD' only in capitals.\n"
      },
      {
        "flags.sql",
        "v where name = 'Dunlin'",
        "  Near it is Flag State NOR (Northmark): f.code is 'NOR', which differs from 'NOR ' only in blanks.\n"
      },
      {
        "flags.sql",
        "vessel where id = 4",
        "  v.flag is NULL, so f.code = v.flag is unknown for every"
      },
      {"flags.sql", "\"Flag State\" where code = 'sud'", "Flag State sud (Southmark) is lost at"},
      {
        "berths.sql",
        "visit where vessel_id = 4",
        "  i.quay is B, and no row of berth b, of those that meet the rest of ON, meets b.quay = i.quay.\n"
      },
      {"berths.sql", "berth where quay = 'A' AND no = 2", "berth A (2) is lost at JOIN berth b"},
      {"berths.sql", "visit where fee IS NULL", "  i.fee is NULL, so i.fee > 0 is unknown.\n"},
      {"tenders.sql", "m where id = 2", "vessel 2 (Gannet) is lost at LEFT JOIN vessel m.\n"},
      {
        "tenders.sql",
        "vessel where id = 3",
        "vessel 3 (Dunlin), as t is in the result, as row 3.\n"
      },
      {
        "tenders.sql",
        "vessel where id = 3",
        "vessel 3 (Dunlin), as m is lost at LEFT JOIN vessel m.\n"
      },
      {"names.sql", "vessel where id = 5", "DISTINCT made one row of it and of others, row "},
      {"fees.sql", "vessel where id = 3", "  It is not among the rows that LIMIT 1 takes.\n"},
      {"fees.sql", "vessel where id = 2", "vessel 2 (Gannet) is lost in HAVING.\n"},
      {
        "fees.sql",
        "vessel where id = 2",
        "paid is 7.00, visits is 1 and COUNT(*) is 1, so COUNT(*) > 1 is not true.\n"
      },
      // Each side of OR, and several rows with several values.
      {
        "or.sql",
        "visit where vessel_id = 4",
        "  No side of OR is true in i.fee > 11 AND v.flag IS NOT NULL OR i.no > 2.\n"
            + "  i.fee is 3.00, so i.fee > 11 is not true.\n"
            + "  v.flag is NULL, so v.flag IS NOT NULL is not true.\n"
            + "  i.no is 2, so i.no > 2 is not true.\n"
      },
      {
        "or.sql",
        "visit where fee IS NULL",
        "  i.fee is NULL, so i.fee > 11 is unknown.\n  i.no is 1, so i.no > 2 is not true.\n"
      },
      {"or.sql", "vessel where id = 1", "  i.fee > 11 is not true in any of its 2 rows there.\n"},
      // As many sides as a reader follows, each with its own values; of more than that, the whole.
      {
        "sides.sql",
        "visit where vessel_id = 3",
        "  No side of OR is true in i.quay = 'C' OR i.fee > 90 OR i.no = 1 AND i.fee > 80.\n"
            + "  i.quay is B, so i.quay = 'C' is not true.\n"
            + "  i.fee is 12.00, so i.fee > 90 is not true.\n"
            + "  i.fee is 12.00, so i.fee > 80 is not true.\n"
            + "  i.quay is B and i.fee is 12.00, so i.quay = 'X' OR i.quay = 'A' OR i.fee = 1 OR … (6"
            + " more) is not true.\n"
      },
      // What a row does not meet by itself, and what no partner meets.
      {"dear.sql", "visit where vessel_id = 4", "  i.fee is 3.00, so i.fee > 8 is not true.\n\n"},
      {"dear.sql", "visit where fee IS NULL", "  i.fee is NULL, so i.fee > 8 is unknown.\n\n"},
      {"dear.sql", "berth where no = 2", "  b.no is 2, and no row of visit i meets i.no = b.no.\n"},
      {
        "deep.sql",
        "berth where no = 1 and quay = 'A'",
        "is lost at LEFT JOIN berth b.\n  b.depth is 6.5, so b.depth > 7 is not true.\n\n"
      },
      {
        "since.sql",
        "berth where quay = 'A' and no = 2",
        "  b.depth is NULL, and no row of visit i meets b.depth < i.fee.\n"
            + "  Near it is visit 1 (A, 1): b.depth is NULL, so b.depth < i.fee is unknown.\n"
      },
      {
        "later.sql",
        "vessel where id = 2",
        "  Near it is b 2: b.id is 2, so b.id > a.id + 1 is not true.\n"
      },
      // Which of several queries.
      {
        "both.sql",
        "berth where no = 2",
        "berth A (2) is lost in WHERE, within SELECT 2.\n  berth.depth is NULL, so depth > 7 is"
            + " unknown.\n"
      },
      {"walk.sql", "vessel where id = 2", "as vessel is lost in WHERE, within the start of w.\n"},
      {"walk.sql", "vessel where id = 3", "vessel 3 (Dunlin), as v is in the result, as row 2.\n"},
      {"walk.sql", "vessel where id = 2", "is lost at JOIN w, within the steps of w.\n"},
    };
  }

  @Test(dataProvider = "missing")
  public void aRowIsFollowedToWhereItIsLost(String query, String row, String expected) {
    Answer answer = trace(query, "--missing", row);
    assertThat(answer.err()).isEmpty();
    assertThat(answer.exit()).isZero();
    assertThat(unbroken(answer)).contains(expected).doesNotContain("lantrel_");
  }

  @DataProvider
  static Object[][] rows() {
    return new Object[][] {
      {"flags.sql", "1", "├─ vessel v  id = 1, name = Petrel, flag = NOR\n"},
      {"flags.sql", "1", "└─ Flag State f  code = NOR, label = Northmark\n"},
      {
        "tenders.sql",
        "1",
        "mother is NULL because no row of vessel m was found at LEFT JOIN vessel m."
      },
      // Why a join found nothing.
      {
        "tenders.sql",
        "1",
        "  t.tender_of is NULL, so no row of vessel m can meet m.id = t.tender_of.\n"
      },
      {
        "deep.sql",
        "2",
        "  Near it is berth A (2): b.no is 2, so b.no = i.no is not true, and b.depth is NULL, so"
      },
      // Two vessels are called Petrel, and nothing shows which is meant.
      {
        "tenders.sql",
        "5",
        "2 rows of the result look just like it; the rows behind both are shown.\n"
      },
      {
        "deep.sql",
        "1",
        "twice is NULL because b.depth is: no row of berth b was found at LEFT JOIN berth b.\n"
            + "  quay is NULL because no row of berth b was found at LEFT JOIN berth b.\n"
            + "  2 rows of the result look just like it; the rows behind both are shown.\n"
            + "  i.quay is A and i.no is 1, and no row of berth b meets b.quay = i.quay AND b.no ="
            + " i.no AND b.depth > 7.\n"
            + "  Near it is berth A (1): b.depth is 6.5, so b.depth > 7 is not true.\n"
      },
      {
        "since.sql",
        "6",
        "  Near it is berth B (1): b.depth is 9.0, so b.depth < i.fee is not true.\n"
      },
      // A join that follows one which found nothing needs no reason of its own.
      {
        "dear.sql",
        "2",
        "  v.id is 2, and no row of visit i meets i.vessel_id = v.id AND i.fee > 8.\n"
            + "  Near it is visit 2 (A, 3): i.fee is 7.00, so i.fee > 8 is not true.\n\n"
      },
      {"fees.sql", "1", "SUM(i.fee) is over 10.50; 1 NULL left out."},
      {"names.sql", "2", "is put together from"},
      {"berths.sql", "9", "There is no row 9: the result has 3 rows."},
    };
  }

  @Test(dataProvider = "rows")
  public void aRowOfTheResultShowsTheRowsBehindIt(String query, String number, String expected) {
    Answer answer = trace(query, "--row", number);
    assertThat(answer.err()).isEmpty();
    assertThat(unbroken(answer)).contains(expected).doesNotContain("lantrel_");
  }

  /** What is shown, without the line breaks within a sentence. */
  private static String unbroken(Answer answer) {
    StringBuilder text = new StringBuilder();
    for (String line : answer.out().lines().toList()) {
      boolean goesOn =
          line.matches("  [^ ├└│].*")
              && text.toString().matches("(?s).*\\n  [^ ├└│\\n][^\\n]*[^.\\n]\\n");
      if (goesOn) {
        text.setLength(text.length() - 1);
      }
      text.append(goesOn ? line.substring(1) : line).append('\n');
    }
    return text.toString();
  }

  @Test
  public void rowsAreFoundByTheirValues() {
    Answer answer = trace("tenders.sql", "--where", "mother = 'Petrel'");
    assertThat(answer.out())
        .contains("row 3 is put together from", "row 4 is put together from")
        .doesNotContain("row 1 ", "row 5 ");
  }

  @Test
  public void whatIsLeftOutIsSaid() {
    assertThat(trace("flags.sql", "--missing", "vessel", "--rows", "2").out())
        .contains("Of the rows that meet this only the first 2 are told.")
        .doesNotContain("Dunlin");
    Answer some = trace("tenders.sql", "--where", "tender IS NOT NULL", "--rows", "1");
    assertThat(some.err()).contains("lantrel: note: 5 rows meet that; the first 1 are told");
    assertThat(some.out()).contains("row 1 is").doesNotContain("row 2 is");
  }

  /** Members of WITH that name each other twice have ways without number. */
  @Test
  public void queriesThatMultiplyAreBounded() throws IOException {
    StringBuilder sql = new StringBuilder("WITH w0 AS (SELECT id, name FROM vessel)");
    for (int i = 1; i <= 6; i++) {
      String before = "w" + (i - 1);
      sql.append(", w").append(i).append(" AS (SELECT a.id, b.name FROM ").append(before);
      sql.append(" a JOIN ").append(before).append(" b ON b.id = a.id)");
    }
    Files.writeString(folder.resolve("many.sql"), sql + " SELECT id, name FROM w6 ORDER BY id");
    assertThat(trace("many.sql", "--row", "1").out())
        .contains("Of the queries in FROM only the first 30 were gone into.");
  }

  @DataProvider
  static Object[][] wrong() {
    return new Object[][] {
      {"flags.sql", List.of(), 2, "what is to be traced?"},
      {"flags.sql", List.of("--row", "1", "--missing", "vessel"), 2, "Give one of --row N"},
      {"flags.sql", List.of("--row", "0"), 2, "from 1 on"},
      {"flags.sql", List.of("--row", "1", "--format", "dot"), 2, "goes with --column"},
      {"flags.sql", List.of("--missing", "vesel where id = 1"), 3, "close to it: vessel"},
      {"flags.sql", List.of("--missing", "berth where no = 1"), 3, "it is not in its FROM"},
      {"flags.sql", List.of("--missing", "vessel where ID > "), 3, "behind where: "},
      {"flags.sql", List.of("--missing", "vessel where nme = 1"), 3, "close to it: name"},
      {"flags.sql", List.of("--missing", "vessel where count(*) > 1"), 3, "no aggregate"},
      {
        "flags.sql",
        List.of("--missing", "id = 3"),
        3,
        "the result has no column id; it has name and label"
      },
      {"flags.sql", List.of("--where", "lable = 'x'"), 3, "close to it: label"},
      {"flags.sql", List.of("--where", "label = 'x'"), 3, "no row of the result meets"},
      {
        "flags.sql",
        List.of("--where", "name IN (SELECT name FROM vessel)"),
        3,
        "about the headings of the result, without a query"
      },
      {"flags.sql", List.of("--where", "label = "), 3, "that is no condition: "},
      {"flags.sql", List.of("--missing", "vessel where id = :n"), 3, "can be no parameter"},
      {
        "flags.sql",
        List.of("--missing", "vessel where 1 = 1); DROP TABLE vessel"),
        3,
        "behind where"
      },
      {
        "flags.sql",
        List.of("--missing", "vessel where read_text('x') IS NULL"),
        3,
        "is not known to only compute"
      },
      {"flags.sql", List.of("--where", "getenv(label) = 'x'"), 3, "is not known to only compute"},
      {"flags.sql", List.of("--column", "lable"), 3, "close to it: label"},
      {"wrong.sql", List.of("--row", "1"), 3, "line 3, column 12: "},
    };
  }

  @Test(dataProvider = "wrong")
  public void whatCannotBeTracedIsToldInASentence(
      String query, List<String> args, int exit, String expected) {
    Answer answer = trace(query, args.toArray(String[]::new));
    assertThat(answer.exit()).as(answer.err()).isEqualTo(exit);
    assertThat(answer.err()).contains(expected).doesNotContain("Exception");
    assertThat(answer.out()).isEmpty();
  }

  @Test
  public void columnsLeadToTables() throws IOException {
    Answer text = trace("fees.sql", "--column", "all");
    assertThat(text.out())
        .contains("name    the same value  vessel.name")
        .contains("paid    worked out      visit.fee")
        .contains("visits  worked out      no column");
    fits(trace("fees.sql", "--column", "paid", "--format", "json").out(), "columns");
    assertThat(trace("fees.sql", "--column", "all", "--format", "dot").out())
        .startsWith("digraph columns {")
        .contains("\"visit.fee\" -> r1 [style=dashed];");
    assertThat(trace("fees.sql", "--column", "all", "--format", "mermaid").out())
        .contains("c0[\"vessel.name\"]", "c0 --> r0", "c1 -.-> r1");
  }

  @Test
  public void programsReadTheSame() throws IOException {
    for (String[] args :
        new String[][] {
          {"flags.sql", "--row", "1"},
          {"flags.sql", "--missing", "vessel"},
          {"flags.sql", "--missing", "vessel where id = 99"},
          {"flags.sql", "--where", "name IS NOT NULL"},
          {"two.sql", "--row", "2"},
          {"tenders.sql", "--row", "1"}
        }) {
      fits(trace(args[0], args[1], args[2], "--format", "json").out(), "trace");
    }
    assertThat(trace("flags.sql", "--missing", "vessel where id = 4", "--format", "json").out())
        .contains("\"outcome\" : \"lost\"", "\"step\" : 1", "\"condition\" : \"f.code = v.flag\"")
        .contains("\"name\" : \"v.flag\"");
  }

  private static void fits(String json, String name) throws IOException {
    assertThat(Fixture.violations(name, json)).as(json).isEmpty();
  }
}
