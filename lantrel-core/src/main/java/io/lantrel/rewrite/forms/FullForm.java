package io.lantrel.rewrite.forms;

import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.List;

/**
 * FULL JOIN as two queries, for engines that have none: all rows of one side with their partners,
 * and then the rows of the other side that have none.
 */
final class FullForm {

  private final Reading reading;
  private final QueryBlock block;

  FullForm(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits change() {
    return block.steps().stream()
        .filter(step -> step.kind() == JoinKind.FULL)
        .findFirst()
        .map(step -> FormEdits.of(edits(step)))
        .orElse(FormEdits.NONE);
  }

  private List<Edit> edits(JoinStep step) {
    refuseIfUnfit(step);
    if (step.mergesColumns()) {
      return new UsingForm(reading, block).edits();
    }
    Span whole = block.select().span();
    List<Edit> first = List.of(reading.edits(block).kind(step, JoinKind.LEFT));
    List<Edit> second = new ArrayList<>();
    second.add(reading.edits(block).kind(step, JoinKind.RIGHT));
    String missing = witness(step).written() + " " + reading.edits(block).keyword("IS NULL");
    second.addAll(reading.edits(block).addFilter(missing));
    String word = reading.edits(block).keyword(block.select().distinct() ? "UNION" : "UNION ALL");
    String both =
        reading.edited(block.select(), first)
            + "\n"
            + word
            + "\n"
            + reading.edited(block.select(), second);
    List<Edit> edits = new ArrayList<>();
    edits.add(new Edit(whole, isPart() ? asOneTable(both) : both));
    edits.addAll(order());
    return edits;
  }

  /** Whether other queries stand beside it, put together from left to right. */
  private boolean isPart() {
    return reading
        .query()
        .preorder()
        .filter(QueryBody.SetOperation.class::isInstance)
        .flatMap(node -> ((QueryBody.SetOperation) node).parts().stream())
        .anyMatch(part -> part.span().equals(block.select().span()));
  }

  private String asOneTable(String query) {
    QueryEdits words = reading.edits(block);
    return words.keyword("SELECT")
        + " * "
        + words.keyword("FROM")
        + " (\n"
        + query
        + "\n) "
        + words.keyword("AS")
        + " "
        + reading.aliases().like("halves");
  }

  private void refuseIfUnfit(JoinStep step) {
    boolean computed =
        block.isGrouped()
            || block.outputs().stream().anyMatch(each -> hasWindow(each.value()))
            || block.select().qualify() != null
            || !block.select().distinctOn().isEmpty();
    if (computed) {
      throw new RewriteException(
          "rows are put together after the FULL JOIN; put it into a query of its own in FROM");
    }
    FromItem item = block.select().from();
    while (item instanceof FromItem.Join join
        && !join.equals(step.join())
        && !join.kind().keepsRight()) {
      item = join.left();
    }
    if (!step.join().equals(item)) {
      throw new RewriteException(
          "the FULL JOIN stands within another join; put it into a query of its own in FROM");
    }
  }

  private static boolean hasWindow(Expression value) {
    return value
        .preorder()
        .anyMatch(each -> each instanceof Call.FunctionCall call && call.over() != null);
  }

  /** A column that tells whether a row of the left side is there. */
  private UseColumn witness(JoinStep step) {
    List<UseColumn> present = new ArrayList<>();
    for (TableUse use : step.left()) {
      boolean optional =
          block.stepsThatFill(use).stream().anyMatch(each -> each.number() < step.number());
      if (!optional) {
        use.columns().stream().filter(each -> !each.nullable()).forEach(present::add);
      }
    }
    step.conjuncts().stream()
        .flatMap(each -> block.columnsIn(each.condition()).stream())
        .filter(column -> step.left().contains(column.use()))
        .filter(
            column ->
                step.conjuncts().stream()
                    .anyMatch(each -> NullRejection.rejects(each.condition(), block, column)))
        .forEach(present::add);
    return present.stream()
        .findFirst()
        .orElseThrow(
            () ->
                new RewriteException(
                    "no column of the tables before the FULL JOIN is known never to be NULL, so"
                        + " that none can tell a missing row"));
  }

  /** The order of a UNION knows the output columns only. */
  private List<Edit> order() {
    List<Edit> edits = new ArrayList<>();
    for (OrderItem item : block.query().orderBy()) {
      Expression value = item.value();
      boolean output =
          value instanceof Value.Literal
              || (value instanceof Value.ColumnName name
                  && name.qualifier().isEmpty()
                  && block.outputs().stream()
                      .anyMatch(each -> reading.dialect().means(name.name(), each.name())));
      if (!output) {
        edits.add(new Edit(value.span(), String.valueOf(position(value))));
      }
    }
    return edits;
  }

  private int position(Expression value) {
    for (OutputColumn each : block.outputs()) {
      boolean same =
          block.column(value).isPresent() && block.column(value).equals(block.column(each.value()));
      if (same || reading.text(value).equals(textOf(each))) {
        return each.position() + 1;
      }
    }
    throw new RewriteException(
        "the rows are put in order by "
            + reading.text(value)
            + ", which is not shown; a UNION can only be put in order by what it shows");
  }

  private String textOf(OutputColumn output) {
    return output.value().span().isNowhere() ? "" : reading.text(output.value());
  }
}
