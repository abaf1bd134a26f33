package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.check.Finding;
import io.lantrel.check.Severity;
import io.lantrel.hierarchy.Hierarchy;
import io.lantrel.hierarchy.Hierarchy.Node;
import io.lantrel.hierarchy.HierarchyWish;
import io.lantrel.hierarchy.RowsBetween;
import java.io.IOException;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The hierarchies of the river watch, alike on every engine, and the queries that walk them. */
public class HierarchyTest extends OnEveryEngine {

  @DataProvider
  static Object[][] tables() {
    List<Object[]> all = new ArrayList<>();
    for (Engine engine : RiverDatabases.engines()) {
      for (String table : List.of("river", "warden", "species_group")) {
        all.add(new Object[] {engine, table});
      }
    }
    return all.toArray(Object[][]::new);
  }

  @Test
  public void treesAreAlikeOnEveryEngine() {
    for (Engine engine : RiverDatabases.engines()) {
      Hierarchy rivers = at(engine).hierarchy(HierarchyWish.of("river").summing("length_km"));
      assertThat(rivers.levels()).containsExactly(3L, 3L, 4L, 1L, 1L);
      assertThat(words(rivers.trees().get(0)))
          .as(engine.title())
          .isEqualTo(
              "Ombrel 8 500 [Tavin 4 172 [Keskel 3 76 [Little Keskel 2 25 [Pellow Brook 1 7]]],"
                  + " Murlin 3 116 [Hathe 1 22, Vennick 1 30]]");
      Hierarchy upper =
          at(engine).hierarchy(HierarchyWish.of("river").summing("length_km").showing(2, 100));
      assertThat(words(upper.trees().get(0))).isEqualTo("Ombrel 8 500 [Tavin 4 172, Murlin 3 116]");
      assertThat(upper.hidden()).isEqualTo(6);
    }
  }

  private static String words(Node node) {
    List<String> below = node.below().stream().map(HierarchyTest::words).toList();
    return node.row().values().get(1)
        + " "
        + node.size()
        + node.sum().map(BigDecimal::toPlainString).map(text -> " " + text).orElse("")
        + (below.isEmpty() ? "" : " [" + String.join(", ", below) + "]");
  }

  /** The keys from a row up to where its tree begins, by hand. */
  private static List<Long> up(Map<Long, Long> above, long of) {
    List<Long> keys = new ArrayList<>(List.of(of));
    for (Long next = above.get(of); next != null; next = above.get(next)) {
      keys.add(next);
    }
    return keys;
  }

  /**
   * Of any two rows the nearest common one, and how far it is: by hand, and by the written query.
   */
  @Test(dataProvider = "tables")
  public void whatLiesBetweenTwoRowsIsTold(Engine engine, String table) {
    Lantrel lantrel = at(engine);
    HierarchyWish wish = HierarchyWish.of(table);
    String by = lantrel.hierarchy(wish).reference().fromColumns().get(0);
    Map<Long, Long> above = new TreeMap<>();
    List<Long> all = new ArrayList<>();
    for (List<Object> row :
        lantrel.study("SELECT id, " + by + " FROM " + table + " ORDER BY id").result().rows()) {
      long id = ((Number) Objects.requireNonNull(row.get(0))).longValue();
      all.add(id);
      if (row.get(1) instanceof Number upper) {
        above.put(id, upper.longValue());
      }
    }
    int met = 0;
    for (long first : all) {
      long second = all.get((int) ((first * 7 + 3) % all.size()));
      List<Long> one = up(above, first);
      List<Long> other = up(above, second);
      List<Long> common = new ArrayList<>(one);
      common.retainAll(other);
      RowsBetween between = lantrel.between(wish, "" + first, "" + second);
      Rows written = lantrel.study(lantrel.betweenQuery(wish, "" + first, "" + second)).result();
      String about = engine + " " + table + " " + first + " " + second;
      assertThat(between.first().values().get(0)).as(about).isEqualTo("" + first);
      assertThat(between.second().values().get(0)).as(about).isEqualTo("" + second);
      if (common.isEmpty()) {
        assertThat(between.common()).as(about).isEmpty();
        assertThat(between.up()).as(about).hasSameSizeAs(one);
        assertThat(between.down()).as(about).hasSameSizeAs(other);
        assertThat(written.size()).as(about).isZero();
        continue;
      }
      met++;
      int distance = one.indexOf(common.get(0)) + other.indexOf(common.get(0));
      assertThat(between.common().orElseThrow().values().get(0))
          .as(about)
          .isEqualTo("" + common.get(0));
      assertThat(between.distance()).as(about).hasValue(distance);
      assertThat(written.figure(0, 0)).as(about).isEqualTo(common.get(0));
      assertThat(written.figure(0, written.headings().size() - 1)).as(about).isEqualTo(distance);
    }
    assertThat(met).isPositive();
  }

