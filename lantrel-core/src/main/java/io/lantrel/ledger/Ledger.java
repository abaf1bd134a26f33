package io.lantrel.ledger;

import java.util.List;

/**
 * The account of one query block.
 *
 * @param name what the block is called: the alias of a derived table, or empty for the whole query
 * @param entries the steps in the order in which they are carried out
 * @param parts the accounts of the queries in its FROM
 */
public record Ledger(String name, List<Entry> entries, List<Ledger> parts) {
  public Ledger {
    entries = List.copyOf(entries);
    parts = List.copyOf(parts);
  }

  /** The rows of the result. */
  public long result() {
    return entries.get(entries.size() - 1).after();
  }
}
