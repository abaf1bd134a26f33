package io.lantrel.check.kinds.joins;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A result that is empty on this data, and the join or the condition that leaves nothing. A query
 * that looks for what should not be there is glad to find nothing: it tests for NULL, or by NOT.
 */
public final class NeverARow implements Check {

  /** Joins up to which it is worth asking of each what it leaves. */
  private static final int MOST_JOINS = 8;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    boolean whole =
        subject.resolution().root().equals(block)
            && subject.resolution().result().block().isPresent()
            && !(block.isGrouped() && block.select().groupBy().isEmpty())
            && !block.uses().isEmpty();
    if (!whole || block.steps().size() > MOST_JOINS || subject.rows().isEmpty()) {
      return List.of();
    }
    JoinedRows rows = subject.rows().get();
    List<Cause> causes = new ArrayList<>();
    List<Question<?>> questions = new ArrayList<>();
    for (JoinStep step : block.steps()) {
      if (!step.kind().isOuter() && !step.conjuncts().isEmpty()) {
        Question<Long> met = met(rows, step);
        causes.add(new Cause(place(step), step, null, met));
        questions.add(met);
      }
    }
    Question<Long> joined = Question.count(rows.all(), rows.isJoined());
    questions.add(joined);
    for (int i = 0; i < block.filters().size(); i++) {
      Question<Long> fails =
          Question.count(rows.all(), Sql.all(List.of(rows.isJoined(), rows.failsFirst(i))));
      causes.add(new Cause(block.filters().get(i).span(), null, block.filters().get(i), fails));
      questions.add(fails);
    }
    Question<Long> first = Question.count(rows.side(block.uses().get(0).item()));
    questions.add(first);
    Span place = block.select().span();
    return List.of(
        new Suspicion(
            Kind.NEVER_A_ROW,
            place,
            List.of(),
            questions,
            answers -> {
              if (answers.ifAny(first).orElse(0L) == 0) {
                return Optional.empty();
              }
              long left = answers.ifAny(joined).orElse(1L);
              for (Cause cause : causes) {
                long count = answers.ifAny(cause.question()).orElse(0L);
                if (cause.step() != null && count == 0) {
                  return Optional.of(ofStep(cause.step(), subject).at(cause.place()));
                }
                if (cause.filter() != null && count > 0) {
                  left -= count;
                  if (left == 0) {
                    return isLookingForNothing(cause.filter())
                            || subject.hasParameter(cause.filter().condition())
                        ? Optional.empty()
                        : Optional.of(
                            ofFilter(cause.filter(), count, block, subject).at(cause.place()));
                  }
                }
              }
              return Optional.empty();
            }));
  }

  /**
   * What may leave nothing.
   *
   * @param question for a join, how many rows have a partner; for a condition, how many rows it is
   *     the first to drop
   */
  private record Cause(
      Span place, @Nullable JoinStep step, @Nullable Conjunct filter, Question<Long> question) {}

  private static Span place(JoinStep step) {
    return step.conjuncts().stream()
        .map(Conjunct::span)
        .filter(span -> !span.isNowhere())
        .reduce(Span::to)
        .orElse(step.place());
  }

  private static Question<Long> met(JoinedRows rows, JoinStep step) {
    return Question.count(
        rows.attempts(step), Sql.all(List.of(rows.reached(step), Sql.not(rows.isAlone(step)))));
  }

  /** IS NULL, NOT EXISTS, NOT IN, unequal: such a query finds what is wrong, if there is any. */
  private static boolean isLookingForNothing(Conjunct filter) {
    return filter.condition().preorder().anyMatch(NeverARow::isNegative);
  }

  private static boolean isNegative(Node node) {
    return node instanceof Condition.IsNull
        || node instanceof Condition.Not
        || (node instanceof Condition.InQuery in && in.negated())
        || (node instanceof Condition.InList in && in.negated())
        || (node instanceof Condition.Comparison comparison
            && comparison.operator() == Condition.ComparisonOperator.NOT_EQUAL)
        || node instanceof Query;
  }

  private static Conclusion ofStep(JoinStep step, Subject subject) {
    String right = Words.list(step.right().stream().map(TableUse::words).toList());
    String condition =
        String.join(
            " AND ",
            step.conjuncts().stream()
                .map(Conjunct::condition)
                .map(each -> each.span().isNowhere() ? step.words() : subject.text(each))
                .distinct()
                .toList());
    return new Conclusion(
        Severity.WARNING,
        "The result is empty: no row before this join meets a row of "
            + right
            + " by "
            + condition
            + ". Look at the values of both sides.",
        Evidence.facts(List.of("the join of " + right + " leaves no row")),
        List.of());
  }

  private static Conclusion ofFilter(
      Conjunct filter, long dropped, QueryBlock block, Subject subject) {
    Expression condition = filter.condition();
    boolean alone = block.filters().size() == 1;
    return new Conclusion(
        Severity.WARNING,
        "The result is empty: none of the "
            + Words.rows(dropped)
            + (alone ? "" : " that the other conditions leave")
            + " meets "
            + subject.text(condition)
            + ". Look at the values that there are.",
        new Evidence(Map.of("rows dropped", dropped), List.of(), List.of("it drops the last rows")),
        List.of());
  }
}
