package io.lantrel.trace.asked;

import io.lantrel.engine.Rows;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import io.lantrel.trace.Answer;
import io.lantrel.trace.Answer.Kind;
import io.lantrel.trace.Answer.Stage;
import io.lantrel.trace.Answer.TracedValue;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** A row that WHERE drops: which of its conditions is not true, and whether it is unknown. */
final class LostInWhere {

  /** A reader follows no more reasons than these; and each is asked about. */
  private static final int MOST_PARTS = 8;

  private final Followed followed;
  private final Asker asker;

  LostInWhere(Followed followed, Asker asker) {
    this.followed = followed;
    this.asker = asker;
  }

  Answer answer() {
    JoinedRows rows = followed.rows();
    Relation relation = rows.all();
    Expression joined = Sql.all(List.of(rows.isJoined(), followed.isMarked(relation)));
    List<Conjunct> filters = followed.block().filters();
    List<Expression> whole = filters.stream().map(Conjunct::condition).toList();
    // What AND and OR connect is asked for by itself: only that has a reason.
    List<Expression> terms =
        Stream.concat(whole.stream(), whole.stream().flatMap(each -> parts(each).stream()))
            .distinct()
            .toList();
    List<Expression> conditions = new ArrayList<>();
    for (Expression each : terms) {
      conditions.add(joinedAnd(rows.holds(relation, each)));
      conditions.add(joinedAnd(rows.holds(relation, Sql.not(each))));
    }
    conditions.add(rows.isJoined());
    Question<Rows> counts = followed.counts(relation, conditions, Function.identity());
    List<UseColumn> columns = followed.columns(filters, followed.block().uses());
    Question<Rows> values = followed.values(relation, joined, columns);
    Answers answers = asker.ask(List.of(counts, values));
    Rows counted = answers.to(counts);
    List<Conjunct> failing =
        filters.stream()
            .filter(each -> counted.figure(2 * terms.indexOf(each.condition())) == 0)
            .toList();
    List<Conjunct> named = failing.isEmpty() ? filters : failing;
    List<Value.ScalarQuery> subqueries = followed.subqueries(named);
    List<TracedValue> given =
        subqueries.isEmpty()
            ? List.of()
            : followed.toldOf(
                subqueries, asker.ask(followed.valuesOf(relation, joined, subqueries)));
    Values shown = new Values(followed.block(), columns, answers.to(values), subqueries, given);
    List<TracedValue> told = shown.in(named.stream().map(Conjunct::condition));
    List<String> sentences = new ArrayList<>(List.of(followed.lostAt("in WHERE")));
    long several = counted.figure(2 * terms.size());
    if (failing.isEmpty()) {
      sentences.add(Followed.notTrue(told, followed.print(named), false));
    }
    for (Conjunct each : failing) {
      List<Expression> never =
          parts(each.condition()).stream()
              .filter(part -> counted.figure(2 * terms.indexOf(part)) == 0)
              .toList();
      // Of several rows each can fail another part: then no part says why.
      boolean explained = isNotTrue(each.condition(), never);
      if (explained && each.condition() instanceof Condition.Or && never.size() > 1) {
        sentences.add("No side of OR is true in " + print(each.condition()) + ".");
      }
      for (Expression part : explained ? never : List.of(each.condition())) {
        boolean unknown = counted.figure(2 * terms.indexOf(part) + 1) == 0;
        sentences.add(why(part, unknown, shown.in(Stream.of(part)), several));
      }
    }
    return followed.lost(
        new Stage(Kind.WHERE, 0, followed.name(), "WHERE"), followed.print(named), told, sentences);
  }

  /**
   * The values that conditions are about.
   *
   * @param columns of which columns there are values
   * @param values these values
   * @param subqueries of which subqueries there are values
   * @param given these values; empty if they are not the same in all rows
   */
  private record Values(
      QueryBlock block,
      List<UseColumn> columns,
      Rows values,
      List<Value.ScalarQuery> subqueries,
      List<TracedValue> given) {

    List<TracedValue> in(Stream<Expression> conditions) {
      List<Expression> asked = conditions.toList();
      List<UseColumn> named =
          asked.stream()
              .flatMap(each -> block.columnsIn(each).stream())
              .filter(columns::contains)
              .distinct()
              .toList();
      return Stream.concat(
              Followed.told(named, columns, values).stream(),
              IntStream.range(0, given.size())
                  .filter(i -> isWithin(asked, subqueries.get(i)))
                  .mapToObj(given::get))
          .toList();
    }

    private static boolean isWithin(List<Expression> conditions, Expression subquery) {
      return conditions.stream().flatMap(Aggregates::withoutQueries).anyMatch(subquery::equals);
    }
  }

  private String why(Expression part, boolean unknown, List<TracedValue> values, long several) {
    return values.isEmpty() && several > 1
        ? print(part)
            + (unknown ? " is unknown" : " is not true")
            + " in any of its "
            + Words.rows(several)
            + " there."
        : Followed.notTrue(values, print(part), unknown);
  }

  private String print(Expression condition) {
    return Written.briefly(condition, followed.block().dialect());
  }

  /**
   * What AND and OR connect, down to what they do not; the whole where that is too much to tell.
   */
  private static List<Expression> parts(Expression condition) {
    List<Expression> leaves = leaves(condition).limit(MOST_PARTS + 1L).toList();
    return leaves.size() > MOST_PARTS ? List.of(condition) : leaves;
  }

  private static Stream<Expression> leaves(Expression condition) {
    return connected(condition).isEmpty()
        ? Stream.of(condition)
        : connected(condition).stream().flatMap(LostInWhere::leaves);
  }

  private static List<Expression> connected(Expression condition) {
    return condition instanceof Condition.And and
        ? and.terms()
        : condition instanceof Condition.Or or ? or.terms() : List.of();
  }

  /** Whether a condition is not true where these parts of it are not. */
  private static boolean isNotTrue(Expression condition, List<Expression> parts) {
    if (parts.contains(condition)) {
      return true;
    }
    return condition instanceof Condition.And and
        ? and.terms().stream().anyMatch(each -> isNotTrue(each, parts))
        : condition instanceof Condition.Or or
            && or.terms().stream().allMatch(each -> isNotTrue(each, parts));
  }

  private Expression joinedAnd(Expression condition) {
    return Sql.all(List.of(followed.rows().isJoined(), condition));
  }
}
