package io.lantrel.ledger.account;

import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Entry.Kind;
import io.lantrel.ledger.Ledger;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Question;
import io.lantrel.sql.tree.Query;
import java.util.List;

/** The account of a query of which nothing but the number of its rows can be told. */
final class WholeAccount implements Account {

  private final Query query;
  private final String obstacle;
  private final Question<Long> counted;
  private Answers answers = new Answers();

  /**
   * @param headings of its columns
   * @param obstacle why, as the end of a sentence
   */
  WholeAccount(Query query, List<String> headings, String obstacle) {
    this.query = query;
    this.obstacle = obstacle;
    this.counted = Question.number(Counting.rows(query, headings));
  }

  @Override
  public List<Question<?>> first() {
    return List.of(counted);
  }

  @Override
  public List<Question<?>> second(Answers first) {
    answers = first;
    return List.of();
  }

  @Override
  public Ledger ledger(Answers names) {
    long rows = answers.to(counted);
    return new Ledger(
        "",
        List.of(new Entry(Kind.FROM, "the query", query.span(), rows, List.of(), rows)),
        List.of(),
        List.of(),
        List.of("this query cannot be looked at step by step: " + obstacle));
  }
}
