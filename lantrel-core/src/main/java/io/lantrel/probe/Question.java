package io.lantrel.probe;

import io.lantrel.engine.Rows;
import io.lantrel.engine.SampleData;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Something to be known about rows, and how to read it from the answer. A question asks nothing by
 * itself: the {@link Asker} puts all questions that are known at a time to the database together.
 *
 * @param <A> what is known once it is answered
 */
public final class Question<A> {

  private final Asked asked;
  private final Function<Rows, A> reader;
  private final @Nullable Screen<A> screen;

  /**
   * What spares a question.
   *
   * @param tests cheaper than the question; it need not be asked where all of them say no
   * @param otherwise the answer where they do
   */
  record Screen<A>(List<Question<Boolean>> tests, A otherwise) {
    Screen {
      tests = List.copyOf(tests);
    }
  }

  /** The two sorts of questions. */
  sealed interface Asked {}

  /** Figures over one relation: they are put into one statement with others over it. */
  record Figures(Relation relation, List<Expression> values) implements Asked {
    Figures {
      values = List.copyOf(values);
    }
  }

  /**
   * Figures or values that a query gives, a row for each.
   *
   * @param query what gives them
   * @param width how many columns it gives, called {@code c0}, {@code c1}…
   * @param numbers whether all of them are whole numbers; else they are fetched as text
   * @param with what WITH must define for it
   * @param recursive whether RECURSIVE is written there
   */
  record Listed(Query query, int width, boolean numbers, List<CommonTable> with, boolean recursive)
      implements Asked {
    Listed {
      with = List.copyOf(with);
    }
  }

  private Question(Asked asked, Function<Rows, A> reader) {
    this(asked, reader, null);
  }

  private Question(Asked asked, Function<Rows, A> reader, @Nullable Screen<A> screen) {
    this.asked = asked;
    this.reader = reader;
    this.screen = screen;
  }

  /**
   * The same, asked of many rows only where a cheaper question says yes.
   *
   * @param tests look at fewer rows
   * @param otherwise what the answer is wherever all of them say no
   */
  public Question<A> onlyIf(List<Question<Boolean>> tests, A otherwise) {
    return new Question<>(asked, reader, new Screen<>(tests, otherwise));
  }

  /** The same rows asked for, and the answer read in another way. */
  public <B> Question<B> as(Function<A, B> reading) {
    return new Question<>(
        asked,
        reader.andThen(reading),
        screen == null ? null : new Screen<>(screen.tests(), reading.apply(screen.otherwise())));
  }

  Asked asked() {
    return asked;
  }

  Optional<Screen<A>> screen() {
    return Optional.ofNullable(screen);
  }

  A read(Rows answer) {
    return reader.apply(answer);
  }

  /**
   * Whole numbers that are worked out over the rows of a relation.
   *
   * @param values aggregates, in the short names of the relation
   * @param reader takes a row of as many figures; NULL counts as 0
   */
  public static <A> Question<A> figures(
      Relation relation, List<Expression> values, Function<Rows, A> reader) {
    return new Question<>(new Figures(relation, values), reader);
  }

  /** How many rows of a relation there are. */
  public static Question<Long> count(Relation relation) {
    return figures(relation, List.of(Sql.count()), rows -> rows.figure(0));
  }

  /** How many rows of a relation meet a condition, in its short names. */
  public static Question<Long> count(Relation relation, Expression condition) {
    return figures(relation, List.of(Sql.countIf(condition)), rows -> rows.figure(0));
  }

  /**
   * Figures of few rows of a relation only, which an engine can pick out before it joins.
   *
   * @param where which rows; a condition that fails for no row, wherever it is looked at
   */
  public static <A> Question<A> figures(
      Relation relation, List<Expression> values, Expression where, Function<Rows, A> reader) {
    List<SelectItem> items = new ArrayList<>();
    values.forEach(each -> items.add(Sql.as(each, "c" + items.size())));
    return numbers(relation, Query.of(relation.select(items, where)), items.size(), reader);
  }

  /**
   * How many groups of the rows of a relation meet a condition.
   *
   * @param by what they are grouped by, in the short names of the relation
   * @param having the condition, over aggregates
   */
  public static Question<Long> groups(Relation relation, List<Expression> by, Expression having) {
    return overGroups(relation, by, having, size -> List.of(Sql.count()), row -> row.figure(0));
  }

  /**
   * Figures of the groups of the rows of a relation.
   *
   * @param by what they are grouped by, in the short names of the relation
   * @param values aggregates over groups; they get what holds the number of rows of one
   * @param reader takes a row of as many figures; NULL counts as 0
   */
  public static <A> Question<A> overGroups(
      Relation relation,
      List<Expression> by,
      Function<Expression, List<Expression>> values,
      Function<Rows, A> reader) {
    return overGroups(relation, by, null, values, reader);
  }

  private static <A> Question<A> overGroups(
      Relation relation,
      List<Expression> by,
      @Nullable Expression having,
      Function<Expression, List<Expression>> values,
      Function<Rows, A> reader) {
    String name = SampleData.RESERVED + "groups";
    FromItem groups =
        Sql.derived(
            relation.select(false, List.of(Sql.as(Sql.count(), "x")), null, by, having), name);
    List<SelectItem> items = new ArrayList<>();
    values
        .apply(Sql.column(name, "x"))
        .forEach(each -> items.add(Sql.as(each, "c" + items.size())));
    return numbers(relation, Query.of(Sql.select(items, groups, null)), items.size(), reader);
  }

  /**
   * A query that gives one row of whole numbers, called {@code c0}, {@code c1}…, and needs no WITH
   * of others; the first is what is wanted, and the others are worked out as well.
   */
  public static Question<Long> number(Query query) {
    return numbers(query, rows -> rows.figure(0));
  }

  /** The same for all of the numbers. */
  public static <A> Question<A> numbers(Query query, Function<Rows, A> reader) {
    int width = query.body() instanceof QueryBody.Select select ? select.items().size() : 1;
    return new Question<>(new Listed(query, width, true, List.of(), false), reader);
  }

  /**
   * A query over relations that gives rows of whole numbers.
   *
   * @param relation whose WITH it needs
   * @param width how many columns it gives, called {@code c0}, {@code c1}…
   */
  public static <A> Question<A> numbers(
      Relation relation, Query query, int width, Function<Rows, A> reader) {
    return new Question<>(
        new Listed(query, width, true, relation.with(), relation.isRecursive()), reader);
  }

  /**
   * A query that gives rows of values, which come as text or NULL, and needs no WITH of others.
   *
   * @param width how many columns it gives, called {@code c0}, {@code c1}…
   */
  public static <A> Question<A> values(Query query, int width, Function<Rows, A> reader) {
    return new Question<>(new Listed(query, width, false, List.of(), false), reader);
  }

  /**
   * A query over a relation that gives rows of values, which come as text or NULL.
   *
   * @param width how many columns it gives, called {@code c0}, {@code c1}…
   */
  public static <A> Question<A> values(
      Relation relation, Query query, int width, Function<Rows, A> reader) {
    return new Question<>(
        new Listed(query, width, false, relation.with(), relation.isRecursive()), reader);
  }
}
