package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.trace.Answer;
import io.lantrel.trace.Answer.Source;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.testng.annotations.Test;

/**
 * What is told of the subqueries of a row, in generated worlds: their rows are those that plain
 * Java finds for it, and their values those of the result. {@code -Dlantrel.worlds=40} makes as
 * many.
 */
public class SubqueriesInWorldsTest extends InWorlds {

  /** A table as the tests know it: id, ref and val of each row. */
  private static List<List<Long>> all(Lantrel lantrel, String table) {
    return rows(lantrel, "SELECT id, ref, val FROM " + table);
  }

  private static List<Source> subqueries(Answer answer) {
    return answer.sources().stream().filter(each -> each.table().isEmpty()).toList();
  }

  /** The values of a column of the rows below a subquery, in no order. */
  private static List<Long> told(Source subquery, String column) {
    List<Long> told = new ArrayList<>();
    for (Source row : subquery.sources()) {
      row.values().stream()
          .filter(value -> value.name().equalsIgnoreCase(column))
          .forEach(value -> told.add(number(value.value())));
    }
    return told;
  }

  private interface Meets {
    boolean row(List<Long> inner);
  }

  private static List<Long> values(List<List<Long>> table, Meets meets) {
    return table.stream().filter(meets::row).map(row -> row.get(2)).distinct().toList();
  }

  @Test(dataProvider = "engines")
  public void rowsOfExistsAreThoseThatMeetIt(Engine engine) {
    int[] seen = {0};
    inAll(
        engine,
        (lantrel, random) -> {
          String outer = table(random);
          String inner = table(random);
          long more = random.nextInt(3);
          String sql =
              "SELECT a.id, a.ref, a.val FROM "
                  + outer
                  + " a WHERE EXISTS (SELECT 1 FROM "
                  + inner
                  + " x WHERE x.ref = a.ref AND x.val + "
                  + more
                  + " > a.val)";
          Study study = lantrel.study(sql);
          List<List<Long>> result = rows(lantrel, sql);
          for (int i = 0; i < Math.min(2, result.size()); i++) {
            List<Long> row = result.get(i);
            Answer answer = study.trace(i + 1, 50);
            List<Long> expected =
                values(
                    all(lantrel, inner),
                    each ->
                        each.get(1) >= 0
                            && each.get(1).equals(row.get(1))
                            && each.get(2) >= 0
                            && each.get(2) + more > row.get(2));
            assertThat(subqueries(answer)).as(sql + answer).hasSize(1);
            assertThat(told(subqueries(answer).get(0), "val"))
                .as(sql + answer)
                .hasSameElementsAs(expected);
            seen[0]++;
          }
        });
    assertThat(seen[0]).isPositive();
  }

  @Test(dataProvider = "engines")
  public void aValueIsThatOfTheResult(Engine engine) {
    int[] seen = {0};
    inAll(
        engine,
        (lantrel, random) -> {
          String inner = table(random);
          String sql =
              "SELECT a.id, (SELECT "
                  + List.of("MAX(x.val)", "COUNT(x.val)", "SUM(x.val)").get(random.nextInt(3))
                  + " FROM "
                  + inner
                  + " x WHERE x.id = a.ref) AS v FROM "
                  + table(random)
                  + " a";
          List<List<Long>> result = rows(lantrel, sql);
          for (int i = 0; i < Math.min(3, result.size()); i++) {
            Answer answer = lantrel.study(sql).trace(i + 1, 50);
            List<Source> found = subqueries(answer);
            if (found.isEmpty()) {
              assertThat(answer.sentences())
                  .as(sql + answer)
                  .contains("No row was found by the subquery in SELECT.");
              continue;
            }
            String traced = String.valueOf(answer.values().get(1).value());
            assertThat(String.valueOf(found.get(0).values().get(0).value()))
                .as(sql + answer)
                .isEqualTo(traced);
            seen[0]++;
          }
        });
    assertThat(seen[0]).isPositive();
  }

  /** Of IN only the rows with the value that is looked for, at the most. */
  @Test(dataProvider = "engines")
  public void rowsOfInHaveTheValue(Engine engine) {
    int[] seen = {0};
    inAll(
        engine,
        (lantrel, random) -> {
          String inner = table(random);
          String sql = in(random, inner);
          List<List<Long>> result = rows(lantrel, sql);
          for (int i = 0; i < Math.min(2, result.size()); i++) {
            Answer answer = lantrel.study(sql).trace(i + 1, 50);
            long wanted = number(answer.values().get(1).value());
            assertThat(told(subqueries(answer).get(0), "ref"))
                .as(sql + answer)
                .isNotEmpty()
                .containsOnly(wanted);
            seen[0]++;
          }
        });
    assertThat(seen[0]).isPositive();
  }

  private static String in(Random random, String inner) {
    return "SELECT a.id, a.ref FROM "
        + table(random)
        + " a WHERE a.ref IN (SELECT x.ref FROM "
        + inner
        + " x WHERE x.val > "
        + random.nextInt(2)
        + ")";
  }
}
