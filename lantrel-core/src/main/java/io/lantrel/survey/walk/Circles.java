package io.lantrel.survey.walk;

import io.lantrel.catalog.Reference;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** The circles among rows that no root reaches, each once. */
public final class Circles {

  private final List<List<NamedRow>> all = new ArrayList<>();

  /**
   * @param unreached the rows: key, then what they refer to
   */
  public Circles(Rows unreached, Reference reference) {
    int width = reference.toColumns().size();
    Map<List<String>, List<String>> above = new HashMap<>();
    List<List<String>> keys = new ArrayList<>();
    for (List<@Nullable Object> row : unreached.rows()) {
      List<String> key = texts(row.subList(0, width));
      keys.add(key);
      above.put(key, texts(row.subList(width, 2 * width)));
    }
    // Every row has one above it: whoever is met twice on one way upwards closes a circle.
    Set<List<String>> seen = new HashSet<>();
    for (List<String> start : keys) {
      Set<List<String>> path = new LinkedHashSet<>();
      List<String> at = start;
      while (at != null && !seen.contains(at) && above.containsKey(at) && path.add(at)) {
        at = above.get(at);
      }
      if (at != null && path.contains(at)) {
        List<List<String>> way = new ArrayList<>(path);
        all.add(
            way.subList(way.indexOf(at), way.size()).stream()
                .map(
                    key ->
                        new NamedRow(
                            reference.from().name(),
                            reference.toColumns(),
                            new ArrayList<@Nullable String>(key)))
                .toList());
      }
      seen.addAll(path);
    }
  }

  /** The rows of each, every one referring to the next. */
  public List<List<NamedRow>> all() {
    return all;
  }

  private static List<String> texts(List<@Nullable Object> values) {
    List<String> texts = new ArrayList<>();
    for (Object value : values) {
      texts.add(value == null ? "" : ValueText.of(value));
    }
    return texts;
  }
}
