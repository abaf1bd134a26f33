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
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A row joined to the next one by the number that counts within its group, {@code b.line = a.line +
 * 1}, and not by the group, or not by all of it: it meets the next line of every order.
 */
public final class NextOfAnother implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.block().conjuncts().stream()
        .flatMap(conjunct -> next(conjunct, subject.block()).stream())
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<Next> next(Conjunct conjunct, QueryBlock block) {
    return EqualSides.of(
        conjunct.condition(), (bare, counted) -> next(bare, counted, conjunct, block));
  }

  private static Optional<Next> next(
      Expression bare, Expression counted, Conjunct conjunct, QueryBlock block) {
    UseColumn one = block.column(bare).orElse(null);
    List<UseColumn> others = columnsIn(counted, block);
    if (one == null || others.size() != 1 || block.column(counted).isPresent()) {
      return Optional.empty();
    }
    UseColumn other = others.get(0);
    boolean same =
        one.name().equals(other.name())
            && one.use().table().isPresent()
            && one.use().isOfTable(other.use())
            && !one.use().equals(other.use())
            && (block.isOwn(one) || block.isOwn(other));
    if (!same) {
      return Optional.empty();
    }
    return one.use().keys().stream()
        .filter(key -> key.columns().contains(one.name()) && key.columns().size() > 1)
        .findFirst()
        .flatMap(key -> next(one, other, key.columns(), conjunct, block));
  }

  private static Optional<Next> next(
      UseColumn one, UseColumn other, List<String> key, Conjunct conjunct, QueryBlock block) {
    List<UseColumn> group = new ArrayList<>();
    List<UseColumn> groupOfOther = new ArrayList<>();
    int said = 1;
    for (String name : key) {
      Optional<UseColumn> mine = one.use().column(name);
      Optional<UseColumn> theirs = other.use().column(name);
      boolean apart = !name.equals(one.name()) && mine.isPresent() && theirs.isPresent();
      if (apart && isEquated(mine.get(), theirs.get(), block)) {
        said++;
      } else if (apart) {
        group.add(mine.get());
        groupOfOther.add(theirs.get());
      }
    }
    boolean untold =
        Stream.concat(group.stream(), groupOfOther.stream())
            .noneMatch(
                each ->
                    block.conjuncts().stream()
                        .anyMatch(it -> columnsIn(it.condition(), block).contains(each)));
    boolean whole = !group.isEmpty() && group.size() == key.size() - said;
    return untold && whole && !(said > 1 && areShown(group, groupOfOther, block))
        ? Optional.of(new Next(conjunct, key, group, groupOfOther))
        : Optional.empty();
  }

  private static boolean isEquated(UseColumn one, UseColumn other, QueryBlock block) {
    return block.conjuncts().stream()
        .flatMap(each -> each.likeness().stream())
        .anyMatch(each -> each.isOf(one, other));
  }

  /** Each with each, as the shifts of a day beside those of the next, where both are shown. */
  private static boolean areShown(
      List<UseColumn> group, List<UseColumn> groupOfOther, QueryBlock block) {
    Set<UseColumn> spoken = block.columnsSpokenOf();
    return spoken.containsAll(group) && spoken.containsAll(groupOfOther);
  }

  /** The columns that a node mentions, of the block and of those outside. */
  private static List<UseColumn> columnsIn(Expression value, QueryBlock block) {
    return Stream.concat(Stream.of(block), block.outward())
        .flatMap(each -> each.columnsIn(value).stream())
        .toList();
  }

  /**
   * A condition that goes to the next row.
   *
   * @param key the columns of the key that it counts in
   * @param group the rest of the key of the one row
   * @param groupOfOther the same of the other
   */
  private record Next(
      Conjunct conjunct, List<String> key, List<UseColumn> group, List<UseColumn> groupOfOther) {

    Suspicion suspicion(Subject subject) {
      boolean joined =
          Set.copyOf(subject.block().uses())
              .containsAll(List.of(group.get(0).use(), groupOfOther.get(0).use()));
      Optional<JoinedRows> rows = subject.rows().filter(each -> joined);
      return rows.isPresent()
          ? Suspicion.counting(
              Kind.PARTIAL_KEY,
              conjunct.span(),
              List.of(conjunct.span()),
              strangers(rows.get()),
              count -> conclude(Optional.of(count), subject))
          : Suspicion.certain(
              Kind.PARTIAL_KEY, conjunct.span(), conclude(Optional.empty(), subject));
    }

    private Question<Long> strangers(JoinedRows rows) {
      List<Expression> unlike = new ArrayList<>();
      for (int i = 0; i < group.size(); i++) {
        unlike.add(
            Sql.not(
                Sql.equal(
                    rows.column(rows.all(), group.get(i)),
                    rows.column(rows.all(), groupOfOther.get(i)))));
      }
      return Question.count(
          rows.all(), Sql.all(List.of(rows.isKept(), rows.isJoined(), Sql.any(unlike))));
    }

    private Conclusion conclude(Optional<Long> count, Subject subject) {
      List<String> missing = new ArrayList<>();
      for (int i = 0; i < group.size(); i++) {
        missing.add(group.get(i).written() + " = " + groupOfOther.get(i).written());
      }
      String condition = String.join(" " + subject.edits().keyword("AND") + " ", missing);
      String row = group.get(0).use().rowWord();
      String message =
          "By "
              + subject.text(conjunct.condition())
              + (group.size() == key.size() - 1 ? " alone " : " ")
              + Words.one(row)
              + " also meets those of another "
              + Words.list(group.stream().map(UseColumn::name).toList())
              + count.map(each -> ": " + Words.rows(each) + " of the join").orElse("")
              + ". Add "
              + condition
              + ".";
      List<List<Edit>> repairs =
          conjunct.origin() == Conjunct.Origin.ON || conjunct.origin() == Conjunct.Origin.WHERE
              ? List.of(subject.edits().and(conjunct.condition(), condition))
              : List.of();
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              count.map(each -> Map.of("rows met of another", each)).orElse(Map.of()),
              List.of(),
              List.of(Words.one(row) + " is told apart by " + Words.list(key))),
          repairs);
    }
  }
}
