package io.lantrel.claim;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Rows that break a claim.
 *
 * @param headings the names of their columns
 * @param rows some of them, their values as text, or null for NULL
 * @param count how many there are in all
 */
public record BreakingRows(List<String> headings, List<List<@Nullable String>> rows, long count) {
  public BreakingRows {
    headings = List.copyOf(headings);
    rows = rows.stream().map(row -> Collections.unmodifiableList(new ArrayList<>(row))).toList();
  }
}
