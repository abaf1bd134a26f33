package io.lantrel.sql.outgoing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.Statement;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What is sent for what was read, and what is not sent at all. */
public class OutgoingTest {

  @DataProvider
  static Object[][] sent() {
    return new Object[][] {
      {Dialect.DUCKDB, "SELECT 'it''s \\' FROM t", "SELECT 'it''s \\' FROM t"},
      {Dialect.DUCKDB, "SELECT E'a\\tb' FROM t", "SELECT 'a\tb' FROM t"},
      {Dialect.DUCKDB, "SELECT E'\\xC3\\xA9' FROM t", "SELECT '\u00e9' FROM t"},
      {Dialect.DUCKDB, "SELECT $$it's$$ FROM t", "SELECT 'it''s' FROM t"},
      {Dialect.DUCKDB, "SELECT 'a\0b' FROM t", "SELECT ('a' || chr(0) || 'b') FROM t"},
      {Dialect.DUCKDB, "SELECT 7//2 FROM t", "SELECT 7 // 2 FROM t"},
      {Dialect.SQLITE, "SELECT 'a\0' FROM t", "SELECT ('a' || char(0) || '') FROM t"},
      {Dialect.SQLITE, "SELECT [a ] FROM t", "SELECT \"a \" FROM t"},
      {Dialect.POSTGRESQL, "SELECT 'a\\b' FROM t", "SELECT E'a\\u005cb' FROM t"},
      {Dialect.POSTGRESQL, "SELECT U&'\\00e9\\\\' FROM t", "SELECT E'\u00e9\\u005c' FROM t"},
      {Dialect.POSTGRESQL, "SELECT a FROM t\u00e9", "SELECT a FROM \"t\u00e9\""},
      {Dialect.POSTGRESQL, "SELECT a -- x\r FROM t", "SELECT a FROM t"},
      {Dialect.MARIADB, "SELECT 'it\\'s' FROM t", "SELECT 'it''s' FROM t"},
      {Dialect.MARIADB, "SELECT \"a\\\"'\" FROM t", "SELECT 'a\"''' FROM t"},
      {Dialect.MARIADB, "SELECT 'a\\\\' FROM t", "SELECT _utf8mb4 X'615c' FROM t"},
      {Dialect.MARIADB, "SELECT '\\%' FROM t", "SELECT _utf8mb4 X'5c25' FROM t"},
      {Dialect.MARIADB, "SELECT 5--3 FROM t", "SELECT 5 - -3 FROM t"},
      {Dialect.MARIADB, "SELECT `a``b` FROM t", "SELECT `a``b` FROM t"},
      {Dialect.MARIADB, "SELECT a # 'x\n FROM t", "SELECT a FROM t"},
      {Dialect.H2, "SELECT 'a\\b\n' FROM t", "SELECT U&'a\\005cb\\000a' FROM t"},
      {Dialect.H2, "SELECT a // 'x\n FROM t", "SELECT a FROM t"},
      {Dialect.H2, "SELECT 1 AS \u0131nto FROM t", "SELECT 1 AS \"INTO\" FROM t"},
      {Dialect.HSQLDB, "SELECT '\\' FROM t", "SELECT U&'\\005c' FROM t"},
    };
  }

  @Test(dataProvider = "sent")
  public void writesWhatTheProductReads(Dialect dialect, String text, String sent) {
    assertThat(Outgoing.statement(SqlReader.readQuery(text, dialect), dialect)).isEqualTo(sent);
  }

  @DataProvider
  static Object[][] unread() {
    return new Object[][] {
      {Dialect.MARIADB, "SELECT 1 /*! , 2 */ FROM t", "MariaDB runs what stands in this comment"},
      {Dialect.MARIADB, "SELECT 1 /*M!100100 , 2 */ FROM t", "MariaDB runs what stands"},
      {Dialect.POSTGRESQL, "SELECT $$a FROM t", "never closed"},
      {Dialect.H2, "SELECT $a$ x $a$ FROM t", ""},
      {Dialect.SQLITE, "SELECT 7 // 2 FROM t", ""},
      {Dialect.DUCKDB, "SELECT E'\\xFF' FROM t", ""},
      {Dialect.POSTGRESQL, "SELECT E'\\u12' FROM t", ""},
      {Dialect.POSTGRESQL, "SELECT X'4G' FROM t", ""},
      {Dialect.HSQLDB, "SELECT 0x41 FROM t", ""},
      {Dialect.MARIADB, "SELECT 1_000 FROM t", ""},
      {Dialect.DUCKDB, "SELECT 1 FROM t /* open", "never closed"},
    };
  }

