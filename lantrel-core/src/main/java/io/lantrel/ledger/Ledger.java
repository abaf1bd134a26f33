package io.lantrel.ledger;

import java.util.List;

/**
 * The account of one query.
 *
 * @param name what the query is called: the alias of one in FROM, {@code the subquery in WHERE}; or
 *     empty for the whole query
 * @param entries the steps in the order in which they are carried out, at least one
 * @param parts the accounts of the queries in it
 * @param found what the subqueries found that look at its rows
 * @param untold which parts have no account, and why, each as a sentence without its stop
 */
public record Ledger(
    String name,
    List<Entry> entries,
    List<Ledger> parts,
    List<RowsFound> found,
    List<String> untold) {
  public Ledger {
    entries = List.copyOf(entries);
    parts = List.copyOf(parts);
    found = List.copyOf(found);
    untold = List.copyOf(untold);
  }

  /** The rows of the result. */
  public long result() {
    return entries.get(entries.size() - 1).after();
  }
}
