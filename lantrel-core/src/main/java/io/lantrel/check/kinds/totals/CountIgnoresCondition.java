package io.lantrel.check.kinds.totals;

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
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Case;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * COUNT of what is never NULL, although a condition in it is to say what is counted: {@code
 * COUNT(CASE WHEN … THEN 1 ELSE 0 END)}, {@code COUNT(a > b)}. COUNT leaves out NULL and nothing
 * else (ISO/IEC 9075-2, 10.9).
 */
public final class CountIgnoresCondition implements Check {

  private static final Set<String> CHOOSING = Set.of("if", "iif");

  /**
   * What was meant.
   *
   * @param condition which rows
   * @param known whether it must be known to be counted, true or false; else all rows are counted
   * @param counts what is counted, and why, as a predicate
   * @param repair the edits that leave them out
   * @param instead what is to be done, as an order
   */
  private record Meant(
      Expression condition, boolean known, String counts, List<Edit> repair, String instead) {}

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.nodes(FunctionCall.class).stream()
        .filter(call -> call.key().equals("count") && call.arguments().size() == 1)
        .filter(call -> !call.distinct() && !call.star() && !call.span().isNowhere())
        .flatMap(call -> meant(call, subject).stream().map(each -> suspicion(call, each, subject)))
        .toList();
  }

  private static Optional<Meant> meant(FunctionCall call, Subject subject) {
    Expression argument = call.arguments().get(0);
    if (argument instanceof Case choice) {
      return ofCase(choice, subject);
    }
    if (argument instanceof FunctionCall choice
        && CHOOSING.contains(choice.key())
        && choice.arguments().size() == 3
        && isValue(choice.arguments().get(1))
        && isValue(choice.arguments().get(2))) {
      Expression condition = choice.arguments().get(0);
      String otherwise = subject.text(choice.arguments().get(2));
      return Optional.of(
          new Meant(
              condition,
              false,
              everyRow(otherwise),
              List.of(new Edit(argument.span(), asCase(condition, subject))),
              "Write " + asCase(condition, subject)));
    }
    return argument instanceof Condition
        ? Optional.of(
            new Meant(
                argument,
                true,
                " counts the rows for which that is false too",
                List.of(new Edit(argument.span(), asCase(argument, subject))),
                "Write " + asCase(argument, subject)))
        : Optional.empty();
  }

  private static String everyRow(String otherwise) {
    return " counts every row, since " + otherwise + " is a value too";
  }

  private static String asCase(Expression condition, Subject subject) {
    return subject.edits().keyword("CASE WHEN")
        + " "
        + subject.text(condition)
        + " "
        + subject.edits().keyword("THEN 1 END");
  }

  private static Optional<Meant> ofCase(Case choice, Subject subject) {
    Expression otherwise = choice.otherwise();
    boolean always =
        otherwise != null
            && isValue(otherwise)
            && choice.whens().stream().allMatch(when -> isValue(when.then()));
    if (!always || otherwise == null) {
      return Optional.empty();
    }
    List<Expression> conditions =
        choice.whens().stream()
            .map(
                when ->
                    choice.operand() == null
                        ? when.when()
                        : Sql.equal(choice.operand(), when.when()))
            .toList();
    int end = choice.whens().get(choice.whens().size() - 1).then().span().end();
    return Optional.of(
        new Meant(
            Sql.any(conditions),
            false,
            everyRow(subject.text(otherwise)),
            List.of(new Edit(new Span(end, otherwise.span().end()), "")),
            "Leave out " + subject.edits().keyword("ELSE") + " " + subject.text(otherwise)));
  }

  private static boolean isValue(Expression value) {
    return value instanceof Literal && !Literal.isNull(value);
  }

  private static Suspicion suspicion(FunctionCall call, Meant meant, Subject subject) {
    Optional<Question<long[]>> counts = subject.rows().map(rows -> counts(rows, meant));
    return Suspicion.asking(
        Kind.COUNT_IGNORES_CONDITION,
        call.span(),
        List.of(call.span()),
        counts,
        found -> Optional.of(conclude(call, meant, found, subject)));
  }

  private static Question<long[]> counts(JoinedRows rows, Meant meant) {
    Expression meets = rows.holds(rows.all(), meant.condition());
    Expression fails = rows.holds(rows.all(), Sql.not(meant.condition()));
    Expression kept = meant.known() ? rows.isKept(Sql.any(List.of(meets, fails))) : rows.isKept();
    Expression held = rows.isKept(meets);
    return Question.figures(
        rows.all(),
        List.of(Sql.countIf(kept), Sql.countIf(held)),
        answer -> new long[] {answer.figure(0), answer.figure(1)});
  }

  private static Conclusion conclude(
      FunctionCall call, Meant meant, Optional<long[]> found, Subject subject) {
    boolean harmless = found.filter(counts -> counts[0] == counts[1]).isPresent();
    String message =
        subject.text(call)
            + meant.counts()
            + found
                .filter(counts -> !harmless)
                .map(
                    counts ->
                        ": "
                            + Words.rows(counts[0])
                            + " in all, of which "
                            + Words.number(counts[1])
                            + (counts[1] == 1 ? " meets" : " meet")
                            + " the condition")
                .orElse("")
            + ". "
            + meant.instead()
            + ".";
    Map<String, Long> figures =
        found
            .map(counts -> Map.of("rows counted", counts[0], "rows that meet it", counts[1]))
            .orElse(Map.of());
    return new Conclusion(
        harmless ? Severity.NOTE : Severity.WARNING,
        message,
        new Evidence(figures, List.of(), List.of("COUNT leaves out NULL and nothing else")),
        List.of(meant.repair()));
  }
}
