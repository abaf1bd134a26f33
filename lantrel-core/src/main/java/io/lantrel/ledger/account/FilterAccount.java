package io.lantrel.ledger.account;

import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Expression;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;

/** What is asked about WHERE: what becomes of rows at each of its conditions. */
final class FilterAccount {

  private final QueryBlock block;
  private final List<ConditionAccount> conditions = new ArrayList<>();

  FilterAccount(JoinedRows rows, int examples) {
    this.block = rows.block();
    TableUse subject = subject();
    for (int i = 0; i < block.filters().size(); i++) {
      conditions.add(new ConditionAccount(rows, i, subject, examples));
    }
  }

  /** A row that WHERE drops is named by the first table that is always there. */
  private TableUse subject() {
    return block.uses().stream()
        .filter(use -> block.stepsThatFill(use).isEmpty())
        .findFirst()
        .orElseGet(() -> block.uses().get(0));
  }

  List<Question<?>> first() {
    return conditions.stream().flatMap(each -> each.first().stream()).toList();
  }

  void readFirst(Answers first) {
    conditions.forEach(each -> each.readFirst(first));
  }

  List<Question<?>> second() {
    return conditions.stream().flatMap(each -> each.second().stream()).toList();
  }

  void readSecond(Answers second) {
    conditions.forEach(each -> each.readSecond(second));
  }

  List<Question<?>> names() {
    return conditions.stream().flatMap(each -> each.names().stream()).toList();
  }

  Entry entry(long before, Answers names) {
    List<Cause> causes = new ArrayList<>();
    long all = 0;
    for (ConditionAccount each : conditions) {
      all += each.rows();
      causes.addAll(each.causes(names));
    }
    Expression where = Objects.requireNonNull(block.select().where());
    Change change = new Change(Figure.DROPPED, all, causes);
    return new Entry(
        Entry.Kind.WHERE, "WHERE", where.span(), before, List.of(change), before - all);
  }
}
