package io.lantrel.check.kinds.hierarchies;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Optional;

/** A recursion that begins at the top of a hierarchy and then walks up: it never leaves the top. */
public final class ReversedRecursion implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return Walk.of(subject).stream()
        .filter(walk -> !walk.down() && walk.startsAtTheTop())
        .map(ReversedRecursion::suspicion)
        .toList();
  }

  private static Suspicion suspicion(Walk walk) {
    String from = walk.reference().fromColumns().get(0);
    String to = walk.reference().toColumns().get(0);
    Optional<UseColumn> refers = walk.table().columnOfTable(from);
    Optional<UseColumn> key = showing(walk.reached(), to);
    Optional<String> right =
        refers.isPresent() && key.isPresent()
            ? Optional.of(refers.get().written() + " = " + key.get().written())
            : Optional.empty();
    String row = walk.table().rowWord();
    String message =
        "The recursion begins with the "
            + Words.plural(row)
            + " that refer to none, and this walks on to the "
            + row
            + " that they refer to: there is none, so it ends at once."
            + right.map(condition -> " To walk down, write " + condition + ".").orElse("");
    List<List<Edit>> repairs =
        right.stream()
            .map(condition -> List.of(new Edit(walk.conjunct().span(), condition)))
            .toList();
    Conclusion conclusion =
        Conclusion.warning(message, List.of("the schema has " + walk.reference().words()), repairs);
    return new Suspicion(
        Kind.REVERSED_RECURSION,
        walk.conjunct().span(),
        List.of(walk.conjunct().span()),
        List.of(),
        answers -> Optional.of(conclusion));
  }

  /** The column of the recursion that shows this one of the table. */
  private static Optional<UseColumn> showing(TableUse reached, String tableColumn) {
    return reached.columns().stream()
        .filter(
            each ->
                BaseColumn.of(each)
                    .filter(base -> base.tableColumn().equals(tableColumn))
                    .isPresent())
        .findFirst();
  }
}
