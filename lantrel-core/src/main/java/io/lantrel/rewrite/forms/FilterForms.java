package io.lantrel.rewrite.forms;

import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

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
    return block.writtenSteps().stream()
        .filter(step -> !isFree(step))
        .flatMap(step -> on(step).size() > 1 ? on(step).stream() : Stream.empty())
        .filter(each -> block.mentioned(each).size() == 1)
        .findFirst()
        .map(
            each ->
                FormEdits.belongs(
                    SqlPrinter.text(each)
                        + " stays in ON: that join keeps rows without a partner, and WHERE would"
                        + " drop them"))
        .orElse(FormEdits.NONE);
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
    return queryEdits.terms().stream()
        .filter(each -> block.mentioned(each).size() == 1)
        .filter(each -> isFilled(block.mentioned(each).iterator().next()))
        .findFirst()
        .map(
            each ->
                FormEdits.belongs(
                    SqlPrinter.text(each)
                        + " stays in WHERE: an outer join brings its table, and in ON it would drop"
                        + " no row"))
        .orElse(FormEdits.NONE);
  }

  private Optional<JoinStep> broughtBy(TableUse use) {
    return block.writtenSteps().stream()
        .filter(step -> step.right().equals(List.of(use)))
        .filter(step -> !on(step).isEmpty() && isFree(step))
        .findFirst();
  }

  private boolean isFilled(TableUse use) {
    return block.writtenSteps().stream()
        .anyMatch(step -> step.right().contains(use) && step.kind().isOuter());
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
