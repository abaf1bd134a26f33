package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.NotAReference.Equation;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.words.Words;
import java.util.ArrayList;
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
    }
    List<Equation> outward =
        Equation.beyondJoins(subject).stream().filter(Equation::isOfTables).toList();
    outward.stream()
        .filter(each -> !isOfSiblings(each, subject))
        .flatMap(each -> partial(each, outward, subject).stream())
        .limit(1)
        .forEach(suspicions::add);
    return suspicions;
  }

  /**
   * Whether one only asks whether there is a row that belongs to the same third one: sheets of the
   * jobs that were run, say, for which a part of the key is enough.
   */
  private static boolean isOfSiblings(Equation equation, Subject subject) {
    boolean asks = equation.conjunct() == null || subject.block().isOnlyAskedForARow();
    return asks
        && References.leadToTheSame(
            new Equated(equation.left(), equation.right()), subject.block());
  }

  /** A row outside that is compared in a part of its key, or by IN. */
  private static Optional<Suspicion> partial(
      Equation equation, List<Equation> outward, Subject subject) {
    QueryBlock block = subject.block();
    List<Link> links = block.linksAlong(new Equated(equation.left(), equation.right()));
    if (links.isEmpty()
        || links.stream().anyMatch(link -> missing(link, block, outward).isEmpty())) {
      return Optional.empty();
    }
    Link link = links.get(0);
    List<String> missing = missing(link, block, outward);
    Conjunct conjunct = equation.conjunct();
    Conclusion conclusion =
        conjunct == null
            ? concludeOfIn(link, missing)
            : conclude(link, missing, conjunct, Optional.empty(), subject);
    return Optional.of(
        new Suspicion(
            Kind.PARTIAL_KEY,
            equation.place(),
            List.of(equation.place()),
            List.of(),
            answers -> Optional.of(conclusion)));
  }

  private static Conclusion concludeOfIn(Link link, List<String> missing) {
    return Conclusion.warning(
        "This IN compares only a part of the reference: any row of "
            + link.from().words()
            + " with the same value is enough, whichever "
            + link.to().rowWord()
            + " it refers to. Ask with EXISTS, and "
            + String.join(" AND ", missing)
            + " too.",
        List.of("the schema has " + link.reference().words()),
        List.of());
  }

  private static Optional<Suspicion> partial(
      Equated equated, Conjunct conjunct, JoinStep step, Subject subject) {
    QueryBlock block = subject.block();
    List<Link> links = block.linksAlong(equated);
    if (links.isEmpty()
        || links.stream().anyMatch(link -> missing(link, block, List.of()).isEmpty())) {
      return Optional.empty();
    }
    Link link = links.get(0);
    List<String> missing = missing(link, block, List.of());
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
  private static List<String> missing(Link link, QueryBlock block, List<Equation> outward) {
    List<String> missing = new ArrayList<>();
    List<String> from = link.reference().fromColumns();
    for (int i = 0; i < from.size(); i++) {
      UseColumn one = link.from().columnOfTable(from.get(i)).orElseThrow();
      UseColumn other = link.to().columnOfTable(link.reference().toColumns().get(i)).orElseThrow();
      boolean equal =
          block.equalTo(one).contains(other)
              || outward.stream().anyMatch(each -> each.equates(one, other))
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