  /** The walk gives each row of a tree once, on its level; nothing is wrong with the query. */
  @Test(dataProvider = "tables")
  public void theWrittenWalkGivesTheSameRows(Engine engine, String table) {
    Hierarchy hierarchy = at(engine).hierarchy(HierarchyWish.of(table));
    Study walk = at(engine).study(at(engine).hierarchyQuery(HierarchyWish.of(table)));
    Rows rows = walk.result();
    Map<Long, Long> levels = new TreeMap<>();
    int level = rows.headings().stream().map(String::toLowerCase).toList().indexOf("walk_level");
    rows.rows()
        .forEach(
            row ->
                levels.merge(
                    ((Number) Objects.requireNonNull(row.get(level))).longValue(), 1L, Long::sum));
    assertThat(levels.values()).containsExactlyElementsOf(hierarchy.levels());
    int leaf = rows.headings().size() - 1;
    long leaves =
        rows.rows().stream()
            .filter(row -> ((Number) Objects.requireNonNull(row.get(leaf))).intValue() == 1)
            .count();
    assertThat(leaves).isEqualTo(hierarchy.trees().stream().mapToLong(HierarchyTest::leaves).sum());
    assertThat(walk.findings().stream().filter(each -> each.severity() != Severity.NOTE))
        .extracting(Finding::message)
        .isEmpty();
  }

  private static long leaves(Node node) {
    return node.below().isEmpty()
        ? 1
        : node.below().stream().mapToLong(HierarchyTest::leaves).sum();
  }

  @Test(dataProvider = "tables")
  public void aChainThatIsLongEnoughHasEveryLeaf(Engine engine, String table) {
    Hierarchy hierarchy = at(engine).hierarchy(HierarchyWish.of(table));
    int levels = hierarchy.levels().size();
    Study chain =
        at(engine).study(at(engine).hierarchyQuery(HierarchyWish.of(table).showing(levels, 1)));
    assertThat((long) chain.result().size())
        .isEqualTo(hierarchy.trees().stream().mapToLong(HierarchyTest::leaves).sum());
  }

  /** A beam in two frames, a pair that is named twice, and one with nothing. */
  @Test(dataProvider = "engines")
  public void overAJunctionEachWayIsWalked(Engine engine) throws IOException, SQLException {
    Access access = RiverDatabases.empty(engine, "frames");
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE beam (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL, kilos INTEGER)",
          "CREATE TABLE joint (upper_id INTEGER, lower_id INTEGER, nails INTEGER, FOREIGN KEY"
              + " (upper_id) REFERENCES beam (id), FOREIGN KEY (lower_id) REFERENCES beam (id))",
          "INSERT INTO beam VALUES (1, 'Hall', 5), (2, 'Porch', 6), (3, 'Post', 7), (4, 'Peg', 1)",
          "INSERT INTO joint VALUES (1, 3, 2), (2, 3, 2), (3, 4, 1), (3, 4, 9), (1, 4, 1),"
              + " (NULL, 4, 1)");
    }
    try (Lantrel lantrel = Lantrel.connect(access)) {
      HierarchyWish wish = HierarchyWish.of("beam").over("joint").by("upper_id").summing("kilos");
      Hierarchy beams = lantrel.hierarchy(wish);
      assertThat(beams.levels()).containsExactly(2L, 3L, 2L);
      assertThat(beams.trees().stream().map(HierarchyTest::words))
          .containsExactly(
              "Hall 4 14 [Post 2 8 [Peg 1 1], Peg 1 1]", "Porch 3 14 [Post 2 8 [Peg 1 1]]");
      assertThat(beams.junction().orElseThrow().sharing()).isEqualTo(2);
      Study walk = lantrel.study(lantrel.hierarchyQuery(wish));
      assertThat(walk.result().size()).isEqualTo(7);
      assertThat(walk.findings()).noneMatch(each -> each.severity() != Severity.NOTE);
      Study chain = lantrel.study(lantrel.hierarchyQuery(wish.showing(3, 100)));
      assertThat(chain.result().size()).isEqualTo(3);
    }
  }
}
