package io.lantrel.ledger.account;

import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Entry.Kind;
import io.lantrel.ledger.Figure;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Question;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/**
 * The clauses behind GROUP BY, in the order in which they are carried out (ISO/IEC 9075-2, 7.13 to
 * 7.17): what each leaves is counted by the query itself, up to that clause.
 */
final class Stages {

  private final QueryBlock block;
  private final Question<Long> counted;
  private final List<Stage> all = new ArrayList<>();

  private record Stage(Kind kind, String words, Span place, Question<Long> count) {}

  /**
   * @param counted the rows of the whole block
   */
  Stages(QueryBlock block, Question<Long> counted) {
    this.block = block;
    this.counted = counted;
    QueryBody.Select select = block.select();
    Expression having = select.having();
    if (having != null) {
      add(Kind.HAVING, "HAVING " + text(having), having.span(), Counting::groupsBehindHaving);
    }
    Expression qualify = select.qualify();
    if (qualify != null) {
      add(Kind.QUALIFY, "QUALIFY " + text(qualify), qualify.span(), Counting::rowsBehindQualify);
    }
    if (block.repeatsRows()) {
      add(Kind.SELECT, "functions in SELECT", word(), Counting::rowsBeforeDistinct);
    }
    if (select.distinct() && select.distinctOn().isEmpty()) {
      add(Kind.DISTINCT, "DISTINCT", word(), Counting::rowsBeforeLimit);
    }
    if (!select.distinctOn().isEmpty()) {
      String values = String.join(", ", select.distinctOn().stream().map(this::text).toList());
      add(Kind.DISTINCT, "DISTINCT ON (" + values + ")", word(), Counting::rowsBeforeLimit);
    }
    Limit limit = block.query().limit();
    if (limit != null) {
      add(Kind.LIMIT, "LIMIT", limit.span(), Counting::rows);
    }
    if (!all.isEmpty()) {
      Stage last = all.remove(all.size() - 1);
      all.add(new Stage(last.kind(), last.words(), last.place(), counted));
    }
  }

  private void add(Kind kind, String words, Span place, Function<QueryBlock, Query> count) {
    all.add(new Stage(kind, words, place, Question.number(count.apply(block))));
  }

  private String text(Expression value) {
    return SqlPrinter.print(value, block.dialect());
  }

  /** The word SELECT. */
  private Span word() {
    int start = block.select().span().start();
    return new Span(start, start + "SELECT".length());
  }

  /** Whether there are none. */
  boolean isEmpty() {
    return all.isEmpty();
  }

  List<Question<?>> first() {
    List<Question<?>> questions = new ArrayList<>();
    all.stream().map(Stage::count).filter(each -> !each.equals(counted)).forEach(questions::add);
    return questions;
  }

  /**
   * @param before the rows that come in
   */
  List<Entry> entries(long before, Answers first) {
    List<Entry> entries = new ArrayList<>();
    long rows = before;
    for (Stage stage : all) {
      long after = first.to(stage.count());
      Change change =
          after > rows
              ? new Change(Figure.REPEATED, after - rows, List.of())
              : new Change(figure(stage.kind()), rows - after, List.of());
      entries.add(
          new Entry(stage.kind(), stage.words(), stage.place(), rows, List.of(change), after));
      rows = after;
    }
    return entries;
  }

  private static Figure figure(Kind kind) {
    return switch (kind) {
      case DISTINCT -> Figure.MERGED;
      case LIMIT -> Figure.CUT;
      default -> Figure.DROPPED;
    };
  }
}
