package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Key;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A table use that a join sets equal to others by a part of its only key, where the query shows,
 * groups by or sets a condition on all of the rest but one column.
 *
 * @param use the table use
 * @param conjuncts the equalities of the join that name it; never empty
 * @param pairs what they set equal
 * @param key its key
 * @param rest the columns of the key that the join does not set equal, but for the untold one
 * @param untold the column of the key of which nothing is said
 */
record EquatedPart(
    TableUse use,
    JoinStep step,
    List<Conjunct> conjuncts,
    List<Equated> pairs,
    Key key,
    List<UseColumn> rest,
    UseColumn untold) {

  /** Those of a step; what it adds comes first. */
  static Stream<EquatedPart> in(JoinStep step, QueryBlock block) {
    return in(step, block, block.columnsSpokenOf());
  }

  /**
   * The same.
   *
   * @param told the columns of which something is said
   */
  static Stream<EquatedPart> in(JoinStep step, QueryBlock block, Set<UseColumn> told) {
    return step.conjuncts().stream()
        .flatMap(each -> each.equality().stream())
        .flatMap(each -> Stream.of(each.left().use(), each.right().use()))
        .distinct()
        .sorted(Comparator.comparing(use -> step.left().contains(use)))
        .flatMap(use -> of(use, step, told).stream());
  }

  private static Optional<EquatedPart> of(TableUse use, JoinStep step, Set<UseColumn> told) {
    if (use.table().isEmpty() || use.keys().size() != 1) {
      return Optional.empty();
    }
    List<Conjunct> conjuncts =
        step.conjuncts().stream()
            .filter(each -> each.equality().flatMap(pair -> pair.of(use)).isPresent())
            .toList();
    List<Equated> pairs = conjuncts.stream().flatMap(each -> each.equality().stream()).toList();
    Key key = use.keys().get(0);
    List<UseColumn> parts =
        key.columns().stream().flatMap(name -> use.column(name).stream()).toList();
    List<UseColumn> left =
        parts.stream()
            .filter(
                each -> pairs.stream().noneMatch(pair -> pair.of(use).equals(Optional.of(each))))
            .toList();
    if (left.isEmpty() || left.size() == parts.size()) {
      return Optional.empty();
    }
    List<UseColumn> untold = left.stream().filter(each -> !told.contains(each)).toList();
    return untold.size() == 1
        ? Optional.of(
            new EquatedPart(
                use,
                step,
                conjuncts,
                pairs,
                key,
                left.stream().filter(each -> !untold.contains(each)).toList(),
                untold.get(0)))
        : Optional.empty();
  }

  /** What a pair sets equal to a column of the use. */
  UseColumn across(Equated pair) {
    return pair.other(pair.of(use).orElseThrow());
  }

  Conjunct last() {
    return conjuncts.get(conjuncts.size() - 1);
  }

  /** How many joined rows have two columns that are not equal. */
  static Question<Long> unlike(UseColumn one, UseColumn other, JoinedRows rows) {
    return Question.count(
        rows.all(),
        Sql.all(
            List.of(
                rows.isJoined(),
                Sql.not(Sql.equal(rows.column(rows.all(), one), rows.column(rows.all(), other))))));
  }
}
