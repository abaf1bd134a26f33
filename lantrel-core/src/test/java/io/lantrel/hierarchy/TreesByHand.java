package io.lantrel.hierarchy;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.engine.NamedRow;
import io.lantrel.hierarchy.Hierarchy.Node;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The trees of a table, by following each row upwards in plain Java.
 *
 * @param above what each row refers to, by its key
 * @param amounts what is summed up, by the key; empty for nothing
 * @param about told where something is otherwise
 */
record TreesByHand(Map<String, @Nullable String> above, Map<String, Long> amounts, String about) {

  /** Compares all figures of a hierarchy; returns how many circles it names. */
  int compare(Hierarchy hierarchy) {
    Map<Integer, Long> levels = new LinkedHashMap<>();
    Set<String> inTrees = new HashSet<>();
    for (String each : above.keySet()) {
      int level = level(each, above);
      if (level > 0) {
        inTrees.add(each);
        levels.merge(level, 1L, Long::sum);
      }
    }
    for (int level = 1; level <= levels.size(); level++) {
      assertThat(hierarchy.levels().get(level - 1)).as(about).isEqualTo(levels.get(level));
    }
    assertThat(hierarchy.levels()).as(about).hasSize(levels.size());
    assertThat(hierarchy.rows()).isEqualTo(above.size());
    long shown = hierarchy.trees().stream().mapToLong(node -> check(node, null)).sum();
    assertThat(shown + hierarchy.hidden()).as(about).isEqualTo(inTrees.size());
    long circled = 0;
    for (List<NamedRow> circle : hierarchy.circles()) {
      circled += circle.size();
      for (int i = 0; i < circle.size(); i++) {
        String next = circle.get((i + 1) % circle.size()).values().get(0);
        assertThat(above.get(circle.get(i).values().get(0))).as(about).isEqualTo(next);
      }
    }
    assertThat(circled + hierarchy.belowCircles())
        .as(about)
        .isEqualTo(above.size() - inTrees.size());
    long inCircles = above.keySet().stream().filter(each -> isInCircle(each, above)).count();
    assertThat(circled).as(about).isEqualTo(inCircles);
    return hierarchy.circles().size();
  }

  /** How many rows of a tree are shown. */
  private long check(Node node, @Nullable String parent) {
    String key = Objects.requireNonNull(node.row().values().get(0));
    List<String> below = above.keySet().stream().filter(each -> isBelow(each, key, above)).toList();
    assertThat(node.size()).as(about).isEqualTo(below.size());
    if (!amounts.isEmpty()) {
      long sum = below.stream().mapToLong(each -> Objects.requireNonNull(amounts.get(each))).sum();
      assertThat(node.sum()).as(about).contains(BigDecimal.valueOf(sum));
    }
    assertThat(node.level()).as(about).isEqualTo(level(key, above));
    if (parent != null) {
      assertThat(above.get(key)).as(about).isEqualTo(parent);
    } else {
      String refers = above.get(key);
      assertThat(node.refersTo()).as(about).isEqualTo(refers == null ? "" : refers);
    }
    return 1 + node.below().stream().mapToLong(each -> check(each, key)).sum();
  }

  /** A row and those above it, each once. */
  static List<String> up(String row, Map<String, @Nullable String> above) {
    List<String> keys = new ArrayList<>();
    for (String at = row; at != null && above.containsKey(at) && !keys.contains(at); ) {
      keys.add(at);
      at = above.get(at);
    }
    return keys;
  }

  /** 1 for a row that refers to none or to nothing; 0 if a circle is above it. */
  private static int level(String row, Map<String, @Nullable String> above) {
    Set<String> seen = new HashSet<>();
    String at = row;
    int level = 1;
    while (seen.add(at)) {
      String next = above.get(at);
      if (next == null || !above.containsKey(next)) {
        return level;
      }
      at = next;
      level++;
    }
    return 0;
  }

  private static boolean isInCircle(String row, Map<String, @Nullable String> above) {
    Set<String> seen = new HashSet<>();
    String at = above.get(row);
    while (at != null && seen.add(at)) {
      if (at.equals(row)) {
        return true;
      }
      at = above.get(at);
    }
    return false;
  }

  private static boolean isBelow(String row, String top, Map<String, @Nullable String> above) {
    Set<String> seen = new HashSet<>();
    String at = row;
    while (at != null && seen.add(at)) {
      if (at.equals(top)) {
        return true;
      }
      at = above.get(at);
    }
    return false;
  }
}
