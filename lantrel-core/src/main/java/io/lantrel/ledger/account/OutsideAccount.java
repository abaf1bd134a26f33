package io.lantrel.ledger.account;

import io.lantrel.ledger.RowsFound;
import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.List;
import java.util.Optional;

/**
 * How many rows a subquery that looks at the rows outside finds for each of them: the rows that its
 * FROM and WHERE give, before it groups or cuts them.
 */
final class OutsideAccount {

  private final QueryBlock outer;
  private final QueryBlock subquery;
  private final Question<RowsFound> question;

  /**
   * @param rows the rows outside
   */
  OutsideAccount(JoinedRows rows, QueryBlock subquery) {
    this.outer = rows.block();
    this.subquery = subquery;
    Relation relation = rows.all();
    QueryBody.Select select = subquery.select();
    Query counting =
        Query.of(Sql.select(List.of(Sql.as(Sql.count(), "n")), select.from(), select.where()));
    Expression found = rows.value(relation, new Value.ScalarQuery(Span.NOWHERE, counting));
    Expression looks = isInWhere() ? rows.isJoined() : rows.isKept();
    this.question =
        Question.figures(
            relation,
            List.of(
                Sql.countIf(looks),
                Sql.countIf(Sql.all(List.of(looks, Sql.equal(found, Sql.number(0))))),
                Sql.countIf(Sql.all(List.of(looks, Sql.equal(found, Sql.number(1))))),
                FunctionCall.of("SUM", Sql.choose(looks, found, Sql.nothing())),
                FunctionCall.of("MAX", Sql.choose(looks, found, Sql.nothing()))),
            answer ->
                new RowsFound(
                    words(),
                    subquery.query().span(),
                    answer.figure(0),
                    answer.figure(1),
                    answer.figure(2),
                    answer.figure(3),
                    answer.figure(4)));
  }

  /** WHERE looks at all joined rows; what comes later only at those that it leaves. */
  private boolean isInWhere() {
    Expression where = outer.select().where();
    return where != null && where.span().contains(subquery.query().span());
  }

  private String words() {
    return SqlPrinter.print(subquery.query(), subquery.dialect());
  }

  Question<RowsFound> question() {
    return question;
  }

  Optional<RowsFound> found(Answers second) {
    return second.ifAny(question);
  }

  Optional<String> untold(Answers second) {
    return found(second).isPresent()
        ? Optional.empty()
        : Optional.of("the database did not tell how many rows " + words() + " finds");
  }
}
