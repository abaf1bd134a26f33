package io.lantrel.check.kinds.subqueries;

import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Value.ScalarQuery;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The first row of a table that refers to the one outside, shown beside each row of that, and
 * nothing connects the two: every row gets the same. A total of all rows may be shown on purpose.
 */
public final class UncorrelatedRow implements Check {

  /** Words of a heading that say that a figure is of all rows. */
  private static final Set<String> OF_ALL =
      Set.of(
          "all", "total", "overall", "whole", "grand", "global", "average", "avg", "mean", "max",
          "min", "most", "least", "top", "highest", "lowest", "latest", "last", "first");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Suspicion> suspicions = new ArrayList<>();
    for (OutputColumn output : block.outputs()) {
      if (output.value() instanceof ScalarQuery scalar && !speaksOfAll(output)) {
        Blocks.of(scalar.query(), subject)
            .filter(UncorrelatedRow::isTotal)
            .flatMap(inner -> suspicion(scalar, inner, subject))
            .ifPresent(each -> suspicions.add(each));
      }
    }
    if (block.isGrouped()) {
      return suspicions;
    }
    for (ScalarQuery each : subject.nodes(ScalarQuery.class)) {
      boolean shown =
          block.outputs().stream().anyMatch(output -> output.value().span().contains(each.span()));
      Optional<QueryBlock> inner = Blocks.of(each.query(), subject);
      if (shown && each.query().limit() != null) {
        inner
            .filter(it -> !isTotal(it))
            .flatMap(it -> suspicion(each, it, subject))
            .ifPresent(it -> suspicions.add(it));
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
          // The mean of a table beside each of its own rows is one to compare with.
          boolean other = !isTotal(inner) || !use.isOfTable(outer);
          if (other && link.from().equals(use) && !use.name().equals(outer.name())) {
            links.add(link.condition());
            met.add(outer);
          }
        }
      }
    }
    if (inner.isCorrelated() || !inner.groupedBy().isEmpty() || links.size() != 1) {
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
                    List.of(new QueryEdits(subject.source(), inner).addFilter(link)))
                .as(isTotal(inner) ? Severity.NOTE : Severity.WARNING)));
  }

  /** A total of all rows: shown beside each row it may be meant. */
  private static boolean isTotal(QueryBlock inner) {
    return inner.groupedBy().isEmpty()
        && inner.outputs().size() == 1
        && inner.outputs().get(0).value() instanceof FunctionCall call
        && Aggregates.isOne(call);
  }

  private static boolean speaksOfAll(OutputColumn output) {
    return Words.ofName(output.name()).stream().anyMatch(OF_ALL::contains);
  }
}
