package io.lantrel.probe;

import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** The rows of one side of a join step that have no partner, and why. */
public final class Unmatched {

  private final Chain chain;
  private final JoinStep step;
  private final boolean left;

  private Unmatched(Chain chain, JoinStep step, boolean left) {
    this.chain = chain;
    this.step = step;
    this.left = left;
  }

  /** Rows so far that have no partner in what is joined. */
  public static Unmatched ofTheLeft(Chain chain, JoinStep step) {
    return new Unmatched(chain, step, true);
  }

  /** Rows of what is joined that have no partner in the rows so far. */
  public static Unmatched ofTheRight(Chain chain, JoinStep step) {
    return new Unmatched(chain, step, false);
  }

  /** The relation that the rows are taken from. */
  public String relation() {
    return left ? chain.pairs(step) : chain.relation(step.join().right());
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
    return step.conjuncts().stream()
        .map(Conjunct::equality)
        .flatMap(Optional::stream)
        .filter(each -> side().contains(each.left().use()) != side().contains(each.right().use()))
        .toList();
  }

  private UseColumn ours(Equated equated) {
    return side().contains(equated.left().use()) ? equated.left() : equated.right();
  }

  /** Whether a row of {@link #relation()} has no partner. */
  public Expression condition() {
    if (left) {
      return Sql.isNull(chain.rightRow(step));
    }
    return Sql.not(chain.isPartner(step, chain.row(relation())));
  }

  /** The reasons that the condition of the step leaves room for, in the order of {@link Reason}. */
  public List<Reason> reasons() {
    List<Reason> reasons = new ArrayList<>();
    if (mayBeFilled()) {
      reasons.add(Reason.ALREADY_FILLED);
    }
    if (!equalities().isEmpty()) {
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
      case ALREADY_FILLED -> Sql.isNull(chain.rowOf(relation(), subject()));
      case EMPTY_REFERENCE -> emptyReference();
      case FURTHER_CONDITION -> almost();
      case NO_PARTNER -> Sql.always();
    };
  }

  private boolean mayBeFilled() {
    return left
        && !equalities().isEmpty()
        && chain.block().stepsThatFill(subject()).stream()
            .anyMatch(earlier -> earlier.number() < step.number());
  }

  private boolean hasFurtherConditions() {
    List<Equated> equalities = equalities();
    return !equalities.isEmpty() && equalities.size() < step.conjuncts().size();
  }

  private Expression emptyReference() {
    return any(
        equalities().stream()
            .map(equated -> Sql.isNull(chain.column(relation(), ours(equated))))
            .toList());
  }

  private static Expression any(List<Expression> conditions) {
    return conditions.size() == 1 ? conditions.get(0) : new Condition.Or(Span.NOWHERE, conditions);
  }

  /**
   * Whether a row on the other side meets the equalities, so that another condition kept it off.
   */
  private Expression almost() {
    List<Equated> equalities = equalities();
    FromItem item = left ? step.join().right() : step.join().left();
    String other = chain.relation(item);
    List<Expression> conditions =
        equalities.stream()
            .map(
                equated ->
                    Sql.equal(
                        chain.column(other, equated.other(ours(equated))),
                        chain.column(relation(), ours(equated))))
            .toList();
    QueryBody.Select found =
        Sql.select(List.of(Sql.as(Sql.number(1), "one")), Sql.table(other), Sql.all(conditions));
    return Sql.exists(found);
  }

  /** A SELECT over these rows, with a further condition. */
  public QueryBody.Select select(List<SelectItem> items, @Nullable Expression further) {
    List<Expression> conditions = new ArrayList<>(List.of(condition()));
    if (further != null) {
      conditions.add(further);
    }
    return Sql.select(items, Sql.table(relation()), Sql.all(conditions));
  }
}
