package io.lantrel.check.kinds.hierarchies;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A recursion that begins at the top of a hierarchy and then walks up: it never leaves the top. Or
 * one that walks the other way than its own name says.
 */
public final class ReversedRecursion implements Check {

  private static final Set<String> DOWN =
      Set.of(
          "below",
          "under",
          "underneath",
          "descendants",
          "descendant",
          "children",
          "subtree",
          "subordinates",
          "offspring");

  private static final Set<String> UP =
      Set.of("above", "over", "ancestors", "ancestor", "parents", "superiors", "forebears");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return Walk.of(subject)
        .flatMap(
            walk ->
                !walk.down() && walk.startsAtTheTop()
                    ? Optional.of(suspicion(walk, neverLeaves(walk)))
                    : otherWay(walk, subject).map(said -> suspicion(walk, called(walk, said))))
        .stream()
        .toList();
  }

  /**
   * What says that it goes the other way.
   *
   * @param where what says it, as the beginning of a sentence
   */
  private record Said(String where, String word) {}

  /**
   * The word of its name, or of what is shown of it alone, that says it goes the other way, from
   * rows that are picked.
   */
  private static Optional<Said> otherWay(Walk walk, Subject subject) {
    boolean picks = walk.start().filter(start -> !start.filters().isEmpty()).isPresent();
    String name =
        walk.reached().item() instanceof FromItem.TableName named
            ? named.last().text()
            : walk.reached().name();
    return Stream.concat(
            Words.ofName(name).stream().map(word -> new Said("By its name", word)),
            endsOfHeadings(walk, name, subject))
        .filter(said -> picks && (walk.down() ? UP : DOWN).contains(said.word()))
        .findFirst();
  }

  /**
   * The last words of the headings of those queries that look at nothing but the recursion, as of
   * {@code groups_below}: in {@code over_100} the first says something else.
   */
  private static Stream<Said> endsOfHeadings(Walk walk, String name, Subject subject) {
    return subject.resolution().blocks().stream()
        .filter(block -> block.uses().size() == 1 && !block.isRecursive())
        .filter(
            block ->
                block.uses().get(0).item() instanceof FromItem.TableName named
                    && named.last().text().equals(name)
                    && !block.uses().get(0).isOfTable(walk.table()))
        .flatMap(block -> block.outputs().stream().map(OutputColumn::name))
        .map(
            heading -> {
              List<String> words = Words.ofName(heading);
              return new Said(
                  "By the heading " + heading + " over it", words.get(words.size() - 1));
            });
  }

  private static String called(Walk walk, Said said) {
    String row = walk.table().rowWord();
    return said.where()
        + " the recursion finds what is "
        + said.word()
        + ", and it walks "
        + (walk.down() ? "down" : "up")
        + ": from "
        + Words.one(row)
        + (walk.down() ? " to those that refer to it." : " to the one that it refers to.");
  }

  private static String neverLeaves(Walk walk) {
    String row = walk.table().rowWord();
    return "The recursion begins with the "
        + Words.plural(row)
        + " that refer to none, and this walks on to the "
        + row
        + " that they refer to: there is none, so it ends at once.";
  }

  private static Suspicion suspicion(Walk walk, String what) {
    Optional<String> right = turned(walk);
    String message =
        what
            + right
                .map(
                    condition ->
                        " To walk " + (walk.down() ? "up" : "down") + ", write " + condition + ".")
                .orElse("");
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

  /** The condition that walks the other way. */
  private static Optional<String> turned(Walk walk) {
    String from = walk.reference().fromColumns().get(0);
    String to = walk.reference().toColumns().get(0);
    Optional<UseColumn> next = walk.table().columnOfTable(walk.down() ? to : from);
    Optional<UseColumn> before = showing(walk.reached(), walk.down() ? from : to);
    return next.flatMap(each -> before.map(other -> each.written() + " = " + other.written()));
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
