package io.lantrel.check.kinds.totals;

import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import java.util.List;

/**
 * How often the rows of a table are counted in the rows that meet WHERE.
 *
 * @param counted how often a value is counted
 * @param rows how many rows have a value
 * @param values how many different values these are
 */
record RowCounts(long counted, long rows, long values) {

  /** Of the values of a total. */
  static Question<RowCounts> question(JoinedRows rows, Totalled total) {
    JoinedRows.Kept kept = rows.kept(total.use());
    Relation relation = kept.relation();
    Expression all = rows.value(relation, total.value());
    Expression condition = total.condition();
    Expression value =
        condition == null ? all : Sql.choose(rows.holds(relation, condition), all, Sql.nothing());
    String name = SampleData.RESERVED + "per_row";
    FromItem each =
        Sql.derived(
            relation.select(
                false,
                List.of(Sql.as(FunctionCall.of("MIN", value), "v"), Sql.as(Sql.count(value), "n")),
                Sql.isNotNull(kept.identity().get(0)),
                kept.identity(),
                null),
            name);
    Query query =
        Query.of(
            Sql.select(
                List.of(
                    Sql.as(FunctionCall.of("SUM", Sql.column(name, "n")), "c0"),
                    Sql.as(Sql.count(Sql.column(name, "v")), "c1"),
                    Sql.as(Sql.countDistinct(Sql.column(name, "v")), "c2")),
                each,
                null));
    return Question.numbers(
        relation, query, 3, row -> new RowCounts(row.figure(0), row.figure(1), row.figure(2)));
  }
}
