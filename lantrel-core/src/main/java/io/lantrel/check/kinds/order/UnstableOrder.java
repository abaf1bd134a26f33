package io.lantrel.check.kinds.order;

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
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** An order in which the last row that is taken and the first that is not are alike. */
public final class UnstableOrder implements Check {

  private static final int LARGEST = 100_000;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    Query query = block.query();
    Limit limit = query.limit();
    boolean cut =
        limit != null
            && query.body().equals(block.select())
            && !query.orderBy().isEmpty()
            && !limit.withTies()
            && !limit.percent()
            && !block.isGrouped()
            && !block.select().distinct()
            && !block.isCorrelated();
    if (!cut || limit == null) {
      return List.of();
    }
    Optional<Long> last = last(limit);
    List<Expression> order = new ArrayList<>();
    query.orderBy().forEach(item -> order.add(value(item.value(), block)));
    boolean fixed = Written.fixes(order.stream(), block);
    if (last.isEmpty() || fixed || subject.rows().isEmpty()) {
      return List.of();
    }
    Span place =
        query.orderBy().get(0).span().to(query.orderBy().get(query.orderBy().size() - 1).span());
    Question<Boolean> tie = tie(subject.rows().get(), order, query.orderBy(), last.get());
    return List.of(
        Suspicion.asking(
            Kind.UNSTABLE_ORDER,
            place,
            List.of(place),
            Optional.of(tie),
            alike ->
                alike.orElse(false)
                    ? Optional.of(conclude(place, last.get(), subject))
                    : Optional.empty()));
  }

  /** A label or a number stands for what is shown under it. */
  private static Expression value(Expression item, QueryBlock block) {
    return block.outputsOf(item).stream().map(OutputColumn::value).findFirst().orElse(item);
  }

  /** How many rows there are up to the last one that is taken. */
  private static Optional<Long> last(Limit limit) {
    Optional<Long> count = number(limit.count());
    Optional<Long> skip = limit.skip() == null ? Optional.of(0L) : number(limit.skip());
    return count
        .filter(rows -> rows > 0)
        .flatMap(rows -> skip.map(before -> before + rows))
        .filter(rows -> rows <= LARGEST);
  }

  private static Optional<Long> number(@Nullable Expression value) {
    return value instanceof Value.Literal literal && literal.text().matches("[0-9]{1,6}")
        ? Optional.of(Long.parseLong(literal.text()))
        : Optional.empty();
  }

  /** Whether the last row that is taken and the next are alike in all that orders them. */
  private static Question<Boolean> tie(
      JoinedRows rows, List<Expression> order, List<OrderItem> items, long last) {
    Relation kept = rows.kept(rows.block().uses().get(0)).relation();
    List<SelectItem> shown = new ArrayList<>();
    List<OrderItem> ordered = new ArrayList<>();
    for (int i = 0; i < order.size(); i++) {
      Expression value = rows.value(kept, order.get(i));
      shown.add(Sql.as(value, "c" + i));
      ordered.add(
          new OrderItem(Span.NOWHERE, value, items.get(i).descending(), items.get(i).nullsFirst()));
    }
    Limit both =
        new Limit(
            Span.NOWHERE,
            Value.Literal.number(2),
            last > 1 ? Value.Literal.number(last - 1) : null,
            false,
            false);
    Query query =
        new Query(Span.NOWHERE, false, List.of(), kept.select(shown, null), ordered, both);
    return Question.values(
        kept,
        query,
        shown.size(),
        answer -> answer.rows().size() == 2 && answer.rows().get(0).equals(answer.rows().get(1)));
  }

  private static Conclusion conclude(Span place, long last, Subject subject) {
    String by = subject.source().at(place);
    Optional<String> key = Written.key(subject.block());
    return new Conclusion(
        Severity.NOTE,
        "The row at the cut, "
            + Words.number(last)
            + ", and the next one are alike in "
            + by
            + ": which of the two comes is left to the engine. Add what tells them apart"
            + key.map(columns -> ", as " + columns).orElse("")
            + ".",
        new Evidence(Map.of("the last row taken", last), List.of(), List.of("two rows tie there")),
        key.stream().map(columns -> List.of(Edit.insert(place.end(), ", " + columns))).toList());
  }
}
