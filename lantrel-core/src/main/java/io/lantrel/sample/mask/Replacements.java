package io.lantrel.sample.mask;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.sample.SampleException;
import io.lantrel.sample.SampleWish.Likeness;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;

/**
 * Values in place of others: as many different ones, none of which is among those. What means
 * nothing by itself stays: NULL, 0, an empty text, blanks at the ends of a text, the sign of a
 * number.
 */
final class Replacements {

  private final String name;
  private final List<Column> columns;
  private final Set<Likeness> kept;
  private final Random lot;

  /**
   * @param name what the column is called in a sentence
   * @param columns all that have these values; of one sort
   * @param seed which value stands for which, where any would do
   */
  Replacements(String name, List<Column> columns, Set<Likeness> kept, long seed) {
    this.name = name;
    this.columns = columns;
    this.kept = kept;
    this.lot = new Random(seed ^ name.hashCode());
  }

  /**
   * Sees that values of a column can be replaced at all.
   *
   * @throws SampleException if not
   */
  static void require(String name, Column column) {
    switch (column.type().family()) {
      case TEXT, INTEGER, DECIMAL, DATE, TIMESTAMP -> {}
      case FLOAT, TRUTH, TIME, OTHER ->
          throw new SampleException(
              name
                  + " cannot be masked: it is of type "
                  + column.type().text()
                  + "; texts, whole and decimal numbers, dates and timestamps can");
    }
  }

  /** What stands for each value. */
  Map<String, String> of(Set<String> values) {
    TypeFamily family = columns.get(0).type().family();
    return switch (family) {
      case INTEGER, DECIMAL -> new OtherNumbers(this).of(values);
      case DATE, TIMESTAMP -> OtherDays.of(values, family);
      default -> new OtherTexts(this).of(values);
    };
  }

  boolean keeps(Likeness likeness) {
    return kept.contains(likeness);
  }

  List<Column> columns() {
    return columns;
  }

  /** In the order in which they get their values: as it is, or by lot. */
  <T> List<T> inTurn(List<T> sorted) {
    if (!keeps(Likeness.ORDER)) {
      Collections.shuffle(sorted, lot);
    }
    return sorted;
  }

  SampleException tooFew(String what) {
    return new SampleException(
        name
            + ": there are not enough "
            + what
            + " to stand for others and to keep "
            + (keeps(Likeness.ORDER) && keeps(Likeness.LENGTH)
                ? "their order and their length"
                : keeps(Likeness.LENGTH) ? "their length" : "their type")
            + "; keep less");
  }
}
