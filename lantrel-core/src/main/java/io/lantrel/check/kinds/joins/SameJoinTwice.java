package io.lantrel.check.kinds.joins;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** Two uses of one table that are joined by the same condition: each row is fetched twice. */
public final class SameJoinTwice implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    Map<String, TableUse> seen = new HashMap<>();
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : block.steps()) {
      if (step.right().size() == 1 && step.right().get(0).table().isPresent()) {
        TableUse use = step.right().get(0);
        Set<String> conditions = conditions(step, use, block);
        if (!conditions.isEmpty()) {
          String name =
              use.table().orElseThrow().schema()
                  + "."
                  + use.table().orElseThrow().name()
                  + step.kind()
                  + conditions;
          TableUse first = seen.putIfAbsent(name, use);
          if (first != null) {
            suspicions.add(suspicion(step, first, block));
          }
        }
      }
    }
    return suspicions;
  }

  /** What it is joined by, and what else is demanded of it alone, without its name. */
  private static Set<String> conditions(JoinStep step, TableUse use, QueryBlock block) {
    Set<String> conditions = new TreeSet<>();
    for (Conjunct conjunct : step.conjuncts()) {
      if (conjunct.likeness().isEmpty() && conjunct.uses().size() > 1) {
        return Set.of();
      }
      conditions.add(text(conjunct.condition(), conjunct, use, block));
    }
    boolean linked = step.conjuncts().stream().anyMatch(each -> each.likeness().isPresent());
    for (Conjunct filter : block.filters()) {
      if (filter.uses().contains(use)) {
        if (filter.uses().size() > 1) {
          return Set.of();
        }
        conditions.add("where " + text(filter.condition(), filter, use, block));
      }
    }
    return linked ? conditions : Set.of();
  }

  private static String text(
      Expression condition, Conjunct conjunct, TableUse use, QueryBlock block) {
    if (conjunct.likeness().isPresent()) {
      Conjunct.Equated equated = conjunct.likeness().get();
      if (equated.of(use).isPresent()) {
        return equated.of(use).get().name() + " = " + equated.other(equated.of(use).get()).words();
      }
    }
    Expression nameless =
        new ColumnReplacer(
                name ->
                    block.column(name).filter(column -> column.use().equals(use)).isPresent()
                        ? new ColumnName(name.span(), List.of(), name.name())
                        : name)
            .apply(condition);
    return SqlPrinter.print(nameless, block.dialect());
  }

  private static Suspicion suspicion(JoinStep step, TableUse first, QueryBlock block) {
    TableUse second = step.right().get(0);
    boolean single = block.partnersOnTheRight(step).isSingle();
    String message =
        second.words()
            + " is joined by the same condition as "
            + first.words()
            + ": "
            + (single
                ? "both are always the same row. Use " + first.name() + " for both."
                : "every row of the one meets every row of the other. Leave one out, or say in its"
                    + " condition what tells the two apart.");
    Conclusion conclusion =
        single
            ? Conclusion.note(message, List.of(fact(step)), List.of())
            : Conclusion.warning(message, List.of(fact(step)), List.of());
    return new Suspicion(
        Kind.SAME_JOIN_TWICE,
        step.place(),
        List.of(step.place()),
        List.of(),
        answers -> Optional.of(conclusion));
  }

  private static String fact(JoinStep step) {
    return "their conditions differ in nothing but the names: "
        + String.join(
            ", ",
            step.conjuncts().stream().map(each -> SqlPrinter.text(each.condition())).toList());
  }
}
