package io.lantrel.check.kinds.subqueries;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * EXISTS over a subquery that says nothing about the row outside: it is so for all rows or none.
 */
public final class UncorrelatedExists implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    if (subject.block().uses().isEmpty()) {
      return suspicions;
    }
    for (Condition.Exists exists : subject.nodes(Condition.Exists.class)) {
      List<QueryBlock> parts = Blocks.parts(exists.query(), subject);
      boolean alone =
          parts.stream().noneMatch(inner -> inner.isCorrelated() || inner.uses().isEmpty())
              && !looksFurther(exists, subject);
      if (alone && !parts.isEmpty()) {
        suspicions.add(suspicion(exists, parts, subject));
      }
    }
    return suspicions;
  }

  /** A subquery in it may mention a row outside of all of it. */
  private static boolean looksFurther(Condition.Exists exists, Subject subject) {
    return Stream.concat(Stream.of(subject.block()), subject.block().outward())
        .anyMatch(block -> !block.mentioned(exists.query()).isEmpty());
  }

  private static Suspicion suspicion(
      Condition.Exists exists, List<QueryBlock> parts, Subject subject) {
    List<TableUse> inside = parts.stream().flatMap(inner -> inner.uses().stream()).toList();
    List<String> links = new ArrayList<>();
    for (TableUse outer : subject.block().uses()) {
      for (TableUse use : inside) {
        subject.block().linksBetween(use, outer).stream()
            .map(Link::condition)
            .filter(condition -> !use.name().equals(outer.name()))
            .forEach(links::add);
      }
    }
    String tables = Words.list(inside.stream().map(TableUse::words).distinct().toList());
    String outside = Words.list(subject.block().uses().stream().map(TableUse::words).toList());
    String message =
        "This EXISTS says nothing about "
            + outside
            + ": it is true for every row as soon as "
            + tables
            + (inside.size() == 1 ? " has" : " have")
            + " any row that meets it. Connect the two"
            + (links.size() == 1 ? ": " + links.get(0) + "." : ".");
    List<List<Edit>> repairs =
        links.size() == 1 && parts.size() == 1
            ? List.of(new QueryEdits(subject.source(), parts.get(0)).addFilter(links.get(0)))
            : List.of();
    Conclusion conclusion =
        Conclusion.warning(
            message, List.of("no column of " + outside + " stands in the subquery"), repairs);
    return new Suspicion(
        Kind.UNCORRELATED_EXISTS,
        exists.span(),
        List.of(exists.span()),
        List.of(),
        answers -> Optional.of(conclusion));
  }
}
