package io.lantrel.check.kinds.hierarchies;

import io.lantrel.catalog.Reference;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition;
import java.util.Optional;

/**
 * The step of a recursion along a self-reference.
 *
 * @param reference the self-reference
 * @param conjunct the condition that walks it
 * @param table the table use whose rows come next
 * @param reached the recursion itself, whose rows were reached before
 * @param down whether it goes from a row to those that refer to it
 */
public record Walk(
    Reference reference, Conjunct conjunct, TableUse table, TableUse reached, boolean down) {

  /** The walk of a block; empty if it is no step of a recursion, or walks otherwise. */
  public static Optional<Walk> of(Subject subject) {
    QueryBlock block = subject.block();
    if (!block.isRecursive()) {
      return Optional.empty();
    }
    for (Conjunct conjunct : block.conjuncts()) {
      if (conjunct.likeness().isPresent()) {
        Conjunct.Equated equated = conjunct.likeness().get();
        Optional<Walk> walk =
            of(conjunct, equated.left(), equated.right(), subject)
                .or(() -> of(conjunct, equated.right(), equated.left(), subject));
        if (walk.isPresent()) {
          return walk;
        }
      }
    }
    return Optional.empty();
  }

  private static Optional<Walk> of(
      Conjunct conjunct, UseColumn own, UseColumn before, Subject subject) {
    boolean stepping = own.use().table().isPresent() && before.use().table().isEmpty();
    Optional<UseColumn> base = stepping ? BaseColumn.of(before) : Optional.empty();
    if (base.isEmpty() || !base.get().use().isOfTable(own.use())) {
      return Optional.empty();
    }
    for (Reference each : subject.catalog().references()) {
      boolean ours =
          each.isSelfReference()
              && each.fromColumns().size() == 1
              && own.use().table().filter(each.from()::equals).isPresent();
      if (ours) {
        String from = each.fromColumns().get(0);
        String to = each.toColumns().get(0);
        boolean down = own.tableColumn().equals(from) && base.get().tableColumn().equals(to);
        boolean up = own.tableColumn().equals(to) && base.get().tableColumn().equals(from);
        if (down || up) {
          return Optional.of(new Walk(each, conjunct, own.use(), before.use(), down));
        }
      }
    }
    return Optional.empty();
  }

  /** What the recursion starts with; empty if it is no single SELECT. */
  Optional<QueryBlock> start() {
    return reached.result().flatMap(result -> result.parts().stream().findFirst());
  }

  /** Whether it starts with the rows that refer to nothing. */
  boolean startsAtTheTop() {
    return start().stream()
        .anyMatch(
            block ->
                block.filters().stream()
                    .map(Conjunct::condition)
                    .filter(Condition.IsNull.class::isInstance)
                    .map(Condition.IsNull.class::cast)
                    .filter(test -> !test.negated())
                    .flatMap(test -> block.column(test.value()).stream())
                    .anyMatch(
                        column ->
                            column.tableColumn().equals(reference.fromColumns().get(0))
                                && column.use().isOfTable(table)));
  }
}
