package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Study;
import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Naming;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.testng.annotations.Test;

/**
 * The lines that HAVING, DISTINCT, LIMIT and set operations take away, in generated worlds: those
 * that are named are those that plain Java takes away. {@code -Dlantrel.worlds=40} makes as many.
 */
public class LostLinesInWorldsTest extends InWorlds {

  private static Entry entry(Study study, Entry.Kind kind) {
    return study.ledger(Naming.some(Naming.ALL)).entries().stream()
        .filter(each -> each.kind() == kind)
        .findFirst()
        .orElseThrow();
  }

  /** Reasons, and the lines that are named for each. */
  private static Map<String, List<List<Long>>> named(Entry entry, Figure figure) {
    Map<String, List<List<Long>>> named = new LinkedHashMap<>();
    for (Cause cause : entry.change(figure).orElseThrow().causes()) {
      List<List<Long>> lines = new ArrayList<>();
      for (NamedRow row : cause.examples()) {
        List<Long> line = new ArrayList<>();
        row.values().forEach(value -> line.add(number(value)));
        lines.add(line);
      }
      named.put(cause.reason(), lines);
    }
    return named;
  }

  private static List<List<Long>> all(Map<String, List<List<Long>>> named) {
    return named.values().stream().flatMap(List::stream).toList();
  }

  /** Lines that come several times, with how often. */
  private static List<List<Long>> repeated(List<List<Long>> rows) {
    Map<List<Long>, Long> counts =
        rows.stream().collect(Collectors.groupingBy(row -> row, Collectors.counting()));
    return counts.entrySet().stream()
        .filter(each -> each.getValue() > 1)
        .map(
            each ->
                LongStream.concat(
                        each.getKey().stream().mapToLong(Long::longValue),
                        LongStream.of(each.getValue()))
                    .boxed()
                    .toList())
        .toList();
  }

  private static String from(Random random) {
    return " FROM " + table(random) + " a LEFT JOIN " + table(random) + " b ON b.id = a.ref";
  }

  @Test(dataProvider = "engines")
  public void groupsThatHavingDrops(Engine engine) {
    int[] named = {0};
    inAll(
        engine,
        (lantrel, random) -> {
          String from = from(random);
          long most = random.nextInt(3);
          String sql =
              "SELECT a.ref, COUNT(*) AS n"
                  + from
                  + " GROUP BY a.ref HAVING COUNT(*) > "
                  + most
                  + " AND SUM(b.val) > 2";
          Map<String, List<List<Long>>> lost =
              named(entry(lantrel.study(sql), Entry.Kind.HAVING), Figure.DROPPED);
          Map<Long, List<Long>> groups = new TreeMap<>();
          rows(lantrel, "SELECT a.ref, b.val" + from)
              .forEach(
                  row ->
                      groups.computeIfAbsent(row.get(0), key -> new ArrayList<>()).add(row.get(1)));
          List<List<Long>> few = new ArrayList<>();
          List<List<Long>> small = new ArrayList<>();
          List<List<Long>> empty = new ArrayList<>();
          groups.forEach(
              (key, values) -> {
                List<Long> told = values.stream().filter(value -> value >= 0).toList();
                long sum = told.stream().mapToLong(Long::longValue).sum();
                if (values.size() <= most) {
                  few.add(List.of(key));
                } else if (told.isEmpty()) {
                  empty.add(List.of(key));
                } else if (sum <= 2) {
                  small.add(List.of(key));
                }
              });
          Map<String, List<List<Long>>> expected = new LinkedHashMap<>();
          expected.put("COUNT(*) > " + most + " is false", few);
          expected.put("SUM(b.val) > 2 is false", small);
          expected.put("SUM(b.val) > 2 is unknown, since a value in it is NULL", empty);
          expected.values().removeIf(List::isEmpty);
          assertThat(lost.keySet()).as(sql).isEqualTo(expected.keySet());
          expected.forEach(
              (reason, lines) -> {
                assertThat(lost.get(reason)).as(sql).containsExactlyInAnyOrderElementsOf(lines);
                named[0] += lines.size();
              });
        });
    assertThat(named[0]).isGreaterThan(QUERIES);
  }

