package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.QueryGenerator;
import io.lantrel.Study;
import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.Naming;
import io.lantrel.ledger.OtherJoin;
import io.lantrel.ledger.RowsFound;
import io.lantrel.sql.tree.JoinKind;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.IntStream;
import org.testng.annotations.Test;

/**
 * Accounts of generated queries on every engine, against what their rows say when they are put
 * together here, by hand. {@code -Dlantrel.worlds=40} makes as many worlds.
 */
public class LedgerInWorldsTest extends InWorlds {

  // ---- set operations ----

  private static String select(Random random) {
    String column = List.of("id", "ref", "val").get(random.nextInt(3));
    return switch (random.nextInt(3)) {
      case 0 -> "SELECT a." + column + " AS v FROM " + table(random) + " a";
      case 1 -> "SELECT a." + column + " AS v FROM " + table(random) + " a WHERE a.val > 1";
      default ->
          "SELECT a."
              + column
              + " AS v FROM "
              + table(random)
              + " a JOIN "
              + table(random)
              + " b ON b.id = a.ref";
    };
  }

  @Test(dataProvider = "engines")
  public void setOperationsAreAccountedFor(Engine engine) {
    int[] told = {0};
    inAll(
        engine,
        (lantrel, random) -> {
          String left = select(random);
          String right = select(random);
          String operator =
              List.of("UNION", "UNION ALL", "EXCEPT", "INTERSECT", "EXCEPT ALL", "INTERSECT ALL")
                  .get(random.nextInt(6));
          String sql = left + " " + operator + " " + right;
          Study study = lantrel.study(sql);
          if (!runs(study)) {
            return;
          }
          Entry entry = study.ledger().entries().get(1);
          List<List<Long>> ours = rows(lantrel, left);
          List<List<Long>> others = rows(lantrel, right);
          assertThat(words(entry)).as(sql).isEqualTo(expected(operator, ours, others));
          told[0]++;
        });
    assertThat(told[0]).isGreaterThan(QUERIES / 3);
  }

  private static String expected(String operator, List<List<Long>> left, List<List<Long>> right) {
    long added = 0L;
    long merged = 0;
    long dropped = 0;
    Set<List<Long>> once = new LinkedHashSet<>(left);
    if (operator.startsWith("UNION")) {
      added = right.size();
      Set<List<Long>> all = new LinkedHashSet<>(left);
      all.addAll(right);
      merged = operator.endsWith("ALL") ? 0 : left.size() + right.size() - all.size();
    } else if (operator.endsWith("ALL")) {
      List<List<Long>> met = new ArrayList<>(right);
      long common = left.stream().filter(met::remove).count();
      dropped = operator.startsWith("EXCEPT") ? common : left.size() - common;
    } else {
      merged = (long) left.size() - once.size();
      long common = once.stream().filter(right::contains).count();
      dropped = operator.startsWith("EXCEPT") ? common : once.size() - common;
    }
    return left.size()
        + " + "
        + added
        + " - "
        + merged
        + " - "
        + dropped
        + " = "
        + (left.size() + added - merged - dropped);
  }

  private static String words(Entry entry) {
    return entry.before()
        + " + "
        + entry.rows(Figure.ADDED)
        + " - "
        + entry.rows(Figure.MERGED)
        + " - "
        + entry.rows(Figure.DROPPED)
        + " = "
        + entry.after();
  }

  // ---- recursion ----

  /** By hand: the rows of each level, from those that the level before found first. */
  private static List<long[]> levels(List<List<Long>> table, long start, boolean all, int most) {
    List<long[]> levels = new ArrayList<>();
    List<List<Long>> last = new ArrayList<>();
    Set<List<Long>> seen = new LinkedHashSet<>();
    table.stream().filter(row -> row.get(0) == start).forEach(last::add);
    int found = last.size();
    while (true) {
      List<List<Long>> fresh = all ? last : last.stream().filter(seen::add).toList();
      levels.add(new long[] {found, fresh.size()});
      if (fresh.isEmpty() || levels.size() > most) {
        return levels;
      }
      last = new ArrayList<>();
      for (List<Long> row : fresh) {
        table.stream()
            .filter(next -> next.get(0) >= 0 && next.get(0).equals(row.get(1)))
            .forEach(last::add);
      }
      found = last.size();
    }
  }

