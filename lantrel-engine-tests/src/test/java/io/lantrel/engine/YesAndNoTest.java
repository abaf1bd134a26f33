package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.testng.Reporter;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * The engines' yes and no to statements made at random, by preparing and never running them, beside
 * what Lantrel says of their names. At full size: {@code -Dlantrel.statements=20000}.
 */
public class YesAndNoTest {

  private static final int STATEMENTS = Integer.getInteger("lantrel.statements", 400);
  private static final long SEED = 20261128;

  /** So many examples of each sort are told. */
  private static final int SHOWN = Integer.getInteger("lantrel.shown", 6);

  /** What some engines look for only while they run a statement. */
  private static final Map<Engine, Set<Kind>> LATER =
      Map.of(
          Engine.H2, Set.of(Kind.AGGREGATE_IN_WHERE, Kind.UNGROUPED_COLUMN),
          Engine.HSQLDB, Set.of(Kind.AGGREGATE_IN_WHERE));

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void lantrelSaysWhatTheEngineSays(Engine engine) throws SQLException {
    Map<String, List<String>> wrong = new TreeMap<>();
    int yes = 0;
    int no = 0;
    int other = 0;
    try (Connection connection = RiverDatabases.writing(RiverDatabases.access(engine));
        Lantrel full = RiverDatabases.beside(engine)) {
      Lantrel lantrel = full.tablesAlone(engine.dialect());
      RandomStatements statements = new RandomStatements(lantrel.catalog(), SEED);
      for (int i = 0; i < STATEMENTS; i++) {
        String sql = statements.next();
        String refusal = refusal(connection, engine, sql);
        Study study = lantrel.study(sql);
        List<String> errors =
            errors(
                study, refusal.isEmpty() ? LATER.getOrDefault(engine, Set.of()) : Set.of(), wrong);
        if (refusal.isEmpty()) {
          yes++;
          if (!study.isUnderstood()) {
            note(wrong, "not understood", sql, "");
          } else if (!errors.isEmpty()) {
            note(wrong, "error in what is taken", sql, errors.toString());
          }
        } else if (EngineCorpusTest.isAboutNames(refusal)) {
          no++;
          if (errors.isEmpty()) {
            note(wrong, "not seen", sql, refusal);
          }
        } else if (errors.isEmpty()) {
          other++;
          note(wrong, "(refused for other reasons)", sql, refusal);
        } else {
          other++;
        }
      }
    }
    Reporter.log(told(engine, yes, no, other, wrong), true);
    assertThat(count(wrong, "failed")).isZero();
    assertThat(count(wrong, "not understood")).isZero();
    assertThat(count(wrong, "error in what is taken")).isLessThanOrEqualTo(yes / 100);
    assertThat(count(wrong, "not seen")).isLessThanOrEqualTo(no / 8);
    assertThat(yes).isGreaterThan(STATEMENTS / 3);
    assertThat(no).isGreaterThan(STATEMENTS / 50);
  }

  /**
   * Errors.
   *
   * @param later kinds that the engine meets only when it runs a statement
   */
  private static List<String> errors(
      Study study, Set<Kind> later, Map<String, List<String>> wrong) {
    try {
      return study.findings().stream()
          .filter(each -> each.severity() == Severity.ERROR && !later.contains(each.kind()))
          .map(each -> each.kind().id() + ": " + each.message())
          .toList();
    } catch (RuntimeException failure) {
      note(
          wrong,
          "failed",
          study.sql(),
          failure + " " + List.of(failure.getStackTrace()).stream().limit(4).toList());
      return List.of("failed");
    }
  }

  private static int count(Map<String, List<String>> wrong, String sort) {
    return wrong.getOrDefault(sort, List.of()).size();
  }

  private static void note(Map<String, List<String>> wrong, String sort, String sql, String words) {
    wrong.computeIfAbsent(sort, key -> new ArrayList<>()).add(sql + "\n      " + words.strip());
  }

  private static String told(
      Engine engine, int yes, int no, int other, Map<String, List<String>> wrong) {
    StringBuilder told = new StringBuilder();
    told.append(engine)
        .append(": taken ")
        .append(yes)
        .append(", refused for names ")
        .append(no)
        .append(", refused otherwise ")
        .append(other);
    wrong.forEach(
        (sort, all) -> {
          told.append("\n  ").append(sort).append(": ").append(all.size());
          all.stream()
              .sorted(Comparator.comparingInt(String::length))
              .limit(SHOWN)
              .forEach(each -> told.append("\n    ").append(each));
        });
    return told.toString();
  }

  /** Why the engine does not take it; empty if it does. Nothing is run. */
  private static String refusal(Connection connection, Engine engine, String sql) {
    try {
      if (engine == Engine.MARIADB) {
        try (Statement statement = connection.createStatement()) {
          statement.execute("PREPARE looked FROM '" + sql.replace("'", "''") + "'");
          statement.execute("DEALLOCATE PREPARE looked");
        }
      } else {
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
          statement.getMetaData();
        }
      }
      return "";
    } catch (SQLException | AssertionError refused) {
      // One engine has assertions of its own, which tests switch on.
      return String.valueOf(refused).replaceAll("\\s+", " ");
    }
  }
}
