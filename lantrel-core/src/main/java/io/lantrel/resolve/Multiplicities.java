package io.lantrel.resolve;

import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.resolve.Conjunct.Equated;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/**
 * How many partners a row can have. At most one, if the equalities of the step fix every column of
 * a key of the joined table (H. Darwen: The Role of Functional Dependence in Query Decomposition,
 * 1989). Exactly one, if besides they follow a reference whose columns are never NULL, and nothing
 * else is demanded (ISO/IEC 9075-2, 4.18.3.4, referential constraints). This is what the schema
 * promises; whether the data keep it, the ledger shows.
 */
final class Multiplicities {

  private Multiplicities() {}

  static Multiplicity of(QueryBlock block, JoinStep step, List<TableUse> from, List<TableUse> to) {
    boolean turnedRound = to == step.left();
    boolean dependent = from.stream().anyMatch(TableUse::isDependent);
    if (to.size() != 1 || !isKeyFixed(block, step, from, to.get(0)) || (turnedRound && dependent)) {
      return Multiplicity.ANY_NUMBER;
    }
    return !to.get(0).isDependent() && followsReference(block, step, from, to.get(0))
        ? Multiplicity.EXACTLY_ONE
        : Multiplicity.AT_MOST_ONE;
  }

  private static boolean isKeyFixed(
      QueryBlock block, JoinStep step, List<TableUse> from, TableUse to) {
    Set<String> fixed = new HashSet<>();
    equalities(step, from, to).forEach(pair -> fixed.add(pair.to().name()));
    step.conjuncts().stream()
        .flatMap(conjunct -> Facts.constant(block, conjunct).stream())
        .filter(column -> column.use() == to)
        .forEach(column -> fixed.add(column.name()));
    return to.keys().stream().map(Key::columns).anyMatch(fixed::containsAll);
  }

  private static boolean followsReference(
      QueryBlock block, JoinStep step, List<TableUse> from, TableUse to) {
    List<Pair> pairs = equalities(step, from, to).toList();
    return pairs.size() == step.conjuncts().size()
        && pairs.stream().allMatch(pair -> isNeverNull(block, step, pair.from()))
        && pairs.stream()
            .flatMap(pair -> block.linksAlong(new Equated(pair.from(), pair.to())).stream())
            .anyMatch(link -> link.to() == to && isWhole(link, pairs));
  }

  private static boolean isNeverNull(QueryBlock block, JoinStep step, UseColumn column) {
    return !column.nullable()
        && block.stepsThatFill(column.use()).stream()
            .allMatch(later -> later.number() >= step.number());
  }

  /** Whether the equalities are all parts of the reference, and of one referring table use. */
  private static boolean isWhole(Link link, List<Pair> pairs) {
    Reference reference = link.reference();
    return reference.fromColumns().size() == pairs.size()
        && pairs.stream()
            .allMatch(
                pair ->
                    pair.from().use() == link.from()
                        && reference.fromColumns().contains(pair.from().tableColumn())
                        && reference
                            .toColumns()
                            .get(reference.fromColumns().indexOf(pair.from().tableColumn()))
                            .equals(pair.to().tableColumn()));
  }

  /** A column of the rows so far, and the column of the joined table that it must equal. */
  private record Pair(UseColumn from, UseColumn to) {}

  private static Stream<Pair> equalities(JoinStep step, List<TableUse> from, TableUse to) {
    return step.conjuncts().stream()
        .flatMap(conjunct -> conjunct.equality().stream())
        .flatMap(
            equated ->
                equated.of(to).stream().map(column -> new Pair(equated.other(column), column)))
        .filter(pair -> pair.from().use() != to && from.contains(pair.from().use()));
  }
}
