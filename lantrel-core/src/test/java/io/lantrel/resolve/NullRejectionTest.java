package io.lantrel.resolve;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.check.Kind;
import java.util.List;
import java.util.Random;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Which conditions reject rows filled with NULLs: known cases, and random conditions against a real
 * database, in which no row of the outer join finds a partner.
 */
public class NullRejectionTest {

  private static final String FILLED = " FROM station s LEFT JOIN warden k ON k.id = s.id + 1000 ";

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  private boolean rejects(String condition) {
    return lantrel.study("SELECT s.id" + FILLED + "WHERE " + condition).findings().stream()
        .anyMatch(finding -> finding.kind() == Kind.OUTER_JOIN_CANCELLED);
  }

  private long rowsLeft(String condition) {
    return lantrel.study("SELECT COUNT(*) AS n" + FILLED + "WHERE " + condition).result().figure(0);
  }

  @DataProvider
  static Object[][] conditions() {
    return new Object[][] {
      {"k.id = 1", true},
      {"k.id <> 1", true},
      {"NOT k.id = 1", true},
      {"k.id + 1 > s.id", true},
      {"-k.id < 0", true},
      {"k.id IS NULL", false},
      {"k.id IS NOT NULL", true},
      {"NOT k.id IS NULL", true},
      {"k.id = 1 OR s.id = 1", false},
      {"k.id = 1 OR k.mentor_id = 2", true},
      {"k.id = 1 AND s.id = 1", true},
      {"NOT (k.id = 1 AND s.id = 1)", false},
      {"NOT (k.id = 1 OR s.id = 1)", true},
      {"k.id BETWEEN 1 AND 3", true},
      {"k.id NOT BETWEEN 1 AND 3", true},
      {"s.id BETWEEN 1 AND k.id", true},
      {"s.id NOT BETWEEN 100 AND k.id", false},
      {"k.id IN (1, 2)", true},
      {"k.id NOT IN (1, 2)", true},
      {"s.id NOT IN (k.id, 2)", false},
      {"k.id IN (SELECT river.id FROM river)", true},
      {"k.id NOT IN (SELECT river.id FROM river WHERE river.id < 0)", false},
      {"k.given_name LIKE 'A%'", true},
      {"k.given_name NOT LIKE 'A%'", true},
      {"COALESCE(k.id, 0) = 0", false},
      {"COALESCE(k.id, k.mentor_id) = 0", true},
      {"k.id IS DISTINCT FROM 1", false},
      {"k.id IS NOT DISTINCT FROM 1", true},
      {"k.id IS NOT DISTINCT FROM k.mentor_id", false},
      {"(k.id = 1) IS TRUE", true},
      {"(k.id = 1) IS NOT TRUE", false},
      {"(k.id = 1) IS UNKNOWN", false},
      {"(k.id = 1) IS NOT UNKNOWN", true},
      {"CASE WHEN k.id = 1 THEN FALSE ELSE TRUE END", false},
      {"UPPER(k.given_name) = 'ADA'", true},
      {"CONCAT(k.given_name, 'x') = 'x'", false},
      {"CAST(k.id AS VARCHAR) = '1'", true},
      {"EXISTS (SELECT 1 FROM river r WHERE r.id = k.id)", false},
      {"NOT EXISTS (SELECT 1 FROM river r WHERE r.id = k.id)", false},
      {"k.id = (SELECT MAX(r.id) FROM river r)", true},
      {"k.id", true},
    };
  }

  @Test(dataProvider = "conditions")
  public void knowsConditionsThatNoFilledRowMeets(String condition, boolean expected) {
    assertThat(rejects(condition)).as(condition).isEqualTo(expected);
    if (expected && !condition.equals("k.id")) {
      assertThat(rowsLeft(condition)).as(condition).isZero();
    }
  }

  private static String oneOf(Random random, List<String> values) {
    return values.get(random.nextInt(values.size()));
  }

  private static String value(Random random, int depth) {
    List<String> leaves = List.of("k.id", "k.mentor_id", "s.id", "s.keeper_id", "1", "3", "NULL");
    if (depth == 0 || random.nextInt(3) > 0) {
      return oneOf(random, leaves);
    }
    String one = value(random, depth - 1);
    String other = value(random, depth - 1);
    return oneOf(
        random,
        List.of(
            "(" + one + " + " + other + ")",
            "COALESCE(" + one + ", " + other + ")",
            "ABS(" + one + ")",
            "(- " + one + ")",
            "CASE WHEN " + one + " = 1 THEN " + other + " END",
            "CAST(" + one + " AS BIGINT)"));
  }

  private static String condition(Random random, int depth) {
    String one = value(random, 1);
    String other = value(random, 1);
    if (depth == 0 || random.nextInt(3) == 0) {
      return oneOf(
          random,
          List.of(
              one + " = " + other,
              one + " <> " + other,
              one + " < " + other,
              one + " IS NULL",
              one + " IS NOT NULL",
              one + " BETWEEN " + other + " AND 9",
              one + " NOT BETWEEN 2 AND " + other,
              one + " IN (" + other + ", 5)",
              one + " NOT IN (" + other + ", 5)",
              one + " IS DISTINCT FROM " + other,
              one + " IS NOT DISTINCT FROM " + other));
    }
    String left = condition(random, depth - 1);
    String right = condition(random, depth - 1);
    return oneOf(
        random,
        List.of(
            "(" + left + " AND " + right + ")",
            "(" + left + " OR " + right + ")",
            "NOT (" + left + ")",
            "(" + left + ") IS TRUE",
            "(" + left + ") IS NOT FALSE",
            "(" + left + ") IS UNKNOWN"));
  }

  /** Never wrong: whatever it rejects, no filled row meets on a real database. */
  @Test
  public void isNeverWrongOnRandomConditions() {
    Random random = new Random(11);
    int rejected = 0;
    for (int i = 0; i < 400; i++) {
      String condition = condition(random, 2);
      if (rejects(condition)) {
        rejected++;
        // AND of the top is taken apart, and one rejecting part is enough to reject all.
        assertThat(rowsLeft(condition)).as(condition).isZero();
      }
    }
    assertThat(rejected).isBetween(40, 360);
  }
}