  @Test(dataProvider = "engines")
  public void rowsThatAreMerged(Engine engine) {
    int[] named = {0};
    inAll(
        engine,
        (lantrel, random) -> {
          String from = from(random);
          List<List<Long>> lines = repeated(rows(lantrel, "SELECT a.ref, b.val" + from));
          Study distinct = lantrel.study("SELECT DISTINCT a.ref, b.val" + from);
          assertThat(all(named(entry(distinct, Entry.Kind.DISTINCT), Figure.MERGED)))
              .as(distinct.sql())
              .containsExactlyInAnyOrderElementsOf(lines);
          Study grouped =
              lantrel.study("SELECT a.ref, b.val, COUNT(*) AS n" + from + " GROUP BY a.ref, b.val");
          Entry group = grouped.ledger(Naming.of(Figure.MERGED, 3)).entries().get(2);
          assertThat(all(named(group, Figure.MERGED)))
              .as(grouped.sql())
              .containsExactlyInAnyOrderElementsOf(lines);
          assertThat(named(entry(grouped, Entry.Kind.GROUP), Figure.MERGED)).isEmpty();
          named[0] += lines.size();
        });
    assertThat(named[0]).isGreaterThan(QUERIES / 3);
  }

  @Test(dataProvider = "engines")
  public void rowsThatLimitCuts(Engine engine) {
    inAll(
        engine,
        (lantrel, random) -> {
          String ordered = "SELECT a.id, b.val" + from(random) + " ORDER BY a.id, a.ref, b.val";
          List<List<Long>> rows = rows(lantrel, ordered);
          int skip = random.nextInt(3);
          int count = 1 + random.nextInt(3);
          Study study = lantrel.study(ordered + " LIMIT " + count + " OFFSET " + skip);
          Map<String, List<List<Long>>> cut = named(entry(study, Entry.Kind.LIMIT), Figure.CUT);
          List<List<Long>> kept = rows(lantrel, study.sql());
          List<List<Long>> lost = new ArrayList<>(rows);
          kept.forEach(lost::remove);
          assertThat(all(cut)).as(study.sql()).containsExactlyInAnyOrderElementsOf(lost);
          assertThat(cut.getOrDefault("passed over by OFFSET", List.of()))
              .as(study.sql())
              .hasSize(Math.min(skip, rows.size()));
        });
  }

  private static List<List<Long>> without(List<List<Long>> rows, List<List<Long>> others) {
    List<List<Long>> left = new ArrayList<>(rows);
    others.forEach(left::remove);
    return left;
  }

  @Test(dataProvider = "engines")
  public void rowsOfSetOperations(Engine engine) {
    int[] named = {0};
    inAll(
        engine,
        (lantrel, random) -> {
          String left = "SELECT a.ref" + from(random);
          String right = "SELECT c.val FROM " + table(random) + " c";
          String operator =
              List.of("UNION", "EXCEPT", "INTERSECT", "EXCEPT ALL", "INTERSECT ALL")
                  .get(random.nextInt(5));
          Study study = lantrel.study(left + " " + operator + " " + right);
          if (!runs(study)) {
            return;
          }
          List<List<Long>> ours = rows(lantrel, left);
          List<List<Long>> others = rows(lantrel, right);
          Entry entry = entry(study, Entry.Kind.valueOf(operator.split(" ", 2)[0]));
          boolean all = operator.endsWith("ALL");
          List<List<Long>> both = new ArrayList<>(ours);
          both.addAll(others);
          List<List<Long>> equal =
              operator.equals("UNION") ? repeated(both) : all ? List.of() : repeated(ours);
          assertThat(all(named(entry, Figure.MERGED)))
              .as(study.sql())
              .containsExactlyInAnyOrderElementsOf(equal);
          if (!operator.equals("UNION")) {
            List<List<Long>> once = all ? ours : ours.stream().distinct().toList();
            List<List<Long>> gone = without(once, rows(lantrel, study.sql()));
            assertThat(all(named(entry, Figure.DROPPED)))
                .as(study.sql())
                .containsExactlyInAnyOrderElementsOf(gone);
            named[0] += gone.size();
          }
          named[0] += equal.size();
        });
    assertThat(named[0]).isGreaterThan(QUERIES / 3);
  }

  /** What QUALIFY drops is told where an engine has it. */
  @Test
  public void rowsThatQualifyDrops() {
    inAll(
        Engine.DUCKDB,
        (lantrel, random) -> {
          String select = "SELECT a.id, a.ref, a.val FROM " + table(random) + " a";
          Study study = lantrel.study(select + " QUALIFY COUNT(*) OVER (PARTITION BY a.ref) > 1");
          Map<Long, Long> counts =
              rows(lantrel, select).stream()
                  .collect(Collectors.groupingBy(row -> row.get(1), Collectors.counting()));
          List<List<Long>> lost =
              rows(lantrel, select).stream()
                  .filter(row -> Objects.requireNonNull(counts.get(row.get(1))) == 1)
                  .toList();
          assertThat(all(named(entry(study, Entry.Kind.QUALIFY), Figure.DROPPED)))
              .as(study.sql())
              .containsExactlyInAnyOrderElementsOf(lost);
        });
  }
}
