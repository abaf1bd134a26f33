package io.lantrel.rewrite.forms;

import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;

/** USING and NATURAL as ON; the columns that they made one are told apart again. */
final class UsingForm {

  private final Reading reading;
  private final QueryBlock block;
  private final QueryEdits queryEdits;

  UsingForm(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
    this.queryEdits = reading.edits(block);
  }

  List<Edit> edits() {
    // From the outside in: a column that several joins made one belongs to the last of them.
    for (int i = block.steps().size() - 1; i >= 0; i--) {
      JoinStep step = block.steps().get(i);
      if (step.mergesColumns()) {
        return edits(step);
      }
    }
    return List.of();
  }

  private List<Edit> edits(JoinStep step) {
    // * shows a column of USING or NATURAL once, and would show it twice.
    if (NameForms.hasStar(block)) {
      return NameForms.columns(reading, block);
    }
    List<Equated> pairs =
        step.conjuncts().stream().flatMap(each -> each.equality().stream()).toList();
    if (pairs.size() != step.conjuncts().size() || pairs.isEmpty()) {
      throw new RewriteException("this NATURAL or USING joins columns that were merged before");
    }
    List<Edit> edits = new ArrayList<>();
    String on =
        String.join(
            " " + queryEdits.keyword("AND") + " ",
            pairs.stream()
                .map(each -> each.left().written() + " = " + each.right().written())
                .toList());
    FromItem.Join join = step.join();
    if (join.condition() instanceof JoinCondition.Using using) {
      edits.add(new Edit(using.span(), queryEdits.keyword("ON") + " " + on));
    } else {
      String words = reading.source().at(join.keyword()).replaceFirst("(?i)^natural\\s+", "");
      edits.add(new Edit(join.keyword(), words));
      edits.add(Edit.insert(join.right().span().end(), " " + queryEdits.keyword("ON") + " " + on));
    }
    block
        .query()
        .preorder()
        .filter(ColumnName.class::isInstance)
        .map(ColumnName.class::cast)
        .filter(name -> name.qualifier().isEmpty())
        .forEach(name -> addIfMerged(name, step, pairs, edits));
    return edits.stream().distinct().toList();
  }

  private void addIfMerged(ColumnName name, JoinStep step, List<Equated> pairs, List<Edit> edits) {
    Binding binding = block.binding(name);
    if (binding instanceof Binding.ToColumn bound && isOneOf(bound.column(), pairs)) {
      edits.add(Edit.insert(name.span().start(), bound.column().use().written() + "."));
    }
    if (!(binding instanceof Binding.ToMerged merged)) {
      return;
    }
    for (Equated pair : pairs) {
      List<UseColumn> both = List.of(pair.left(), pair.right());
      if (merged.columns().containsAll(both)) {
        if (merged.columns().size() > 2) {
          throw new RewriteException(
              name.name().text() + " is one column of more than two tables here");
        }
        edits.add(new Edit(name.span(), one(name, step.kind(), pair)));
      }
    }
  }

  private static boolean isOneOf(UseColumn column, List<Equated> pairs) {
    return pairs.stream()
        .anyMatch(each -> each.left().equals(column) || each.right().equals(column));
  }

  private String one(ColumnName name, JoinKind kind, Equated pair) {
    if (kind == JoinKind.FULL) {
      boolean shown =
          block.select().items().stream()
              .anyMatch(
                  item ->
                      item instanceof SelectItem.Output output
                          && output.value().equals(name)
                          && output.label() == null);
      return "COALESCE("
          + pair.left().written()
          + ", "
          + pair.right().written()
          + ")"
          + (shown ? " AS " + reading.source().at(name.span()) : "");
    }
    return (kind == JoinKind.RIGHT ? pair.right() : pair.left()).written();
  }
}
