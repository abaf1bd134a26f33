package io.lantrel.claim.kinds;

import io.lantrel.engine.Rows;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** The rows of the query, as questions are put to them; each column goes by its place. */
public final class ResultRows {

  private static final String RESULT = SampleData.RESERVED + "result";
  private static final String JOINED = SampleData.RESERVED + "joined";

  private final ResultNames names;
  private final Relation relation;
  private final int shown;
  private final Dialect dialect;
  private final Question<Long> count;

  /**
   * @param names what the claims of the query need
   * @param shown how many rows are fetched that break a claim
   */
  public ResultRows(ResultNames names, int shown, Dialect dialect) {
    this.names = names;
    this.shown = shown;
    this.dialect = dialect;
    List<CommonTable> with = new ArrayList<>();
    with.add(Sql.named(RESULT, names.asked().extended(), names.asked().extendedWidth()));
    names
        .asked()
        .joinedRows()
        .ifPresent(query -> with.add(Sql.named(JOINED, query, names.asked().joinedWidth())));
    this.relation = Relation.of(Sql.table(RESULT), with, false);
    this.count = Question.count(relation);
  }

  /** What the columns are called, and what they show. */
  ResultNames names() {
    return names;
  }

  Dialect dialect() {
    return dialect;
  }

  /** How many rows there are. */
  public Question<Long> count() {
    return count;
  }

  /** How many rows meet a condition. */
  Question<Long> count(Expression condition) {
    return Question.figures(
        relation,
        List.of(Sql.count(relation.named(Sql.choose(condition, Sql.number(1), Sql.nothing())))),
        rows -> rows.figure(0));
  }

  /** A column of the rows. */
  static Expression column(int position) {
    return Sql.column(RESULT, "c" + position);
  }

  /** A column of the rows that a subject is known in. */
  static Expression column(Subject subject, int position) {
    return Sql.column(subject.joined() ? JOINED : RESULT, "c" + position);
  }

  /** The rows themselves. */
  FromItem from() {
    return Sql.table(RESULT);
  }

  /** The rows that a subject is known in. */
  FromItem from(Subject subject) {
    return Sql.table(subject.joined() ? JOINED : RESULT);
  }

  /** Whole numbers that a query over the rows gives. */
  <A> Question<A> numbers(Query query, int width, Function<Rows, A> reader) {
    return Question.numbers(relation, query, width, reader);
  }

  /** Values that a query over the rows gives, as text. */
  Question<Rows> values(Query query, int width) {
    return Question.values(relation, query, width, rows -> rows);
  }

  /** The first of the rows that a body gives, in the order of its columns. */
  Question<Rows> first(QueryBody body, int width) {
    List<Expression> order = IntStream.range(0, width).mapToObj(ResultRows::plain).toList();
    return values(Sql.first(body, order, shown), width);
  }

  /** The first rows that meet a condition, with the columns that the query shows. */
  Question<Rows> where(@Nullable Expression condition) {
    List<SelectItem> items = new ArrayList<>();
    for (int i = 0; i < names.asked().width(); i++) {
      items.add(Sql.as(column(i), "c" + i));
    }
    return first(Sql.select(items, from(), condition), names.asked().width());
  }

  /** The headings of {@link #where}. */
  List<String> headings() {
    return IntStream.range(0, names.asked().width()).mapToObj(names.asked()::heading).toList();
  }

  private static Expression plain(int position) {
    return new ColumnName(Span.NOWHERE, List.of(), Identifier.of("c" + position));
  }
}
