package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Comparing from the command line, on a small world of its own: a bakery and its orders. */
public class CompareCommandTest {

  private static final Map<String, String> FILES = new TreeMap<>();

  static {
    FILES.put(
        "bakery/schema.sql",
        "CREATE TABLE oven (no INTEGER PRIMARY KEY, \"Heat Up\" DECIMAL(6,2), lit DATE, note VARCHAR(20), \"on\" BOOLEAN);\nCREATE TABLE loaf (no INTEGER PRIMARY KEY, oven INTEGER REFERENCES oven (no), kind VARCHAR(10) NOT NULL, weight DOUBLE PRECISION);\n");
    FILES.put(
        "bakery/oven.csv",
        "no,Heat Up,lit,note,on\n1,230.50,2026-01-03,,true\n2,,2026-01-04,\"\",false\n3,180.00,,old,true\n");
    FILES.put(
        "bakery/loaf.csv",
        "no,oven,kind,weight\n1,1,rye,0.1\n2,1,rye,0.2\n3,2,oat,0.30000000000000004\n4,,oat,0.3\n5,2,rye,\n");
    FILES.put("other/schema.sql", FILES.get("bakery/schema.sql"));
    FILES.put("other/oven.csv", FILES.get("bakery/oven.csv"));
    FILES.put(
        "other/loaf.csv", FILES.get("bakery/loaf.csv").replace("5,2,rye,\n", "5,2,rye,0.7\n"));
    FILES.put("all.sql", "SELECT no, kind, oven FROM loaf ORDER BY no");
    FILES.put("turned.sql", "SELECT oven, l.no, kind FROM loaf l ORDER BY l.no");
    FILES.put("down.sql", "SELECT no, kind, oven FROM loaf ORDER BY no DESC");
    FILES.put("fewer.sql", "SELECT no, kind, oven FROM loaf WHERE oven IS NOT NULL ORDER BY no");
    FILES.put(
        "joined.sql",
        "SELECT l.no, l.kind, l.oven FROM loaf l JOIN oven o ON o.no = l.oven ORDER BY l.no");
    FILES.put("named.sql", "SELECT no AS number, kind, oven FROM loaf ORDER BY no");
    FILES.put("wider.sql", "SELECT no, kind, oven, weight FROM loaf");
    FILES.put("texts.sql", "SELECT CAST(no AS VARCHAR) AS no, kind, oven FROM loaf");
    FILES.put("kinds.sql", "SELECT kind FROM loaf");
    FILES.put("kinds2.sql", "SELECT kind FROM loaf UNION ALL SELECT 'rye'");
    FILES.put("weights.sql", "SELECT kind, SUM(weight) AS weight FROM loaf GROUP BY kind");
    FILES.put("weights.csv", "kind,weight\nrye,0.3\noat,0.6\n");
    FILES.put("near.csv", "kind,weight\nrye,0.31\noat,0.6\n");
    FILES.put("ovens.sql", "SELECT no, \"Heat Up\", lit, note, \"on\" FROM oven ORDER BY no");
    FILES.put(
        "ovens.csv",
        "no,Heat Up,lit,note,on\n1,230.5,2026-01-03,,true\n2,,2026-01-04,\"\",false\n3,180,,old,true\n");
    FILES.put(
        "ovens.json",
        "[{\"no\":1,\"Heat Up\":230.5,\"lit\":\"2026-01-03\",\"on\":true},{\"no\":2,\"lit\":\"2026-01-04\",\"note\":\"\",\"on\":false},{\"no\":3,\"Heat Up\":180,\"note\":\"old\",\"on\":true}]");
    FILES.put(
        "emptied.csv",
        "no,Heat Up,lit,note,on\n1,230.5,2026-01-03,\"\",true\n2,,2026-01-04,,false\n3,180,,old,true\n");
    FILES.put(
        "swapped.csv",
        "no,Heat Up,lit,note,on\n2,,2026-01-04,\"\",false\n1,230.5,2026-01-03,,true\n3,180,,old,true\n");
    FILES.put("headings.csv", "number,Heat Up,lit,note,on\n1,1,,,\n");
    FILES.put("torn.csv", "no,kind\n1,rye,3\n");
    FILES.put("torn.json", "[{\"no\":1,]");
    FILES.put("nothing.sql", "SELECT no FROM loaf WHERE 1 = 0");
    FILES.put("nothing2.sql", "SELECT no FROM oven WHERE no > 99");
    FILES.put("wrong.sql", "SELECT nr FROM loaf");
    FILES.put("fails.sql", "SELECT CAST(kind AS INTEGER) AS no, kind, oven FROM loaf");
    FILES.put("write.sql", "DELETE FROM loaf");
  }

