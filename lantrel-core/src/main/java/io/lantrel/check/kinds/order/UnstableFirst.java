package io.lantrel.check.kinds.order;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A subquery that takes the first row for each row outside, by an order in which several come
 * first: which of them is taken, and what is shown of it, is left to the engine.
 */
public final class UnstableFirst implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    Query query = block.query();
    boolean first =
        block.isCorrelated()
            && query.isCutAfterFirst()
            && query.body().equals(block.select())
            && !query.orderBy().isEmpty()
            && !block.isGrouped()
            && !block.select().distinct()
            && !block.isOnlyAskedForARow();
    Optional<List<Expression>> parts = first ? parts(block) : Optional.empty();
    if (parts.isEmpty() || parts.get().isEmpty() || subject.rows().isEmpty()) {
      return List.of();
    }
    List<Expression> order = query.orderBy().stream().map(OrderItem::value).toList();
    List<Expression> all = Stream.concat(parts.get().stream(), order.stream()).toList();
    if (Written.fixes(all.stream(), block) || isAllShown(all, block)) {
      return List.of();
    }
    Span place = order.get(0).span().to(order.get(order.size() - 1).span());
    Question<Long> ties = Ties.first(subject.rows().get(), parts.get(), query.orderBy());
    return List.of(
        Suspicion.counting(
            Kind.UNSTABLE_ORDER,
            place,
            List.of(place),
            ties,
            count -> conclude(place, count, subject)));
  }

  /**
   * What the rows have in common that are found for one row outside; empty if it is not by equal
   * columns alone that they are found.
   */
  private static Optional<List<Expression>> parts(QueryBlock block) {
    List<Expression> parts = new ArrayList<>();
    for (Conjunct filter : block.filters()) {
      boolean outward =
          filter
              .condition()
              .preorder()
              .filter(ColumnName.class::isInstance)
              .flatMap(name -> block.column((ColumnName) name).stream())
              .anyMatch(column -> !block.isOwn(column));
      if (!outward) {
        continue;
      }
      if (!(filter.condition() instanceof Comparison equal)
          || equal.operator() != ComparisonOperator.EQUAL) {
        return Optional.empty();
      }
      Optional<Expression> own =
          Stream.of(equal.left(), equal.right())
              .filter(side -> block.column(side).filter(block::isOwn).isPresent())
              .findFirst();
      if (own.isEmpty()) {
        return Optional.empty();
      }
      parts.add(own.get());
    }
    return Optional.of(parts);
  }

  /** Whether rows that come first alike are alike in all that is shown. */
  private static boolean isAllShown(List<Expression> alike, QueryBlock block) {
    Set<UseColumn> columns = new HashSet<>();
    alike.forEach(each -> block.column(each).ifPresent(columns::add));
    return block.outputs().stream()
        .allMatch(
            output ->
                !block.columnsIn(output.value()).isEmpty()
                    && columns.containsAll(block.columnsIn(output.value())));
  }

  private static Conclusion conclude(Span place, long ties, Subject subject) {
    return Ties.conclusion(
        "Which row comes first is left to the engine where several are alike in "
            + subject.source().at(place)
            + ", as for "
            + Words.count(ties, "row")
            + " outside",
        place,
        Map.of("rows outside with several that come first", ties),
        subject);
  }
}
