package io.lantrel.check.kinds;

import io.lantrel.catalog.Reference;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Two columns equated that are no reference, where the schema has a reference between the two
 * tables: both are called id, or name.
 */
final class NotAReference implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    boolean known = subject.resolution().problems().isEmpty();
    for (JoinStep step : known ? subject.block().steps() : List.<JoinStep>of()) {
      wrong(step, subject)
          .findFirst()
          .ifPresent(each -> suspicions.add(suspicion(each, step, subject)));
    }
    return suspicions;
  }

  private static Stream<Conjunct> wrong(JoinStep step, Subject subject) {
    return step.conjuncts().stream()
        .filter(
            conjunct ->
                conjunct.equality().filter(each -> isWrong(each, subject.block())).isPresent());
  }

  private static boolean isWrong(Equated equated, QueryBlock block) {
    UseColumn left = equated.left();
    UseColumn right = equated.right();
    boolean sameColumn = left.use().isOfTable(right.use()) && left.position() == right.position();
    return !sameColumn
        && !block.linksBetween(left.use(), right.use()).isEmpty()
        && Collections.disjoint(targets(left, block), targets(right, block))
        && block.conjuncts().stream()
            .flatMap(conjunct -> conjunct.equality().stream())
            .noneMatch(each -> sameUses(each, equated) && !block.linksAlong(each).isEmpty());
  }

  private static boolean sameUses(Equated one, Equated other) {
    return one.of(other.left().use()).isPresent() && one.of(other.right().use()).isPresent();
  }

  /** What a column refers to: two children of one parent may be compared by it. */
  private static List<String> targets(UseColumn column, QueryBlock block) {
    List<String> targets = new ArrayList<>();
    for (Reference reference : block.catalog().references()) {
      int at = reference.fromColumns().indexOf(column.tableColumn());
      boolean ours = column.use().table().filter(reference.from()::equals).isPresent();
      if (ours && at >= 0) {
        targets.add(reference.to().name() + "." + reference.toColumns().get(at));
      }
    }
    return targets;
  }

  private static Suspicion suspicion(Conjunct conjunct, JoinStep step, Subject subject) {
    Equated equated = conjunct.equality().orElseThrow();
    Optional<Question<Met>> question =
        subject.rows().map(rows -> meeting(rows, equated.left(), equated.right()));
    return new Suspicion(
        Kind.NOT_A_REFERENCE,
        conjunct.span(),
        List.of(step.place(), conjunct.span()),
        List.copyOf(question.stream().toList()),
        answers ->
            Optional.of(conclude(conjunct, step, question.flatMap(answers::ifAny), subject)));
  }

  /** How many values one column has, and how many of them the other has too. */
  private record Met(long values, long meeting) {}

  private static Question<Met> meeting(JoinedRows rows, UseColumn one, UseColumn other) {
    Relation here = rows.side(one.use().item());
    Expression value = rows.column(here, one);
    Expression found = rows.isAmong(here, one, other);
    return Question.figures(
        here,
        List.of(
            Sql.countDistinct(value), Sql.countDistinct(Sql.choose(found, value, Sql.nothing()))),
        answer -> new Met(answer.figure(0), answer.figure(1)));
  }

  private static Conclusion conclude(
      Conjunct conjunct, JoinStep step, Optional<Met> met, Subject subject) {
    Equated equated = conjunct.equality().orElseThrow();
    List<Link> links = subject.block().linksBetween(equated.left().use(), equated.right().use());
    List<String> right = links.stream().map(Link::condition).distinct().toList();
    String message =
        equated.left().words()
            + " and "
            + equated.right().words()
            + " are not a reference: "
            + Words.one(equated.left().use().rowWord())
            + " is put beside "
            + Words.one(equated.right().use().rowWord())
            + " that just happens to have the same value. Join on "
            + String.join(" or ", right)
            + ".";
    List<String> facts = new ArrayList<>();
    met.ifPresent(
        each ->
            facts.add(
                each.meeting()
                    + " of "
                    + Words.count(each.values(), "value")
                    + " of "
                    + equated.left().words()
                    + " are values of "
                    + equated.right().words()
                    + " too"));
    links.forEach(each -> facts.add("the schema has " + each.reference().words()));
    Map<String, Long> figures =
        met.map(each -> Map.of("values that meet", each.meeting())).orElse(Map.of());
    List<List<Edit>> repairs =
        right.size() == 1 ? repairs(conjunct, step, right.get(0), subject) : List.of();
    return new Conclusion(
        Severity.WARNING, message, new Evidence(figures, List.of(), facts), repairs);
  }

  /** The reference instead; where an inner join along it would lose rows, one that keeps them. */
  private static List<List<Edit>> repairs(
      Conjunct conjunct, JoinStep step, String condition, Subject subject) {
    QueryEdits edits = subject.edits();
    List<List<Edit>> repairs = new ArrayList<>();
    repairs.add(instead(conjunct, step, condition, subject, edits));
    if (step.kind() == JoinKind.INNER) {
      List<Edit> keeping = new ArrayList<>(repairs.get(0));
      keeping.removeIf(edit -> edit.span().equals(step.place()));
      String words = subject.source().at(step.place());
      keeping.add(new Edit(step.place(), Words.like(words, JoinKind.LEFT.words())));
      repairs.add(keeping);
    }
    return repairs;
  }

  private static List<Edit> instead(
      Conjunct conjunct, JoinStep step, String condition, Subject subject, QueryEdits edits) {
    String on = edits.keyword("ON") + " " + condition;
    if (conjunct.origin() == Origin.USING
        && step.join().condition() instanceof JoinCondition.Using using) {
      return List.of(new Edit(using.span(), on));
    }
    if (conjunct.origin() == Origin.NATURAL) {
      FromItem.Join join = step.join();
      Span keyword = join.keyword();
      String words = subject.source().at(keyword).replaceFirst("(?i)^natural\\s+", "");
      return List.of(new Edit(keyword, words), Edit.insert(join.right().span().end(), " " + on));
    }
    return List.of(new Edit(conjunct.span(), condition));
  }
}
