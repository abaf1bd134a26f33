package io.lantrel.resolve;

import io.lantrel.catalog.Key;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * How many partners a row can have. At most one, if the equalities of the step fix every column of
 * a key of the joined table (H. Darwen: The Role of Functional Dependence in Query Decomposition,
 * 1989). Exactly one is not claimed yet: it would rest on a reference that no row breaks.
 */
final class Multiplicities {

  private Multiplicities() {}

  static Multiplicity of(JoinStep step, List<TableUse> from, List<TableUse> to) {
    return to.size() == 1 && isKeyFixed(step, Set.copyOf(from), to.get(0))
        ? Multiplicity.AT_MOST_ONE
        : Multiplicity.ANY_NUMBER;
  }

  private static boolean isKeyFixed(JoinStep step, Set<TableUse> from, TableUse to) {
    Set<String> fixed = new HashSet<>();
    for (Conjunct conjunct : step.conjuncts()) {
      Optional<UseColumn> column =
          conjunct
              .equality()
              .flatMap(
                  equated ->
                      equated.of(to).filter(each -> from.contains(equated.other(each).use())));
      column.ifPresent(each -> fixed.add(each.name()));
    }
    return to.keys().stream().map(Key::columns).anyMatch(fixed::containsAll);
  }
}
