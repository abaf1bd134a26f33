package io.lantrel.ledger;

import io.lantrel.engine.NamedRow;
import java.util.List;

/**
 * Rows that one thing happened to, for one reason.
 *
 * @param reason why, in words, as {@code river_id is empty}
 * @param rows how many rows
 * @param examples some of them, by name
 */
public record Cause(String reason, long rows, List<NamedRow> examples) {
  public Cause {
    examples = List.copyOf(examples);
  }
}
