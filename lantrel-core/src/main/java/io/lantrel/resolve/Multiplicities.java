package io.lantrel.resolve;

import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
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
    if (to.size() != 1 || !isKeyFixed(step, from, to.get(0))) {
      return Multiplicity.ANY_NUMBER;
    }
    return followsReference(block, step, from, to.get(0))
        ? Multiplicity.EXACTLY_ONE
        : Multiplicity.AT_MOST_ONE;
  }

  private static boolean isKeyFixed(JoinStep step, List<TableUse> from, TableUse to) {
    Set<String> fixed = new HashSet<>();
    equalities(step, from, to).forEach(pair -> fixed.add(pair.to().name()));
    return to.keys().stream().map(Key::columns).anyMatch(fixed::containsAll);
  }

  private static boolean followsReference(
      QueryBlock block, JoinStep step, List<TableUse> from, TableUse to) {
    List<Pair> pairs = equalities(step, from, to).toList();
    boolean certain =
        pairs.size() == step.conjuncts().size()
            && to.table().isPresent()
            && pairs.stream().allMatch(pair -> isNeverNull(block, step, pair.from()));
    return certain
        && block.catalog().references().stream()
            .anyMatch(reference -> isThatOf(reference, pairs, to.table().orElseThrow()));
  }

  private static boolean isNeverNull(QueryBlock block, JoinStep step, UseColumn column) {
    return !column.nullable()
        && block.stepsThatFill(column.use()).stream()
            .allMatch(later -> later.number() >= step.number());
  }

  private static boolean isThatOf(Reference reference, List<Pair> pairs, Table to) {
    return reference.toTable().equals(to.name())
        && reference.fromColumns().size() == pairs.size()
        && pairs.stream().allMatch(pair -> isPart(reference, pair));
  }

  private static boolean isPart(Reference reference, Pair pair) {
    int at = reference.fromColumns().indexOf(pair.from().name());
    return at >= 0
        && reference.toColumns().get(at).equals(pair.to().name())
        && pair.from()
            .use()
            .table()
            .filter(t -> t.name().equals(reference.fromTable()))
            .isPresent();
  }

  /** A column of the rows so far, and the column of the joined table that it must equal. */
  private record Pair(UseColumn from, UseColumn to) {}

  private static Stream<Pair> equalities(JoinStep step, List<TableUse> from, TableUse to) {
    return step.conjuncts().stream()
        .flatMap(conjunct -> conjunct.equality().stream())
        .flatMap(
            equated ->
                equated.of(to).stream().map(column -> new Pair(equated.other(column), column)))
        .filter(pair -> from.contains(pair.from().use()));
  }
}
