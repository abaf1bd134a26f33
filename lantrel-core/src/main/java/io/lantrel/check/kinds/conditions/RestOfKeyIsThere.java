package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Reference;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A table joined by all of its key but one reference, and the row that this refers to is in the
 * query as well, with nothing that connects the two: the results of an examination beside each
 * pupil, whoever has them.
 */
public final class RestOfKeyIsThere implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    return block.steps().stream()
        .flatMap(step -> EquatedPart.in(step, block))
        .flatMap(part -> of(part, block).stream())
        .limit(1)
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<Unconnected> of(EquatedPart part, QueryBlock block) {
    boolean twin =
        block.uses().stream()
            .anyMatch(each -> !each.equals(part.use()) && each.isOfTable(part.use()));
    List<UseColumn> keys =
        twin
            ? List.of()
            : block.catalog().references().stream()
                .filter(each -> isOf(each, part.untold()))
                .flatMap(each -> referred(each, part, block))
                .toList();
    return keys.size() == 1 ? Optional.of(new Unconnected(part, keys.get(0))) : Optional.empty();
  }

  private static boolean isOf(Reference reference, UseColumn column) {
    return column.use().table().filter(reference.from()::equals).isPresent()
        && reference.fromColumns().equals(List.of(column.tableColumn()));
  }

  /** The keys of the rows that it may refer to. */
  private static Stream<UseColumn> referred(
      Reference reference, EquatedPart part, QueryBlock block) {
    return block.uses().stream()
        .filter(use -> use.table().filter(reference.to()::equals).isPresent())
        .filter(use -> part.step().left().contains(use))
        .flatMap(use -> use.columnOfTable(reference.toColumns().get(0)).stream())
        .filter(key -> part.pairs().stream().noneMatch(pair -> pair.of(key.use()).isPresent()))
        .filter(key -> isOfTheSameRole(key, part.untold(), block));
  }

  /**
   * Whether the row is in the query for itself, or was found by a column of the same name: not one
   * that is looked up in another role, as the teacher of a lesson beside those who attend it.
   */
  private static boolean isOfTheSameRole(UseColumn key, UseColumn untold, QueryBlock block) {
    List<UseColumn> others =
        block.conjuncts().stream()
            .flatMap(each -> each.equality().stream())
            .filter(each -> each.of(key.use()).filter(key::equals).isPresent())
            .map(each -> each.other(key))
            .toList();
    return others.isEmpty()
        || others.stream().anyMatch(each -> each.name().equalsIgnoreCase(untold.name()));
  }

  /**
   * A row of the query, and one of another table that is of any such row.
   *
   * @param key of the row that is meant
   */
  private record Unconnected(EquatedPart part, UseColumn key) {

    Suspicion suspicion(Subject subject) {
      Optional<Question<Long>> others =
          subject.rows().map(rows -> EquatedPart.unlike(part.untold(), key, rows));
      return Suspicion.asking(
          Kind.PARTIAL_KEY,
          part.last().span(),
          List.of(part.last().span(), part.step().place()),
          others,
          found ->
              found.filter(each -> each == 0).isPresent()
                  ? Optional.empty()
                  : Optional.of(conclude(found, subject)));
    }

    private Conclusion conclude(Optional<Long> others, Subject subject) {
      TableUse use = part.use();
      String condition = part.untold().written() + " = " + key.written();
      Conjunct last = part.last();
      boolean written = last.origin() == Origin.ON || last.origin() == Origin.WHERE;
      return new Conclusion(
          Severity.WARNING,
          "Each "
              + key.use().rowWord()
              + " is put beside "
              + Words.plural(use.rowWord())
              + " of any other"
              + others.map(each -> ", in " + Words.rows(each)).orElse("")
              + ": "
              + part.untold().written()
              + " is a part of their key, and nothing compares it. Add "
              + condition
              + ".",
          new Evidence(
              others.map(each -> Map.of("rows of another", each)).orElse(Map.of()),
              List.of(),
              List.of("the key of " + use.tableName() + " is " + Words.list(part.key().columns()))),
          written
              ? List.of(
                  List.of(
                      Edit.insert(
                          last.span().end(),
                          " " + subject.edits().keyword("AND") + " " + condition)))
              : List.of());
    }
  }
}
