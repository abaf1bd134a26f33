package io.lantrel.sample.asked;

import io.lantrel.sample.Trait;
import io.lantrel.sample.Trait.Outcome;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Rows that are to be taken together, or not at all.
 *
 * @param trait what they show; null if they are taken for another reason
 * @param rows the rows
 */
record Pick(@Nullable Trait trait, List<Row> rows) {
  Pick {
    rows = List.copyOf(rows);
  }

  /**
   * A row.
   *
   * @param of its table
   * @param values a text, or null for NULL, for every column
   * @param copies how often it is taken
   */
  record Row(TableRows of, List<@Nullable String> values, int copies) {}

  static Pick of(@Nullable Trait trait, TableRows of, List<List<@Nullable String>> rows) {
    return new Pick(trait, rows.stream().map(each -> new Row(of, each, 1)).toList());
  }

  /** That no row of the database has it. */
  static Pick absent(Trait trait) {
    return new Pick(trait.as(Outcome.ABSENT), List.of());
  }

  /** Rows that show it; that none does if there are none. */
  static Pick orAbsent(Trait trait, TableRows of, List<List<@Nullable String>> rows) {
    return rows.isEmpty() ? absent(trait) : of(trait, of, rows);
  }

  /** Whether its rows are taken anyway. */
  boolean isIn(KeptRows kept) {
    return rows.stream().allMatch(each -> kept.has(each.of(), each.values(), each.copies()));
  }

  void addTo(KeptRows kept) {
    rows.forEach(each -> kept.add(each.of(), each.values(), each.copies()));
  }
}
