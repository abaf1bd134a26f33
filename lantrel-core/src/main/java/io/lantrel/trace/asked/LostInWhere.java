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
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import io.lantrel.trace.Answer;
import io.lantrel.trace.Answer.Kind;
import io.lantrel.trace.Answer.Stage;
import io.lantrel.trace.Answer.TracedValue;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

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
    List<Expression> conditions = new ArrayList<>();
    for (Conjunct each : filters) {
      conditions.add(joinedAnd(rows.holds(relation, each.condition())));
      conditions.add(joinedAnd(rows.holds(relation, Sql.not(each.condition()))));
    }
    Question<Rows> counts = followed.counts(relation, conditions, Function.identity());
    List<UseColumn> columns = followed.columns(filters, followed.block().uses());
    Question<Rows> values = followed.values(relation, joined, columns);
    Answers answers = asker.ask(List.of(counts, values));
    List<Conjunct> failing = new ArrayList<>();
    boolean unknown = true;
    for (int i = 0; i < filters.size(); i++) {
      if (answers.to(counts).figure(2 * i) == 0) {
        failing.add(filters.get(i));
        unknown &= answers.to(counts).figure(2 * i + 1) == 0;
      }
    }
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
    String condition = followed.print(named);
    String why =
        (told.isEmpty() ? "" : Followed.words(told) + ", so ")
            + condition
            + (unknown && !failing.isEmpty() ? " is unknown." : " is not true.");
    return followed.lost(
        new Stage(Kind.WHERE, 0, followed.name(), "WHERE"),
        condition,
        told,
        List.of(followed.lostAt("in WHERE"), why));
  }

  private Expression joinedAnd(Expression condition) {
    return Sql.all(List.of(followed.rows().isJoined(), condition));
  }
}
