package io.lantrel.ledger.account;

import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Entry.Kind;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.Naming;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Question;
import io.lantrel.probe.ResultLines;
import io.lantrel.probe.ResultLines.Heading;
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
import org.jspecify.annotations.Nullable;

/**
 * The account of a query that is no single SELECT: UNION and the like, VALUES, a query in
 * parentheses. Each set operation is an entry: rows that come, that are merged, that are taken away
 * (ISO/IEC 9075-2, 7.17).
 */
final class BodyAccount implements Account {

  private final String name;
  private final Query query;
  private final Columns columns;
  private final Naming naming;
  private final List<CommonTable> with;
  private final boolean recursive;
  private final List<Account> parts;
  private final Question<Long> counted;
  private final Map<QueryBody, Question<Long>> counts = new IdentityHashMap<>();
  private final Map<QueryBody, Question<Long>> different = new IdentityHashMap<>();
  private final List<Step> steps = new ArrayList<>();
  private final @Nullable CutLines cut;
  private Answers answers = new Answers();

  /**
   * The columns of a query.
   *
   * @param count how many
   * @param headings what they are called and hold; none if that is not known
   */
  record Columns(int count, List<Heading> headings) {
    Columns {
      headings = List.copyOf(headings);
    }
  }

  /**
   * A query that is put together with others, or a set operation.
   *
   * @param body what stands there
   * @param number which of the queries put together its first one is, from 1
   * @param merged what becomes of equal lines; null if it is no set operation
   * @param gone what becomes of lines that do not stay; null if all do, but for equal ones
   */
  private record Step(
      QueryBody body, int number, @Nullable LostLines merged, @Nullable LostLines gone) {}

