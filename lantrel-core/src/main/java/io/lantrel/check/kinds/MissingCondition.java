package io.lantrel.check.kinds;

import io.lantrel.catalog.Catalog;
import io.lantrel.edit.OneQuery;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SyntaxProblem;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** A JOIN whose ON was forgotten: the references between its two sides say what it can be. */
final class MissingCondition {

  private MissingCondition() {}

  /** The conditions that the schema's references make, as text, the nearest table first. */
  static List<String> conditions(
      SyntaxProblem problem, SourceText source, Span statement, Catalog catalog) {
    Edit any = problem.guesses().get(0);
    int at = any.span().start() - statement.start();
    Edit within = Edit.insert(at, any.text());
    String mended = Edit.apply(source.at(statement), List.of(within));
    // The condition that was put in begins behind its blank.
    int on = at + 1;
    return OneQuery.ifAny(mended, catalog).stream()
        .flatMap(query -> query.resolution().blocks().stream())
        .flatMap(block -> step(block, on).stream().flatMap(step -> links(block, step)))
        .distinct()
        .toList();
  }

  private static Optional<JoinStep> step(QueryBlock block, int on) {
    return block.steps().stream()
        .filter(
            step -> step.join().condition() != null && step.join().condition().span().start() == on)
        .findFirst();
  }

  private static Stream<String> links(QueryBlock block, JoinStep step) {
    TableUse right = step.right().get(0);
    return Stream.iterate(step.left().size() - 1, i -> i >= 0, i -> i - 1)
        .flatMap(i -> block.linksBetween(step.left().get(i), right).stream())
        .map(Link::condition);
  }
}
