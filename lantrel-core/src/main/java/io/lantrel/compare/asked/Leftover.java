package io.lantrel.compare.asked;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A row that does not come equally often in both results.
 *
 * @param values its values as they came
 * @param first how often it comes in the first
 * @param second how often in the second
 */
record Leftover(List<@Nullable Object> values, long first, long second) {
  Leftover {
    values = Collections.unmodifiableList(new ArrayList<>(values));
  }

  long onlyFirst() {
    return Math.max(0, first - second);
  }

  long onlySecond() {
    return Math.max(0, second - first);
  }
}
