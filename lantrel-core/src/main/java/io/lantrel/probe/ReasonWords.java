package io.lantrel.probe;

import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.SqlPrinter;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/** Says in the user's names why rows of one side of a join have no partner. */
public final class ReasonWords {

  private ReasonWords() {}

  /**
   * The reason in words.
   *
   * @param left whether the rows are those of the left side
   */
  public static String of(Reason reason, JoinStep step, boolean left) {
    List<TableUse> side = left ? step.left() : step.right();
    List<Equated> equalities =
        step.conjuncts().stream().map(Conjunct::equality).flatMap(Optional::stream).toList();
    String columns =
        equalities.stream().map(each -> ours(each, side).words()).collect(Collectors.joining(", "));
    String others =
        equalities.stream()
            .map(each -> each.other(ours(each, side)).words())
            .collect(Collectors.joining(", "));
    return switch (reason) {
      case ALREADY_FILLED -> columns + " is NULL since an earlier join filled it";
      case EMPTY_REFERENCE -> columns + " is empty";
      case FURTHER_CONDITION -> "a partner is there, but not " + further(step, equalities);
      case NO_PARTNER ->
          equalities.isEmpty()
              ? "no row meets the condition"
              : "no " + others + " has the value of " + columns;
    };
  }

  private static UseColumn ours(Equated equated, List<TableUse> side) {
    return side.contains(equated.left().use()) ? equated.left() : equated.right();
  }

  private static String further(JoinStep step, List<Equated> equalities) {
    return step.conjuncts().stream()
        .filter(each -> each.equality().filter(equalities::contains).isEmpty())
        .map(each -> SqlPrinter.print(each.condition()))
        .collect(Collectors.joining(" AND "));
  }
}