  /**
   * @param columns of what it gives
   * @param with what WITH must define for it
   * @param parts the accounts of the queries in it
   */
  BodyAccount(
      String name,
      Query query,
      Columns columns,
      List<CommonTable> with,
      boolean recursive,
      Naming naming,
      List<Account> parts) {
    this.name = name;
    this.query = query;
    this.columns = columns;
    this.with = with;
    this.recursive = recursive;
    this.naming = naming;
    this.parts = parts;
    this.counted = count(query.body(), Optional.ofNullable(query.limit()));
    ask(query.body(), true);
    add(query.body(), 1);
    Limit limit = query.limit();
    this.cut =
        limit == null ? null : new CutLines(query(query.body(), limit), limit, columns.headings());
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
        Query first = query(operands.get(0), null);
        different.put(operation, Question.number(Counting.differentRows(first, columns.count())));
      }
    }
  }

  private Question<Long> count(QueryBody body, Optional<Limit> limit) {
    return Question.number(Counting.rows(query(body, limit.orElse(null)), columns.count()));
  }

  private Query query(QueryBody body, @Nullable Limit limit) {
    return new Query(
        query.span(), recursive, with, body, limit == null ? List.of() : query.orderBy(), limit);
  }

  // ---- the steps ----

  private void add(QueryBody body, int number) {
    if (!(body instanceof SetOperation operation)) {
      steps.add(new Step(body, number, null, null));
      return;
    }
    QueryBody first = operation.parts().get(0);
    add(first, number);
    boolean union = operation.operator() == SetOperator.UNION;
    boolean sameOrder = operation.matching() == null;
    String others = range(number + selects(first), number + selects(operation) - 1);
    QueryBody all = union ? everyRow(operation) : first;
    LostLines merged =
        new EqualLines(
            union ? "they are equal to another row" : "equal rows of query " + number,
            lines(all).orElse(null));
    LostLines gone =
        union
            ? null
            : new MissingLines(
                (operation.operator() == SetOperator.EXCEPT ? "they are in " : "they are not in ")
                    + others,
                sameOrder ? lines(first).orElse(null) : null,
                query(operation, null),
                operation.all());
    steps.add(new Step(operation, number, merged, gone));
  }

  private static QueryBody everyRow(SetOperation operation) {
    return new SetOperation(
        operation.span(), SetOperator.UNION, true, operation.matching(), operation.parts());
  }

  private Optional<ResultLines> lines(QueryBody body) {
    return columns.headings().isEmpty()
        ? Optional.empty()
        : Optional.of(new ResultLines(query(body, null), columns.headings()));
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

  // ---- rounds ----

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

  @Override
  public List<Question<?>> names(Answers third) {
    List<Question<?>> questions = new ArrayList<>();
    int at = 1;
    for (Step step : steps) {
      if (step.body() instanceof SetOperation operation) {
        questions.addAll(names(step.merged(), merged(operation), Figure.MERGED, at));
        questions.addAll(names(step.gone(), gone(operation), Figure.DROPPED, at));
      }
      at++;
    }
    questions.addAll(names(cut, rows(query.body()) - answers.to(counted), Figure.CUT, at));
    return questions;
  }

  private List<Question<?>> names(@Nullable LostLines lost, long rows, Figure figure, int at) {
    return lost == null || rows == 0
        ? List.of()
        : lost.names(rows, naming.most(figure, at), answers);
  }

  private long rows(QueryBody body) {
    return answers.to(Optional.ofNullable(counts.get(body)).orElseThrow());
  }

  private long added(SetOperation operation) {
    return operation.parts().stream().skip(1).mapToLong(this::rows).sum();
  }

  /** How many rows are merged with others. */
  private long merged(SetOperation operation) {
    long before = rows(operation.parts().get(0));
    if (operation.operator() == SetOperator.UNION) {
      return before + added(operation) - rows(operation);
    }
    Question<Long> asked = different.get(operation);
    return asked == null ? 0 : before - answers.to(asked);
  }

  /** How many rows, after equal ones are merged, do not stay. */
  private long gone(SetOperation operation) {
    return rows(operation.parts().get(0)) - merged(operation) - rows(operation);
  }

  // ---- the account ----

  @Override
  public Ledger ledger(Answers names) {
    List<Entry> entries = new ArrayList<>();
    steps.forEach(step -> entries.add(entry(step, names)));
    Limit limit = query.limit();
    if (limit != null && cut != null) {
      long before = rows(query.body());
      long after = answers.to(counted);
      List<Cause> causes = before > after ? cut.causes(before - after, answers, names) : List.of();
      Change change = new Change(Figure.CUT, before - after, causes);
      entries.add(new Entry(Kind.LIMIT, "LIMIT", limit.span(), before, List.of(change), after));
    }
    entries.forEach(Balance::check);
    return new Ledger(
        name,
        entries,
        parts.stream().map(each -> each.ledger(names)).toList(),
        List.of(),
        List.of());
  }

  private Entry entry(Step step, Answers names) {
    QueryBody body = step.body();
    if (!(body instanceof SetOperation operation)) {
      String words =
          body instanceof QueryBody.Values
              ? "VALUES"
              : body.equals(query.body()) ? "the query in parentheses" : ordinal(step.number());
      return new Entry(Kind.FROM, words, body.span(), rows(body), List.of(), rows(body));
    }
    QueryBody first = operation.parts().get(0);
    int last = step.number() + selects(operation) - 1;
    String words =
        operation.operator()
            + (operation.all() ? " ALL " : " ")
            + range(step.number() + selects(first), last);
    List<Change> changes = new ArrayList<>();
    if (operation.operator() == SetOperator.UNION) {
      changes.add(new Change(Figure.ADDED, added(operation), List.of()));
    }
    changes.add(change(Figure.MERGED, merged(operation), step.merged(), names));
    if (step.gone() != null) {
      changes.add(change(Figure.DROPPED, gone(operation), step.gone(), names));
    }
    return new Entry(
        Kind.valueOf(operation.operator().name()),
        words,
        operation.span(),
        rows(first),
        changes,
        rows(operation));
  }

  private Change change(Figure figure, long rows, @Nullable LostLines lost, Answers names) {
    return new Change(
        figure, rows, rows > 0 && lost != null ? lost.causes(rows, answers, names) : List.of());
  }
}
