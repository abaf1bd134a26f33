package io.lantrel.sql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Comments as each product has them, and conditions by themselves. */
public class CommentsTest {

  @DataProvider
  static Object[][] texts() {
    return new Object[][] {
      {Dialect.DUCKDB, "SELECT 1 -- a\nFROM t -- b", List.of(" a", " b")},
      {Dialect.DUCKDB, "/* a */ SELECT 1 /* b\nc */", List.of(" a ", " b\nc ")},
      {Dialect.DUCKDB, "SELECT '-- a', \"/* b */\" --c", List.of("c")},
      {Dialect.POSTGRESQL, "SELECT $$ -- a $$ /* b /* c */ d */", List.of(" b /* c */ d ")},
      {Dialect.POSTGRESQL, "SELECT E'\\' -- a' -- b", List.of(" b")},
      {Dialect.MARIADB, "SELECT 1 # a\n-- b\n/* c */", List.of(" a", " b", " c ")},
      {Dialect.MARIADB, "SELECT 5--3 -- a", List.of(" a")},
      {Dialect.MARIADB, "SELECT 'it\\'s -- a', \"x # b\" # c", List.of(" c")},
      {Dialect.H2, "SELECT 1 // a\n-- b", List.of(" a", " b")},
      {Dialect.SQLITE, "SELECT [a--b], `c` -- d", List.of(" d")},
      {Dialect.HSQLDB, "SELECT 1 -- a\r\nFROM t", List.of(" a")},
      {Dialect.DUCKDB, "-- 🦆\nSELECT 1 -- é", List.of(" 🦆", " é")},
      {Dialect.DUCKDB, "--", List.of("")},
      {Dialect.DUCKDB, "/**/", List.of("")},
      {Dialect.DUCKDB, "", List.of()},
      {Dialect.DUCKDB, "SELECT 1 /* never closed", List.of()},
      {Dialect.DUCKDB, "SELECT 'never closed -- a", List.of()},
    };
  }

  @Test(dataProvider = "texts")
  public void findsWhatStandsInThem(Dialect dialect, String text, List<String> comments) {
    SourceText source = new SourceText(text);
    assertThat(Comments.of(source, dialect).stream().map(source::at).map(CommentsTest::line))
        .isEqualTo(comments);
  }

  /** The carriage return before a line feed belongs to the end of the line. */
  private static String line(String comment) {
    return comment.endsWith("\r") ? comment.substring(0, comment.length() - 1) : comment;
  }

  @DataProvider
  static Object[][] conditions() {
    return new Object[][] {
      {"a = 1", "a = 1"},
      {"a > 1 AND (b IS NULL OR c LIKE 'x%')", "a > 1 AND (b IS NULL OR c LIKE 'x%')"},
      {"a IN (SELECT b FROM t) -- why", "a IN (SELECT b FROM t)"},
      {"('x', 'it''s')", "('x', 'it''s')"},
      {"NOT EXISTS (SELECT 1 FROM t WHERE t.a = b)", "NOT EXISTS (SELECT 1 FROM t WHERE t.a = b)"},
    };
  }

  @Test(dataProvider = "conditions")
  public void readsAConditionAlone(String text, String printed) {
    String again = SqlPrinter.print(SqlReader.readCondition(text, Dialect.DUCKDB), Dialect.DUCKDB);
    assertThat(again.replaceAll("\\s+", " ")).isEqualTo(printed);
  }

  @DataProvider
  static Object[][] noConditions() {
    return new Object[][] {
      {""},
      {"-- nothing"},
      {"a = "},
      {"a = 1;b = 2"},
      {"a = 1) OR (1 = 1"},
      {"a = 1 ORDER BY b"},
      {"a = 1; DROP TABLE t"},
      {"SELECT 1"},
      {"a = 'x"},
      {"a = 1, b = 2"},
      {"/* a"},
      {"(".repeat(300) + "a" + ")".repeat(300)},
      {"a = 1 UNION SELECT 2"},
      {"a = 1 FROM t"},
    };
  }

  @Test(dataProvider = "noConditions")
  public void refusesWhatIsNone(String text) {
    assertThatThrownBy(() -> SqlReader.readCondition(text, Dialect.DUCKDB))
        .isInstanceOf(SyntaxException.class);
  }
}
