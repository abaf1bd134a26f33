package io.lantrel.claim.kinds;

import io.lantrel.engine.SampleData;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Resolution;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;

/** Each row of a table, or each that meets a condition, has a row in the result. */
final class EveryAppears implements Meaning {

  private static final String THERE = SampleData.RESERVED + "there";

  private final Subject subject;
  private final TableCondition condition;

  EveryAppears(Subject subject, TableCondition condition) {
    this.subject = subject;
    this.condition = condition;
  }

  @Override
  public boolean follows(Resolution resolution) {
    return Survival.of(subject.through(resolution), condition);
  }

  @Override
  public Inquiry inquiry(ResultRows rows) {
    Question<Long> all =
        Question.number(
            Query.of(
                Sql.select(List.of(Sql.as(Sql.count(), "c0")), table(rows), condition.orNull())));
    Question<Long> missing =
        rows.numbers(
            Query.of(missing(rows, List.of(Sql.as(Sql.count(), "c0")))),
            1,
            answer -> answer.figure(0));
    return new Inquiry(
        List.of(all, missing),
        answers -> {
          long total = answers.to(all);
          long lost = answers.to(missing);
          String many = Words.count(total, subject.word());
          if (total == 0) {
            return Outcome.nothing("there is no " + subject.word() + condition.words());
          }
          return lost == 0
              ? Outcome.holds("all " + many + condition.words() + " appear")
              : broken(rows, lost, total);
        });
  }

  private Outcome broken(ResultRows rows, long lost, long total) {
    List<String> columns = ResultNames.identifying(subject.table());
    List<SelectItem> items = new ArrayList<>();
    for (String column : columns) {
      items.add(Sql.as(ofTable(rows, column), "c" + items.size()));
    }
    return Outcome.broken(
            Words.number(lost)
                + " of "
                + Words.count(total, subject.word())
                + condition.words()
                + (lost == 1 ? " does not appear" : " do not appear"),
            lost,
            rows.first(missing(rows, items), items.size()),
            columns)
        .by(subject, false);
  }

  private FromItem table(ResultRows rows) {
    return Sql.tableAs(subject.table(), subject.alias(), rows.dialect());
  }

  private Expression ofTable(ResultRows rows, String column) {
    return Sql.columnOf(subject.alias(), column, rows.dialect());
  }

  /** The rows of the table whose key is in no row of the result. */
  private QueryBody missing(ResultRows rows, List<SelectItem> items) {
    List<SelectItem> keys = new ArrayList<>();
    List<Expression> equal = new ArrayList<>();
    for (int i = 0; i < subject.positions().size(); i++) {
      String name = THERE + i;
      keys.add(Sql.as(ResultRows.column(subject, subject.positions().get(i)), name));
      equal.add(Sql.equal(Sql.column(THERE, name), ofTable(rows, subject.key().columns().get(i))));
    }
    QueryBody there =
        new QueryBody.Select(Span.NOWHERE, true, keys, rows.from(subject), null, List.of(), null);
    List<Expression> absent = new ArrayList<>(List.of(Sql.isNull(Sql.column(THERE, THERE + 0))));
    condition.ifAny().ifPresent(absent::add);
    return Sql.select(
        items,
        FromItem.Join.of(table(rows), JoinKind.LEFT, Sql.derived(there, THERE), Sql.all(equal)),
        Sql.all(absent));
  }
}
