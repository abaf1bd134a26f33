package io.lantrel.ledger.account;

import io.lantrel.engine.NamedRow;
import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Expression;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/** What is asked about WHERE: how many rows each of its conditions drops, and some by name. */
final class FilterAccount {

  private final JoinedRows rows;
  private final QueryBlock block;
  private final int examples;
  private final List<Question<Long>> dropped = new ArrayList<>();
  private final Map<Integer, Question<List<NamedRow>>> names = new LinkedHashMap<>();
  private final List<Long> figures = new ArrayList<>();

  FilterAccount(JoinedRows rows, int examples) {
    this.rows = rows;
    this.block = rows.block();
    this.examples = examples;
  }

  List<Question<?>> first() {
    for (int i = 0; i < block.filters().size(); i++) {
      dropped.add(Question.count(rows.all(), failed(i)));
    }
    return List.copyOf(dropped);
  }

  private Expression failed(int filter) {
    return Sql.all(List.of(rows.isJoined(), rows.failsFirst(filter)));
  }

  void read(Answers first) {
    dropped.forEach(each -> figures.add(first.to(each)));
  }

  List<Question<?>> names() {
    for (int i = 0; i < figures.size(); i++) {
      if (figures.get(i) > 0 && examples > 0) {
        names.put(i, RowNames.question(rows, rows.all(), subject(), failed(i), examples));
      }
    }
    return List.copyOf(names.values());
  }

  /** A row that WHERE drops is named by the first table that is always there. */
  private TableUse subject() {
    return block.uses().stream()
        .filter(use -> block.stepsThatFill(use).isEmpty())
        .findFirst()
        .orElseGet(() -> block.uses().get(0));
  }

  Entry entry(long before, Answers third) {
    List<Cause> causes = new ArrayList<>();
    long all = 0;
    for (int i = 0; i < figures.size(); i++) {
      long count = figures.get(i);
      all += count;
      if (count > 0) {
        Expression condition = block.filters().get(i).condition();
        Question<List<NamedRow>> asked = names.get(i);
        causes.add(
            new Cause(
                SqlPrinter.print(condition, block.dialect()) + " is not true",
                count,
                asked == null ? List.of() : third.to(asked)));
      }
    }
    Expression where = Objects.requireNonNull(block.select().where());
    Change change = new Change(Figure.DROPPED, all, causes);
    return new Entry(
        Entry.Kind.WHERE, "WHERE", where.span(), before, List.of(change), before - all, null);
  }
}
