package io.lantrel.probe;

import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** The rows of one side of a join step that have no partner, and why. */
public final class Unmatched {

  private final JoinedRows rows;
  private final JoinStep step;
  private final boolean left;
  private final Relation relation;

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

  /** The relation that the rows are taken from. */
  public Relation relation() {
    return relation;
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

  /** Whether a row of {@link #relation()} is there and has no partner. */
  public Expression condition() {
    return left ? Sql.all(List.of(rows.reached(step), rows.isAlone(step))) : Sql.always();
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

  /** Whether a row without a partner lacks it for this reason; each row has just one. */
  public Expression because(Reason reason) {
    List<Expression> conditions = new ArrayList<>();
    for (Reason earlier : reasons()) {
      if (earlier.compareTo(reason) < 0) {
        conditions.add(Sql.not(test(earlier)));
      }
    }
    if (reason != Reason.NO_PARTNER) {
      conditions.add(test(reason));
    }
    return Sql.all(conditions);
  }

  private Expression test(Reason reason) {
    return switch (reason) {
      case ALREADY_FILLED -> Sql.not(rows.isThere(relation, subject()));
      case EMPTY_REFERENCE ->
          Sql.any(
              equalities().stream()
                  .map(equated -> Sql.isNull(rows.column(relation, ours(equated))))
                  .toList());
      case FURTHER_CONDITION -> rows.meetsOnTheOtherSide(relation, step, left, linking());
      case NO_PARTNER -> Sql.always();
    };
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
                    || (!left && !rows.block().stepsThatFill(column.use()).isEmpty()));
  }

  private boolean mayBeFilled(TableUse use) {
    return rows.block().stepsThatFill(use).stream()
        .anyMatch(earlier -> earlier.number() < step.number());
  }

  private boolean hasFurtherConditions() {
    int linking = linking().size();
    return linking > 0 && linking < step.conjuncts().size();
  }

  /** Of the rows of one table use that meet a condition, some by name. */
  public Question<List<NamedRow>> named(Expression further, int limit) {
    return RowNames.question(
        rows, relation, subject(), Sql.all(List.of(condition(), further)), limit);
  }
}
