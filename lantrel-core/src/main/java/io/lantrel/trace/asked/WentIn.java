package io.lantrel.trace.asked;

import io.lantrel.engine.ValueText;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Call.FunctionCall;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Which values an aggregate is over, and which are left out. */
final class WentIn {

  private WentIn() {}

  /**
   * In words.
   *
   * @param values its argument for each row, null for NULL
   */
  static String words(FunctionCall call, List<@Nullable Object> values, Dialect dialect) {
    List<String> told = new ArrayList<>();
    values.stream().filter(Objects::nonNull).forEach(value -> told.add(ValueText.of(value)));
    Set<String> different = new LinkedHashSet<>(told);
    int empty = values.size() - told.size();
    List<String> shown = call.distinct() ? List.copyOf(different) : told;
    return SqlPrinter.print(call, dialect)
        + " is over "
        + (shown.isEmpty() ? "no value" : String.join(", ", shown))
        + (call.distinct() && told.size() > different.size()
            ? "; " + (told.size() - different.size()) + " equal left out"
            : "")
        + (empty > 0 ? "; " + empty + " NULL left out" : "")
        + ".";
  }
}
