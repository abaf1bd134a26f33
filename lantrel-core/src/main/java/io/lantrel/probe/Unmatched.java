package io.lantrel.probe;

import io.lantrel.engine.NamedRow;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/** The rows of one side of a join step that have no partner, and why. */
public final class Unmatched {

  private final JoinedRows rows;
  private final JoinStep step;
  private final boolean left;
  private final Relation relation;
  private final Map<Boolean, Relation> picks = new HashMap<>();

  private Unmatched(JoinedRows rows, JoinStep step, boolean left, Relation relation) {
    this.rows = rows;
    this.step = step;
    this.left = left;
    this.relation = relation;
  }

  /** Rows so far that have no partner in what is joined. */
  public static Unmatched ofTheLeft(JoinedRows rows, JoinStep step) {
    return new Unmatched(rows, step, true, rows.attempts(step));
  }

  /** Rows of what is joined that have no partner in the rows so far. */
  public static Unmatched ofTheRight(JoinedRows rows, JoinStep step) {
    return new Unmatched(rows, step, false, rows.lonelyOnTheRight(step));
  }

  /**
   * The same where all rows of one table use are still there, and the step mentions no other one of
   * the left side.
   */
  public static Unmatched ofTheRight(JoinedRows rows, JoinStep step, TableUse partner) {
    return new Unmatched(rows, step, false, rows.lonelyOnTheRight(step, partner));
  }

  /**
   * Rows of what is joined that have no partner since their own columns are empty; none of the rows
   * so far need be looked at.
   */
  public static Unmatched emptyOnTheRight(JoinedRows rows, JoinStep step) {
    return new Unmatched(rows, step, false, rows.side(step.join().right()));
  }

  /** The table use by which a row is named: the one that the condition mentions. */
  public TableUse subject() {
    return equalities().stream()
        .map(equated -> ours(equated).use())
        .findFirst()
        .orElseGet(() -> side().get(0));
  }

  private List<TableUse> side() {
    return left ? step.left() : step.right();
  }

  private List<Equated> equalities() {
    return linking().stream().map(Conjunct::equality).flatMap(Optional::stream).toList();
  }

  /** The equalities between the two sides. */
  private List<Conjunct> linking() {
    return step.conjuncts().stream()
        .filter(
            conjunct ->
                conjunct
                    .equality()
                    .filter(
                        each ->
                            side().contains(each.left().use())
                                != side().contains(each.right().use()))
                    .isPresent())
        .toList();
  }

  private UseColumn ours(Equated equated) {
    return side().contains(equated.left().use()) ? equated.left() : equated.right();
  }

  /** Whether a row of the relation is there and has no partner. */
  private Expression condition() {
    return left ? Sql.all(List.of(rows.reached(step), rows.isAlone(step))) : Sql.always();
  }

  /** How many there are. */
  public Question<Long> count() {
    return Question.count(relation, condition());
  }

  /** The reasons that the condition of the step leaves room for, in the order of {@link Reason}. */
  public List<Reason> reasons() {
    List<Reason> reasons = new ArrayList<>();
    if (mayBeFilled()) {
      reasons.add(Reason.ALREADY_FILLED);
    }
    if (mayBeEmpty()) {
      reasons.add(Reason.EMPTY_REFERENCE);
    }
    if (hasFurtherConditions()) {
      reasons.add(Reason.FURTHER_CONDITION);
    }
    reasons.add(Reason.NO_PARTNER);
    return reasons;
  }

  /** Which rows have a reason: those of a relation that meet a condition in its short names. */
  private record Having(Relation relation, Expression condition) {
    Having and(Function<Relation, Expression> further) {
      return new Having(relation, Sql.all(List.of(condition, further.apply(relation))));
    }
  }

  /**
   * Each row has just one reason. Whether a partner is almost there is asked of rows that are
   * picked for it: as a value of each row it would be looked up again for every one of them.
   */
  private Having having(Reason reason) {
    boolean further = hasFurtherConditions();
    if (reason == Reason.FURTHER_CONDITION) {
      return further(true);
    }
    if (reason == Reason.NO_PARTNER && further) {
      return further(false);
    }
    List<Expression> conditions = new ArrayList<>(List.of(condition()));
    conditions.addAll(tests(reason, relation));
    return new Having(relation, Sql.all(conditions));
  }

