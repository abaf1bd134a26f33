package io.lantrel.portability;

import io.lantrel.engine.Engine;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Set;

/**
 * Something of a query that other engines do not read as the one that it is written for does.
 *
 * @param place where it stands
 * @param engines which engines
 * @param message what they make of it, and what to write
 * @param mend changes of the text so that all read it alike; empty if they are not known
 */
public record Difference(Span place, Set<Engine> engines, String message, List<Edit> mend) {
  public Difference {
    engines = Set.copyOf(engines);
    mend = List.copyOf(mend);
  }
}
