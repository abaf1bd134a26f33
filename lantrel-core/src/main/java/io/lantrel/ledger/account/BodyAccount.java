package io.lantrel.ledger.account;

import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Entry.Kind;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Question;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.QueryBody.SetOperation;
import io.lantrel.sql.tree.QueryBody.SetOperator;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * The account of a query that is no single SELECT: UNION and the like, VALUES, a query in
 * parentheses. Each set operation is an entry: rows that come, that are merged, that are taken away
 * (ISO/IEC 9075-2, 7.17).
 */
final class BodyAccount implements Account {

  private final String name;
  private final Query query;
  private final int width;
  private final List<CommonTable> with;
  private final boolean recursive;
  private final List<Account> parts;
  private final Question<Long> counted;
  private final Map<QueryBody, Question<Long>> counts = new IdentityHashMap<>();
  private final Map<QueryBody, Question<Long>> different = new IdentityHashMap<>();
  private Answers answers = new Answers();

  /**
   * @param width how many columns it gives
   * @param with what WITH must define for it
   * @param parts the accounts of the queries in it
   */
  BodyAccount(
      String name,
      Query query,
      int width,
      List<CommonTable> with,
      boolean recursive,
      List<Account> parts) {
    this.name = name;
    this.query = query;
    this.width = width;
    this.with = with;
    this.recursive = recursive;
    this.parts = parts;
    this.counted = count(query.body(), Optional.ofNullable(query.limit()));
    ask(query.body(), true);
  }

  private void ask(QueryBody body, boolean whole) {
    boolean same = whole && query.limit() == null;
    counts.put(body, same ? counted : count(body, Optional.empty()));
    if (body instanceof SetOperation operation) {
      List<QueryBody> operands = operation.parts();
      ask(operands.get(0), false);
      if (operation.operator() == SetOperator.UNION) {
        operands.subList(1, operands.size()).forEach(each -> ask(each, false));
      } else if (!operation.all()) {
        different.put(
            operation, Question.number(Counting.differentRows(query(operands.get(0)), width)));
      }
    }
  }

  private Question<Long> count(QueryBody body, Optional<Limit> limit) {
    Query whole =
        new Query(
            query.span(),
            recursive,
            with,
            body,
            limit.isPresent() ? query.orderBy() : List.of(),
            limit.orElse(null));
    return Question.number(Counting.rows(whole, width));
  }

  private Query query(QueryBody body) {
    return new Query(query.span(), recursive, with, body, List.of(), null);
  }

  @Override
  public List<Question<?>> first() {
    List<Question<?>> questions = new ArrayList<>(List.of(counted));
    counts.values().stream().filter(each -> !each.equals(counted)).forEach(questions::add);
    questions.addAll(different.values());
    return questions;
  }

  @Override
  public List<Question<?>> second(Answers first) {
    answers = first;
    first.to(counted);
    return List.of();
  }

  private long rows(QueryBody body) {
    return answers.to(Optional.ofNullable(counts.get(body)).orElseThrow());
  }

  @Override
  public Ledger ledger(Answers names) {
    List<Entry> entries = new ArrayList<>();
    add(entries, query.body(), 1);
    Limit limit = query.limit();
    long before = rows(query.body());
    if (limit != null) {
      long after = answers.to(counted);
      Change cut = new Change(Figure.CUT, before - after, List.of());
      entries.add(new Entry(Kind.LIMIT, "LIMIT", limit.span(), before, List.of(cut), after));
    }
    entries.forEach(Balance::check);
    return new Ledger(
        name,
        entries,
        parts.stream().map(each -> each.ledger(names)).toList(),
        List.of(),
        List.of());
  }

  /**
   * @param number which of the queries put together its first one is, from 1
   */
  private void add(List<Entry> entries, QueryBody body, int number) {
    if (!(body instanceof SetOperation operation)) {
      String words =
          body instanceof QueryBody.Values
              ? "VALUES"
              : body.equals(query.body()) ? "the query in parentheses" : ordinal(number);
      entries.add(new Entry(Kind.FROM, words, body.span(), rows(body), List.of(), rows(body)));
      return;
    }
    List<QueryBody> operands = operation.parts();
    add(entries, operands.get(0), number);
    int second = number + selects(operands.get(0));
    int last = number + selects(operation) - 1;
    String words = operation.operator() + (operation.all() ? " ALL " : " ") + range(second, last);
    long before = rows(operands.get(0));
    long after = rows(operation);
    List<Change> changes = new ArrayList<>();
    if (operation.operator() == SetOperator.UNION) {
      long added = operands.stream().skip(1).mapToLong(this::rows).sum();
      changes.add(new Change(Figure.ADDED, added, List.of()));
      changes.add(new Change(Figure.MERGED, before + added - after, List.of()));
    } else {
      Question<Long> asked = different.get(operation);
      long once = asked == null ? before : answers.to(asked);
      changes.add(new Change(Figure.MERGED, before - once, List.of()));
      changes.add(new Change(Figure.DROPPED, once - after, List.of()));
    }
    entries.add(
        new Entry(
            Kind.valueOf(operation.operator().name()),
            words,
            operation.span(),
            before,
            changes,
            after));
  }

  private static int selects(QueryBody body) {
    return body instanceof SetOperation operation
        ? operation.parts().stream().mapToInt(BodyAccount::selects).sum()
        : 1;
  }

  private static String range(int first, int last) {
    return first == last ? ordinal(first) : "the queries " + first + " to " + last;
  }

  /** What the queries of a set operation are called, from 1. */
  static String ordinal(int number) {
    return "query " + number;
  }
}