  private Path folder = Path.of("");

  @BeforeClass
  public void write() throws IOException {
    folder = Fixture.folder("bakery", FILES);
  }

  private Answer compare(String... args) {
    List<String> all = new ArrayList<>(List.of("compare"));
    for (String arg : args) {
      boolean file = FILES.containsKey(arg) || arg.equals("bakery") || arg.equals("other");
      all.add(file ? folder.resolve(arg).toString() : arg);
    }
    if (!all.contains("--data")) {
      all.addAll(List.of("--data", folder.resolve("bakery").toString()));
    }
    return Answer.to(all);
  }

  @DataProvider
  static Object[][] cases() {
    return new Object[][] {
      {0, "the same rows, proven", new String[] {"all.sql", "all.sql"}},
      {0, "compared by their headings", new String[] {"all.sql", "turned.sql"}},
      {1, "the same 5 rows in another order: row 1 is", new String[] {"all.sql", "down.sql"}},
      {0, "the same 5 rows", new String[] {"all.sql", "down.sql", "--any-order"}},
      {1, "1 row only in all.sql", new String[] {"all.sql", "fewer.sql"}},
      {
        0,
        "the same 4 rows, in the same order, and the same for any data in which loaf.oven refers to oven and oven.no is a key",
        new String[] {"fewer.sql", "joined.sql"}
      },
      {
        0,
        "column 1 is no in all.sql and number in named.sql",
        new String[] {"all.sql", "named.sql"}
      },
      {
        1,
        "all.sql has 3 columns, wider.sql has 4; only wider.sql has weight",
        new String[] {"all.sql", "wider.sql"}
      },
      {
        0,
        "no is integer in all.sql and varchar in texts.sql",
        new String[] {"all.sql", "texts.sql"}
      },
      {1, "3 in kinds.sql, 4 in kinds2.sql", new String[] {"kinds.sql", "kinds2.sql"}},
      {0, "both have no row here", new String[] {"nothing.sql", "nothing2.sql"}},
      {0, "the same 2 rows", new String[] {"weights.sql", "weights.csv"}},
      {1, "«0.31»", new String[] {"weights.sql", "near.csv"}},
      {0, "no more than they may", new String[] {"weights.sql", "near.csv", "--tolerance", "0.02"}},
      {0, "the same 3 rows, in the same order", new String[] {"ovens.sql", "ovens.csv"}},
      {0, "the same 3 rows, in the same order", new String[] {"ovens.csv", "ovens.sql"}},
      {0, "the same 3 rows, in the same order", new String[] {"ovens.sql", "ovens.json"}},
      {1, "2 rows agree in no and differ elsewhere", new String[] {"ovens.sql", "emptied.csv"}},
      {1, "in another order: row 1 is 1, 230.5", new String[] {"ovens.sql", "swapped.csv"}},
      {1, "the headings differ: column 1 is no", new String[] {"ovens.sql", "headings.csv"}},
      {
        1,
        "all.sql and turned.sql: the same rows",
        new String[] {"all.sql", "turned.sql", "fewer.sql"}
      },
      {1, "like no other", new String[] {"all.sql", "turned.sql", "fewer.sql"}},
      {0, "the same 5 rows", new String[] {"all.sql", "--data", "bakery", "--data", "other"}},
      {
        1,
        "only other",
        new String[] {
          "--data", "bakery", "--data", "other", "--rows", "1", "wider.sql", "--key", "weight"
        }
      },
      {
        1, "«0.7»", new String[] {"--data", "bakery", "--data", "other", "wider.sql", "--key", "no"}
      },
      {
        0,
        "on this data",
        new String[] {
          "--data", "bakery", "--data", "other", "--engine", "h2", "all.sql", "turned.sql"
        }
      },
      {
        3,
        "wrong.sql: line 1, column 8: loaf has no column nr",
        new String[] {"all.sql", "wrong.sql"}
      },
      {3, "fails.sql does not run", new String[] {"all.sql", "fails.sql"}},
      {3, "this is no query but DELETE", new String[] {"all.sql", "write.sql"}},
    };
  }

