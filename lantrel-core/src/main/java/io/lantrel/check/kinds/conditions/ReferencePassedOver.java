package io.lantrel.check.kinds.conditions;

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
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Two tables joined by what both refer to, as a tour and the couriers of its depot, where the one
 * refers to the other itself, by a column that is called after it, and the query never looks at
 * that.
 */
public final class ReferencePassedOver implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isOnlyAskedForARow()) {
      return List.of();
    }
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : block.steps()) {
      for (Conjunct conjunct : step.conjuncts()) {
        conjunct
            .equality()
            .flatMap(pair -> passedOver(pair, step, block))
            .ifPresent(link -> suspicions.add(suspicion(link, conjunct, step, subject)));
      }
    }
    return suspicions.stream().limit(1).toList();
  }

  /** The one reference between the two, of which the query mentions no column. */
  private static Optional<Link> passedOver(Equated pair, JoinStep step, QueryBlock block) {
    TableUse one = pair.left().use();
    TableUse other = pair.right().use();
    boolean alone =
        step.conjuncts().stream()
            .filter(each -> each.uses().containsAll(Set.of(one, other)))
            .allMatch(each -> each.equality().isPresent());
    if (!alone
        || one.isOfTable(other)
        || !block.linksAlong(pair).isEmpty()
        || !References.leadToTheSame(pair, block)) {
      return Optional.empty();
    }
    List<Link> links = block.linksBetween(one, other);
    Set<UseColumn> mentioned = block.columnsSpokenOf();
    return links.size() == 1
            && isCalledAfter(links.get(0))
            && referring(links.get(0)).stream().noneMatch(mentioned::contains)
            && referring(links.get(0)).size() == links.get(0).reference().fromColumns().size()
        ? Optional.of(links.get(0))
        : Optional.empty();
  }

  /** Whether it is the plain reference to the table, and not a role that a row has beside. */
  private static boolean isCalledAfter(Link link) {
    String table = link.reference().to().name().toLowerCase(Locale.ROOT);
    return link.reference().fromColumns().stream()
        .anyMatch(each -> each.toLowerCase(Locale.ROOT).startsWith(table));
  }

  private static List<UseColumn> referring(Link link) {
    return link.reference().fromColumns().stream()
        .flatMap(name -> link.from().columnOfTable(name).stream())
        .toList();
  }

  private static Suspicion suspicion(Link link, Conjunct conjunct, JoinStep step, Subject subject) {
    return Suspicion.counting(
        Kind.NOT_A_REFERENCE,
        conjunct.span(),
        List.of(conjunct.span(), step.place()),
        strangers(link, subject.rows().orElseThrow()),
        count -> conclude(link, conjunct, count, subject));
  }

  private static Question<Long> strangers(Link link, JoinedRows rows) {
    List<Expression> equal = new ArrayList<>();
    for (int i = 0; i < link.reference().fromColumns().size(); i++) {
      UseColumn from =
          link.from().columnOfTable(link.reference().fromColumns().get(i)).orElseThrow();
      UseColumn to = link.to().columnOfTable(link.reference().toColumns().get(i)).orElseThrow();
      equal.add(Sql.equal(rows.column(rows.all(), from), rows.column(rows.all(), to)));
    }
    Expression partner = Sql.choose(Sql.all(equal), Sql.number(1), Sql.number(0));
    return Question.count(
        rows.all(),
        rows.isKept(
            rows.isThere(rows.all(), link.from()),
            rows.isThere(rows.all(), link.to()),
            Sql.equal(partner, Sql.number(0))));
  }

  private static Conclusion conclude(Link link, Conjunct conjunct, long count, Subject subject) {
    String message =
        subject.text(conjunct.condition())
            + " puts each "
            + link.from().rowWord()
            + " beside every "
            + link.to().rowWord()
            + " that shares this with it: "
            + Words.rows(count)
            + " with one that it does not refer to. Meant is perhaps "
            + link.condition()
            + ".";
    List<List<Edit>> repairs =
        !conjunct.part()
                && (conjunct.origin() == Conjunct.Origin.ON
                    || conjunct.origin() == Conjunct.Origin.WHERE)
            ? List.of(List.of(new Edit(conjunct.condition().span(), link.condition())))
            : List.of();
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            Map.of("rows beside another", count),
            List.of(),
            List.of("the schema has " + link.reference().words())),
        repairs);
  }
}
