package io.lantrel.trace.asked;

import io.lantrel.engine.Rows;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import io.lantrel.trace.Answer;
import io.lantrel.trace.Answer.Outcome;
import io.lantrel.trace.Answer.Source;
import io.lantrel.trace.Answer.Stage;
import io.lantrel.trace.Answer.TracedValue;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * The rows that come of a row which is followed, within one block.
 *
 * @param row the row by name
 * @param source the row with its values
 * @param rows the joined rows of the block
 * @param use the table use by which they come
 * @param mark the column of the use that marks them; null where the use is the table itself
 * @param name what the block is called: the alias of a query in FROM; empty for the whole query
 * @param place the same, with which of several queries that are put together it is
 */
record Followed(
    String row,
    Source source,
    JoinedRows rows,
    TableUse use,
    @Nullable UseColumn mark,
    String name,
    String place) {

  QueryBlock block() {
    return rows.block();
  }

  /** In a relation of the joined rows: whether a row is one of them. */
  Expression isMarked(Relation relation) {
    Expression value =
        mark == null ? rows.value(relation, shownMark()) : rows.column(relation, mark);
    return Sql.equal(value, Sql.number(1));
  }

  /** How many of a relation's rows are among them. */
  Question<Long> count(Relation relation) {
    return count(relation, Sql.always());
  }

  /** How many of those meet a condition. */
  Question<Long> count(Relation relation, Expression condition) {
    return counts(relation, List.of(condition), counts -> counts.figure(0));
  }

  /** How many of those meet each condition. */
  <A> Question<A> counts(Relation relation, List<Expression> conditions, Function<Rows, A> reader) {
    List<Expression> counts = conditions.stream().map(Sql::countIf).toList();
    return Question.figures(relation, counts, isMarked(relation), reader);
  }

  /** What the block shows last, without the aggregate that a group has. */
  private Expression shownMark() {
    List<OutputColumn> outputs = block().outputs();
    Expression shown = outputs.get(outputs.size() - 1).value();
    return block().isGrouped() && shown instanceof FunctionCall max
        ? max.arguments().get(0)
        : shown;
  }

  /** The answer that it is lost. */
  Answer lost(Stage stage, String condition, List<TracedValue> values, List<String> sentences) {
    return new Answer(
        Outcome.LOST, row, Optional.of(stage), condition, values, List.of(source), sentences);
  }

  /** The first sentence of that answer. */
  String lostAt(String words) {
    return row + " is lost " + words + (place.isEmpty() ? "" : ", within " + place) + ".";
  }

  // ---- values ----

  /** The columns of these table uses that conditions name. */
  List<UseColumn> columns(List<Conjunct> conjuncts, List<TableUse> uses) {
    return Written.columns(conjuncts, block(), uses);
  }

  /** The different values of some columns; two rows of them tell that there are several. */
  Question<Rows> values(Relation relation, Expression condition, List<UseColumn> columns) {
    List<Expression> shown = columns.stream().map(each -> rows.column(relation, each)).toList();
    return RowValues.question(relation, shown, condition, 2);
  }

  /** The subqueries for one value that conditions have, each once. */
  List<Value.ScalarQuery> subqueries(List<Conjunct> conjuncts) {
    return conjuncts.stream()
        .flatMap(each -> Aggregates.withoutQueries(each.condition()))
        .filter(Value.ScalarQuery.class::isInstance)
        .map(Value.ScalarQuery.class::cast)
        .distinct()
        .toList();
  }

  /** What they give, as {@link #values}. */
  Question<Rows> valuesOf(
      Relation relation, Expression condition, List<Value.ScalarQuery> subqueries) {
    return RowValues.question(
        relation,
        subqueries.stream().map(each -> rows.value(relation, each)).toList(),
        condition,
        2);
  }

  /** The same with their names; none if they are not the same in all rows. */
  List<TracedValue> toldOf(List<Value.ScalarQuery> subqueries, Rows values) {
    List<TracedValue> told = new ArrayList<>();
    if (values.size() == 1) {
      List<@Nullable String> row =
          RowValues.texts(values, subqueries.stream().map(block()::type).toList()).get(0);
      for (int i = 0; i < subqueries.size(); i++) {
        String name =
            subqueries.size() == 1
                ? "the subquery"
                : SqlPrinter.print(subqueries.get(i), block().dialect());
        told.add(new TracedValue(name, row.get(i)));
      }
    }
    return told;
  }

  /**
   * Some of these values with their names; none if they are not the same in all rows.
   *
   * @param wanted of which columns
   * @param columns of which columns there are values
   */
  static List<TracedValue> told(List<UseColumn> wanted, List<UseColumn> columns, Rows values) {
    List<TracedValue> told = new ArrayList<>();
    if (values.size() == 1) {
      List<@Nullable String> row =
          RowValues.texts(values, columns.stream().map(UseColumn::type).toList()).get(0);
      for (UseColumn column : wanted) {
        told.add(new TracedValue(column.words(), row.get(columns.indexOf(column))));
      }
    }
    return told;
  }

  /** That a condition is not true, and for which values. */
  static String notTrue(List<TracedValue> values, String condition, boolean unknown) {
    return (values.isEmpty() ? "" : words(values) + ", so ")
        + condition
        + (unknown ? " is unknown." : " is not true.");
  }

  static String words(List<TracedValue> values) {
    return Words.list(values.stream().map(TracedValue::words).toList());
  }

  String print(List<Conjunct> conjuncts) {
    return Written.conditions(conjuncts, block().dialect());
  }
}
