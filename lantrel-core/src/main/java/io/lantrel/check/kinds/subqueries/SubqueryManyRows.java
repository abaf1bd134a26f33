package io.lantrel.check.kinds.subqueries;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * A subquery in the place of one value that can give several rows (ISO/IEC 9075-2, 7.19, scalar
 * subquery: more than one row is an error).
 */
public final class SubqueryManyRows implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (Value.ScalarQuery scalar : subject.nodes(Value.ScalarQuery.class)) {
      Blocks.of(scalar.query(), subject)
          .filter(inner -> mayBeMany(inner, scalar.query()))
          .flatMap(inner -> suspicion(scalar, inner, subject))
          .ifPresent(suspicions::add);
    }
    return suspicions;
  }

  private static boolean mayBeMany(QueryBlock inner, Query query) {
    Limit limit = query.limit();
    boolean cut =
        limit != null
            && limit.count() instanceof Value.Literal literal
            && (literal.text().equals("1") || literal.text().equals("0"));
    boolean one =
        inner.keys().stream().anyMatch(key -> key.columns().isEmpty())
            || (!inner.isGrouped() && inner.determinedBy(Set.of()).containsAll(inner.uses()));
    return !cut && !one && !inner.uses().isEmpty();
  }

  private static Optional<Suspicion> suspicion(
      Value.ScalarQuery scalar, QueryBlock inner, Subject subject) {
    Optional<Question<Long>> most = subject.of(inner).rows().flatMap(SubqueryManyRows::most);
    return Optional.of(
        Suspicion.asking(
            Kind.SUBQUERY_MANY_ROWS,
            scalar.span(),
            List.of(scalar.span()),
            most,
            count -> conclude(inner, count)));
  }

  /** The most rows for one row outside, as far as these are told by equalities with it. */
  private static Optional<Question<Long>> most(JoinedRows rows) {
    QueryBlock inner = rows.block();
    if (inner.isGrouped()) {
      return Optional.empty();
    }
    TableUse use = inner.uses().get(0);
    Relation kept = rows.kept(use).relation();
    List<Expression> outside = new ArrayList<>();
    for (Conjunct filter : inner.filters()) {
      inner
          .equated(filter.condition())
          .filter(each -> inner.isOwn(each.left()) != inner.isOwn(each.right()))
          .map(each -> inner.isOwn(each.left()) ? each.left() : each.right())
          .ifPresent(own -> outside.add(rows.column(kept, own)));
    }
    if (inner.isCorrelated() && outside.isEmpty()) {
      return Optional.empty();
    }
    String name = SampleData.RESERVED + "each";
    FromItem each =
        Sql.derived(
            kept.select(false, List.of(Sql.as(Sql.count(), "n")), null, outside, null), name);
    Query query =
        Query.of(
            Sql.select(
                List.of(Sql.as(FunctionCall.of("MAX", Sql.column(name, "n")), "c0")), each, null));
    return Optional.of(Question.numbers(kept, query, 1, row -> row.figure(0)));
  }

  private static Optional<Conclusion> conclude(QueryBlock inner, Optional<Long> most) {
    boolean shown = most.isPresent() && most.get() > 1;
    String tables = Words.list(inner.uses().stream().map(TableUse::words).toList());
    String message =
        "This subquery stands for one value and can give several rows"
            + (shown ? ": up to " + Words.number(most.get()) + " here" : "")
            + ". Say which one with an aggregate, or narrow "
            + tables
            + " down to one row.";
    List<String> facts =
        List.of(
            shown
                ? "one row outside has " + Words.rows(most.get()) + " in it"
                : most.isPresent()
                    ? "the sample has no such row, and no key forbids it"
                    : "no key makes it one row");
    return Optional.of(
        new Conclusion(
            shown ? Severity.WARNING : Severity.NOTE,
            message,
            new Evidence(
                most.map(rows -> Map.of("rows of the subquery", rows)).orElse(Map.of()),
                List.of(),
                facts),
            List.of()));
  }
}
