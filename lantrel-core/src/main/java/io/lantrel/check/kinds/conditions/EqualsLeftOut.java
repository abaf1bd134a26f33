package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Pairs of rows of one table, each of which comes once because one name lies before the other: of
 * two rows with the same name neither does, and their pair is lost. Days and amounts are compared
 * for their own sake; the order of two names means nothing.
 */
public final class EqualsLeftOut implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    if (subject.rows().isPresent()) {
      for (SelfJoin join : SelfJoin.in(subject)) {
        join.ordered(subject)
            .filter(order -> join.isEven(order, subject))
            .filter(order -> isAllSaidOfFirst(join, subject))
            .flatMap(order -> suspicion(join, order, subject))
            .ifPresent(suspicions::add);
      }
    }
    return suspicions;
  }

  private static Optional<Suspicion> suspicion(SelfJoin join, Conjunct order, Subject subject) {
    Condition.Comparison comparison = (Condition.Comparison) order.condition();
    return subject
        .ownColumn(comparison.left())
        .filter(column -> column.type().family() == TypeFamily.TEXT)
        .filter(column -> !join.first().keyColumns().isEmpty())
        .filter(column -> isShown(column, subject))
        .map(
            column ->
                Suspicion.counting(
                    Kind.MIRRORED_PAIRS,
                    order.span(),
                    List.of(order.span(), join.step().place()),
                    several(join, column, subject.rows().orElseThrow()),
                    values -> conclude(join, comparison, column, values)));
  }

  /** The rows that would be a pair are sought among the first: WHERE must not say more of them. */
  private static boolean isAllSaidOfFirst(SelfJoin join, Subject subject) {
    return subject.block().filters().stream()
        .filter(each -> !join.between().contains(each))
        .noneMatch(each -> each.uses().contains(join.second()));
  }

  /** Pairs of names: of other columns a text may be compared since it must differ. */
  private static boolean isShown(UseColumn column, Subject subject) {
    QueryBlock block = subject.block();
    return !block.select().distinct()
        && block.outputs().stream()
            .anyMatch(each -> block.columnsIn(each.value()).contains(column));
  }

  /** How many values are those of several rows that would be a pair. */
  private static Question<Long> several(SelfJoin join, UseColumn compared, JoinedRows rows) {
    Relation side = rows.side(join.first().item());
    List<Expression> shared = new ArrayList<>();
    join.between().stream()
        .flatMap(each -> join.shared(each).stream())
        .map(each -> join.first().columns().get(each.position()))
        .forEach(each -> shared.add(rows.column(side, each)));
    shared.add(rows.column(side, join.first().columns().get(compared.position())));
    List<Expression> meant =
        new ArrayList<>(List.of(rows.holdsOfFilters(side, List.of(join.first()))));
    shared.forEach(each -> meant.add(Sql.isNotNull(each)));
    return Question.groups(side, shared, Sql.greater(Sql.countIf(Sql.all(meant)), Sql.number(1)));
  }

  private static Conclusion conclude(
      SelfJoin join, Condition.Comparison comparison, UseColumn column, long values) {
    Optional<String> byKey = join.byKey(column.use(), comparison.operator());
    String message =
        "Of two "
            + Words.plural(join.first().rowWord())
            + " with the same "
            + column.name()
            + " neither comes before the other, so their pair is left out, and "
            + Words.count(values, column.name())
            + (values == 1 ? " is that" : " are those")
            + " of several. "
            + byKey.map(each -> "Write " + each + ".").orElse("Compare the columns of a key.");
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            Map.of("values of several rows", values),
            List.of(),
            List.of(column.words() + " is no key")),
        byKey.stream().map(each -> List.of(new Edit(comparison.span(), each))).toList());
  }
}
