package io.lantrel.check.kinds.totals;

import io.lantrel.check.suspicion.Subject;
import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A join of a table of which nothing is shown or tested elsewhere: an outer one can go, an inner
 * one only asks whether there is a partner, and EXISTS asks that without repeating a row.
 */
public final class IdleJoin {

  private final JoinStep step;
  private final TableUse counted;
  private final Subject subject;

  /**
   * @param counted a table use on the left of the step, which is to stay
   */
  public IdleJoin(JoinStep step, TableUse counted, Subject subject) {
    this.step = step;
    this.counted = counted;
    this.subject = subject;
  }

  /** The edits that take the join out; empty if its table is needed. */
  public Optional<List<Edit>> removal() {
    if (!canGo()) {
      return Optional.empty();
    }
    Span join = join();
    if (step.kind() == JoinKind.LEFT) {
      return Optional.of(List.of(new Edit(join, "")));
    }
    return step.kind() == JoinKind.INNER ? Optional.of(intoExists(join)) : Optional.empty();
  }

  /** The same without asking for a partner instead, which every row is known to have. */
  public Optional<List<Edit>> takenOut() {
    return canGo() ? Optional.of(List.of(new Edit(join(), ""))) : Optional.empty();
  }

  private boolean canGo() {
    return step.right().size() == 1
        && step.left().contains(counted)
        && step.join().right() instanceof FromItem.TableName
        && step.join().condition() instanceof JoinCondition.On
        && !isNeeded(step.right().get(0));
  }

  private Span join() {
    return new Span(endOfLeft(), step.join().span().end());
  }

  private int endOfLeft() {
    return step.join().left().span().end();
  }

  private boolean isNeeded(TableUse use) {
    QueryBlock block = subject.block();
    Stream<Expression> elsewhere =
        Stream.of(
                block.isOnlyAskedForARow()
                    ? Stream.<Expression>empty()
                    : block.outputs().stream().map(output -> output.value()),
                block.filters().stream().map(filter -> filter.condition()),
                block.groupedBy().stream(),
                block.query().orderBy().stream().map(item -> item.value()),
                Stream.ofNullable(block.select().having()),
                block.steps().stream()
                    .filter(other -> other.number() != step.number())
                    .flatMap(other -> other.conjuncts().stream())
                    .map(conjunct -> conjunct.condition()))
            .flatMap(each -> each);
    return elsewhere.anyMatch(expression -> block.mentioned(expression).contains(use));
  }

  private List<Edit> intoExists(Span join) {
    QueryEdits edits = subject.edits();
    String table = subject.source().at(step.join().right().span());
    JoinCondition.On on = (JoinCondition.On) step.join().condition();
    String condition =
        String.format(
            "%s (%s 1 %s %s %s %s)",
            edits.keyword("EXISTS"),
            edits.keyword("SELECT"),
            edits.keyword("FROM"),
            table,
            edits.keyword("WHERE"),
            subject.source().at(Objects.requireNonNull(on).condition().span()));
    List<Edit> all = new ArrayList<>(List.of(new Edit(join, "")));
    all.addAll(edits.addFilter(condition));
    return all;
  }
}