  /** Two tables are nobody's question; what is not allowed is told with its option. */
  @Test
  public void comparesAQueryWithSeveralTables() {
    Answer answer = compare("ovens.sql", "ovens.csv", "emptied.csv", "ovens.json");
    assertThat(answer.exit()).isEqualTo(1);
    assertThat(answer.out())
        .contains(
            "ovens.sql, ovens.csv and ovens.json: the same rows on this data",
            "emptied.csv: like no other")
        .doesNotContain("undecided");
  }

  @Test
  public void namesTheOptionThatWouldAllowAFunction() throws IOException {
    Path query = folder.resolve("odd.sql");
    Files.writeString(query, "SELECT odd(no) AS no, kind, oven FROM loaf");
    Answer answer = compare("all.sql", query.toString());
    assertThat(answer.exit()).isEqualTo(3);
    assertThat(answer.err()).contains("--allow-function");
  }

  @Test(dataProvider = "cases")
  public void saysWhatIsTheSame(int exit, String words, String[] args) {
    Answer answer = compare(args);
    String line = answer.out().replaceAll("\\s+", " ");
    assertThat(line).as(answer + "").contains(words.replaceAll("\\s+", " "));
    assertThat(answer.exit()).as(answer + "").isEqualTo(exit);
    assertThat(answer.err()).isEmpty();
  }

  @DataProvider
  static Object[][] wrongCalls() {
    return new Object[][] {
      {2, "two results are wanted", new String[] {"all.sql"}},
      {2, "give at least one query", new String[] {"ovens.csv", "ovens.json"}},
      {2, "from 0 on, not -1", new String[] {"all.sql", "down.sql", "--tolerance", "-1"}},
      {2, "rows are shown from 0 on", new String[] {"all.sql", "down.sql", "--rows", "-1"}},
      {
        3,
        "has no column knd; close to it: kind",
        new String[] {"all.sql", "down.sql", "--key", "knd"}
      },
      {
        3,
        "torn.csv:2:7: this line has 3 fields, the header has 2",
        new String[] {"all.sql", "torn.csv"}
      },
      {3, "torn.json:1:", new String[] {"all.sql", "torn.json"}},
      {3, "there is no such file", new String[] {"all.sql", "gone.csv"}},
      {
        2,
        "one query is run",
        new String[] {"--data", "bakery", "--data", "other", "all.sql", "ovens.csv"}
      },
      {
        2,
        "two places can be compared",
        new String[] {"--data", "bakery", "--data", "other", "--data", "bakery", "all.sql"}
      },
    };
  }

  @Test(dataProvider = "wrongCalls")
  public void saysWhatIsWrong(int exit, String words, String[] args) {
    Answer answer = compare(args);
    assertThat(answer.err()).contains(words).doesNotContain("\tat ");
    assertThat(answer.exit()).isEqualTo(exit);
  }

  @Test
  public void whatItWritesAsJsonCanBeRead() throws IOException {
    for (String other : List.of("all.sql", "fewer.sql", "turned.sql", "wrong.sql", "wider.sql")) {
      String text = compare("--format", "json", "down.sql", other, "kinds.sql").out();
      assertThat(Fixture.violations("compare", text)).isEmpty();
      JsonNode json = new ObjectMapper().readTree(text);
      assertThat(json.get("pairs")).hasSize(3);
    }
  }

  /** What rows writes is a table that can be expected. */
  @Test
  public void takesWhatRowsWrote() throws IOException {
    for (String format : List.of("csv", "json")) {
      StringWriter out = new StringWriter();
      String query = folder.resolve("ovens.sql").toString();
      String data = folder.resolve("bakery").toString();
      Main.run(
          new PrintWriter(out),
          new PrintWriter(new StringWriter()),
          "rows",
          "--data",
          data,
          "--format",
          format,
          query);
      Path table = folder.resolve("written." + format);
      Files.writeString(table, out.toString());
      Answer answer = compare("ovens.sql", table.toString());
      assertThat(answer.out()).contains("the same 3 rows, in the same order");
      assertThat(answer.exit()).isZero();
    }
  }
}
