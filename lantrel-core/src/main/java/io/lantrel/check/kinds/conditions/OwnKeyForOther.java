package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Table;
import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A reference of a row to another table, set equal to the key of the row itself, as by a slip of
 * the alias: {@code t.courier_id = t.id} for {@code t.courier_id = c.id}.
 */
public final class OwnKeyForOther implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (Conjunct conjunct : subject.block().conjuncts()) {
      subject
          .block()
          .alike(conjunct.condition())
          .filter(pair -> pair.left().use().equals(pair.right().use()))
          .flatMap(pair -> slip(pair, conjunct, subject))
          .ifPresent(suspicions::add);
    }
    return suspicions;
  }

  private static Optional<Suspicion> slip(Equated pair, Conjunct conjunct, Subject subject) {
    return slip(pair.left(), pair.right(), conjunct, subject)
        .or(() -> slip(pair.right(), pair.left(), conjunct, subject));
  }

  private static Optional<Suspicion> slip(
      UseColumn reference, UseColumn key, Conjunct conjunct, Subject subject) {
    QueryBlock block = subject.block();
    Set<Table> tables = BaseColumn.referred(reference, block.catalog());
    boolean own = key.use().table().filter(tables::contains).isPresent();
    if (tables.isEmpty()
        || own
        || !References.isKey(key)
        || !BaseColumn.referred(key, block.catalog()).isEmpty()) {
      return Optional.empty();
    }
    List<UseColumn> meant = meant(tables, block);
    String message =
        subject.text(conjunct.condition())
            + " compares two columns of one row: "
            + reference.written()
            + " refers to "
            + tables.iterator().next().name()
            + ", and "
            + key.written()
            + " is the key of the "
            + key.use().rowWord()
            + " itself, so that they are the same number means nothing."
            + (meant.size() == 1
                ? " Meant is " + reference.written() + " = " + meant.get(0).written() + "."
                : " Name the table that is meant.");
    List<List<Edit>> repairs =
        meant.size() == 1 && !conjunct.part()
            ? List.of(
                List.of(
                    new Edit(
                        conjunct.condition().span(),
                        reference.written() + " = " + meant.get(0).written())))
            : List.of();
    return Optional.of(
        Suspicion.certain(
            Kind.NOT_A_REFERENCE,
            conjunct.span(),
            Conclusion.warning(
                message,
                List.of(reference.written() + " and " + key.written() + " stand in the same row"),
                repairs)));
  }

  /** The keys of table uses here and outside that the reference may lead to. */
  private static List<UseColumn> meant(Set<Table> tables, QueryBlock block) {
    return Stream.concat(Stream.of(block), block.outward())
        .flatMap(each -> each.uses().stream())
        .filter(use -> use.table().filter(tables::contains).isPresent())
        .flatMap(use -> use.keyColumns().stream())
        .toList();
  }
}
