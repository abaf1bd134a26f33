package io.lantrel.check.kinds.joins;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.totals.IdleJoin;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.RowNames;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.QueryBody.SetOperation;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A join of a table of which nothing is shown, which gives the same line several times. DISTINCT
 * hides that; nothing else does.
 */
public final class RowsRepeated implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    boolean lines =
        !block.isGrouped()
            && block.select().distinctOn().isEmpty()
            && !block.isOnlyAskedForARow()
            && !block.isRecursive()
            && block.showsRowsOnce()
            && block.select().items().stream().allMatch(item -> !item.span().isNowhere());
    boolean tested =
        block.outer().isPresent() && !block.select().distinct() && isOnlyLookedInto(block);
    if (!lines || tested || showsUnknown(block)) {
      return List.of();
    }
    Repeated repeated = new Repeated(block);
    List<JoinStep> steps = repeated.steps();
    Optional<TableUse> use = repeated.shown().stream().findFirst();
    if (steps.isEmpty()
        || use.isEmpty()
        || !identifies(use.get(), block)
        || isMadeDifferent(subject)) {
      return List.of();
    }
    return List.of(suspicion(steps, use.get(), subject));
  }

  /** Whether it shows columns of a function of which nobody knows what it gives. */
  private static boolean showsUnknown(QueryBlock block) {
    return block.uses().stream().anyMatch(use -> !use.isKnown())
        && block.outputs().stream()
            .flatMap(output -> output.value().preorder())
            .anyMatch(
                node ->
                    node instanceof ColumnName name
                        && block.binding(name) instanceof Binding.Opaque);
  }

  /** Whether UNION, EXCEPT or INTERSECT without ALL makes one line of equal ones. */
  private static boolean isMadeDifferent(Subject subject) {
    Stream<ResolvedQuery> inner =
        subject.resolution().blocks().stream()
            .flatMap(each -> each.uses().stream())
            .flatMap(use -> use.queryOfText().stream());
    return Stream.concat(Stream.of(subject.resolution().result()), inner)
        .filter(query -> query.parts().contains(subject.block()))
        .anyMatch(query -> isMadeDifferent(query.query().body(), subject.block()));
  }

  private static boolean isMadeDifferent(QueryBody body, QueryBlock block) {
    return body instanceof SetOperation operation
        && operation.span().contains(block.select().span())
        && (!operation.all()
            || operation.parts().stream().anyMatch(part -> isMadeDifferent(part, block)));
  }

  /** Whether it shows by what its rows are known: a key or a name, and not just a category. */
  private static boolean identifies(TableUse use, QueryBlock block) {
    List<UseColumn> known = RowNames.identifyingColumns(use);
    return block.outputs().stream()
        .flatMap(each -> block.columnsIn(each.value()).stream())
        .anyMatch(known::contains);
  }

  /** A subquery of IN and the like, in which a value may come several times. */
  private static boolean isOnlyLookedInto(QueryBlock block) {
    return block
        .outer()
        .filter(
            outer -> outer.uses().stream().noneMatch(use -> use.query().equals(Optional.of(block))))
        .isPresent();
  }

  private static Suspicion suspicion(List<JoinStep> steps, TableUse use, Subject subject) {
    boolean hidden = subject.block().select().distinct();
    JoinStep step = steps.get(0);
    Span place = hidden ? distinct(subject) : step.place();
    List<Span> about = new ArrayList<>(List.of(place));
    steps.forEach(each -> about.add(each.place()));
    return Suspicion.asking(
        hidden ? Kind.DISTINCT_HIDES_REPEATS : Kind.ROWS_REPEATED,
        place,
        about,
        Repeated.lines(subject, use),
        found ->
            found
                .filter(lines -> lines.lines() > lines.different())
                .map(lines -> conclude(steps, use, hidden, lines, subject)));
  }

  private static Span distinct(Subject subject) {
    int start = subject.block().select().span().start();
    return subject.edits().distinct().orElse(new Span(start, start + "SELECT".length()));
  }

  private static Conclusion conclude(
      List<JoinStep> steps, TableUse use, boolean hidden, Repeated.Lines lines, Subject subject) {
    JoinStep step = steps.get(0);
    String joined =
        Words.list(
            steps.stream()
                .flatMap(each -> each.right().stream())
                .map(TableUse::words)
                .distinct()
                .toList());
    String message =
        (hidden ? "DISTINCT hides that the join of " : "The join of ")
            + joined
            + ", of which nothing is shown, "
            + "repeats lines: "
            + Words.number(lines.lines())
            + " for "
            + Words.count(lines.different(), "different one")
            + ". Ask with EXISTS whether there is "
            + Words.one(step.right().get(0).rowWord())
            + ".";
    return new Conclusion(
        Severity.NOTE,
        message,
        new Evidence(
            Map.of("lines", lines.lines(), "different lines", lines.different()),
            List.of(),
            List.of("no column of " + joined + " is shown")),
        repairs(steps, use, hidden, subject));
  }

  private static List<List<Edit>> repairs(
      List<JoinStep> steps, TableUse use, boolean hidden, Subject subject) {
    if (steps.size() != 1) {
      return List.of();
    }
    return new IdleJoin(steps.get(0), use, subject)
        .removal().stream()
            .map(
                removal -> {
                  List<Edit> all = new ArrayList<>(removal);
                  if (hidden) {
                    subject
                        .edits()
                        .distinct()
                        .ifPresent(word -> all.add(new Edit(blanks(word, subject), "")));
                  }
                  return all;
                })
            .toList();
  }

  private static Span blanks(Span word, Subject subject) {
    boolean blank =
        word.end() < subject.source().text().length()
            && subject.source().text().charAt(word.end()) == ' ';
    return new Span(word.start(), word.end() + (blank ? 1 : 0));
  }
}
