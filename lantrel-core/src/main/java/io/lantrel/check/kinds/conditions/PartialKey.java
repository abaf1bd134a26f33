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
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** A reference of several columns of which a join uses only some: a row meets several partners. */
public final class PartialKey implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : subject.block().steps()) {
      for (Conjunct conjunct : step.conjuncts()) {
        Optional<Suspicion> partial =
            conjunct.equality().flatMap(each -> partial(each, conjunct, step, subject));
        if (partial.isPresent()) {
          suspicions.add(partial.get());
          break;
        }
      }
      ofGroups(step, subject).ifPresent(suspicions::add);
    }
    return suspicions;
  }

  // ---- the groups of a query in FROM ----

  /**
   * A query that has a row for each group, joined to its own table by a part of what it is grouped
   * by, or only by a total: a row meets the totals of other groups too.
   */
  private static Optional<Suspicion> ofGroups(JoinStep step, Subject subject) {
    if (step.right().size() != 1 || step.right().get(0).query().isEmpty()) {
      return Optional.empty();
    }
    TableUse right = step.right().get(0);
    for (Key key : right.keys()) {
      Map<UseColumn, UseColumn> pairs = pairs(key, right, step.left());
      List<Conjunct> used =
          step.conjuncts().stream()
              .filter(each -> each.equality().filter(pair -> isOf(pair, pairs)).isPresent())
              .toList();
      boolean whole = !pairs.isEmpty() && pairs.size() == key.columns().size();
      boolean some = used.isEmpty() ? isByTotal(step, right, key) : used.size() < pairs.size();
      if (whole && some && subject.rows().isPresent()) {
        List<String> missing = new ArrayList<>();
        pairs.forEach(
            (own, other) -> {
              if (!subject.block().equalTo(own).contains(other) && !isEquated(own, other, step)) {
                missing.add(own.written() + " = " + other.written());
              }
            });
        if (!missing.isEmpty()) {
          return Optional.of(
              used.isEmpty()
                  ? otherGroups(step, right, pairs, missing, subject)
                  : groups(step, used.get(used.size() - 1), right, missing, subject));
        }
      }
    }
    return Optional.empty();
  }

  /** Whether an equality joins it by something else than its key. */
  private static boolean isByTotal(JoinStep step, TableUse right, Key key) {
    return step.conjuncts().stream()
        .flatMap(each -> each.equality().stream())
        .flatMap(pair -> pair.of(right).stream())
        .anyMatch(column -> !key.columns().contains(column.name()));
  }

  private static boolean isOf(Equated pair, Map<UseColumn, UseColumn> pairs) {
    return pair.right().equals(pairs.get(pair.left()))
        || pair.left().equals(pairs.get(pair.right()));
  }

  private static boolean isEquated(UseColumn one, UseColumn other, JoinStep step) {
    return step.conjuncts().stream()
        .flatMap(each -> each.equality().stream())
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

  private static Suspicion groups(
      JoinStep step, Conjunct conjunct, TableUse right, List<String> missing, Subject subject) {
    Question<Long> several = subject.rows().orElseThrow().repeated(step).count();
    String condition = String.join(" " + subject.edits().keyword("AND") + " ", missing);
    return new Suspicion(
        Kind.PARTIAL_KEY,
        conjunct.span(),
        List.of(step.place(), conjunct.span()),
        List.of(several),
        answers ->
            answers
                .ifAny(several)
                .filter(rows -> rows > 0)
                .map(
                    rows ->
                        new Conclusion(
                            Severity.WARNING,
                            right.name()
                                + " has a row for each "
                                + Words.list(right.keys().get(0).columns())
                                + ", and is joined by a part of that: "
                                + Words.rows(rows)
                                + (rows == 1 ? " meets" : " meet")
                                + " several. Add "
                                + condition
                                + ".",
                            new Evidence(
                                Map.of("rows with several partners", rows),
                                List.of(),
                                List.of("both sides have these columns, from one table")),
                            conjunct.origin() == Conjunct.Origin.ON
                                ? List.of(subject.edits().and(conjunct.condition(), condition))
                                : List.of())));
  }

  /** The rows that meet the row of another group than their own. */
  private static Suspicion otherGroups(
      JoinStep step,
      TableUse right,
      Map<UseColumn, UseColumn> pairs,
      List<String> missing,
      Subject subject) {
    JoinedRows rows = subject.rows().orElseThrow();
    List<Expression> differences = new ArrayList<>();
    pairs.forEach(
        (own, other) ->
            differences.add(
                new Condition.Comparison(
                    Span.NOWHERE,
                    Condition.ComparisonOperator.NOT_EQUAL,
                    rows.column(rows.all(), own),
                    rows.column(rows.all(), other))));
    Question<Long> others = Question.count(rows.all(), rows.isKept(Sql.any(differences)));
    Conjunct last = step.conjuncts().get(step.conjuncts().size() - 1);
    String condition = String.join(" " + subject.edits().keyword("AND") + " ", missing);
    return new Suspicion(
        Kind.PARTIAL_KEY,
        last.span(),
        List.of(step.place(), last.span()),
        List.of(others),
        answers ->
            answers
                .ifAny(others)
                .filter(count -> count > 0)
                .map(
                    count ->
                        new Conclusion(
                            Severity.WARNING,
                            right.name()
                                + " has a row for each "
                                + Words.list(right.keys().get(0).columns())
                                + ", and is joined without it: "
                                + Words.rows(count)
                                + (count == 1 ? " meets" : " meet")
                                + " that of another. Add "
                                + condition
                                + ".",
                            new Evidence(
                                Map.of("rows beside another group", count),
                                List.of(),
                                List.of("both sides have these columns, from one table")),
                            last.origin() == Conjunct.Origin.ON
                                ? List.of(subject.edits().and(last.condition(), condition))
                                : List.of())));
  }

  // ---- a reference ----

  private static Optional<Suspicion> partial(
      Equated equated, Conjunct conjunct, JoinStep step, Subject subject) {
    QueryBlock block = subject.block();
    List<Link> links = block.linksAlong(equated);
    if (links.isEmpty() || links.stream().anyMatch(link -> missing(link, block).isEmpty())) {
      return Optional.empty();
    }
    Link link = links.get(0);
    List<String> missing = missing(link, block);
    boolean refers = step.left().contains(link.from());
    Optional<Question<Long>> several =
        refers ? subject.rows().map(rows -> rows.repeated(step).count()) : Optional.empty();
    return Optional.of(
        Suspicion.asking(
            Kind.PARTIAL_KEY,
            conjunct.span(),
            List.of(step.place(), conjunct.span()),
            several,
            count -> Optional.of(conclude(link, missing, conjunct, count, subject))));
  }

  /** The equalities that the reference has and the query does not. */
  private static List<String> missing(Link link, QueryBlock block) {
    List<String> missing = new ArrayList<>();
    List<String> from = link.reference().fromColumns();
    for (int i = 0; i < from.size(); i++) {
      UseColumn one = link.from().columnOfTable(from.get(i)).orElseThrow();
      UseColumn other = link.to().columnOfTable(link.reference().toColumns().get(i)).orElseThrow();
      boolean equal =
          block.equalTo(one).contains(other)
              || block.steps().stream()
                  .flatMap(step -> step.conjuncts().stream())
                  .flatMap(each -> each.equality().stream())
                  .anyMatch(each -> each.other(one).equals(other) && !each.other(one).equals(one));
      if (!equal) {
        missing.add(one.written() + " = " + other.written());
      }
    }
    return missing;
  }

  private static Conclusion conclude(
      Link link, List<String> missing, Conjunct conjunct, Optional<Long> several, Subject subject) {
    String condition = String.join(" " + subject.edits().keyword("AND") + " ", missing);
    String message =
        subject.text(conjunct.condition())
            + " is only a part of the reference: "
            + Words.one(link.from().rowWord())
            + " also meets rows of "
            + link.to().words()
            + " that it does not refer to. Add "
            + condition
            + ".";
    Evidence evidence =
        new Evidence(
            several.map(rows -> Map.of("rows with several partners", rows)).orElse(Map.of()),
            List.of(),
            List.of("the schema has " + link.reference().words()));
    List<List<Edit>> repairs =
        conjunct.origin() == Conjunct.Origin.ON || conjunct.origin() == Conjunct.Origin.WHERE
            ? List.of(subject.edits().and(conjunct.condition(), condition))
            : List.of();
    return new Conclusion(Severity.WARNING, message, evidence, repairs);
  }
}
