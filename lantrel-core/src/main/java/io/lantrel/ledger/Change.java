package io.lantrel.ledger;

import java.util.List;

/**
 * What happened to rows at a step.
 *
 * @param figure what
 * @param rows to how many
 * @param causes why; their rows add up to these, or the list is empty
 */
public record Change(Figure figure, long rows, List<Cause> causes) {
  public Change {
    causes = List.copyOf(causes);
  }
}
