package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Verdict;
import io.lantrel.ledger.Naming;
import io.lantrel.sample.SampleWish;
import io.lantrel.survey.SurveyWish;
import io.lantrel.trace.Answer;
import java.io.IOException;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Columns of types that cannot be compared, put in order or written as a constant. */
public class OddTypesTest {

  private static final String JOINED =
      "SELECT p.id, p.odd, b.name, b.seen FROM piece p LEFT JOIN box b ON b.id = p.box_id";

  private static Object[] row(Engine engine, String type, String value) {
    return new Object[] {engine, type, value};
  }

  @DataProvider
  static Object[][] types() {
    return new Object[][] {
      row(Engine.POSTGRESQL, "json", "'{\"a\": 1}'"),
      row(Engine.POSTGRESQL, "jsonb", "'{\"a\": 1}'"),
      row(Engine.POSTGRESQL, "xml", "'<a/>'"),
      row(Engine.POSTGRESQL, "point", "'(1,2)'"),
      row(Engine.POSTGRESQL, "bytea", "'\\x0102'"),
      row(Engine.POSTGRESQL, "integer[]", "'{1,2}'"),
      row(Engine.POSTGRESQL, "uuid", "'12345678-1234-1234-1234-123456789012'"),
      row(Engine.POSTGRESQL, "interval", "'1 day 2 hours'"),
      row(Engine.POSTGRESQL, "tsvector", "'a b'"),
      row(Engine.POSTGRESQL, "inet", "'10.0.0.1'"),
      row(Engine.POSTGRESQL, "bit(3)", "B'101'"),
      row(Engine.POSTGRESQL, "int4range", "'[1,5)'"),
      row(Engine.POSTGRESQL, "timetz", "'10:00+02'"),
      row(Engine.POSTGRESQL, "real", "0.1"),
      row(Engine.POSTGRESQL, "boolean", "true"),
      row(Engine.POSTGRESQL, "timestamptz", "'2026-05-01 10:00:00+02'"),
      row(Engine.MARIADB, "JSON", "'{\"a\": 1}'"),
      row(Engine.MARIADB, "BLOB", "X'0102'"),
      row(Engine.MARIADB, "BIT(3)", "b'101'"),
      row(Engine.MARIADB, "GEOMETRY", "ST_GeomFromText('POINT(1 2)')"),
      row(Engine.MARIADB, "SET('a', 'b')", "'a,b'"),
      row(Engine.MARIADB, "ENUM('a', 'b')", "'a'"),
      row(Engine.MARIADB, "BOOLEAN", "TRUE"),
      row(Engine.MARIADB, "YEAR", "2026"),
      row(Engine.MARIADB, "TIME", "'30:00:00'"),
      row(Engine.MARIADB, "FLOAT", "0.1"),
      row(Engine.DUCKDB, "STRUCT(a INTEGER)", "{'a': 1}"),
      row(Engine.DUCKDB, "INTEGER[]", "[1, 2]"),
      row(Engine.DUCKDB, "MAP(VARCHAR, INTEGER)", "MAP {'a': 1}"),
      row(Engine.DUCKDB, "BLOB", "'\\x01\\x02'::BLOB"),
      row(Engine.DUCKDB, "INTERVAL", "INTERVAL 3 DAY"),
      row(Engine.DUCKDB, "UUID", "'12345678-1234-1234-1234-123456789012'"),
      row(Engine.DUCKDB, "BOOLEAN", "TRUE"),
      row(Engine.DUCKDB, "ENUM('a', 'b')", "'a'"),
      row(Engine.DUCKDB, "HUGEINT", "170141183460469231731687303715884105727"),
      row(Engine.DUCKDB, "UNION(n INTEGER, t VARCHAR)", "1"),
      row(Engine.DUCKDB, "TIMESTAMPTZ", "'2026-05-01 10:00:00+02'"),
      row(Engine.DUCKDB, "BIT", "'101'"),
      row(Engine.H2, "JSON", "JSON '{\"a\": 1}'"),
      row(Engine.H2, "GEOMETRY", "'POINT (1 2)'"),
      row(Engine.H2, "INTEGER ARRAY", "ARRAY[1, 2]"),
      row(Engine.H2, "BLOB", "X'0102'"),
      row(Engine.H2, "CLOB", "'a long text'"),
      row(Engine.H2, "UUID", "'12345678-1234-1234-1234-123456789012'"),
      row(Engine.H2, "INTERVAL DAY TO HOUR", "INTERVAL '1 2' DAY TO HOUR"),
      row(Engine.H2, "TIMESTAMP WITH TIME ZONE", "'2026-05-01 10:00:00+02'"),
      row(Engine.H2, "BOOLEAN", "TRUE"),
      row(Engine.HSQLDB, "BOOLEAN", "TRUE"),
      row(Engine.HSQLDB, "UUID", "CAST('12345678-1234-1234-1234-123456789012' AS UUID)"),
      row(Engine.HSQLDB, "CLOB", "'a long text'"),
      row(Engine.HSQLDB, "BLOB", "X'0102'"),
      row(Engine.HSQLDB, "INTEGER ARRAY", "ARRAY[1, 2]"),
      row(Engine.HSQLDB, "INTERVAL DAY TO HOUR", "INTERVAL '1 2' DAY TO HOUR"),
      row(Engine.HSQLDB, "BIT(3)", "B'101'"),
      row(Engine.SQLITE, "BLOB", "X'0102'"),
      row(Engine.SQLITE, "JSON", "'{\"a\": 1}'"),
    };
  }

