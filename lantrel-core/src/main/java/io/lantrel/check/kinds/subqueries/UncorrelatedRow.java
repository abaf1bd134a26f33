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
import io.lantrel.sql.tree.Value.ScalarQuery;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The first row of a table that refers to the one outside, shown beside each row of that, and
 * nothing connects the two: every row gets the same. A total of all rows is shown on purpose.
 */
public final class UncorrelatedRow implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Suspicion> suspicions = new ArrayList<>();
    if (block.isGrouped()) {
      return suspicions;
    }
    for (ScalarQuery each : subject.nodes(ScalarQuery.class)) {
      boolean shown =
          block.outputs().stream().anyMatch(output -> output.value().span().contains(each.span()));
      Optional<QueryBlock> inner = Blocks.of(each.query(), subject);
      if (shown && each.query().limit() != null && inner.isPresent()) {
        suspicion(each, inner.get(), subject).ifPresent(suspicions::add);
      }
    }
    return suspicions;
  }

  private static Optional<Suspicion> suspicion(
      ScalarQuery scalar, QueryBlock inner, Subject subject) {
    Set<String> links = new LinkedHashSet<>();
    List<TableUse> met = new ArrayList<>();
    for (TableUse outer : subject.block().uses()) {
      for (TableUse use : inner.uses()) {
        for (Link link : inner.linksBetween(use, outer)) {
          if (link.from().equals(use) && !use.name().equals(outer.name())) {
            links.add(link.condition());
            met.add(outer);
          }
        }
      }
    }
    if (inner.isCorrelated() || inner.isGrouped() || links.size() != 1) {
      return Optional.empty();
    }
    String link = links.iterator().next();
    String message =
        "This subquery says nothing about "
            + met.get(0).words()
            + ": every row gets the same "
            + Words.list(inner.outputs().stream().map(each -> each.name()).toList())
            + ". Connect the two: "
            + link
            + ".";
    return Optional.of(
        Suspicion.certain(
            Kind.UNCORRELATED_EXISTS,
            scalar.span(),
            Conclusion.warning(
                message,
                List.of("no column of " + met.get(0).words() + " stands in the subquery"),
                List.of(new QueryEdits(subject.source(), inner).addFilter(link)))));
  }
}
