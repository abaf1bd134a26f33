package io.lantrel.hierarchy;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.SentStatements;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Rows;
import io.lantrel.hierarchy.Hierarchy.Node;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.testng.annotations.Test;

/**
 * Pairs of rows made at random, with repeated pairs, pairs to nothing, and circles: the ways are
 * those that going each of them in plain Java tells, and the written walk goes the same.
 */
public class JunctionsInWorldsTest {

  /** {@code -Dlantrel.worlds=400} at full size. */
  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 40);

  private static final List<Engine> ENGINES =
      List.of(Engine.DUCKDB, Engine.SQLITE, Engine.H2, Engine.HSQLDB);

  private static final HierarchyWish WISH =
      HierarchyWish.of("plank").over("joint").by("upper_no").showing(0, 100_000);

  /** Rows by number, with what each weighs, and who is below whom. */
  private record Pairs(int rows, Map<Integer, Set<Integer>> below, boolean inCircles) {

    static Pairs of(Random random) {
      int rows = 3 + random.nextInt(8);
      boolean circles = random.nextInt(3) == 0;
      Map<Integer, Set<Integer>> below = new TreeMap<>();
      for (int i = 0; i < rows + random.nextInt(6); i++) {
        int upper = random.nextInt(rows);
        int lower = random.nextInt(rows);
        if (upper < lower || circles) {
          below.computeIfAbsent(upper, key -> new TreeSet<>()).add(lower);
        }
      }
      return new Pairs(rows, below, circles);
    }

    Set<Integer> below(int row) {
      return below.getOrDefault(row, Set.of());
    }

    List<Integer> roots() {
      Set<Integer> lower = new HashSet<>();
      below.values().forEach(lower::addAll);
      List<Integer> roots = new ArrayList<>();
      for (int row = 0; row < rows; row++) {
        if (!lower.contains(row)) {
          roots.add(row);
        }
      }
      return roots;
    }

    boolean leadsTo(int from, int to) {
      Set<Integer> seen = new HashSet<>();
      List<Integer> next = new ArrayList<>(below(from));
      while (!next.isEmpty()) {
        int row = next.remove(0);
        if (seen.add(row)) {
          next.addAll(below(row));
        }
      }
      return seen.contains(to);
    }

    /** What is below it and not in a circle with it. */
    List<Integer> onwards(int row) {
      return below(row).stream().filter(each -> each != row && !leadsTo(each, row)).toList();
    }

    /** The words of a node and of all below it, and how many ways there are on each level. */
    String words(int row, int level, Map<Integer, Long> levels) {
      levels.merge(level, 1L, Long::sum);
      List<String> lower =
          onwards(row).stream().map(each -> words(each, level + 1, levels)).toList();
      return row + "/" + ways(row) + "/" + grams(row) + lower;
    }

    long ways(int row) {
      return 1 + onwards(row).stream().mapToLong(this::ways).sum();
    }

    long grams(int row) {
      return row + 1 + onwards(row).stream().mapToLong(this::grams).sum();
    }
  }

  @Test
  public void twoStatementsAreSent() throws IOException {
    Random random = new Random(7);
    SentStatements sent = new SentStatements();
    try (Lantrel lantrel = Lantrel.open(folder(Pairs.of(random), random)).watchedBy(sent)) {
      lantrel.hierarchy(WISH.summing("grams"));
      assertThat(sent.texts()).hasSize(2);
    }
  }

  @Test
  public void waysAreWhatThePairsSay() throws IOException {
    int circles = 0;
    int shared = 0;
    for (int seed = 0; seed < WORLDS; seed++) {
      Random random = new Random(7_100 + seed);
      Pairs pairs = Pairs.of(random);
      Engine engine = ENGINES.get(seed % ENGINES.size());
      try (Lantrel lantrel = Lantrel.open(folder(pairs, random), engine)) {
        Hierarchy hierarchy = lantrel.hierarchy(WISH.summing("grams"));
        String about = engine + " " + pairs + "\n" + hierarchy;
        Map<Integer, Long> levels = new TreeMap<>();
        List<String> trees =
            pairs.roots().stream().map(root -> pairs.words(root, 1, levels)).toList();
        assertThat(hierarchy.trees().stream().map(JunctionsInWorldsTest::words))
            .as(about)
            .containsExactlyElementsOf(trees);
        assertThat(hierarchy.levels()).as(about).containsExactlyElementsOf(levels.values());
        assertThat(hierarchy.hidden()).as(about).isZero();
        assertThat(hierarchy.rows()).isEqualTo(pairs.rows());
        OverJunction over = hierarchy.junction().orElseThrow();
        assertThat(over.broken()).as(about).isEqualTo(1);
        circles += hierarchy.circles().size();
        shared += (int) over.sharing();
        if (hierarchy.circles().isEmpty()) {
          assertThat(levels(lantrel)).as(about).isEqualTo(levels);
          assertThat(hierarchy.belowCircles()).as(about).isZero();
        }
        Hierarchy upper = lantrel.hierarchy(WISH.showing(1, 2));
        assertThat(upper.trees())
            .hasSizeLessThanOrEqualTo(2)
            .allMatch(node -> node.below().isEmpty());
        assertThat(upper.hidden() + upper.trees().size())
            .isEqualTo(levels.values().stream().mapToLong(each -> each).sum());
      }
    }
    assertThat(circles).isGreaterThan(WORLDS / 8);
    assertThat(shared).isGreaterThan(WORLDS / 4);
  }

  private static String words(Node node) {
    return (Integer.parseInt(Objects.requireNonNull(node.row().values().get(0))) - 1)
        + "/"
        + node.size()
        + "/"
        + node.sum().map(BigDecimal::toPlainString).orElse("")
        + node.below().stream().map(JunctionsInWorldsTest::words).toList();
  }

  /** How many rows the written walk has on each level. */
  private static Map<Integer, Long> levels(Lantrel lantrel) {
    Rows rows = lantrel.study(lantrel.hierarchyQuery(WISH)).result();
    int at =
        rows.headings().stream()
            .map(each -> each.toLowerCase(Locale.ROOT))
            .toList()
            .indexOf("walk_level");
    Map<Integer, Long> levels = new TreeMap<>();
    rows.rows()
        .forEach(
            row ->
                levels.merge(
                    ((Number) Objects.requireNonNull(row.get(at))).intValue(), 1L, Long::sum));
    return levels;
  }

  private static Path folder(Pairs pairs, Random random) throws IOException {
    Path folder = Scratch.folder("joints");
    boolean keyed = random.nextBoolean();
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE plank (no INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL, grams INTEGER);\n"
            + "CREATE TABLE joint (lower_no INTEGER, upper_no INTEGER, nails INTEGER"
            + (keyed ? ", PRIMARY KEY (upper_no, lower_no)" : "")
            + ", FOREIGN KEY (lower_no) REFERENCES plank, FOREIGN KEY (upper_no) REFERENCES plank);");
    StringBuilder planks = new StringBuilder("no,name,grams\n");
    for (int row = 1; row <= pairs.rows(); row++) {
      planks.append(row + ",p" + row + "," + row + "\n");
    }
    StringBuilder joints = new StringBuilder("lower_no,upper_no,nails\n1,999,1\n");
    pairs
        .below()
        .forEach(
            (upper, all) ->
                all.forEach(lower -> joints.append((lower + 1) + "," + (upper + 1) + ",2\n")));
    if (!keyed) {
      joints.append(",1,1\n2,,1\n");
      pairs
          .below()
          .forEach(
              (upper, all) ->
                  joints.append(all.iterator().next() + 1 + "," + (upper + 1) + ",3\n"));
    }
    Files.writeString(folder.resolve("plank.csv"), planks);
    Files.writeString(folder.resolve("joint.csv"), joints);
    return folder;
  }
}
