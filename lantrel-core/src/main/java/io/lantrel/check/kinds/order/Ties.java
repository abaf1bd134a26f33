package io.lantrel.check.kinds.order;

import io.lantrel.check.Evidence;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Window;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Rows that are alike in all that orders them. */
final class Ties {

  private static final String RANKED = SampleData.RESERVED + "ranked";

  private Ties() {}

  /**
   * In how many parts several rows come first: of these the second in a row has rank 1 too.
   *
   * @param parts what the rows of a part have in common
   */
  static Question<Long> first(JoinedRows rows, List<Expression> parts, List<OrderItem> order) {
    return ranked(
        rows,
        parts,
        order,
        Sql.all(
            List.of(
                Sql.equal(Sql.column(RANKED, "r"), Sql.number(1)),
                Sql.equal(Sql.column(RANKED, "n"), Sql.number(2)))));
  }

  /** How many rows are alike with one before them in their part. */
  static Question<Long> any(JoinedRows rows, List<Expression> parts, List<OrderItem> order) {
    return ranked(
        rows, parts, order, Sql.greater(Sql.column(RANKED, "n"), Sql.column(RANKED, "r")));
  }

  /** How many rows have one before them in their part; by no order, which RANK may want. */
  static Question<Long> behind(JoinedRows rows, List<Expression> parts) {
    Relation kept = rows.kept(rows.block().uses().get(0)).relation();
    Window over = window(rows, kept, parts, List.of());
    List<SelectItem> items = List.of(Sql.as(FunctionCall.over("ROW_NUMBER", over), "n"));
    Query query =
        Query.of(
            Sql.select(
                List.of(Sql.as(Sql.count(), "c0")),
                Sql.derived(kept.select(items, null), RANKED),
                Sql.greater(Sql.column(RANKED, "n"), Sql.number(1))));
    return Question.numbers(kept, query, 1, row -> row.figure(0));
  }

  private static Question<Long> ranked(
      JoinedRows rows, List<Expression> parts, List<OrderItem> order, Expression tied) {
    Relation kept = rows.kept(rows.block().uses().get(0)).relation();
    Window over = window(rows, kept, parts, order);
    List<SelectItem> items =
        List.of(
            Sql.as(FunctionCall.over("RANK", over), "r"),
            Sql.as(FunctionCall.over("ROW_NUMBER", over), "n"));
    FromItem ranked = Sql.derived(kept.select(items, null), RANKED);
    Query query = Query.of(Sql.select(List.of(Sql.as(Sql.count(), "c0")), ranked, tied));
    return Question.numbers(kept, query, 1, row -> row.figure(0));
  }

  /** A window over the rows of a relation, by values as they are written. */
  static Window window(
      JoinedRows rows, Relation kept, List<Expression> parts, List<OrderItem> order) {
    return new Window(
        Span.NOWHERE,
        null,
        false,
        parts.stream().map(value -> rows.value(kept, value)).toList(),
        order.stream()
            .map(
                item ->
                    new OrderItem(
                        Span.NOWHERE,
                        rows.value(kept, item.value()),
                        item.descending(),
                        item.nullsFirst()))
            .toList(),
        null);
  }

  /**
   * A note that which row comes first is left to the engine; the repair adds a key to the order.
   *
   * @param message that, without a point at its end
   * @param order the place of the order
   */
  static Conclusion conclusion(
      String message, Span order, Map<String, Long> figures, Subject subject) {
    Optional<String> key = Written.key(subject.block());
    return new Conclusion(
        Severity.NOTE,
        message
            + ". Add what tells them apart"
            + key.map(columns -> ", as " + columns).orElse("")
            + ".",
        new Evidence(figures, List.of(), List.of()),
        key.stream().map(columns -> List.of(Edit.insert(order.end(), ", " + columns))).toList());
  }
}