  /**
   * The same in the rows that come to the step, where the reason shows in a row itself: a row that
   * refers to none need not be looked for on the other side.
   */
  private Having early(Reason reason) {
    if (!isBefore(reason)) {
      return having(reason);
    }
    Relation coming = left ? rows.coming(step) : rows.side(step.join().right());
    return new Having(coming, Sql.all(tests(reason, coming)));
  }

  /** Whether it shows in a row before the other side is looked at: it can have no partner. */
  private static boolean isBefore(Reason reason) {
    return reason == Reason.ALREADY_FILLED || reason == Reason.EMPTY_REFERENCE;
  }

  private Having further(boolean met) {
    List<Expression> linking = linking().stream().map(Conjunct::condition).toList();
    Relation picked = picks.computeIfAbsent(met, key -> rows.almostMet(step, left, linking, key));
    return new Having(picked, Sql.all(notBefore(Reason.FURTHER_CONDITION, picked)));
  }

  /** That a row has a reason, and none before it; the last one is what is left. */
  private List<Expression> tests(Reason reason, Relation of) {
    List<Expression> tests = new ArrayList<>(notBefore(reason, of));
    if (reason != Reason.NO_PARTNER) {
      tests.add(test(reason, of));
    }
    return tests;
  }

  private List<Expression> notBefore(Reason reason, Relation of) {
    return reasons().stream()
        .filter(earlier -> earlier.compareTo(reason) < 0)
        .filter(earlier -> earlier != Reason.FURTHER_CONDITION)
        .map(earlier -> Sql.not(test(earlier, of)))
        .toList();
  }

  private Expression test(Reason reason, Relation of) {
    return reason == Reason.ALREADY_FILLED
        ? Sql.not(rows.isThere(of, subject()))
        : Sql.any(
            equalities().stream()
                .map(equated -> Sql.isNull(rows.column(of, ours(equated))))
                .toList());
  }

  /**
   * How many rows lack a partner for a reason.
   *
   * @param further what they must meet besides, in the short names of the relation that it gets
   */
  public Question<Long> count(Reason reason, Function<Relation, Expression> further) {
    Having having = having(reason).and(further);
    return Question.count(having.relation(), having.condition());
  }

  /** Some of them by name. */
  public Question<List<NamedRow>> names(
      Reason reason, Function<Relation, Expression> further, int limit) {
    Having having = having(reason).and(further);
    TableUse named = reason == Reason.ALREADY_FILLED ? stillThere() : subject();
    return RowNames.question(rows, having.relation(), named, having.condition(), limit);
  }

  /** How many rows lack a partner for a reason, without a look at the other side if it shows. */
  public Question<Long> countEarly(Reason reason) {
    Having having = early(reason);
    return Question.count(having.relation(), having.condition());
  }

  /** Some of them, each by all tables that tell it from the others. */
  public Question<List<NamedRow>> joinedNames(Reason reason, int limit) {
    Having having = early(reason);
    TableUse named = reason == Reason.ALREADY_FILLED ? stillThere() : subject();
    return left
        ? RowNames.ofJoined(rows, having.relation(), step, named, having.condition(), limit)
        : RowNames.question(rows, having.relation(), named, having.condition(), limit);
  }

  /** Of a row whose subject was filled in: what it still has is on the other side of that join. */
  private TableUse stillThere() {
    List<JoinStep> fills =
        rows.block().stepsThatFill(subject()).stream()
            .filter(earlier -> earlier.number() < step.number())
            .toList();
    List<TableUse> others =
        fills.get(0).right().contains(subject()) ? fills.get(0).left() : fills.get(0).right();
    return others.stream()
        .filter(use -> !mayBeFilled(use))
        .findFirst()
        .orElseGet(() -> others.get(0));
  }

  private boolean mayBeFilled() {
    return left && !equalities().isEmpty() && mayBeFilled(subject());
  }

  /** Whether a column of ours can be NULL, and not since the whole row was filled in. */
  private boolean mayBeEmpty() {
    return equalities().stream()
        .map(this::ours)
        .anyMatch(
            column ->
                column.nullable()
                    || (column.use() != subject() && mayBeFilled(column.use()))
                    || (!left && mayBeFilled(column.use())));
  }

  private boolean mayBeFilled(TableUse use) {
    return rows.block().stepsThatFill(use).stream()
        .anyMatch(earlier -> earlier.number() < step.number());
  }

  private boolean hasFurtherConditions() {
    int linking = linking().size();
    return linking > 0 && linking < step.conjuncts().size();
  }
}