  /** Every answer over them is given. */
  @Test(dataProvider = "types")
  public void areNoHindrance(Engine engine, String type, String value)
      throws SQLException, IOException {
    Access access = RiverDatabases.empty(engine, "odd_types");
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE box (id INTEGER PRIMARY KEY, name VARCHAR(20), seen " + type + ")",
          "CREATE TABLE piece (id INTEGER PRIMARY KEY, box_id INTEGER REFERENCES box (id), odd "
              + type
              + ")",
          "INSERT INTO box VALUES (1, 'red', " + value + ")",
          "INSERT INTO box VALUES (2, 'blue', NULL)",
          "INSERT INTO piece VALUES (1, 1, " + value + ")",
          "INSERT INTO piece VALUES (2, 1, NULL)",
          "INSERT INTO piece VALUES (3, NULL, " + value + ")");
    }
    try (Lantrel lantrel = Lantrel.connect(access)) {
      SurveyWish all = SurveyWish.all().showing(3).withValues();
      assertThat(lantrel.survey(all, text -> {}).tables()).hasSize(2);
      Study study = lantrel.study(JOINED);
      assertThat(study.inspection().unchecked()).isEmpty();
      assertThat(study.ledger(Naming.some(Naming.ALL)).result()).isEqualTo(3);
      assertThat(study.steps(10)).hasSize(2);
      for (int row = 1; row <= 3; row++) {
        assertThat(study.trace(row, 5).sources()).hasSize(2);
      }
      assertThat(lantrel.study(JOINED.replace("LEFT ", "")).missing("piece where id = 3", 5))
          .extracting(Answer::outcome)
          .containsExactly(Answer.Outcome.LOST);
      Study grouped =
          lantrel.study(
              "SELECT b.id, COUNT(p.odd) AS n FROM box b LEFT JOIN piece p ON p.box_id = b.id"
                  + " GROUP BY b.id ORDER BY b.id");
      assertThat(grouped.ledger(Naming.some(Naming.ALL)).result()).isEqualTo(2);
      assertThat(grouped.trace(1, 5).sources()).hasSize(3);
      assertThat(grouped.inspection().unchecked()).isEmpty();
      Study named =
          lantrel.study(
              "WITH q AS (SELECT p.odd, p.id FROM piece p) SELECT q.odd FROM q WHERE q.id = 3");
      assertThat(named.trace(1, 5).sources()).hasSize(1);
      assertThat(study.compare(lantrel.study(JOINED), CompareOptions.USUAL).verdict())
          .isEqualTo(Verdict.SAME);
      assertThat(study.verify("one row per p", "no null in odd").claims()).hasSize(2);
      assertThat(lantrel.sample(SampleWish.usual(), List.of(study), text -> {}).tables())
          .hasSize(2);
    }
  }

  /** Rows that are alike but for such a value are told apart, within a query in FROM too. */
  @Test(dataProvider = "alike")
  public void tellRowsApart(Engine engine, String type, String first, String second)
      throws SQLException, IOException {
    Access access = RiverDatabases.empty(engine, "odd_alike");
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE piece (id INTEGER PRIMARY KEY, name VARCHAR(9), odd " + type + ")",
          "INSERT INTO piece VALUES (1, 'same', " + first + ")",
          "INSERT INTO piece VALUES (2, 'same', " + second + ")");
    }
    String plain = "SELECT p.name, p.odd FROM piece p ORDER BY p.id";
    String within = "SELECT q.name, q.odd FROM (" + plain.replace(" ORDER BY p.id", "") + ") q";
    try (Lantrel lantrel = Lantrel.connect(access)) {
      for (int row = 1; row <= 2; row++) {
        Answer answer = lantrel.study(plain).trace(row, 5);
        assertThat(answer.sources()).hasSize(1);
        assertThat(answer.sources().get(0).values().get(0).value()).isEqualTo("" + row);
        assertThat(lantrel.study(within).trace(row, 5).sources().get(0).sources()).hasSize(1);
      }
    }
  }

  @DataProvider
  static Object[][] alike() {
    return new Object[][] {
      {Engine.POSTGRESQL, "json", "'{\"a\": 1}'", "'{\"a\": 2}'"},
      {Engine.POSTGRESQL, "bytea", "'\\x01'", "'\\x02'"},
      {Engine.POSTGRESQL, "real", "0.1", "0.2"},
      {Engine.MARIADB, "BLOB", "X'01'", "X'02'"},
      {Engine.MARIADB, "FLOAT", "0.1", "0.2"},
      {Engine.DUCKDB, "INTEGER[]", "[1]", "[2]"},
      {Engine.DUCKDB, "REAL", "0.1", "0.2"},
      {Engine.H2, "BLOB", "X'01'", "X'02'"},
      {Engine.HSQLDB, "BLOB", "X'01'", "X'02'"},
      {Engine.SQLITE, "BLOB", "X'01'", "X'02'"},
    };
  }

  /** What cannot be made a text is asked once more as it is: a statement for each step. */
  @Test
  public void costFewStatementsMore() throws SQLException, IOException {
    assertThat(statements("GEOMETRY") - statements("INTEGER")).isEqualTo(4);
  }

  private static long statements(String type) throws SQLException, IOException {
    Access access = RiverDatabases.empty(Engine.MARIADB, "odd_price");
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE box (id INTEGER PRIMARY KEY, name VARCHAR(20), seen " + type + ")",
          "CREATE TABLE piece (id INTEGER PRIMARY KEY, box_id INTEGER, odd " + type + ")");
    }
    try (Lantrel lantrel = Lantrel.connect(access)) {
      Study study = lantrel.study(JOINED);
      assertThat(study.steps(10)).hasSize(2);
      return study.statementsSent();
    }
  }
}