  @Test(dataProvider = "unread")
  public void whatTheProductWouldReadInAnotherWayIsNotRead(
      Dialect dialect, String text, String message) {
    Statement statement = SqlReader.read(new SourceText(text), dialect).get(0);
    assertThat(statement).isInstanceOf(Statement.UnreadStatement.class);
    assertThat(((Statement.UnreadStatement) statement).problems().get(0).message())
        .contains(message);
  }

  /** Whatever the printer might do wrong, this is where it ends. */
  @DataProvider
  static Object[][] unsent() {
    return new Object[][] {
      {Dialect.DUCKDB, "SELECT 1; SELECT 2", "the sign ;"},
      {Dialect.DUCKDB, "SELECT 1 -- x", "no operator --"},
      {Dialect.DUCKDB, "SELECT 1 /* x */", "no operator /*"},
      {Dialect.DUCKDB, "SELECT 1 */ 2", "no operator */"},
      {Dialect.H2, "SELECT 1 // 2", "no operator //"},
      {Dialect.MARIADB, "SELECT 1 # 2", "no operator #"},
      {Dialect.MARIADB, "SELECT a -> b", "no operator ->"},
      {Dialect.POSTGRESQL, "SELECT 1 @-- 2", "no operator @--"},
      {Dialect.POSTGRESQL, "SELECT 1 +/* 2", "no operator +/*"},
      {Dialect.POSTGRESQL, "SELECT \\d", "the sign \\"},
      {Dialect.POSTGRESQL, "SELECT $$a$$", "the sign $"},
      {Dialect.POSTGRESQL, "SELECT `a`", "the sign `"},
      {Dialect.POSTGRESQL, "SELECT E'a'", "can be read in several ways"},
      {Dialect.POSTGRESQL, "SELECT 'a'b", "can be read in several ways"},
      {Dialect.POSTGRESQL, "SELECT 'a'\"b\"", "can be read in several ways"},
      {Dialect.POSTGRESQL, "SELECT 1a", "can be read in several ways"},
      {Dialect.POSTGRESQL, "SELECT 'a", "a quote is opened and never closed"},
      {Dialect.POSTGRESQL, "SELECT \"a", "a quote is opened and never closed"},
      {Dialect.POSTGRESQL, "SELECT X'4G'", "something else"},
      {Dialect.POSTGRESQL, "SELECT a\nFROM t", "U+000A"},
      {Dialect.POSTGRESQL, "SELECT a\u00a0FROM t", "U+00A0"},
      {Dialect.POSTGRESQL, "SELECT \u00e9", "U+00E9"},
      {Dialect.POSTGRESQL, "SELECT 'a\0'", "no text with the character U+0000"},
      {Dialect.DUCKDB, "SELECT \"a\0\"", "a name cannot hold"},
      {Dialect.DUCKDB, "SELECT '\udc00'", "half a character"},
      {Dialect.HSQLDB, "SELECT 0x41", "reads the number 0x41 in another way"},
      {Dialect.MARIADB, "SELECT 1_000", "reads the number 1_000 in another way"},
      {Dialect.SQLITE, "SELECT @a", "the operator"},
      {Dialect.SQLITE, "SELECT ?", "no operator ?"},
    };
  }

  @Test(dataProvider = "unsent")
  public void whatCanBeReadInTwoWaysIsNotSent(Dialect dialect, String printed, String message) {
    assertThatThrownBy(() -> Outgoing.sent(printed, dialect))
        .isInstanceOf(UnsendableException.class)
        .hasMessageContaining(message.equals("the operator") ? "operator" : message);
  }

  @DataProvider
  static Object[][] large() {
    String join = " JOIN t AS b ON 1 = 1";
    return new Object[][] {
      {
        "SELECT 1 WHERE TRUE" + " AND TRUE".repeat(5_000),
        "5001 conditions or queries stand in a row"
      },
      {"SELECT 1 WHERE TRUE" + " OR TRUE".repeat(6_000), "6001 conditions or queries"},
      {"SELECT 1" + " UNION ALL SELECT 1".repeat(5_000), "5001 conditions or queries"},
      {"SELECT 1 FROM t AS a" + join.repeat(1_001), "the statement has 1001 joins"},
    };
  }

  @Test(dataProvider = "large")
  public void whatCannotBeStoppedIsNotSent(String sql, String message) {
    assertThatThrownBy(
            () -> Outgoing.statement(SqlReader.readQuery(sql, Dialect.DUCKDB), Dialect.DUCKDB))
        .hasMessageStartingWith(message);
  }

  @Test
  public void whatIsLongerThanAnybodyWritesIsNotSent() {
    String text = "SELECT '" + "x".repeat(Outgoing.LONGEST) + "'";
    assertThatThrownBy(() -> Outgoing.sent(text, Dialect.DUCKDB))
        .hasMessageContaining("no more than " + Outgoing.LONGEST + " are sent");
  }
}
