package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * {@code COUNT(child.id) / COUNT(*)} over rows that LEFT JOIN keeps: how many have a child, as a
 * share of all. One with several children is counted several times, above and below.
 */
public final class ShareOfRepeated implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.steps().size() != 1) {
      return List.of();
    }
    JoinStep step = block.steps().get(0);
    return subject.nodes(Arithmetic.class).stream()
        .filter(each -> each.operator() == ArithmeticOperator.DIVIDED)
        .flatMap(
            each ->
                CountOfMissing.children(step, block)
                    .flatMap(child -> share(each, child, step, block))
                    .stream())
        .limit(1)
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<Share> share(
      Arithmetic division, TableUse child, JoinStep step, QueryBlock block) {
    List<TableUse> kept = step.left().contains(child) ? step.right() : step.left();
    if (kept.size() != 1 || kept.get(0).keyColumns().size() != 1) {
      return Optional.empty();
    }
    UseColumn key = kept.get(0).keyColumns().get(0);
    Optional<FunctionCall> above =
        Aggregates.in(division.left()).filter(call -> isOf(call, child, block)).findFirst();
    Optional<FunctionCall> below =
        Aggregates.in(division.right()).filter(call -> countsAll(call, key, block)).findFirst();
    return step.conjuncts().stream()
        .flatMap(each -> each.equality().stream())
        .filter(pair -> pair.of(key.use()).filter(key::equals).isPresent())
        .map(pair -> pair.other(key))
        .filter(column -> column.use().equals(child) && above.isPresent() && below.isPresent())
        .findFirst()
        .map(column -> new Share(above.get(), below.get(), key, column, step));
  }

  private static boolean isOf(FunctionCall call, TableUse child, QueryBlock block) {
    return SizeOfGroup.isCount(call)
        && call.arguments().size() == 1
        && block
            .column(call.arguments().get(0))
            .filter(column -> column.use().equals(child) && !column.nullable())
            .isPresent();
  }

  private static boolean countsAll(FunctionCall call, UseColumn key, QueryBlock block) {
    boolean rows =
        call.star()
            || (call.arguments().size() == 1
                && block.column(call.arguments().get(0)).filter(key::equals).isPresent());
    return SizeOfGroup.isCount(call) && !call.distinct() && rows;
  }

  /**
   * A share.
   *
   * @param key of what is kept, which is meant to be counted
   * @param reference that of the child to it
   */
  private record Share(
      FunctionCall above, FunctionCall below, UseColumn key, UseColumn reference, JoinStep step) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.counting(
          Kind.REPEATED_IN_TOTAL,
          below.span(),
          List.of(above.span(), below.span(), step.place()),
          subject.rows().orElseThrow().repeated(step).count(),
          count -> conclude(count, subject));
    }

    private Conclusion conclude(long count, Subject subject) {
      String kept = key.use().rowWord();
      String child = reference.use().rowWord();
      String message =
          subject.text(below)
              + " counts the rows of the join, in which "
              + Words.one(kept)
              + " with several "
              + Words.plural(child)
              + " comes several times, as "
              + Words.number(count)
              + (count == 1 ? " does" : " do")
              + ". Count each "
              + kept
              + " once, above and below.";
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              Map.of("rows with several partners", count),
              List.of(),
              List.of(subject.text(above) + " counts " + Words.plural(child))),
          List.of(List.of(counting(above, reference, subject), counting(below, key, subject))));
    }

    private static Edit counting(FunctionCall call, UseColumn column, Subject subject) {
      return new Edit(
          call.span(), subject.edits().keyword("COUNT(DISTINCT") + " " + column.written() + ")");
    }
  }
}
