package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Two texts of different names set equal, where the one table has a column that is called like that
 * of the other, and by that more rows find a partner: the district of a hydrant compared with the
 * name of a brigade that has a district as well.
 */
public final class NamesakeBeside implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isCorrelated()) {
      return List.of();
    }
    return block.steps().stream()
        .flatMap(step -> step.conjuncts().stream().flatMap(each -> beside(each, step, block)))
        .limit(1)
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Stream<Beside> beside(Conjunct conjunct, JoinStep step, QueryBlock block) {
    Optional<Equated> pair = conjunct.equality().filter(each -> isOfTexts(each, block));
    List<Beside> found =
        pair.stream()
            .flatMap(
                each ->
                    Stream.of(
                            namesake(each.left(), each.right(), conjunct, step),
                            namesake(each.right(), each.left(), conjunct, step))
                        .flatMap(Optional::stream))
            .toList();
    return found.size() == 1 ? found.stream() : Stream.of();
  }

  private static boolean isOfTexts(Equated pair, QueryBlock block) {
    return Stream.of(pair.left(), pair.right())
            .allMatch(
                each ->
                    each.use().table().isPresent()
                        && each.type().family() == TypeFamily.TEXT
                        && References.targets(each, block.catalog()).isEmpty())
        && !pair.left().name().equalsIgnoreCase(pair.right().name())
        && !pair.left().use().isOfTable(pair.right().use())
        && block.linksAlong(pair).isEmpty();
  }

  /** The column beside the one that is called like that of the other table. */
  private static Optional<Beside> namesake(
      UseColumn taken, UseColumn across, Conjunct conjunct, JoinStep step) {
    return taken
        .use()
        .column(across.name())
        .filter(each -> each.type().family() == TypeFamily.TEXT)
        .map(each -> new Beside(conjunct, step, taken, across, each));
  }

  /** How many rows find a partner. */
  private record Found(long asWritten, long byNamesake) {}

  /**
   * A condition.
   *
   * @param taken the column that is compared
   * @param across with this of the other table
   * @param namesake the column beside it that is called like that
   */
  private record Beside(
      Conjunct conjunct, JoinStep step, UseColumn taken, UseColumn across, UseColumn namesake) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.asking(
          Kind.NOT_A_REFERENCE,
          conjunct.span(),
          List.of(conjunct.span(), step.place()),
          Optional.of(found(subject.rows().orElseThrow())),
          found ->
              found
                  .filter(each -> each.asWritten() < each.byNamesake())
                  .map(each -> conclude(each, subject)));
    }

    private Question<Found> found(JoinedRows rows) {
      Relation side = rows.side(across.use().item());
      return Question.figures(
          side,
          List.of(
              Sql.countIf(rows.isAmong(side, across, taken)),
              Sql.countIf(rows.isAmong(side, across, namesake))),
          row -> new Found(row.figure(0), row.figure(1)));
    }

    private Conclusion conclude(Found found, Subject subject) {
      String right = namesake.written() + " = " + across.written();
      return new Conclusion(
          Severity.WARNING,
          subject.text(conjunct.condition())
              + " compares two columns of different names, although "
              + taken.use().words()
              + " has "
              + namesake.name()
              + " as well: "
              + Words.count(found.asWritten(), across.use().rowWord())
              + (found.asWritten() == 1 ? " finds" : " find")
              + " a partner so, "
              + Words.number(found.byNamesake())
              + " by that. Write "
              + right
              + ".",
          new Evidence(
              Map.of("with a partner", found.asWritten(), "by the namesake", found.byNamesake()),
              List.of(),
              List.of("both tables have a column " + namesake.name())),
          conjunct.part() ? List.of() : List.of(List.of(new Edit(conjunct.span(), right))));
    }
  }
}
