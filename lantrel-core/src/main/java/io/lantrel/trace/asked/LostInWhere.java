package io.lantrel.trace.asked;

import io.lantrel.engine.Rows;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.SqlPrinter;
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
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** A row that WHERE drops: which of its conditions is not true, and whether it is unknown. */
final class LostInWhere {

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
    List<Expression> terms = new ArrayList<>(whole);
    whole.forEach(each -> leaves(each).filter(leaf -> !whole.contains(leaf)).forEach(terms::add));
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
        filters.stream().filter(each -> counted.figure(2 * filters.indexOf(each)) == 0).toList();
    List<Conjunct> named = failing.isEmpty() ? filters : failing;
    List<TracedValue> told =
        new ArrayList<>(
            Followed.told(
                followed.columns(named, followed.block().uses()), columns, answers.to(values)));
    List<Value.ScalarQuery> subqueries = followed.subqueries(named);
    if (!subqueries.isEmpty()) {
      told.addAll(
          followed.toldOf(subqueries, asker.ask(followed.valuesOf(relation, joined, subqueries))));
    }
    List<String> sentences = new ArrayList<>(List.of(followed.lostAt("in WHERE")));
    long several = counted.figure(2 * terms.size());
    if (failing.isEmpty()) {
      sentences.add(Followed.notTrue(told, followed.print(named), false));
    }
    for (Conjunct each : failing) {
      List<Expression> never =
          leaves(each.condition())
              .filter(leaf -> counted.figure(2 * terms.indexOf(leaf)) == 0)
              .toList();
      // Of several rows each can fail another part: then no part says why.
      boolean explained = isNotTrue(each.condition(), never);
      if (explained && each.condition() instanceof Condition.Or) {
        sentences.add("No side of OR is true in " + print(each.condition()) + ".");
      }
      for (Expression part : explained ? never : List.of(each.condition())) {
        boolean unknown = counted.figure(2 * terms.indexOf(part) + 1) == 0;
        sentences.add(why(part, unknown, told, several));
      }
    }
    return followed.lost(
        new Stage(Kind.WHERE, 0, followed.name(), "WHERE"), followed.print(named), told, sentences);
  }

  private String why(Expression part, boolean unknown, List<TracedValue> told, long several) {
    Set<String> columns =
        followed.block().columnsIn(part).stream().map(UseColumn::words).collect(Collectors.toSet());
    Set<String> others =
        followed.block().columnsIn(followed.block().select()).stream()
            .map(UseColumn::words)
            .filter(each -> !columns.contains(each))
            .collect(Collectors.toSet());
    boolean asks = part.preorder().anyMatch(Value.ScalarQuery.class::isInstance);
    List<TracedValue> values =
        told.stream()
            .filter(
                each -> columns.contains(each.name()) || (asks && !others.contains(each.name())))
            .toList();
    return values.isEmpty() && several > 1
        ? print(part)
            + (unknown ? " is unknown" : " is not true")
            + " in any of its "
            + Words.rows(several)
            + " there."
        : Followed.notTrue(values, print(part), unknown);
  }

  private String print(Expression condition) {
    return SqlPrinter.print(condition, followed.block().dialect());
  }

  /** What AND and OR connect, down to what they do not. */
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

  /** Whether a condition is not true where these of its leaves are not. */
  private static boolean isNotTrue(Expression condition, List<Expression> leaves) {
    if (condition instanceof Condition.And and) {
      return and.terms().stream().anyMatch(each -> isNotTrue(each, leaves));
    }
    return condition instanceof Condition.Or or
        ? or.terms().stream().allMatch(each -> isNotTrue(each, leaves))
        : leaves.contains(condition);
  }

  private Expression joinedAnd(Expression condition) {
    return Sql.all(List.of(followed.rows().isJoined(), condition));
  }
}
