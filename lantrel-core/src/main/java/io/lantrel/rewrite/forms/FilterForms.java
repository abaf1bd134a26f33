package io.lantrel.rewrite.forms;

import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Conditions on one table moved between ON and WHERE. At an inner join they decide the same in both
 * places, unless a join around it fills what is missing: then in ON they decide which rows are
 * partners, in WHERE which rows stay, and they are left where they are.
 */
final class FilterForms {

  private final Reading reading;
  private final QueryBlock block;
  private final QueryEdits queryEdits;

  FilterForms(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
    this.queryEdits = reading.edits(block);
  }

  /** From ON into WHERE. */
  FormEdits inWhere() {
    for (JoinStep step : block.writtenSteps()) {
      List<Expression> terms = on(step);
      List<Expression> links = terms.stream().filter(each -> !isFilter(each)).toList();
      Optional<Expression> filter = terms.stream().filter(this::isFilter).findFirst();
      if (filter.isPresent() && !links.isEmpty() && isFree(step)) {
        List<Edit> edits = new ArrayList<>();
        edits.addAll(queryEdits.removeFromOn(step, filter.get()).orElseThrow());
        edits.addAll(queryEdits.addFilter(reading.conjunction(block, List.of(filter.get()))));
        return FormEdits.of(edits);
      }
    }
    return FormEdits.NONE;
  }

  /** From WHERE into the ON of the join that brings the table. */
  FormEdits inOn() {
    for (Expression term : queryEdits.terms()) {
      Optional<JoinStep> step =
          isFilter(term) && block.mentioned(term).size() == 1
              ? broughtBy(block.mentioned(term).iterator().next())
              : Optional.empty();
      if (step.isPresent()) {
        List<Edit> edits = new ArrayList<>();
        edits.addAll(
            queryEdits
                .addToOn(step.get(), reading.conjunction(block, List.of(term)))
                .orElseThrow());
        edits.addAll(queryEdits.removeTerms(List.of(term)));
        return FormEdits.of(edits);
      }
    }
    return FormEdits.NONE;
  }

  private Optional<JoinStep> broughtBy(TableUse use) {
    return block.writtenSteps().stream()
        .filter(step -> step.right().equals(List.of(use)))
        .filter(step -> !on(step).isEmpty() && isFree(step))
        .findFirst();
  }

  /** What a join demands in ON; nothing if it has none. */
  private static List<Expression> on(JoinStep step) {
    if (!(step.join().condition() instanceof JoinCondition.On on)) {
      return List.of();
    }
    return Condition.terms(on.condition());
  }

  private boolean isFilter(Expression condition) {
    return block.mentioned(condition).size() <= 1;
  }

  /** Whether it is an inner join, and no join around it fills what it gives. */
  private boolean isFree(JoinStep step) {
    return step.kind() == JoinKind.INNER
        && step.join().way() == FromItem.Way.BY_CONDITION
        && block.writtenSteps().stream()
            .filter(each -> !each.equals(step) && each.join().span().contains(step.join().span()))
            .noneMatch(each -> step.right().stream().anyMatch(each.optional()::contains));
  }
}
