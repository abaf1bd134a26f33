package io.lantrel.rewrite.forms;

import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;

/**
 * LEFT JOIN and IS NULL as NOT EXISTS. The test finds the rows without a partner only if the tested
 * column is never NULL in a partner; and the joined table must serve for nothing else.
 */
final class JoinToExists {

  private final Reading reading;
  private final QueryBlock block;

  JoinToExists(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits change() {
    for (Expression term : reading.edits(block).terms()) {
      if (term instanceof Condition.IsNull test && !test.negated()) {
        Optional<JoinStep> step =
            block.column(test.value()).filter(block::isOwn).flatMap(column -> step(column));
        if (step.isPresent()) {
          if (step.get().mergesColumns()) {
            return FormEdits.of(new UsingForm(reading, block).edits());
          }
          refuseIfOfFurtherUse(step.get(), test);
          return FormEdits.of(edits(step.get(), test));
        }
      }
    }
    return FormEdits.NONE;
  }

  /** The join that alone makes this column NULL. */
  private Optional<JoinStep> step(UseColumn column) {
    List<JoinStep> fills = block.stepsThatFill(column.use());
    if (fills.size() != 1) {
      return Optional.empty();
    }
    JoinStep step = fills.get(0);
    boolean present =
        !column.nullable()
            || step.conjuncts().stream()
                .anyMatch(each -> NullRejection.rejects(each.condition(), block, column));
    return step.kind() == JoinKind.LEFT
            && step.right().contains(column.use())
            && step.join().way() == FromItem.Way.BY_CONDITION
            && present
            && isOnTop(step.join())
        ? Optional.of(step)
        : Optional.empty();
  }

  /** Whether nothing but joins that keep its rows as they are stands around it. */
  private boolean isOnTop(FromItem.Join wanted) {
    FromItem item = block.select().from();
    while (item instanceof FromItem.Join join && !join.equals(wanted)) {
      if (join.inParentheses() || join.kind().keepsRight()) {
        return false;
      }
      boolean right = join.right().span().contains(wanted.span());
      if (right && join.kind() != JoinKind.COMMA) {
        return false;
      }
      item = right ? join.right() : join.left();
    }
    return wanted.equals(item) && !wanted.inParentheses();
  }

  private void refuseIfOfFurtherUse(JoinStep step, Condition.IsNull test) {
    String joined = Reading.names(step.right());
    if (block.select().items().stream().anyMatch(SelectItem.AllColumns.class::isInstance)) {
      throw new RewriteException(
          "* shows the columns of " + joined + " too, all empty; write out what it is to show");
    }
    if (step.right().stream().anyMatch(TableUse::isDependent)) {
      throw new RewriteException(joined + " depends on the row that it is joined to");
    }
    List<Node> others = new ArrayList<>(block.select().children());
    others.remove(Objects.requireNonNull(block.select().from()));
    others.remove(Objects.requireNonNull(block.select().where()));
    others.addAll(block.query().orderBy());
    others.addAll(reading.edits(block).terms());
    others.remove(test);
    block.steps().stream()
        .filter(each -> !each.equals(step) && !step.right().containsAll(each.right()))
        .forEach(each -> each.conjuncts().forEach(one -> others.add(one.condition())));
    if (!others.stream().allMatch(each -> reading.isFreeOf(each, step.right()))) {
      throw new RewriteException(
          "columns of "
              + joined
              + " are used besides, where they are always empty; take them out first");
    }
  }

  private List<Edit> edits(JoinStep step, Condition.IsNull test) {
    FromItem.Join join = step.join();
    Expression on = ((JoinCondition.On) Objects.requireNonNull(join.condition())).condition();
    QueryEdits words = reading.edits(block);
    // What stands between them stays: comments, and the layout of the condition.
    Span table = new Span(join.keyword().end(), join.right().span().end());
    Span gap = Span.between(join.right().span(), on.span());
    String where = reading.source().at(gap).replaceFirst("(?i)\\bON\\b", words.keyword("WHERE"));
    String query =
        words.keyword("NOT EXISTS")
            + " ("
            + words.keyword("SELECT")
            + " 1 "
            + words.keyword("FROM")
            + reading.source().at(table)
            + where
            + reading.text(on)
            + ")";
    String before = reading.source().text().substring(0, join.keyword().start());
    Span gone = new Span(before.stripTrailing().length(), join.span().end());
    return List.of(new Edit(gone, ""), new Edit(test.span(), query));
  }
}
