package io.lantrel.check.kinds.order;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.sql.tree.Window;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * LAG or LEAD along a part of a key, the rest of which is neither in the order nor in PARTITION BY:
 * the row before that of a station on a day is that of another station. The same without any
 * PARTITION BY, where whose row it is stands beside it, or the order begins with that and the
 * difference is taken or a key is walked through. What only steps through the order itself, as from
 * day to day, may be meant so.
 */
public final class RowOfAnother implements Check {

  private static final Set<String> STEPPING = Set.of("lag", "lead");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isGrouped() || block.isCorrelated()) {
      return List.of();
    }
    return subject.nodes(FunctionCall.class).stream()
        .filter(call -> STEPPING.contains(call.key()) && !call.arguments().isEmpty())
        .flatMap(call -> of(call, block).stream())
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<Step> of(FunctionCall call, QueryBlock block) {
    Window window = Windows.of(call, block).orElse(null);
    if (window == null || window.orderBy().isEmpty()) {
      return Optional.empty();
    }
    Set<UseColumn> ordered = columns(window.orderBy().stream().map(OrderItem::value), block);
    Set<UseColumn> told = new HashSet<>(columns(window.partitionBy().stream(), block));
    told.addAll(ordered);
    Set<UseColumn> taken = block.columnsIn(call.arguments().get(0));
    if (ordered.containsAll(taken)) {
      return Optional.empty();
    }
    return block.uses().stream()
        .filter(use -> use.table().isPresent())
        .flatMap(use -> rest(use, ordered, told, block).stream())
        .findFirst()
        .or(
            () ->
                window.partitionBy().isEmpty()
                    ? owner(taken, told, block).or(() -> first(call, window, taken, block))
                    : Optional.empty())
        .map(rest -> new Step(call, window, rest));
  }

  /**
   * Whose rows these are: the one reference that is shown beside what is taken of them. Not where
   * the query looks at the one before as well.
   */
  private static Optional<UseColumn> owner(
      Set<UseColumn> taken, Set<UseColumn> told, QueryBlock block) {
    Set<UseColumn> owners = new LinkedHashSet<>();
    for (OutputColumn each : block.outputs()) {
      block.column(each.value()).filter(it -> refers(it, block)).ifPresent(owners::add);
    }
    UseColumn owner = owners.size() == 1 ? owners.iterator().next() : null;
    return Optional.ofNullable(owner)
        .filter(each -> !isLookedAt(each, block) && !told.contains(each))
        .filter(each -> taken.stream().allMatch(it -> it.use().equals(each.use())));
  }

  /** Whether the query looks at the owner of the row before as well. */
  private static boolean isLookedAt(UseColumn owner, QueryBlock block) {
    return block
        .select()
        .preorder()
        .filter(FunctionCall.class::isInstance)
        .map(FunctionCall.class::cast)
        .filter(each -> STEPPING.contains(each.key()) && !each.arguments().isEmpty())
        .anyMatch(each -> block.columnsIn(each.arguments().get(0)).contains(owner));
  }

  /**
   * The reference that the order begins with, before what orders the rows of one of them: where the
   * difference is taken, or the two are a key, of which the second counts within the first.
   */
  private static Optional<UseColumn> first(
      FunctionCall call, Window window, Set<UseColumn> taken, QueryBlock block) {
    return Optional.of(window.orderBy())
        .filter(order -> order.size() > 1)
        .flatMap(order -> block.column(order.get(0).value()))
        .filter(block::isOwn)
        .filter(each -> isSubtracted(call, block) || isWithin(each, window, block))
        .filter(each -> refers(each, block) && !isLookedAt(each, block))
        .filter(each -> taken.stream().allMatch(it -> it.use().equals(each.use())));
  }

  private static boolean isWithin(UseColumn owner, Window window, QueryBlock block) {
    List<UseColumn> key = owner.use().keyColumns();
    return key.size() > 1
        && key.contains(owner)
        && columns(window.orderBy().stream().map(OrderItem::value), block).containsAll(key);
  }

  /** Whether the difference between a value and that of the row before is shown. */
  private static boolean isSubtracted(FunctionCall call, QueryBlock block) {
    Expression taken = call.arguments().get(0);
    return block
        .select()
        .preorder()
        .filter(Arithmetic.class::isInstance)
        .map(Arithmetic.class::cast)
        .filter(each -> each.operator() == ArithmeticOperator.MINUS)
        .anyMatch(
            each ->
                (each.right().equals(call) && isSame(each.left(), taken, block))
                    || (each.left().equals(call) && isSame(each.right(), taken, block)));
  }

  private static boolean isSame(Expression one, Expression other, QueryBlock block) {
    return block.column(one).isPresent() && block.column(one).equals(block.column(other));
  }

  private static boolean refers(UseColumn column, QueryBlock block) {
    return BaseColumn.of(column)
        .filter(base -> !BaseColumn.referred(base, block.catalog()).isEmpty())
        .isPresent();
  }

  private static Set<UseColumn> columns(Stream<Expression> values, QueryBlock block) {
    return values
        .flatMap(value -> block.column(value).stream())
        .filter(block::isOwn)
        .collect(Collectors.toSet());
  }

  /** The one column of a key that is left out, if the order has another one of it. */
  private static Optional<UseColumn> rest(
      TableUse use, Set<UseColumn> ordered, Set<UseColumn> told, QueryBlock block) {
    List<UseColumn> key = use.keyColumns();
    List<UseColumn> left = key.stream().filter(column -> !block.determines(told, column)).toList();
    return key.stream().anyMatch(ordered::contains) && left.size() == 1
        ? Optional.of(left.get(0))
        : Optional.empty();
  }

  /**
   * A step from row to row.
   *
   * @param rest what of the key the window does not have
   */
  private record Step(FunctionCall call, Window window, UseColumn rest) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.counting(
          Kind.PARTIAL_KEY,
          call.span(),
          List.of(call.span()),
          strangers(subject.rows().orElseThrow()),
          count -> conclude(count, subject));
    }

    /**
     * How many rows have one before them that the rest tells from them; none if it tells all apart.
     */
    private Question<Long> strangers(JoinedRows rows) {
      Relation kept = rows.kept(rest.use()).relation();
      Expression value = rows.column(kept, rest);
      String name = SampleData.RESERVED + "stepped";
      FromItem stepped =
          Sql.derived(
              kept.select(
                  List.of(
                      Sql.as(value, "v"),
                      Sql.as(FunctionCall.over("LAG", over(rows, kept), value), "w")),
                  null),
              name);
      Expression unlike = Sql.not(Sql.equal(Sql.column(name, "v"), Sql.column(name, "w")));
      Expression read = Sql.column(name, "v");
      List<SelectItem> figures =
          List.of(
              Sql.as(Sql.countIf(unlike), "c0"),
              Sql.as(Sql.count(read), "c1"),
              Sql.as(Sql.countDistinct(read), "c2"));
      return Question.numbers(
          kept,
          Query.of(Sql.select(figures, stepped, null)),
          3,
          row -> row.figure(1) > row.figure(2) ? row.figure(0) : 0);
    }

    /** The same window; rows that are alike in its order come by the rest, always so. */
    private Window over(JoinedRows rows, Relation kept) {
      Window same = Ties.window(rows, kept, window.partitionBy(), window.orderBy());
      List<OrderItem> order = new ArrayList<>(same.orderBy());
      order.add(new OrderItem(Span.NOWHERE, rows.column(kept, rest), false, null));
      return new Window(Span.NOWHERE, null, false, same.partitionBy(), order, null);
    }

    private Conclusion conclude(long count, Subject subject) {
      boolean before = call.key().equals("lag");
      List<OrderItem> order = window.orderBy();
      Span place = order.get(0).span().to(order.get(order.size() - 1).span());
      String message =
          "By "
              + subject.source().at(place)
              + within(subject)
              + " the row "
              + (before ? "before" : "behind")
              + " may be that of another "
              + rest.name()
              + ", as it is in "
              + Words.rows(count)
              + ". Add "
              + rest.written()
              + " to PARTITION BY.";
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              Map.of("rows behind one of another", count),
              List.of(),
              List.of(
                  rest.use().keyColumns().contains(rest)
                      ? Words.one(rest.use().rowWord())
                          + " is told apart by "
                          + Words.list(
                              rest.use().keyColumns().stream().map(UseColumn::name).toList())
                      : "each row is shown with its " + rest.name())),
          List.of(List.of(repair(subject))));
    }

    private String within(Subject subject) {
      List<Expression> parts = window.partitionBy();
      return parts.isEmpty()
          ? " alone"
          : " within "
              + subject.source().at(parts.get(0).span().to(parts.get(parts.size() - 1).span()));
    }

    private Edit repair(Subject subject) {
      List<Expression> parts = window.partitionBy();
      // The place of a window is that of its parentheses.
      return parts.isEmpty()
          ? Edit.insert(
              window.span().start() + 1,
              subject.edits().keyword("PARTITION BY") + " " + rest.written() + " ")
          : Edit.insert(parts.get(parts.size() - 1).span().end(), ", " + rest.written());
    }
  }
}