  @Test(dataProvider = "engines")
  public void recursionsAreAccountedForByLevel(Engine engine) {
    int[] told = {0};
    inAll(
        engine,
        (lantrel, random) -> {
          String table = table(random);
          long start = random.nextInt(6);
          boolean all = random.nextBoolean();
          String bound = all ? " WHERE u.n < 4" : "";
          String level = all ? ", n" : "";
          String sql =
              "WITH RECURSIVE up (id, ref"
                  + level
                  + ") AS (SELECT a.id, a.ref"
                  + (all ? ", 0" : "")
                  + " FROM "
                  + table
                  + " a WHERE a.id = "
                  + start
                  + (all ? " UNION ALL " : " UNION ")
                  + "SELECT b.id, b.ref"
                  + (all ? ", u.n + 1" : "")
                  + " FROM "
                  + table
                  + " b JOIN up u ON b.id = u.ref"
                  + bound
                  + ") SELECT up.id FROM up";
          // H2 keeps equal rows in a recursion, so that a circle in it never ends; HSQLDB ends it
          // too
          // early if it starts with equal rows.
          if (!all && (engine == Engine.H2 || engine == Engine.HSQLDB)) {
            return;
          }
          List<List<Long>> rows = rows(lantrel, "SELECT id, ref FROM " + table);
          Ledger ledger = lantrel.study(sql).ledger().parts().get(0);
          assertThat(ledger.untold()).as(sql).isEmpty();
          List<long[]> expected = levels(rows, start, all, all ? 4 : 100);
          long so = 0;
          for (int i = 0; i < expected.size(); i++) {
            long[] each = expected.get(i);
            if (i > 0 && i < ledger.entries().size()) {
              Entry entry = ledger.entries().get(i);
              assertThat(entry.before()).as(sql).isEqualTo(so);
              assertThat(entry.rows(Figure.ADDED)).as(sql + entry).isEqualTo(each[0]);
              assertThat(entry.after() - entry.before()).as(sql + entry).isEqualTo(each[1]);
              told[0]++;
            }
            so += each[1];
          }
          assertThat(ledger.result()).as(sql).isEqualTo(so);
        });
    assertThat(told[0]).isGreaterThan(QUERIES / 3);
  }

  // ---- false and unknown ----

  private static final List<String> CONDITIONS =
      List.of(
          "a.val > 1",
          "a.val = b.val",
          "b.id IS NULL",
          "a.ref NOT IN (1, 3)",
          "a.ref NOT IN (SELECT c.ref FROM t0 c)",
          "EXISTS (SELECT 1 FROM t1 c WHERE c.id = a.ref)",
          "(a.val > 2 OR b.val > 2)");

  @Test(dataProvider = "engines")
  public void whatIsFalseIsToldFromWhatIsUnknown(Engine engine) {
    inAll(
        engine,
        (lantrel, random) -> {
          String from =
              " FROM " + table(random) + " a LEFT JOIN " + table(random) + " b ON b.id = a.ref";
          String condition = CONDITIONS.get(random.nextInt(CONDITIONS.size()));
          String sql = "SELECT a.id" + from + " WHERE " + condition;
          Entry where = lantrel.study(sql).ledger().entries().get(2);
          long all = rows(lantrel, "SELECT a.id" + from).size();
          long yes = rows(lantrel, sql).size();
          long no = rows(lantrel, "SELECT a.id" + from + " WHERE NOT (" + condition + ")").size();
          Map<Boolean, Long> told = new LinkedHashMap<>();
          for (Cause cause : where.change(Figure.DROPPED).orElseThrow().causes()) {
            told.merge(cause.reason().contains(" is unknown, since "), cause.rows(), Long::sum);
          }
          assertThat(told.getOrDefault(false, 0L)).as(sql).isEqualTo(no);
          assertThat(told.getOrDefault(true, 0L)).as(sql).isEqualTo(all - yes - no);
        });
  }

  // ---- subqueries that look outside ----

