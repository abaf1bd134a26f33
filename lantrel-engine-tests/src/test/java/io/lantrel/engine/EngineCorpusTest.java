package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.check.Finding;
import io.lantrel.check.Severity;
import io.lantrel.sql.Corpus;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.SqlReader;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalInt;
import java.util.Set;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What Lantrel says of the statements of the corpus, beside what each engine says of them. */
public class EngineCorpusTest {

  /** How engines say that a name, its scope, or the grouping is wrong. */
  private static final List<String> WRONG_NAMES =
      List.of(
          "no such column",
          "no such table",
          "column .* not found",
          "table .* not found",
          "object not found",
          "unknown column",
          "table .* doesn't exist",
          "column .* does not exist",
          "relation .* does not exist",
          "missing from-clause",
          "ambiguous",
          "must appear in the group by",
          "must be in the group by",
          "not in aggregate or group by",
          "isn't in group by",
          "invalid reference to from-clause");

  /** Words for things other than tables and columns, which Lantrel does not know. */
  private static final Set<String> OTHER_THINGS =
      Set.of("seq", "memory.main", ": f", "unknown,", "oid", "unknown)");

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void agreesWithTheEngine(Engine engine) throws SQLException {
    List<String> statements = new ArrayList<>(Corpus.statements(engine.dialect()));
    if (engine != Engine.DUCKDB) {
      statements.addAll(Corpus.plain(engine.dialect()));
    }
    int accepted = 0;
    try (Connection connection = RiverDatabases.writing(RiverDatabases.access(engine));
        Lantrel lantrel = RiverDatabases.beside(engine)) {
      for (String sql : statements) {
        String refusal = refusal(connection, sql);
        Study study = lantrel.study(sql);
        List<Finding> errors =
            study.findings().stream().filter(each -> each.severity() == Severity.ERROR).toList();
        if (refusal.isEmpty()) {
          accepted++;
          assertThat(study.isUnderstood()).as(sql).isTrue();
          assertThat(errors).as(sql).isEmpty();
          assertThat(study.inspection().refusal()).as(sql).isEmpty();
          assertSameWhenPrinted(connection, sql, engine.dialect());
        } else if (isAboutNames(refusal)) {
          assertThat(errors).as("%s: %s", sql, refusal).isNotEmpty();
        }
      }
    }
    assertThat(accepted).isGreaterThan(statements.size() * 4 / 5);
  }

  /** Whether an engine refuses for a name, its scope, or the grouping. */
  static boolean isAboutNames(String refusal) {
    String words = refusal.toLowerCase(Locale.ROOT);
    return WRONG_NAMES.stream().anyMatch(each -> words.matches("(?s).*" + each + ".*"))
        && OTHER_THINGS.stream().noneMatch(words::contains);
  }

  private static void assertSameWhenPrinted(Connection connection, String sql, Dialect dialect)
      throws SQLException {
    String printed = SqlPrinter.print(SqlReader.readQuery(sql, dialect), dialect);
    OptionalInt rows = rows(connection, sql);
    // Twice the same gives different numbers of rows if chance is in it.
    if (rows.equals(rows(connection, sql))) {
      assertThat(rows(connection, printed)).as(printed).isEqualTo(rows);
    }
  }

  private static OptionalInt rows(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet result = statement.executeQuery(sql)) {
      int rows = 0;
      while (rows < 2_000 && result.next()) {
        rows++;
      }
      return OptionalInt.of(rows);
    }
  }

  /** Why an engine refuses a statement; empty if it does not. */
  static String refusal(Connection connection, String sql) {
    try {
      rows(connection, sql);
      return "";
    } catch (SQLException refused) {
      return String.valueOf(refused.getMessage());
    }
  }
}
