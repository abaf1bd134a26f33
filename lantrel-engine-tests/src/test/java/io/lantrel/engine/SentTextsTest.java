package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.outgoing.Outgoing;
import io.lantrel.sql.outgoing.UnsendableException;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.io.IOException;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Whatever a text is made of, and whatever a session is set to: what is sent comes back as it was.
 * At full size with {@code -Dlantrel.texts=20000}.
 */
public class SentTextsTest {

  private static final int TEXTS = Integer.getInteger("lantrel.texts", 400);

  /** Texts of one statement. */
  private static final int TOGETHER = 20;

  private static final List<String> PIECES =
      List.of(
          "'",
          "''",
          "\"",
          "\\",
          "\\\\",
          "\\'",
          "\\\"",
          "`",
          "[",
          "]",
          ";",
          "--",
          "-- ",
          "/*",
          "*/",
          "/*!",
          "//",
          "#",
          "$$",
          "$a$",
          "?",
          "??",
          ":a",
          "@a",
          "{",
          "}",
          "{fn",
          "%",
          "_",
          "\n",
          "\r",
          "\t",
          "\u0001",
          "\u001a",
          "\u007f",
          "\u0080",
          "\u00a0",
          "\u2028",
          "\ufeff",
          "\u202e",
          "E'",
          "N'",
          "U&'",
          "X'",
          "_utf8'",
          "||",
          "\\0041",
          "\\u0041",
          "\\x41",
          "\\0",
          "\\n",
          "\\Z",
          "DELETE FROM river",
          "\u00e9",
          "\u0131",
          "\u4e2d",
          "\uffff",
          "\ud83d\ude00",
          "\udbff\udffd",
          "\u00bf\\",
          "\u8c5c",
          " ",
          "x",
          "0");

  @DataProvider
  static Object[][] sessions() {
    return new Object[][] {
      {Engine.DUCKDB, ""},
      {Engine.SQLITE, ""},
      {Engine.SQLITE, "PRAGMA encoding = 'UTF-16le'"},
      {Engine.H2, ""},
      {Engine.HSQLDB, ""},
      {Engine.POSTGRESQL, "SET standard_conforming_strings = on"},
      {Engine.POSTGRESQL, "SET standard_conforming_strings = off"},
      {Engine.POSTGRESQL, "SET backslash_quote = on"},
      {Engine.MARIADB, "SET sql_mode = ''"},
      {Engine.MARIADB, "SET sql_mode = 'ANSI_QUOTES'"},
      {Engine.MARIADB, "SET sql_mode = 'NO_BACKSLASH_ESCAPES'"},
      {Engine.MARIADB, "SET sql_mode = 'ORACLE'"},
    };
  }

  @Test(dataProvider = "sessions")
  public void comeBackAsTheyWere(Engine engine, String setting) throws SQLException, IOException {
    Random random = new Random(20261127);
    Access access = RiverDatabases.empty(engine, "texts");
    try (Connection connection = RiverDatabases.writing(access)) {
      if (!setting.isEmpty()) {
        RiverDatabases.run(connection, setting);
      }
      for (int i = 0; i < TEXTS; i += TOGETHER) {
        List<String> texts =
            IntStream.range(0, TOGETHER).mapToObj(each -> text(random, engine)).toList();
        assertThat(answer(connection, texts, engine)).as("%s %s", engine, setting).isEqualTo(texts);
      }
    }
  }

  private static String text(Random random, Engine engine) {
    StringBuilder text = new StringBuilder();
    int pieces = 1 + random.nextInt(9);
    for (int i = 0; i < pieces; i++) {
      boolean any = random.nextInt(4) == 0;
      text.append(any ? character(random) : PIECES.get(random.nextInt(PIECES.size())));
      if (random.nextInt(30) == 0 && engine != Engine.POSTGRESQL) {
        text.append('\0');
      }
    }
    return text.toString();
  }

  /** From any plane, but no half of a pair. */
  private static String character(Random random) {
    int point = 1 + random.nextInt(Character.MAX_CODE_POINT);
    boolean half = point >= Character.MIN_SURROGATE && point <= Character.MAX_SURROGATE;
    return half ? "?" : Character.toString(point);
  }

  private static List<String> answer(Connection connection, List<String> texts, Engine engine)
      throws SQLException {
    String sql = Outgoing.statement(shown(texts, engine), engine.dialect());
    try (Statement statement = connection.createStatement()) {
      statement.setEscapeProcessing(false);
      try (ResultSet rows = statement.executeQuery(sql)) {
        assertThat(rows.next()).isTrue();
        List<String> back = new ArrayList<>();
        for (int i = 1; i <= texts.size(); i++) {
          back.add(rows.getString(i));
        }
        assertThat(rows.next()).isFalse();
        return back;
      }
    }
  }

  /** A query that shows the texts, under names that are as wild; HSQLDB wants a FROM. */
  private static Query shown(List<String> texts, Engine engine) {
    List<SelectItem> items = new ArrayList<>();
    for (int i = 0; i < texts.size(); i++) {
      Value text =
          new Value.Literal(
              Span.NOWHERE, Value.LiteralKind.STRING, "'" + texts.get(i).replace("'", "''") + "'");
      Identifier label = new Identifier(Span.NOWHERE, "a\"`\\'] -- /* ; " + i, true);
      items.add(new SelectItem.Output(Span.NOWHERE, text, label));
    }
    Query frame = SqlReader.readQuery("SELECT 1 FROM (VALUES (1)) AS t", engine.dialect());
    QueryBody.Select select = (QueryBody.Select) frame.body();
    return Query.of(
        new QueryBody.Select(Span.NOWHERE, false, items, select.from(), null, List.of(), null));
  }

  @Test
  public void whatCannotBeSentIsRefused() {
    for (Engine engine : RiverDatabases.engines()) {
      assertThatThrownBy(
              () -> Outgoing.statement(shown(List.of("a\ud800b"), engine), engine.dialect()))
          .isInstanceOf(UnsendableException.class)
          .hasMessageContaining("half a character");
    }
    assertThatThrownBy(
            () -> Outgoing.statement(shown(List.of("a\0b"), Engine.POSTGRESQL), Dialect.POSTGRESQL))
        .hasMessage("PostgreSQL has no text with the character U+0000");
  }
}