  @Test(dataProvider = "engines")
  public void whatSubqueriesFindIsCounted(Engine engine) {
    inAll(
        engine,
        (lantrel, random) -> {
          String outer = table(random);
          String inner = table(random);
          String body = "FROM " + inner + " x WHERE x.id = a.ref";
          String sql =
              random.nextBoolean()
                  ? "SELECT a.id FROM " + outer + " a WHERE NOT EXISTS (SELECT 1 " + body + ")"
                  : "SELECT a.id, (SELECT MAX(x.val) " + body + ") AS m FROM " + outer + " a";
          RowsFound found = lantrel.study(sql).ledger().found().get(0);
          List<List<Long>> others = rows(lantrel, "SELECT id FROM " + inner);
          List<Long> counts =
              rows(lantrel, "SELECT ref FROM " + outer).stream()
                  .map(
                      row ->
                          others.stream()
                              .filter(each -> each.get(0) >= 0 && each.equals(row))
                              .count())
                  .toList();
          assertThat(List.of(found.outside(), found.none(), found.one(), found.several()))
              .as(sql)
              .containsExactly(
                  (long) counts.size(),
                  counts.stream().filter(each -> each == 0).count(),
                  counts.stream().filter(each -> each == 1).count(),
                  counts.stream().filter(each -> each > 1).count());
          assertThat(found.found())
              .as(sql)
              .isEqualTo(counts.stream().mapToLong(Long::longValue).sum());
          assertThat(found.most())
              .as(sql)
              .isEqualTo(counts.stream().mapToLong(Long::longValue).max().orElse(0));
        });
  }

  // ---- joins of another kind ----

  @Test(dataProvider = "engines")
  public void anotherKindOfJoinGivesWhatItIsSaidToGive(Engine engine) {
    boolean full = EngineLedgerTest.runsAnyFullJoin(engine);
    QueryGenerator generator = new QueryGenerator(SEED + 7, TABLES);
    int[] told = {0};
    inAll(
        engine,
        (lantrel, random) -> {
          QueryGenerator.Generated generated = generator.query();
          JoinKind kind =
              List.of(JoinKind.INNER, JoinKind.LEFT, JoinKind.RIGHT, JoinKind.FULL)
                  .get(random.nextInt(full ? 4 : 3));
          if ((!full && generated.sql().contains("FULL JOIN"))
              || generated.sql().contains("USING")) {
            return;
          }
          Study study = lantrel.study(generated.sql());
          for (OtherJoin other : study.otherJoins(kind, 0, Naming.some(1))) {
            QueryGenerator.Step step = generated.steps().get(other.step() - 2);
            String written = step.left() + " " + step.kind() + " " + step.right();
            String changed = step.left() + " " + kind.words() + " " + step.right();
            assertThat(generated.sql()).contains(written);
            Ledger expected = lantrel.study(generated.sql().replace(written, changed)).ledger();
            assertThat(other.otherRows())
                .as(generated.sql() + other)
                .isEqualTo(expected.entries().get(other.step() - 1).after());
            assertThat(other.other()).as(generated.sql() + other).hasValue(expected.result());
            told[0]++;
          }
        });
    assertThat(told[0]).isGreaterThan(QUERIES / 2);
  }

  // ---- without a join ----

  @Test(dataProvider = "engines")
  public void withoutAJoinThereAreTheRowsThatTheRestGives(Engine engine) {
    inAll(
        engine,
        (lantrel, random) -> {
          List<String> tables = IntStream.range(0, 3).mapToObj(each -> table(random)).toList();
          String first = " FROM " + tables.get(0) + " a";
          String second = " LEFT JOIN " + tables.get(1) + " b ON b.id = a.ref";
          boolean chained = random.nextBoolean();
          String third =
              " JOIN " + tables.get(2) + " c ON c.id = " + (chained ? "b" : "a") + ".ref";
          String kept = " WHERE a.val < 3";
          String fallen = " AND b.val IS NULL";
          Study study = lantrel.study("SELECT a.id" + first + second + third + kept + fallen);
          String rest = first + (chained ? "" : third) + kept;
          assertThat(study.without(2).other())
              .as(study.sql())
              .isEqualTo(rows(lantrel, "SELECT a.id" + rest).size());
          assertThat(study.without(2).along()).hasSize(chained ? 1 : 0);
          assertThat(study.without(2).conditions()).containsExactly("b.val IS NULL");
          assertThat(study.without(3).other())
              .as(study.sql())
              .isEqualTo(rows(lantrel, "SELECT a.id" + first + second + kept + fallen).size());
          assertThat(study.without(3).rows()).isEqualTo(rows(lantrel, study.sql()).size());
        });
  }
}
