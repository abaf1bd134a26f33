package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

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
                      .map(equated -> new Missed(each, equated, step, rows).suspicion())
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

  /** An equality of texts, and the rows of one side that could miss those of the other. */
  private record Missed(Conjunct condition, Equated equated, JoinStep step, JoinedRows rows) {

    /** The one whose rows are to find a partner: that which is no key. */
    UseColumn mine() {
      UseColumn before =
          step.left().contains(equated.left().use()) ? equated.left() : equated.right();
      UseColumn joined = equated.other(before);
      return References.isKey(before) && !References.isKey(joined) ? joined : before;
    }

    UseColumn theirs() {
      return equated.other(mine());
    }

    Relation side() {
      return rows.side(mine().use().item());
    }

    /** How many rows find one; a semijoin that every engine hashes, which a NOT need not be. */
    private Question<Long> finding(Expression found) {
      return Question.count(side(), found);
    }

    private Expression in(Expression value, Expression shown) {
      Expression there = Sql.isNotNull(written(theirs()));
      Query values =
          Query.of(Sql.select(List.of(Sql.as(shown, "c0")), theirs().use().item(), there));
      return new Condition.InQuery(Span.NOWHERE, value, values, false);
    }

    private Expression isNear() {
      return in(plain(value()), plain(written(theirs())));
    }

    private Expression isThere() {
      return in(value(), written(theirs()));
    }

    private Expression value() {
      return rows.column(side(), mine());
    }

    private static Expression plain(Expression text) {
      return FunctionCall.of("LOWER", FunctionCall.of("TRIM", text));
    }

    private static String plain(String text) {
      return "LOWER(TRIM(" + text + "))";
    }

    private static Expression written(UseColumn column) {
      TableUse use = column.use();
      return new ColumnName(
          Span.NOWHERE,
          use.isNamed() ? List.of(use.dialect().exact(use.name())) : List.of(),
          use.dialect().exact(column.name()));
    }

    Suspicion suspicion() {
      Question<Long> near = finding(isNear());
      Question<Long> there = finding(isThere());
      return new Suspicion(
          Kind.NEARLY_EQUAL,
          condition.span(),
          List.of(condition.span()),
          List.of(near, there),
          answers -> {
            long missed = answers.ifAny(near).orElse(0L) - answers.ifAny(there).orElse(0L);
            return missed > 0 && answers.ifAny(there).isPresent()
                ? Optional.of(conclude(missed))
                : Optional.empty();
          });
    }

    private Conclusion conclude(long missed) {
      UseColumn mine = mine();
      String compared = plain(mine.written()) + " = " + plain(theirs().written());
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
              + theirs().written()
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
