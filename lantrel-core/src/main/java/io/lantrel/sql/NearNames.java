package io.lantrel.sql;

import io.lantrel.sql.tree.Identifier;
import io.lantrel.words.Words;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;

/** Which of the known names somebody may have meant. */
public final class NearNames {

  private NearNames() {}

  /**
   * The known names that are close to a wrong one, the closest first, at most three. Close means:
   * changed in at most a third of its characters, or one is the beginning or the end of the other.
   */
  public static List<String> of(String wrong, Collection<String> known) {
    String key = Identifier.key(wrong);
    int allowed = Math.max(1, key.length() / 3);
    return known.stream()
        .distinct()
        .filter(name -> distance(key, Identifier.key(name)) <= allowed || partOf(key, name))
        .sorted(
            Comparator.<String>comparingInt(name -> distance(key, Identifier.key(name)))
                .thenComparing(Comparator.naturalOrder()))
        .limit(3)
        .toList();
  }

  /**
   * What may be meant in place of a wrong name, to be put behind a sentence about it: the known
   * names that are close to it, or all.
   *
   * @param otherwise what stands before all of them, as {@code its columns are}
   */
  public static String instead(String wrong, Collection<String> known, String otherwise) {
    List<String> near = of(wrong, known);
    return near.isEmpty()
        ? "; " + otherwise + " " + Words.list(List.copyOf(known))
        : "; close to it: " + Words.list(near);
  }

  private static boolean partOf(String key, String name) {
    String other = Identifier.key(name);
    String shorter = key.length() < other.length() ? key : other;
    String longer = key.length() < other.length() ? other : key;
    return shorter.length() >= 3 && (longer.startsWith(shorter) || longer.endsWith(shorter));
  }

  /**
   * The number of characters inserted, deleted, changed, or swapped with a neighbour that turn one
   * text into the other (optimal string alignment distance; F. Damerau, 1964).
   */
  public static int distance(String a, String b) {
    int[][] cost = new int[a.length() + 1][b.length() + 1];
    for (int i = 0; i <= a.length(); i++) {
      for (int j = 0; j <= b.length(); j++) {
        cost[i][j] = i == 0 || j == 0 ? i + j : cheapest(cost, a, b, i, j);
      }
    }
    return cost[a.length()][b.length()];
  }

  private static int cheapest(int[][] cost, String a, String b, int i, int j) {
    int change = a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1;
    int best =
        Math.min(cost[i - 1][j - 1] + change, Math.min(cost[i - 1][j] + 1, cost[i][j - 1] + 1));
    boolean swapped =
        i > 1 && j > 1 && a.charAt(i - 1) == b.charAt(j - 2) && a.charAt(i - 2) == b.charAt(j - 1);
    return swapped ? Math.min(best, cost[i - 2][j - 2] + 1) : best;
  }
}
