package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** NATURAL or USING over columns that only share a name (ISO/IEC 9075-2, 7.10). */
public final class NaturalSurprise implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : subject.block().steps()) {
      accident(step, subject.block())
          .ifPresent(conjunct -> suspicions.add(suspicion(conjunct, step, subject)));
    }
    return suspicions;
  }

  private static Optional<Conjunct> accident(JoinStep step, QueryBlock block) {
    boolean referred =
        step.conjuncts().stream()
            .flatMap(each -> each.equality().stream())
            .anyMatch(each -> isMeant(each, block));
    return step.conjuncts().stream()
        .filter(each -> each.origin() == Origin.NATURAL || each.origin() == Origin.USING)
        .filter(
            each ->
                each.equality()
                    .filter(equated -> isAccident(equated, each.origin(), referred, block))
                    .isPresent())
        .findFirst();
  }

  /** Along a reference, or both lead to the same. */
  private static boolean isMeant(Equated equated, QueryBlock block) {
    return !block.linksAlong(equated).isEmpty() || References.leadToTheSame(equated, block);
  }

  private static boolean isAccident(
      Equated equated, Origin origin, boolean referred, QueryBlock block) {
    TableUse left = equated.left().use();
    TableUse right = equated.right().use();
    boolean tables = left.table().isPresent() && right.table().isPresent();
    if (!tables || isMeant(equated, block)) {
      return false;
    }
    // What is written is meant, unless the schema has another way to connect the two.
    return origin == Origin.NATURAL
        || (!referred && !block.linksBetween(left, right).isEmpty() && !left.isOfTable(right));
  }

  private static Suspicion suspicion(Conjunct conjunct, JoinStep step, Subject subject) {
    Equated equated = conjunct.equality().orElseThrow();
    List<Link> links = subject.block().linksBetween(equated.left().use(), equated.right().use());
    List<String> right = links.stream().map(Link::condition).distinct().toList();
    List<String> shared =
        step.conjuncts().stream()
            .flatMap(each -> each.equality().stream())
            .map(each -> each.left().name())
            .distinct()
            .toList();
    String words = conjunct.origin() == Origin.NATURAL ? "NATURAL" : "USING";
    String message =
        words
            + " joins by every column that both have, "
            + Words.list(shared)
            + ": "
            + Words.one(equated.left().use().rowWord())
            + " only meets "
            + Words.one(equated.right().use().rowWord())
            + " of the same "
            + equated.left().name()
            + ", which says nothing about the two. "
            + (right.isEmpty()
                ? "Name the columns that connect them."
                : "Join on " + String.join(" or ", right) + ".");
    if (conjunct.origin() == Origin.USING) {
      message = message.replace(" joins by every column that both have, ", " joins by ");
    }
    List<String> facts = new ArrayList<>();
    facts.add(equated.left().words() + " and " + equated.right().words() + " are no reference");
    links.forEach(each -> facts.add("the schema has " + each.reference().words()));
    List<List<Edit>> repairs =
        right.size() == 1 ? Instead.of(conjunct, step, right.get(0), subject) : List.of();
    Conclusion conclusion = Conclusion.warning(message, facts, repairs);
    return new Suspicion(
        Kind.NATURAL_SURPRISE,
        conjunct.span(),
        List.of(step.place(), conjunct.span()),
        List.of(),
        answers -> Optional.of(conclusion));
  }
}
