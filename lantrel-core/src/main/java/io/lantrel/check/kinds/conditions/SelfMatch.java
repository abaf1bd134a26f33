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
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** A table joined to itself so that each row meets itself, or nothing but itself. */
public final class SelfMatch implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (SelfJoin join : SelfJoin.in(subject)) {
      Conjunct first = join.between().get(0);
      if (join.overlaps(subject.block()) && isPairing(join, subject)) {
        suspicions.add(itselfToo(join, first, subject));
      } else if (join.onlyShares()) {
        if (join.between().stream()
            .flatMap(each -> join.shared(each).stream())
            .anyMatch(References::isKey)) {
          suspicions.add(onlyItself(join, first, subject));
        } else if (isPairing(join, subject)) {
          suspicions.add(itselfToo(join, first, subject));
        } else if (isOnlyAskedFor(join, subject)) {
          suspicions.add(alwaysItself(join, first, subject));
        }
      }
    }
    return suspicions;
  }

  /** Both are shown, line by line, and nothing tells the two apart. */
  private static boolean isPairing(SelfJoin join, Subject subject) {
    QueryBlock block = subject.block();
    Halves halves = new Halves(join, subject);
    return !block.isGrouped()
        && !block.select().distinct()
        && !block.isOnlyAskedForARow()
        && halves.areEven()
        && !join.first().keys().isEmpty()
        && (SelfJoin.isShown(join.first(), block) || !halves.shownOfFirst().isEmpty())
        && (SelfJoin.isShown(join.second(), block) || !halves.shownOfSecond().isEmpty());
  }

  /** Nothing but the join speaks of the second: it asks whether there is such a row. */
  private static boolean isOnlyAskedFor(SelfJoin join, Subject subject) {
    QueryBlock block = subject.block();
    Set<Integer> joined = join.sharedPositions();
    return !block.isGrouped()
        && !join.first().keys().isEmpty()
        && block.columnsSpokenOf().stream()
            .filter(each -> each.use().equals(join.second()))
            .allMatch(each -> joined.contains(each.position()))
        && !SelfJoin.isShown(join.second(), block)
        && block.conjuncts().stream()
            .filter(each -> !join.between().contains(each))
            .noneMatch(each -> each.uses().contains(join.second()));
  }

  private static Suspicion alwaysItself(SelfJoin join, Conjunct conjunct, Subject subject) {
    Optional<String> differs = join.byKey(join.first(), ComparisonOperator.NOT_EQUAL);
    String row = join.first().rowWord();
    String message =
        "Every "
            + row
            + " with a value there meets itself as "
            + join.second().words()
            + ", so the join leaves none of these out. To find those that meet another, "
            + differs.map(each -> "add " + each + ".").orElse("leave out pairs of one row.");
    List<List<Edit>> repairs =
        differs.isPresent() && conjunct.origin() == Conjunct.Origin.ON
            ? List.of(subject.edits().and(conjunct.condition(), differs.get()))
            : List.of();
    return new Suspicion(
        Kind.SELF_MATCH,
        conjunct.span(),
        List.of(conjunct.span(), join.step().place()),
        List.of(),
        answers ->
            Optional.of(
                Conclusion.warning(
                    message,
                    List.of("nothing else of the query speaks of " + join.second().words()),
                    repairs)));
  }

  private static Suspicion onlyItself(SelfJoin join, Conjunct conjunct, Subject subject) {
    List<String> links =
        subject.block().linksBetween(join.first(), join.second()).stream()
            .filter(link -> link.from().equals(join.first()))
            .map(link -> link.condition())
            .toList();
    String row = join.first().rowWord();
    String message =
        "Each "
            + row
            + " meets only itself: "
            + join.second().words()
            + " is the same row as "
            + join.first().words()
            + ". "
            + (links.isEmpty()
                ? "Leave one of the two out."
                : "For the row that it refers to, join on " + String.join(" or ", links) + ".");
    List<List<Edit>> repairs =
        links.size() == 1 ? Instead.of(conjunct, join.step(), links.get(0), subject) : List.of();
    Conclusion conclusion =
        Conclusion.warning(
            message, List.of("no two rows of " + row + " share a value of its key"), repairs);
    return new Suspicion(
        Kind.SELF_MATCH,
        conjunct.span(),
        List.of(conjunct.span(), join.step().place()),
        List.of(),
        answers -> Optional.of(conclusion));
  }

  private static Suspicion itselfToo(SelfJoin join, Conjunct conjunct, Subject subject) {
    Optional<Question<Long>> pairs = subject.rows().map(rows -> withItself(rows, join));
    return Suspicion.asking(
        Kind.SELF_MATCH,
        conjunct.span(),
        List.of(conjunct.span(), join.step().place()),
        pairs,
        found ->
            !join.onlyShares() && found.filter(none -> none == 0).isPresent()
                ? Optional.empty()
                : Optional.of(conclude(join, conjunct, found, subject)));
  }

  /** The reference, where both share the column that refers and a heading names its role. */
  private static Optional<String> along(SelfJoin join, Subject subject) {
    QueryBlock block = subject.block();
    return block.linksBetween(join.first(), join.second()).stream()
        .filter(link -> link.reference().isSelfReference())
        .filter(link -> link.reference().fromColumns().size() == 1)
        .filter(
            link ->
                join.between().stream()
                    .flatMap(each -> join.shared(each).stream())
                    .anyMatch(
                        column ->
                            column.tableColumn().equals(link.reference().fromColumns().get(0))))
        .filter(
            link ->
                block.outputs().stream()
                    .anyMatch(
                        each ->
                            ReversedSelfJoin.claims(
                                each.name(), ReversedSelfJoin.role(link.reference()))))
        .map(Link::condition)
        .findFirst();
  }

  private static Question<Long> withItself(JoinedRows rows, SelfJoin join) {
    List<Expression> same = new ArrayList<>(List.of(rows.isJoined()));
    for (UseColumn column : join.first().keyColumns()) {
      UseColumn other = join.second().columns().get(column.position());
      same.add(Sql.equal(rows.column(rows.all(), column), rows.column(rows.all(), other)));
    }
    return Question.count(rows.all(), Sql.all(same));
  }

  private static Conclusion conclude(
      SelfJoin join, Conjunct conjunct, Optional<Long> found, Subject subject) {
    Optional<String> apart = join.byKey(join.first(), ComparisonOperator.LESS);
    String message =
        "Every "
            + join.first().rowWord()
            + " with a value there also meets itself"
            + found.map(rows -> ": " + Words.rows(rows) + " of the pairs").orElse("")
            + ", and every other pair comes twice. "
            + along(join, subject)
                .map(condition -> "For the row that it refers to, join on " + condition + ".")
                .or(() -> apart.map(condition -> "Add " + condition + "."))
                .orElse("Leave out pairs of one row.");
    List<List<Edit>> repairs = new ArrayList<>();
    Optional<String> along = along(join, subject);
    along.ifPresent(
        condition -> {
          repairs.addAll(Instead.of(conjunct, join.step(), condition, subject));
        });
    if (conjunct.origin() == Conjunct.Origin.ON) {
      apart.ifPresent(
          condition -> repairs.add(subject.edits().and(conjunct.condition(), condition)));
    }
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            found.map(rows -> Map.of("rows paired with themselves", rows)).orElse(Map.of()),
            List.of(),
            List.of("nothing tells " + join.first().words() + " from " + join.second().words())),
        repairs);
  }
}
