package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value.ScalarQuery;
import io.lantrel.words.WhichEnd;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * MIN or MAX of a reference or an amount under a heading that speaks of the first or the last row:
 * {@code MIN(depot_id) AS first_depot} is the depot of the least number, wherever the way began,
 * and {@code MAX(amount) AS latest_price} the greatest price there ever was.
 */
public final class CalledFirstOrLast implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Suspicion> within =
        block.outputs().stream()
            .flatMap(output -> ofSubquery(output, subject).stream())
            .limit(1)
            .toList();
    if (!within.isEmpty()
        || subject.rows().isEmpty()
        || !block.isGrouped()
        || block.isCorrelated()) {
      return within;
    }
    return block.outputs().stream()
        .flatMap(output -> of(output, subject).stream())
        .limit(1)
        .map(each -> each.suspicion(subject))
        .toList();
  }

  /** Of a row outside, in a subquery of one table: its key says that times follow each other. */
  private static Optional<Suspicion> ofSubquery(OutputColumn output, Subject subject) {
    return output.value() instanceof ScalarQuery scalar
        ? Blocks.of(scalar.query(), subject)
            .filter(inner -> inner.uses().size() == 1 && inner.outputs().size() == 1)
            .filter(inner -> inner.groupedBy().isEmpty() && inner.isCorrelated())
            .filter(inner -> !saysWhen(inner))
            .flatMap(
                inner ->
                    first(output, inner.outputs().get(0).value(), inner, subject)
                        .filter(first -> isMeasure(first.column()))
                        .filter(first -> first.order().use().keyColumns().contains(first.order()))
                        .map(first -> first.ofSubquery(subject.of(inner), subject)))
        : Optional.empty();
  }

  /** The columns by which a subquery is led to its rows. */
  private static List<UseColumn> led(QueryBlock inner) {
    return inner.conjuncts().stream()
        .flatMap(each -> inner.alike(each.condition()).stream())
        .filter(each -> inner.isOwn(each.left()) != inner.isOwn(each.right()))
        .map(each -> inner.isOwn(each.left()) ? each.left() : each.right())
        .distinct()
        .toList();
  }

  /** The conditions that a row of it meets by itself. */
  private static List<Expression> ofItself(QueryBlock inner) {
    return inner.conjuncts().stream()
        .map(Conjunct::condition)
        .filter(each -> each.preorder().noneMatch(Query.class::isInstance))
        .filter(each -> inner.outward().allMatch(outer -> outer.mentioned(each).isEmpty()))
        .toList();
  }

  /** Whether a condition is about a time, and may leave the row that is meant alone. */
  private static boolean saysWhen(QueryBlock block) {
    return block.conjuncts().stream()
        .flatMap(each -> block.columnsIn(each.condition()).stream())
        .anyMatch(each -> each.type().family().isOfTime());
  }

  private static boolean isReference(UseColumn column, Catalog catalog) {
    return !BaseColumn.referred(column, catalog).isEmpty();
  }

  /** An amount of a row: no part of its key, and not called the first or the last itself. */
  private static boolean isMeasure(UseColumn column) {
    TypeFamily family = column.type().family();
    return column.use().table().isPresent()
        && (family == TypeFamily.DECIMAL || family == TypeFamily.FLOAT)
        && !column.use().keyColumns().contains(column)
        && WhichEnd.in(column.name()).isEmpty();
  }

  /** Whether the first or the last time stands beside it: {@link ValuesOfSeveralRows}. */
  private static boolean isBesideTime(TableUse use, QueryBlock block) {
    return block.outputs().stream()
        .map(OutputColumn::value)
        .filter(FunctionCall.class::isInstance)
        .map(FunctionCall.class::cast)
        .filter(Aggregates::isExtreme)
        .flatMap(call -> block.column(call.arguments().get(0)).stream())
        .anyMatch(column -> column.use().equals(use) && column.type().family().isOfTime());
  }

  private static Optional<First> of(OutputColumn output, Subject subject) {
    return first(output, output.value(), subject.block(), subject);
  }

  private static Optional<First> first(
      OutputColumn output, Expression value, QueryBlock block, Subject subject) {
    Optional<WhichEnd> end = WhichEnd.in(output.name());
    if (end.isEmpty() || !(value instanceof FunctionCall call) || !Aggregates.isExtreme(call)) {
      return Optional.empty();
    }
    return block
        .column(call.arguments().get(0))
        .filter(block::isOwn)
        .filter(
            column ->
                isReference(column, subject.catalog())
                    || (isMeasure(column) && !isBesideTime(column.use(), block)))
        .flatMap(
            column ->
                order(column).map(order -> new First(output, call, end.get(), column, order)));
  }

  /** What puts the rows in order: a time, or a number that is a part of their key. */
  private static Optional<UseColumn> order(UseColumn reference) {
    List<UseColumn> columns = reference.use().columns();
    List<UseColumn> key = reference.use().keyColumns();
    return Stream.concat(key.stream(), columns.stream())
        .filter(each -> each.type().family().isOfTime())
        .findFirst()
        .or(
            () ->
                key.size() < 2
                    ? Optional.empty()
                    : key.stream()
                        .filter(each -> each.type().family() == TypeFamily.INTEGER)
                        .reduce((one, next) -> next)
                        .filter(each -> !each.equals(reference)));
  }

  /**
   * What is called the first or the last.
   *
   * @param end what it is called
   * @param order by what the rows come one after another
   */
  private record First(
      OutputColumn output, FunctionCall call, WhichEnd end, UseColumn column, UseColumn order) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.counting(
          Kind.VALUES_OF_SEVERAL_ROWS,
          call.span(),
          List.of(call.span()),
          ExtremesOfGroups.question(
                  subject.rows().orElseThrow(),
                  List.of(call.key(), isEarly() ? "min" : "max"),
                  List.of(column, order))
              .as(ExtremesOfGroups.Found::apart),
          count -> conclude(count, subject));
    }

    /** Of each row outside another value: in the rows of those that share what leads to them. */
    Suspicion ofSubquery(Subject inner, Subject subject) {
      List<UseColumn> led = led(inner.block());
      Optional<Question<ExtremesOfGroups.Found>> apart =
          led.isEmpty()
              ? Optional.empty()
              : inner
                  .rows()
                  .map(
                      rows ->
                          ExtremesOfGroups.ofTable(
                              rows,
                              led,
                              ofItself(inner.block()),
                              List.of(call.key(), isEarly() ? "min" : "max"),
                              List.of(column, order)));
      return Suspicion.asking(
          Kind.VALUES_OF_SEVERAL_ROWS,
          call.span(),
          List.of(call.span()),
          apart,
          found -> Optional.of(concludeOfSubquery(found, led, subject)));
    }

    /** A note where there are no rows, or none shows it yet. */
    private Conclusion concludeOfSubquery(
        Optional<ExtremesOfGroups.Found> found, List<UseColumn> led, Subject subject) {
      long apart = found.map(ExtremesOfGroups.Found::apart).orElse(0L);
      if (apart == 0) {
        return Conclusion.note(
            (found.isPresent() ? soFar(subject) : message("", subject)) + way(),
            facts(),
            List.of());
      }
      String where =
          ": for "
              + apart
              + " of "
              + Words.count(found.orElseThrow().all(), "value")
              + " of "
              + Words.list(led.stream().map(UseColumn::name).toList())
              + " it is another";
      return new Conclusion(
          Severity.WARNING,
          message(where, subject) + way(),
          new Evidence(Map.of("values for which it is another", apart), List.of(), facts()),
          List.of());
    }

    private String soFar(Subject subject) {
      return subject.text(call)
          + " is the "
          + (call.key().equals("min") ? "least " : "greatest ")
          + column.name()
          + ": that the "
          + (isEarly() ? "first " : "last ")
          + column.use().rowWord()
          + " has it is so on this data alone. ";
    }

    private String way() {
      return "Take it from the row of the "
          + (isEarly() ? "least " : "greatest ")
          + order.name()
          + ", as by ORDER BY "
          + order.written()
          + (isEarly() ? "" : " DESC")
          + " and a limit of one row.";
    }

    private List<String> facts() {
      return List.of("the heading " + output.name() + " speaks of an order");
    }

    private String message(String where, Subject subject) {
      return subject.text(call)
          + " is the "
          + (call.key().equals("min") ? "least " : "greatest ")
          + (isReference(column, subject.catalog()) ? "number" : column.name())
          + ", and not that of the "
          + (isEarly() ? "first " : "last ")
          + column.use().rowWord()
          + where
          + ". ";
    }

    private boolean isEarly() {
      return end == WhichEnd.FIRST;
    }

    private Conclusion conclude(long count, Subject subject) {
      String message =
          message(": in " + Words.count(count, "group") + " it is another", subject)
              + "Number the rows of a group by ROW_NUMBER() in the order of "
              + order.written()
              + " and take its "
              + column.name()
              + ".";
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(Map.of("groups in which it is another", count), List.of(), facts()),
          List.of());
    }
  }
}
