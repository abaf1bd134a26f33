package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.outgoing.Outgoing;
import io.lantrel.sql.outgoing.UnsendableException;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
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
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
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

  /**
   * The product's own parser sees the query that was printed: as many columns, under the same
   * names, with the values that its structure says.
   */
  @Test(dataProvider = "sessions")
  public void queriesAreReadAsTheyWerePrinted(Engine engine, String setting)
      throws SQLException, IOException {
    Random random = new Random(20261128);
    Access access = RiverDatabases.empty(engine, "texts");
    try (Connection connection = RiverDatabases.writing(access)) {
      if (!setting.isEmpty()) {
        RiverDatabases.run(connection, setting);
      }
      for (int i = 0; i < TEXTS / 8; i++) {
        List<String> values = new ArrayList<>();
        List<String> labels = new ArrayList<>();
        List<SelectItem> items = new ArrayList<>();
        int columns = 1 + random.nextInt(4);
        for (int column = 0; column < columns; column++) {
          String value = text(random, engine);
          String label = label(random, engine) + column;
          values.add(value);
          labels.add(label);
          items.add(
              new SelectItem.Output(
                  Span.NOWHERE,
                  around(random, constant(value), () -> constant(text(random, engine))),
                  new Identifier(Span.NOWHERE, label, true)));
        }
        Query frame = SqlReader.readQuery("SELECT 1 FROM (VALUES (1)) AS t", engine.dialect());
        QueryBody.Select select = (QueryBody.Select) frame.body();
        Query query =
            Query.of(
                new QueryBody.Select(
                    Span.NOWHERE, false, items, select.from(), null, List.of(), null));
        // HSQLDB brings the values of CASE to one length.
        UnaryOperator<String> alike =
            engine == Engine.HSQLDB ? String::stripTrailing : UnaryOperator.identity();
        assertReadAs(
            connection, Outgoing.statement(query, engine.dialect()), labels, values, alike);
      }
    }
  }

  private static void assertReadAs(
      Connection connection,
      String sql,
      List<String> labels,
      List<String> values,
      UnaryOperator<String> alike)
      throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.setEscapeProcessing(false);
      try (ResultSet rows = statement.executeQuery(sql)) {
        assertThat(rows.next()).isTrue();
        List<String> seen = new ArrayList<>();
        List<String> got = new ArrayList<>();
        for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
          seen.add(rows.getMetaData().getColumnLabel(i));
          got.add(alike.apply(rows.getString(i)));
        }
        assertThat(seen).as(sql).isEqualTo(labels);
        assertThat(got).as(sql).isEqualTo(values.stream().map(alike).toList());
        assertThat(rows.next()).isFalse();
      }
    }
  }

  private static Value constant(String text) {
    return new Value.Literal(
        Span.NOWHERE, Value.LiteralKind.STRING, "'" + text.replace("'", "''") + "'");
  }

  /** Something that gives the value, with other texts around it. */
  private static Expression around(Random random, Expression value, Supplier<Value> other) {
    Expression one = Value.Literal.number(1);
    Expression whole =
        new Condition.Comparison(
            Span.NOWHERE, Condition.ComparisonOperator.EQUAL, one, Value.Literal.number(1));
    return switch (random.nextInt(4)) {
      case 0 -> value;
      case 1 -> Call.FunctionCall.of("COALESCE", value, other.get());
      case 2 ->
          new Value.Case(
              Span.NOWHERE, null, List.of(new Value.When(Span.NOWHERE, whole, value)), other.get());
      default ->
          new Value.Case(
              Span.NOWHERE,
              null,
              List.of(
                  new Value.When(
                      Span.NOWHERE,
                      new Condition.Not(Span.NOWHERE, whole),
                      Call.FunctionCall.of("COALESCE", other.get(), other.get()))),
              around(random, value, other));
    };
  }

  /** Within what names can be: no control characters, no half of a pair, no blank at the ends. */
  private static String label(Random random, Engine engine) {
    String raw = "x" + text(random, engine);
    StringBuilder label = new StringBuilder();
    raw.codePoints()
        .filter(c -> c > ' ' && c < 0xd800 && !Character.isISOControl(c))
        .limit(12)
        .forEach(label::appendCodePoint);
    return label.toString();
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
