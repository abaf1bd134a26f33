package io.lantrel.check.kinds.order;

import io.lantrel.check.Kind;
import io.lantrel.check.kinds.conditions.EqualSides;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ScalarQuery;
import io.lantrel.words.WhichEnd;
import io.lantrel.words.Words;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * What is called the latest, taken from the other end of its time: {@code ROW_NUMBER() OVER (…
 * ORDER BY seen_on)} and the row of number 1, or MIN of the day.
 */
public final class OrderAgainstName implements Check {

  /** Words of a heading that only say that it is a time. */
  private static final Set<String> OF_TIME = Set.of("date", "day", "time", "on", "at", "of", "the");

  private static final Set<String> NUMBERS = Set.of("row_number", "rank", "dense_rank");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    Stream<Taken> ofOutputs =
        subject.block().outputs().stream().flatMap(each -> of(each, subject).stream());
    Stream<Taken> ofUses =
        subject.block().uses().stream().flatMap(each -> of(each, subject).stream());
    return Stream.concat(ofOutputs, ofUses).limit(1).map(each -> each.suspicion(subject)).toList();
  }

  /** The word of a name that says from which end it is, if it says one. */
  private static Optional<String> word(String name) {
    List<String> said = WhichEnd.wordsIn(name);
    return said.size() == 1 ? Optional.of(said.get(0)) : Optional.empty();
  }

  private static Optional<Taken> of(OutputColumn output, Subject subject) {
    QueryBlock block = subject.block();
    Expression value = output.value();
    // The last name of the first who was hired is no contradiction.
    Set<String> ofColumns = new HashSet<>();
    Stream.concat(Stream.of(block), inner(value, subject).stream())
        .flatMap(each -> each.columnsIn(value).stream())
        .forEach(each -> ofColumns.addAll(Words.ofName(each.name())));
    Optional<End> end =
        extreme(output, block)
            .or(() -> firstOfEach(value, block))
            .or(() -> firstValue(value, block))
            .or(() -> firstRow(value, subject));
    return word(output.name())
        .filter(each -> !ofColumns.contains(each))
        .flatMap(each -> end.flatMap(it -> it.against(output.name(), each)));
  }

  /** The name of a query in FROM of which the first row of each group is taken. */
  private static Optional<Taken> of(TableUse use, Subject subject) {
    return numbered(use, subject)
        .flatMap(
            end ->
                named(use).stream()
                    .flatMap(name -> word(name).flatMap(each -> end.against(name, each)).stream())
                    .findFirst()
                    .or(() -> ofHeadings(use, end, subject)));
  }

  /** The headings under which its columns are shown. */
  private static Optional<Taken> ofHeadings(TableUse use, End end, Subject subject) {
    return subject.block().outputs().stream()
        .flatMap(
            output ->
                subject
                    .ownColumn(output.value())
                    .filter(column -> column.use().equals(use))
                    .filter(column -> !isOfItsTable(column, output.name()))
                    .flatMap(
                        column ->
                            word(output.name()).flatMap(each -> end.against(output.name(), each)))
                    .stream())
        .findFirst();
  }

  /** Whether the word that a heading has stands in the column of the table already. */
  private static boolean isOfItsTable(UseColumn column, String heading) {
    Set<String> words = new HashSet<>();
    column.use().query().map(query -> query.outputs().get(column.position()).value()).stream()
        .flatMap(value -> column.use().query().orElseThrow().columnsIn(value).stream())
        .forEach(each -> words.addAll(Words.ofName(each.name())));
    return word(heading).filter(words::contains).isPresent();
  }

  private static List<String> named(TableUse use) {
    return use.item() instanceof FromItem.TableName table
        ? List.of(use.name(), table.last().text())
        : List.of(use.name());
  }

  private static Optional<QueryBlock> inner(Expression value, Subject subject) {
    return value instanceof ScalarQuery scalar
        ? Blocks.of(scalar.query(), subject)
        : Optional.empty();
  }

  /** MIN or MAX of a time, under a heading that says no more than which. */
  private static Optional<End> extreme(OutputColumn output, QueryBlock block) {
    if (!(output.value() instanceof FunctionCall call) || !Aggregates.isExtreme(call)) {
      return Optional.empty();
    }
    Optional<UseColumn> time = time(call.arguments().get(0), block);
    boolean plain =
        time.isPresent()
            && Words.ofName(output.name()).stream()
                .filter(each -> WhichEnd.ofWord(each).isEmpty())
                .filter(each -> !OF_TIME.contains(each))
                .allMatch(
                    each ->
                        Words.ofName(time.get().name()).contains(each)
                            || Words.ofName(time.get().use().tableName()).contains(each));
    return time.filter(each -> plain)
        .map(column -> new End(call, call.key().equals("min"), column));
  }

  /** The time by which DISTINCT ON takes a row of each group, or what is shown beside it. */
  private static Optional<End> firstOfEach(Expression value, QueryBlock block) {
    List<Expression> keys = block.select().distinctOn();
    List<OrderItem> order = block.query().orderBy();
    if (keys.isEmpty() || order.size() <= keys.size()) {
      return Optional.empty();
    }
    Optional<End> end = end(order.subList(keys.size(), order.size()), block);
    Optional<UseColumn> shown = block.column(value);
    return end.filter(each -> shown.filter(it -> it.use().equals(each.time().use())).isPresent());
  }

  private static Optional<End> firstValue(Expression value, QueryBlock block) {
    return value instanceof FunctionCall call && call.key().equals("first_value")
        ? Windows.of(call, block).flatMap(window -> end(window.orderBy(), block))
        : Optional.empty();
  }

  /** A subquery that is cut after its first row. */
  private static Optional<End> firstRow(Expression value, Subject subject) {
    return value instanceof ScalarQuery scalar && scalar.query().isCutAfterFirst()
        ? inner(value, subject).flatMap(block -> end(scalar.query().orderBy(), block))
        : Optional.empty();
  }

  /** The end from which the rows of number 1 of a query in FROM are. */
  private static Optional<End> numbered(TableUse use, Subject subject) {
    Optional<QueryBlock> query =
        use.queryOfText().filter(each -> each.parts().size() == 1).map(each -> each.parts().get(0));
    return subject.block().conjuncts().stream()
        .flatMap(each -> one(each.condition(), subject.block()).stream())
        .filter(column -> column.use().equals(use))
        .flatMap(
            column ->
                query.stream()
                    .flatMap(
                        block -> number(block.outputs().get(column.position()), block).stream()))
        .findFirst();
  }

  private static Optional<End> number(OutputColumn output, QueryBlock block) {
    return output.value() instanceof FunctionCall call && NUMBERS.contains(call.key())
        ? Windows.of(call, block).flatMap(window -> end(window.orderBy(), block))
        : Optional.empty();
  }

  /** The column that is compared with 1. */
  private static Optional<UseColumn> one(Expression condition, QueryBlock block) {
    return EqualSides.of(
        condition,
        (number, one) ->
            one instanceof Value.Literal literal && literal.text().equals("1")
                ? block.column(number).filter(block::isOwn)
                : Optional.empty());
  }

  private static Optional<UseColumn> time(Expression value, QueryBlock block) {
    return block.column(value).filter(each -> each.type().family().isOfTime());
  }

  private static Optional<End> end(List<OrderItem> order, QueryBlock block) {
    return order.stream()
        .limit(1)
        .flatMap(
            item ->
                time(item.value(), block).stream()
                    // What has no end yet may be put first on purpose.
                    .filter(each -> !item.span().isNowhere() && item.nullsFirst() == null)
                    .map(column -> new End(item, !item.descending(), column)))
        .findFirst();
  }

  /**
   * What is taken of a time.
   *
   * @param from the order that it goes by, or the call of MIN or MAX
   * @param early whether the earliest is
   */
  private record End(Node from, boolean early, UseColumn time) {

    String fact() {
      return from instanceof OrderItem
          ? (early
              ? "without DESC the least value comes first"
              : "DESC puts the greatest value first")
          : (early ? "MIN gives the least value" : "MAX gives the greatest value");
    }

    String right(Subject subject) {
      return from instanceof OrderItem order
          ? "ORDER BY " + subject.text(order.value()) + (early ? " DESC" : "")
          : other() + "(" + time.written() + ")";
    }

    private String other() {
      return early ? "MAX" : "MIN";
    }

    /** The same from the other end. */
    Edit turned(Subject subject) {
      int start = from.span().start();
      int end = from.span().end();
      if (from instanceof OrderItem order) {
        return early
            ? Edit.insert(end, " " + subject.edits().keyword("DESC"))
            : new Edit(new Span(order.value().span().end(), end), "");
      }
      // Both names have three letters.
      return new Edit(new Span(start, start + 3), subject.edits().keyword(other()));
    }

    Optional<Taken> against(String name, String word) {
      return WhichEnd.ofWord(word).filter(WhichEnd.FIRST::equals).isPresent() == early
          ? Optional.empty()
          : Optional.of(new Taken(name, word, this));
    }
  }

  /**
   * A name and the end that it is not of.
   *
   * @param word what the name says
   */
  private record Taken(String name, String word, End end) {

    Suspicion suspicion(Subject subject) {
      String which = (end.early() ? "earliest " : "latest ") + end.time().name();
      String written = subject.source().at(end.from().span());
      String message =
          name
              + " is called "
              + word
              + ", and "
              + (end.from() instanceof OrderItem
                  ? "ORDER BY " + written + " puts the " + which + " first"
                  : written + " is the " + which)
              + ". Write "
              + end.right(subject)
              + ".";
      return Suspicion.certain(
          Kind.ORDER_AGAINST_NAME,
          end.from().span(),
          Conclusion.warning(message, List.of(end.fact()), List.of(List.of(end.turned(subject)))));
    }
  }
}
