package io.lantrel.trace.asked;

import io.lantrel.engine.Database;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.trace.Answer.TracedValue;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** Why outer joins found nothing for one of the rows of a block. */
final class WhyFilled {

  /** So many joins are looked at, each with one statement. */
  private static final int MOST_JOINS = 4;

  private final Database database;
  private final QueryBlock block;
  private final SubqueryRows.Outside row;
  private final Predicate<TableUse> isFilled;
  private final Function<UseColumn, Stream<TracedValue>> told;

  /**
   * @param row what stands for the columns of the row
   * @param isFilled whether it has no row of a table use
   * @param told its values in words
   */
  WhyFilled(
      Database database,
      QueryBlock block,
      SubqueryRows.Outside row,
      Predicate<TableUse> isFilled,
      Function<UseColumn, Stream<TracedValue>> told) {
    this.database = database;
    this.block = block;
    this.row = row;
    this.isFilled = isFilled;
    this.told = told;
  }

  /** In sentences: for each join the values that met nothing, and what is near. */
  List<String> sentences() {
    List<String> sentences = new ArrayList<>();
    int asked = 0;
    for (JoinStep step : block.steps()) {
      boolean right = step.kind().keepsLeft() && step.right().stream().allMatch(isFilled);
      boolean left = step.kind().keepsRight() && step.left().stream().allMatch(isFilled);
      // What is filled on both sides was so before; LATERAL is gone into as a subquery is.
      boolean hasReason =
          right != left
              && !step.conjuncts().isEmpty()
              && step.right().stream().noneMatch(TableUse::isDependent)
              && !followsAnother(step, right);
      if (!hasReason) {
        continue;
      }
      if (++asked > MOST_JOINS) {
        sentences.add("Why a join found nothing is told of the first " + MOST_JOINS + " only.");
        break;
      }
      sentences.addAll(sentences(step, right));
    }
    return sentences;
  }

  /** Whether it found nothing because an earlier one did not. */
  private boolean followsAnother(JoinStep step, boolean right) {
    List<TableUse> own = right ? step.left() : step.right();
    return step.conjuncts().stream()
        .flatMap(each -> each.equality().stream())
        .flatMap(each -> Stream.of(each.left().use(), each.right().use()))
        .anyMatch(use -> own.contains(use) && isFilled.test(use));
  }

  private List<String> sentences(JoinStep step, boolean right) {
    List<TableUse> own = right ? step.left() : step.right();
    List<TableUse> others = right ? step.right() : step.left();
    List<TracedValue> values =
        Written.columns(step.conjuncts(), block, own).stream().flatMap(told).toList();
    List<TracedValue> empty =
        step.conjuncts().stream()
            .filter(each -> each.equality().isPresent())
            .flatMap(each -> Written.columns(List.of(each), block, own).stream())
            .flatMap(told)
            .filter(each -> each.value() == null)
            .distinct()
            .toList();
    String partner = Words.list(others.stream().map(TableUse::words).toList());
    String condition = Written.conditions(step.conjuncts(), block.dialect());
    if (!empty.isEmpty()) {
      return List.of(
          Followed.words(empty) + ", so no row of " + partner + " can meet " + condition + ".");
    }
    List<String> sentences = new ArrayList<>();
    sentences.add(
        (values.isEmpty() ? "No" : Followed.words(values) + ", and no")
            + " row of "
            + partner
            + " meets "
            + condition
            + ".");
    new NearPartner(block, step, right, step.conjuncts(), row)
        .words(database)
        .ifPresent(sentences::add);
    return sentences;
  }
}
