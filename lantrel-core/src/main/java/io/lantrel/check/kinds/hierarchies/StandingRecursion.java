package io.lantrel.check.kinds.hierarchies;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.QueryBody.SetOperation;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A recursion that compares only what it carries along unchanged, as {@code t.boss = up.boss}, or
 * that goes through pairs which hold both ways, as those who were on one tour: a row that it finds
 * once it finds again and again.
 */
public final class StandingRecursion implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return Stream.concat(
            compared(subject).stream()
                .map(
                    each ->
                        Suspicion.certain(
                            Kind.ENDLESS_RECURSION, each.span(), told(each, subject))),
            there(subject).stream()
                .map(
                    each ->
                        Suspicion.certain(
                            Kind.ENDLESS_RECURSION, each.span(), toldOfPairs(each, subject))))
        .limit(1)
        .toList();
  }

  /** The condition by which it goes to a row whose pairs lead back. */
  private static Optional<Conjunct> there(Subject subject) {
    QueryBlock block = subject.block();
    if (!repeats(subject)) {
      return Optional.empty();
    }
    for (Conjunct each : block.conjuncts()) {
      Optional<Conjunct.Equated> pair = each.likeness();
      Optional<UseColumn> before =
          pair.flatMap(
              it ->
                  Stream.of(it.left(), it.right())
                      .filter(c -> c.use().isOwnRecursion())
                      .findFirst());
      if (before.isPresent() && pair.isPresent()) {
        UseColumn from = pair.get().other(before.get());
        Optional<UseColumn> to = block.shownAt(before.get().position());
        if (to.isPresent() && areBothWays(from, to.get(), each, subject)) {
          return Optional.of(each);
        }
      }
    }
    return Optional.empty();
  }

  /**
   * One column of two uses of a table, whose conditions hold for the two turned round as well:
   * besides the step itself nothing is said of either row that is not said of both alike.
   */
  private static boolean areBothWays(UseColumn from, UseColumn to, Conjunct step, Subject subject) {
    if (from.use().equals(to.use())
        || !from.use().isOfTable(to.use())
        || from.position() != to.position()) {
      return false;
    }
    Set<TableUse> pair = Set.of(from.use(), to.use());
    List<Conjunct> said =
        subject.block().conjuncts().stream()
            .filter(each -> !each.equals(step) && !Collections.disjoint(each.uses(), pair))
            .toList();
    return !said.isEmpty()
        && said.stream()
            .allMatch(each -> each.uses().equals(pair) && isOfOneColumn(each, subject.block()));
  }

  /** Whether it says that both have one value in a column, or that they differ in it. */
  private static boolean isOfOneColumn(Conjunct conjunct, QueryBlock block) {
    if (conjunct.condition() instanceof Comparison comparison
        && comparison.operator() == ComparisonOperator.NOT_EQUAL) {
      Optional<UseColumn> left = block.column(comparison.left());
      return left.isPresent()
          && block
              .column(comparison.right())
              .filter(each -> each.position() == left.get().position())
              .isPresent();
    }
    return conjunct
        .likeness()
        .filter(pair -> pair.left().position() == pair.right().position())
        .isPresent();
  }

  private static Conclusion toldOfPairs(Conjunct conjunct, Subject subject) {
    return Conclusion.warning(
        "Whoever is found by "
            + subject.text(conjunct.condition())
            + " leads back to where the step came from, since its pairs hold both ways: the"
            + " recursion does not end. Write UNION, which leaves out what it has met.",
        List.of("no condition tells the two of a pair apart by an order"),
        List.of());
  }

  /** Its conditions on the rows before; none if it is no such recursion. */
  public static List<Conjunct> compared(Subject subject) {
    QueryBlock block = subject.block();
    if (!repeats(subject)) {
      return List.of();
    }
    List<Conjunct> compared =
        block.conjuncts().stream()
            .filter(each -> each.uses().stream().anyMatch(use -> use.isOwnRecursion()))
            .toList();
    return compared.stream().allMatch(each -> isCarriedAlong(each, block)) ? compared : List.of();
  }

  /** Whether nothing stops it or leaves out what it has met. */
  private static boolean repeats(Subject subject) {
    QueryBlock block = subject.block();
    Optional<CommonTable> recursion = EndlessRecursion.recursion(subject);
    return block.isRecursive()
        && recursion
            .flatMap(each -> EndlessRecursion.union(each, block))
            .filter(SetOperation::all)
            .isPresent()
        && !EndlessRecursion.isStopped(block, recursion.get());
  }

  private static boolean isCarriedAlong(Conjunct conjunct, QueryBlock block) {
    return conjunct.likeness().stream()
        .anyMatch(
            each ->
                isShown(each.left(), each.right(), block)
                    || isShown(each.right(), each.left(), block));
  }

  /** Whether a step shows the value that it found in the place that it is compared with. */
  private static boolean isShown(UseColumn own, UseColumn before, QueryBlock block) {
    return before.use().isOwnRecursion()
        && !own.use().isOwnRecursion()
        && block
            .shownAt(before.position())
            .filter(shown -> shown.equals(own) || shown.equals(before))
            .isPresent();
  }

  private static Conclusion told(Conjunct conjunct, Subject subject) {
    String compared = subject.text(conjunct.condition());
    List<String> ways = conjunct.likeness().stream().flatMap(each -> ways(each, subject)).toList();
    return Conclusion.warning(
        "Each step shows again what "
            + compared
            + " compares: a row that it finds once is found again in every further step, without an"
            + " end. "
            + (ways.isEmpty()
                ? "Compare with a column that leads on to other rows."
                : "To walk on, write " + String.join(" or ", ways) + "."),
        List.of("no other condition is about the rows before"),
        ways.stream().map(each -> List.of(new Edit(conjunct.span(), each))).toList());
  }

  /** Down and up along the references of the table to itself. */
  private static Stream<String> ways(Conjunct.Equated equated, Subject subject) {
    boolean turned = equated.left().use().isOwnRecursion();
    UseColumn own = turned ? equated.right() : equated.left();
    UseColumn before = equated.other(own);
    return subject.catalog().references().stream()
        .filter(each -> each.isSelfReference() && each.fromColumns().size() == 1)
        .filter(each -> own.use().table().filter(each.from()::equals).isPresent())
        .flatMap(
            each ->
                Stream.of(
                    way(own, each.fromColumns().get(0), before, each.toColumns().get(0)),
                    way(own, each.toColumns().get(0), before, each.fromColumns().get(0))))
        .flatMap(Optional::stream);
  }

  private static Optional<String> way(UseColumn own, String next, UseColumn before, String last) {
    Optional<UseColumn> shown =
        before.use().columns().stream()
            .filter(
                each ->
                    BaseColumn.of(each)
                        .filter(base -> base.use().isOfTable(own.use()))
                        .filter(base -> base.tableColumn().equals(last))
                        .isPresent())
            .findFirst();
    return own.use()
        .columnOfTable(next)
        .flatMap(column -> shown.map(each -> column.written() + " = " + each.written()));
  }
}
