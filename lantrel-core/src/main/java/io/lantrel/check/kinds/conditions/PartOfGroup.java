package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Key;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A query that has a row for each group, joined to its own table by a part of what it is grouped
 * by, or only by a total: a row meets the totals of other groups too.
 */
public final class PartOfGroup implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.block().steps().stream()
        .flatMap(step -> ofGroups(step, subject).stream())
        .toList();
  }

  private static Optional<Suspicion> ofGroups(JoinStep step, Subject subject) {
    if (step.right().size() != 1 || step.right().get(0).query().isEmpty()) {
      return Optional.empty();
    }
    TableUse right = step.right().get(0);
    for (Key key : right.keys()) {
      Map<UseColumn, UseColumn> pairs = pairs(key, right, step.left());
      List<Conjunct> used =
          step.conjuncts().stream()
              .filter(each -> each.likeness().filter(pair -> isOf(pair, pairs)).isPresent())
              .toList();
      boolean whole = !pairs.isEmpty() && pairs.size() == key.columns().size();
      boolean some = used.isEmpty() ? isByTotal(step, right, key) : used.size() < pairs.size();
      if (whole && some) {
        List<String> missing = new ArrayList<>();
        pairs.forEach(
            (own, other) -> {
              if (!subject.block().equalTo(own).contains(other) && !isEquated(own, other, step)) {
                missing.add(own.written() + " = " + other.written());
              }
            });
        if (!missing.isEmpty()) {
          Optional<JoinedRows> rows = subject.rows();
          return Optional.of(
              used.isEmpty()
                  ? new Joined(step, right, step.conjuncts(), missing, true)
                      .suspicion(rows.map(each -> besideOthers(pairs, each)), subject)
                  : new Joined(step, right, used, missing, false)
                      .suspicion(rows.map(each -> each.repeated(step).count()), subject));
        }
      }
    }
    return Optional.empty();
  }

  /**
   * Whether an equality joins it by something else than its key. The greatest key of a group is of
   * that group alone.
   */
  private static boolean isByTotal(JoinStep step, TableUse right, Key key) {
    List<Equated> pairs =
        step.conjuncts().stream().flatMap(each -> each.likeness().stream()).toList();
    return pairs.stream()
            .noneMatch(pair -> References.isKey(pair.left()) || References.isKey(pair.right()))
        && pairs.stream()
            .flatMap(pair -> pair.of(right).stream())
            .anyMatch(column -> !key.columns().contains(column.name()));
  }

  private static boolean isOf(Equated pair, Map<UseColumn, UseColumn> pairs) {
    return pair.right().equals(pairs.get(pair.left()))
        || pair.left().equals(pairs.get(pair.right()));
  }

  private static boolean isEquated(UseColumn one, UseColumn other, JoinStep step) {
    return step.conjuncts().stream()
        .flatMap(each -> each.likeness().stream())
        .anyMatch(
            each ->
                (each.left().equals(one) && each.right().equals(other))
                    || (each.left().equals(other) && each.right().equals(one)));
  }

  /** The columns of the key, each with the column on the left that it shows. */
  private static Map<UseColumn, UseColumn> pairs(Key key, TableUse right, List<TableUse> left) {
    Map<UseColumn, UseColumn> pairs = new LinkedHashMap<>();
    for (String name : key.columns()) {
      Optional<UseColumn> own = right.column(name);
      Optional<UseColumn> base = own.flatMap(BaseColumn::of);
      if (base.isPresent()) {
        left.stream()
            .filter(use -> use.isOfTable(base.get().use()))
            .map(use -> use.columns().get(base.get().position()))
            .findFirst()
            .ifPresent(other -> pairs.put(own.orElseThrow(), other));
      }
    }
    return pairs;
  }

  /** The rows that stand beside the row of another group than their own. */
  private static Question<Long> besideOthers(Map<UseColumn, UseColumn> pairs, JoinedRows rows) {
    List<Expression> differences = new ArrayList<>();
    pairs.forEach(
        (own, other) ->
            differences.add(
                new Condition.Comparison(
                    Span.NOWHERE,
                    Condition.ComparisonOperator.NOT_EQUAL,
                    rows.column(rows.all(), own),
                    rows.column(rows.all(), other))));
    return Question.count(rows.all(), rows.isKept(Sql.any(differences)));
  }

  /**
   * How it is joined.
   *
   * @param conditions those that are told, the last of them as the place
   * @param missing the equalities that are missing
   * @param byTotal whether by nothing of its key, but by a total
   */
  private record Joined(
      JoinStep step,
      TableUse right,
      List<Conjunct> conditions,
      List<String> missing,
      boolean byTotal) {

    Suspicion suspicion(Optional<Question<Long>> wrong, Subject subject) {
      Conjunct last = conditions.get(conditions.size() - 1);
      return Suspicion.asking(
          Kind.PARTIAL_KEY,
          last.span(),
          List.of(step.place(), last.span()),
          wrong,
          rows ->
              byTotal || rows.filter(each -> each == 0).isEmpty()
                  ? Optional.of(conclude(last, rows, subject))
                  : Optional.empty());
    }

    private Conclusion conclude(Conjunct last, Optional<Long> rows, Subject subject) {
      String condition = String.join(" " + subject.edits().keyword("AND") + " ", missing);
      String meets = byTotal ? "that of another" : "several";
      return new Conclusion(
          Severity.WARNING,
          right.name()
              + " has a row for each "
              + Words.list(right.keys().get(0).columns())
              + ", and is joined "
              + (byTotal ? "without it" : "by a part of that")
              + ": "
              + rows.filter(each -> each > 0)
                  .map(each -> Words.rows(each) + (each == 1 ? " meets " : " meet ") + meets)
                  .orElse("a row may meet " + meets)
              + ". Add "
              + condition
              + ".",
          new Evidence(
              rows.map(each -> Map.of("rows that meet " + meets, each)).orElse(Map.of()),
              List.of(),
              List.of("both sides have these columns, from one table")),
          last.origin() == Conjunct.Origin.ON
              ? List.of(subject.edits().and(last.condition(), condition))
              : List.of());
    }
  }
}
