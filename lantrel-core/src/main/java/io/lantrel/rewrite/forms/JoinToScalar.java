package io.lantrel.rewrite.forms;

import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;

/**
 * A LEFT JOIN that only adds columns to rows, as a scalar subquery for each of them. A row has one
 * partner at most, and nothing but SELECT looks at it.
 */
final class JoinToScalar {

  private final Reading reading;
  private final QueryBlock block;

  JoinToScalar(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits change() {
    FormEdits stays = FormEdits.NONE;
    for (int i = block.writtenSteps().size() - 1; i >= 0; i--) {
      JoinStep step = block.writtenSteps().get(i);
      if (step.join().kind() == JoinKind.LEFT) {
        String refusal = refusal(step);
        if (refusal.isEmpty()) {
          return FormEdits.of(
              NameForms.hasStar(block) ? NameForms.columns(reading, block) : edits(step));
        }
        stays =
            FormEdits.stays("the join of " + Reading.names(step.right()) + " stays: " + refusal);
      }
    }
    return stays;
  }

  /** Why it must stay; empty if it need not. */
  private String refusal(JoinStep step) {
    if (step.right().size() != 1
        || !(step.join().condition() instanceof JoinCondition.On)
        || step.join().way() != FromItem.Way.BY_CONDITION
        || step.right().get(0).isDependent()) {
      return "it is more than a table with a condition in ON";
    }
    TableUse use = step.right().get(0);
    if (!use.isNamed()) {
      return "it has no name";
    }
    if (block.stepsThatFill(use).size() > 1) {
      return "another join fills its columns too";
    }
    if (!block.partnersOnTheRight(step).isSingle()) {
      return "a row may have several partners";
    }
    if (block.isGrouped()) {
      return "the rows are grouped";
    }
    List<Node> others = new ArrayList<>(block.select().children());
    others.removeAll(block.select().items());
    others.remove(Objects.requireNonNull(block.select().from()));
    others.addAll(block.query().orderBy());
    for (JoinStep each : block.writtenSteps()) {
      if (!each.equals(step)) {
        each.conjuncts().forEach(one -> others.add(one.condition()));
      }
    }
    boolean onlyShown =
        others.stream().allMatch(each -> reading.isFreeOf(each, step.right()))
            && isFreeWithin(step);
    return onlyShown ? "" : "its columns are used outside of SELECT too";
  }

  /** Whether no subquery in SELECT, and no other item of FROM, looks at it. */
  private boolean isFreeWithin(JoinStep step) {
    List<Node> shown =
        block.select().items().stream()
            .flatMap(Aggregates::withoutQueries)
            .filter(ColumnName.class::isInstance)
            .toList();
    boolean items =
        block.select().items().stream()
            .flatMap(SelectItem::preorder)
            .filter(node -> node instanceof ColumnName && !shown.contains(node))
            .allMatch(node -> reading.isFreeOf(node, step.right()));
    return items
        && block.uses().stream()
            .filter(use -> use != step.right().get(0))
            .allMatch(use -> reading.isFreeOf(use.item(), step.right()));
  }

  private List<Edit> edits(JoinStep step) {
    TableUse use = step.right().get(0);
    FromItem.Join join = step.join();
    Expression on = ((JoinCondition.On) Objects.requireNonNull(join.condition())).condition();
    List<Edit> edits = new ArrayList<>();
    for (SelectItem item : block.select().items()) {
      item.preorder()
          .filter(ColumnName.class::isInstance)
          .map(ColumnName.class::cast)
          .filter(name -> reading.isOf(name, List.of(use)))
          .forEach(name -> edits.add(new Edit(name.span(), value(name, item, join, on))));
    }
    String before = reading.source().text().substring(0, join.keyword().start());
    edits.add(new Edit(new Span(before.stripTrailing().length(), join.span().end()), ""));
    return edits.stream().distinct().toList();
  }

  private String value(ColumnName name, SelectItem item, FromItem.Join join, Expression on) {
    boolean bare =
        item instanceof SelectItem.Output output
            && output.value().equals(name)
            && output.label() == null;
    String column = ((Binding.ToColumn) reading.resolution().binding(name)).column().written();
    return "("
        + word("SELECT ")
        + column
        + word(" FROM ")
        + reading.text(join.right())
        + word(" WHERE ")
        + reading.qualified(on)
        + ")"
        + (bare
            ? reading.edits(block).beforeLabel() + reading.source().at(name.name().span())
            : "");
  }

  private String word(String keyword) {
    return reading.edits(block).keyword(keyword);
  }
}
