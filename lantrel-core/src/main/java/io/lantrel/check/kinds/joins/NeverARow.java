package io.lantrel.check.kinds.joins;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.hierarchies.Walk;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Counting;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.sql.tree.Expression;
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

  @Override
  public List<Suspicion> suspect(Subject subject) {
    Resolution resolution = subject.resolution();
    if (subject.block() != resolution.blocks().get(0)) {
      return List.of();
    }
    return WantedBlocks.of(resolution).stream()
        .map(subject::of)
        .flatMap(each -> of(each).stream())
        .toList();
  }

  private static Optional<Suspicion> of(Subject subject) {
    QueryBlock block = subject.block();
    boolean total = block.isGrouped() && block.select().groupBy().isEmpty();
    // Down from the top, or from one row, there may just be nothing below.
    boolean down = Walk.of(subject).filter(Walk::down).isPresent();
    boolean countable =
        !total
            && !down
            && !block.uses().isEmpty()
            && !block.uses().get(0).isDependent()
            && block.steps().size() <= Emptiness.MOST_JOINS;
    Optional<JoinedRows> joinedRows = countable ? subject.rows() : Optional.empty();
    return joinedRows.map(rows -> of(subject, rows));
  }

  private static Suspicion of(Subject subject, JoinedRows rows) {
    QueryBlock block = subject.block();
    List<Cause> causes = new ArrayList<>();
    for (JoinStep step : block.steps()) {
      if (!step.kind().isOuter() && !step.conjuncts().isEmpty()) {
        causes.add(
            new Cause(
                Emptiness.place(step),
                step,
                null,
                Emptiness.met(rows, step),
                Emptiness.metButForOrder(rows, step)));
      }
    }
    Question<Long> joined = Question.count(rows.all(), rows.isJoined());
    for (int i = 0; i < block.filters().size(); i++) {
      Question<Long> fails =
          Question.count(rows.all(), Sql.all(List.of(rows.isJoined(), rows.failsFirst(i))));
      causes.add(
          new Cause(
              block.filters().get(i).span(),
              null,
              block.filters().get(i),
              fails,
              Optional.empty()));
    }
    Question<Long> first = Question.count(rows.side(block.uses().get(0).item()));
    List<Question<?>> questions = new ArrayList<>(List.of(first, joined));
    for (Cause each : causes) {
      questions.add(each.question());
      each.butForOrder().ifPresent(questions::add);
    }
    Optional<Expression> having =
        Optional.ofNullable(block.select().having()).filter(each -> block.standsAlone());
    Optional<Question<Long>> groups =
        having.map(each -> Question.number(Counting.rowsBeforeLimit(block)));
    groups.ifPresent(questions::add);
    return new Suspicion(
        Kind.NEVER_A_ROW,
        block.select().span(),
        List.of(),
        questions,
        answers -> {
          if (answers.ifAny(first).orElse(0L) == 0) {
            return Optional.empty();
          }
          long left = answers.ifAny(joined).orElse(1L);
          for (Cause cause : causes) {
            Optional<Long> answer = answers.ifAny(cause.question());
            if (answer.isEmpty()) {
              return Optional.empty(); // what was not answered is not known to be empty
            }
            long count = answer.get();
            if (cause.step() != null && count == 0) {
              boolean others =
                  cause.butForOrder().flatMap(answers::ifAny).filter(any -> any == 0).isPresent();
              Conclusion conclusion = ofStep(cause.step(), subject).at(cause.place());
              return Optional.of(others ? conclusion.as(Severity.WARNING) : conclusion);
            }
            if (cause.filter() != null && count > 0) {
              left -= count;
              if (left == 0) {
                return ofFilter(cause.filter(), count, subject).map(each -> each.at(cause.place()));
              }
            }
          }
          return groups
              .flatMap(answers::ifAny)
              .filter(count -> count == 0)
              .flatMap(count -> ofHaving(having.orElseThrow(), subject));
        });
  }

  /**
   * What may leave nothing.
   *
   * @param question for a join, how many rows have a partner; for a condition, how many rows it is
   *     the first to drop
   * @param butForOrder how many would have one without the conditions that look for exceptions
   */
  private record Cause(
      Span place,
      @Nullable JoinStep step,
      @Nullable Conjunct filter,
      Question<Long> question,
      Optional<Question<Long>> butForOrder) {}

  private static Severity severity(List<Expression> conditions) {
    return conditions.stream().anyMatch(Emptiness::looksForExceptions)
        ? Severity.NOTE
        : Severity.WARNING;
  }

  private static Conclusion ofStep(JoinStep step, Subject subject) {
    List<Expression> conditions = step.conjuncts().stream().map(Conjunct::condition).toList();
    String right = Emptiness.words(step.right());
    return ValuesThere.warning(
            whatIsEmpty(subject)
                + ": no row before this join meets a row of "
                + right
                + " by "
                + Emptiness.condition(step, subject)
                + ". Look at the values of both sides.",
            Map.of(),
            "the join of " + right + " leaves no row",
            conditions,
            subject)
        .as(severity(conditions));
  }

  private static Optional<Conclusion> ofFilter(Conjunct filter, long dropped, Subject subject) {
    Expression condition = filter.condition();
    if (Emptiness.isNoSurprise(condition, subject)) {
      return Optional.empty();
    }
    QueryBlock block = subject.block();
    boolean alone = block.filters().size() == 1;
    String rows = block.isCorrelated() ? "rows" : Words.rows(dropped);
    return Optional.of(
        ValuesThere.warning(
                whatIsEmpty(subject)
                    + ": none of the "
                    + rows
                    + (alone ? "" : " that the other conditions leave")
                    + " meets "
                    + subject.text(condition)
                    + ". Look at the values that there are.",
                block.isCorrelated() ? Map.of() : Map.of("rows dropped", dropped),
                "it drops the last rows",
                List.of(condition),
                subject)
            .as(severity(List.of(condition))));
  }

  private static Optional<Conclusion> ofHaving(Expression having, Subject subject) {
    return Emptiness.isNoSurprise(having, subject)
        ? Optional.empty()
        : Optional.of(
            new Conclusion(
                    Severity.WARNING,
                    whatIsEmpty(subject)
                        + ": none of the groups meets "
                        + subject.text(having)
                        + ". Look at the totals that there are.",
                    Evidence.facts(List.of("it drops the last groups")),
                    List.of())
                .as(severity(List.of(having)))
                .at(having.span()));
  }

  private static String whatIsEmpty(Subject subject) {
    QueryBlock block = subject.block();
    boolean whole = subject.resolution().result().block().filter(block::equals).isPresent();
    if (block.isRecursive()) {
      return "The recursion takes no step";
    }
    return whole
        ? "The result is empty"
        : block.isCorrelated()
            ? "This subquery finds nothing, whatever row it is asked for"
            : "This part of the query is empty";
  }
}
