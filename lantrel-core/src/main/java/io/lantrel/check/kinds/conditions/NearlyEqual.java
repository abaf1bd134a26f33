package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * A join by texts that some rows miss only because of blanks at an end, or of capitals: both sides
 * mean the same, and one was written by another hand.
 */
public final class NearlyEqual implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    subject
        .rows()
        .ifPresent(
            rows -> {
              for (JoinStep step : subject.block().steps()) {
                for (Conjunct each : step.conjuncts()) {
                  each.equality()
                      .filter(equated -> canMiss(equated, subject))
                      .map(equated -> suspicion(each, missed(equated, step, rows)))
                      .ifPresent(suspicions::add);
                }
              }
            });
    return suspicions;
  }

  /** What a reference promises is there; a column compared with itself finds itself. */
  private static boolean canMiss(Equated equated, Subject subject) {
    UseColumn left = equated.left();
    UseColumn right = equated.right();
    boolean itself =
        left.use().isOfTable(right.use()) && left.tableColumn().equals(right.tableColumn());
    return left.type().family() == TypeFamily.TEXT
        && right.type().family() == TypeFamily.TEXT
        && !itself
        && subject.block().linksAlong(equated).isEmpty()
        && !left.use().isDependent()
        && !right.use().isDependent();
  }

  /** The sides whose rows are to find a partner; not that of a key where the other is none. */
  private static Stream<Missed> missed(Equated equated, JoinStep step, JoinedRows rows) {
    UseColumn before =
        step.left().contains(equated.left().use()) ? equated.left() : equated.right();
    UseColumn joined = equated.other(before);
    boolean key = References.isKey(before);
    return key != References.isKey(joined)
        ? Stream.of(key ? new Missed(joined, before, rows) : new Missed(before, joined, rows))
        : Stream.of(new Missed(before, joined, rows), new Missed(joined, before, rows));
  }

  private static Suspicion suspicion(Conjunct condition, Stream<Missed> sides) {
    List<Counted> counted = sides.map(Counted::of).toList();
    return new Suspicion(
        Kind.NEARLY_EQUAL,
        condition.span(),
        List.of(condition.span()),
        counted.stream().<Question<?>>flatMap(each -> each.questions().stream()).toList(),
        answers ->
            counted.stream()
                .filter(each -> each.rows(answers) > 0)
                .findFirst()
                .map(each -> each.missed().conclude(condition, each.rows(answers))));
  }

  /**
   * How many rows of a side find one that is near, and one that is equal: both are semijoins that
   * every engine hashes, which a NOT need not be.
   */
  private record Counted(Missed missed, Question<Long> near, Question<Long> equal) {

    static Counted of(Missed missed) {
      return new Counted(
          missed,
          Question.count(missed.side(), missed.isNear()),
          Question.count(missed.side(), missed.isThere()));
    }

    List<Question<Long>> questions() {
      return List.of(near, equal);
    }

    long rows(Answers answers) {
      return answers.ifAny(equal).map(there -> answers.ifAny(near).orElse(0L) - there).orElse(0L);
    }
  }

  /** The rows of one side that could miss those of the other. */
  private record Missed(UseColumn mine, UseColumn theirs, JoinedRows rows) {

    Relation side() {
      return rows.side(mine.use().item());
    }

    Expression isNear() {
      return in(Sql.plain(value()), Sql.plain(Sql.column(theirs)));
    }

    Expression isThere() {
      return in(value(), Sql.column(theirs));
    }

    private Expression value() {
      return rows.column(side(), mine);
    }

    private Expression in(Expression value, Expression shown) {
      Expression there = Sql.isNotNull(Sql.column(theirs));
      Query values = Query.of(Sql.select(List.of(Sql.as(shown, "c0")), theirs.use().item(), there));
      return new Condition.InQuery(Span.NOWHERE, value, values, false);
    }

    private static String plain(String text) {
      return "LOWER(TRIM(" + text + "))";
    }

    Conclusion conclude(Conjunct condition, long missed) {
      String compared = plain(mine.written()) + " = " + plain(theirs.written());
      boolean written =
          condition.origin() != Origin.USING
              && condition.origin() != Origin.NATURAL
              && !condition.part();
      return Conclusion.asking(
          Severity.WARNING,
          "Blanks or capitals alone keep "
              + Words.count(missed, mine.use().rowWord())
              + " from a partner: "
              + mine.written()
              + " and "
              + theirs.written()
              + " are not written alike. Mend the data, or compare "
              + compared
              + ".",
          RowNames.question(
              rows, side(), mine.use(), Sql.all(List.of(isNear(), Sql.not(isThere()))), SHOWN),
          named -> new Evidence(Map.of("rows kept from a partner", missed), named, List.of()),
          written ? List.of(List.of(new Edit(condition.span(), compared))) : List.of());
    }
  }
}
