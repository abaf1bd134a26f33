package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Catalog;
import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * A number that a query in FROM counts or adds up, equated with a key or a reference: that some of
 * them are the same number means nothing. The least and the greatest of keys are keys.
 */
public final class TotalAsKey implements Check {

  private static final Set<String> NUMBERS =
      Set.of("count", "sum", "avg", "row_number", "rank", "dense_rank", "ntile");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : subject.block().steps()) {
      for (Conjunct conjunct : step.conjuncts()) {
        conjunct
            .likeness()
            .flatMap(
                each ->
                    suspicion(each.left(), each.right(), conjunct, step, subject)
                        .or(() -> suspicion(each.right(), each.left(), conjunct, step, subject)))
            .ifPresent(suspicions::add);
      }
    }
    return suspicions;
  }

  private static Optional<Suspicion> suspicion(
      UseColumn total, UseColumn key, Conjunct conjunct, JoinStep step, Subject subject) {
    Catalog catalog = subject.catalog();
    Optional<FunctionCall> call = total(total);
    Optional<UseColumn> base = BaseColumn.of(key);
    boolean keyed =
        base.filter(each -> References.isKey(each) || !References.targets(each, catalog).isEmpty())
            .isPresent();
    if (call.isEmpty() || !keyed) {
      return Optional.empty();
    }
    Optional<String> right =
        total.use().columns().stream()
            .filter(each -> belongs(each, base.get(), subject.block()))
            .map(each -> each.written() + " = " + key.written())
            .findFirst();
    Conclusion conclusion =
        Conclusion.warning(
            total.words()
                + " is a number that is worked out, and "
                + key.words()
                + " says which row: that the two are equal is chance."
                + right.map(condition -> " Join on " + condition + ".").orElse(""),
            List.of(total.words() + " is " + call.get().key().toUpperCase(Locale.ROOT) + " there"),
            right.stream()
                .map(condition -> Instead.of(conjunct, step, condition, subject))
                .flatMap(List::stream)
                .toList());
    return Optional.of(
        new Suspicion(
            Kind.NOT_A_REFERENCE,
            conjunct.span(),
            List.of(conjunct.span(), step.place()),
            List.of(),
            answers -> Optional.of(conclusion)));
  }

  private static Optional<FunctionCall> total(UseColumn column) {
    return column
        .use()
        .query()
        .map(query -> query.outputs().get(column.position()).value())
        .filter(FunctionCall.class::isInstance)
        .map(FunctionCall.class::cast)
        .filter(each -> NUMBERS.contains(each.key()));
  }

  /** Whether a column shows the key, or a reference to it, or to the same. */
  private static boolean belongs(UseColumn column, UseColumn key, QueryBlock block) {
    return BaseColumn.of(column)
        .filter(
            each ->
                (each.use().isOfTable(key.use()) && each.position() == key.position())
                    || !block.linksAlong(new Equated(each, key)).isEmpty()
                    || !Collections.disjoint(
                        References.targets(each, block.catalog()),
                        References.targets(key, block.catalog())))
        .isPresent();
  }
}
