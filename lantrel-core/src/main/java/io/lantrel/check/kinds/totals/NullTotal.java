package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** SUM over nothing is NULL, not 0 (ISO/IEC 9075-2, 10.9, general rules). */
public final class NullTotal implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Suspicion> suspicions = new ArrayList<>();
    if (block.groupedBy().isEmpty()) {
      return suspicions;
    }
    for (OutputColumn output : block.outputs()) {
      // Whatever is added to nothing, or taken from it, is nothing too.
      Expression value = output.value();
      while (value instanceof Arithmetic sum && isSumOrDifference(sum)) {
        value = isSum(sum.left()) || sum.left() instanceof Arithmetic ? sum.left() : sum.right();
      }
      if (value instanceof FunctionCall call
          && call.key().equals("sum")
          && call.over() == null
          && call.arguments().size() == 1) {
        Set<TableUse> uses = block.mentioned(call.arguments().get(0));
        boolean optional =
            uses.size() == 1 && uses.stream().allMatch(use -> isOptionalChild(use, block));
        if (optional && suspicions.isEmpty()) {
          suspicions.add(suspicion(call, uses.iterator().next(), subject));
        }
      }
    }
    return suspicions;
  }

  private static boolean isSumOrDifference(Arithmetic value) {
    return value.operator() == ArithmeticOperator.PLUS
        || value.operator() == ArithmeticOperator.MINUS;
  }

  private static boolean isSum(Expression value) {
    return value instanceof FunctionCall call && call.key().equals("sum");
  }

  /** Rows of which another has any number, none among them. */
  private static boolean isOptionalChild(TableUse use, QueryBlock block) {
    return block.stepsThatFill(use).stream()
        .anyMatch(
            step ->
                step.kind().keepsLeft()
                    ? !block.partnersOnTheRight(step).isSingle()
                    : !block.partnersOnTheLeft(step).isSingle());
  }

  private static Suspicion suspicion(FunctionCall call, TableUse use, Subject subject) {
    Optional<Question<Long>> filled =
        subject.rows().map(rows -> Question.count(rows.all(), filled(rows, use, call)));
    String right = "COALESCE(" + subject.text(call) + ", 0)";
    return Suspicion.asking(
        Kind.NULL_TOTAL,
        call.span(),
        List.of(call.span()),
        filled,
        count ->
            count.orElse(0L) == 0
                ? Optional.empty()
                : Optional.of(
                    new Conclusion(
                        Severity.NOTE,
                        subject.text(call)
                            + " is NULL, not 0, where there is no "
                            + use.rowWord()
                            + ". Write "
                            + right
                            + " if 0 is meant.",
                        new Evidence(
                            Map.of("rows without a value to add", count.get()),
                            List.of(),
                            List.of(
                                Words.rows(count.get())
                                    + (count.get() == 1 ? " has no " : " have no ")
                                    + use.rowWord())),
                        List.of(
                            List.of(
                                Edit.insert(
                                    call.span().start(), subject.edits().keyword("COALESCE") + "("),
                                Edit.insert(call.span().end(), ", 0)"))))));
  }

  /** Where there is no row of it, and so no value: what CASE or COALESCE put there is one. */
  private static Expression filled(JoinedRows rows, TableUse use, FunctionCall call) {
    return rows.isKept(
        Sql.not(rows.isThere(rows.all(), use)),
        Sql.isNull(rows.value(rows.all(), call.arguments().get(0))));
  }
}
