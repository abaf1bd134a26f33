package io.lantrel.check.kinds.totals;

import io.lantrel.engine.SampleData;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import java.util.ArrayList;
import java.util.List;

/**
 * How many rows have a value, and how many different values these are within their groups.
 *
 * @param rows each row once in each group, however often a join repeats it
 * @param values the different values of each group, added up
 */
record TakenOnce(long rows, long values) {

  /**
   * Over the rows of a relation.
   *
   * @param groups what the rows are grouped by; empty if they are one group
   * @param identity what tells the rows apart; those with NULL in the first are left out
   * @param value the value, in the short names of the relation
   */
  static Question<TakenOnce> question(
      Relation relation, List<Expression> groups, List<Expression> identity, Expression value) {
    String perRow = SampleData.RESERVED + "per_row";
    List<SelectItem> shown = new ArrayList<>();
    List<Expression> named = new ArrayList<>();
    for (Expression each : groups) {
      named.add(Sql.column(perRow, "g" + shown.size()));
      shown.add(Sql.as(each, "g" + shown.size()));
    }
    shown.add(Sql.as(FunctionCall.of("MIN", value), "v"));
    List<Expression> by = new ArrayList<>(groups);
    by.addAll(identity);
    FromItem once =
        Sql.derived(
            relation.select(false, shown, Sql.isNotNull(identity.get(0)), by, null), perRow);
    Expression taken = Sql.column(perRow, "v");
    String perGroup = SampleData.RESERVED + "per_group";
    FromItem grouped =
        Sql.derived(
            Sql.grouped(
                List.of(Sql.as(Sql.count(taken), "n"), Sql.as(Sql.countDistinct(taken), "d")),
                once,
                named,
                null),
            perGroup);
    Query query =
        Query.of(
            Sql.select(
                List.of(
                    Sql.as(FunctionCall.of("SUM", Sql.column(perGroup, "n")), "c0"),
                    Sql.as(FunctionCall.of("SUM", Sql.column(perGroup, "d")), "c1")),
                grouped,
                null));
    return Question.numbers(relation, query, 2, row -> new TakenOnce(row.figure(0), row.figure(1)));
  }
}
