package io.lantrel.ledger.account;

import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Entry.Kind;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Naming;
import io.lantrel.probe.Answers;
import io.lantrel.probe.BlockLines;
import io.lantrel.probe.Counting;
import io.lantrel.probe.FailedConditions;
import io.lantrel.probe.Question;
import io.lantrel.probe.ResultLines;
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
import org.jspecify.annotations.Nullable;

/**
 * The clauses behind GROUP BY, in the order in which they are carried out (ISO/IEC 9075-2, 7.13 to
 * 7.17): what each leaves is counted by the query itself, up to that clause.
 */
final class Stages {

  private final QueryBlock block;
  private final Question<Long> counted;
  private final Naming naming;
  private final int step;
  private final List<Stage> all = new ArrayList<>();

  /**
   * @param lost the lines that it takes away; null if it takes none
   */
  private record Stage(
      Kind kind, String words, Span place, Question<Long> count, @Nullable LostLines lost) {}

  /**
   * @param counted the rows of the whole block
   * @param step which step of the account the first of them is, from 1
   */
  Stages(QueryBlock block, Question<Long> counted, Naming naming, int step) {
    this.block = block;
    this.counted = counted;
    this.naming = naming;
    this.step = step;
    QueryBody.Select select = block.select();
    Expression having = select.having();
    if (having != null) {
      FailedLines lost = new FailedLines(FailedConditions.ofHaving(block, having));
      add(Kind.HAVING, "HAVING " + text(having), having.span(), Counting::groupsBehindHaving, lost);
    }
    Expression qualify = select.qualify();
    if (qualify != null) {
      FailedLines lost = new FailedLines(FailedConditions.ofQualify(block, qualify));
      String words = "QUALIFY " + text(qualify);
      add(Kind.QUALIFY, words, qualify.span(), Counting::rowsBehindQualify, lost);
    }
    if (block.repeatsRows()) {
      add(Kind.SELECT, "functions in SELECT", word(), Counting::rowsBeforeDistinct, null);
    }
    if (select.distinct() && select.distinctOn().isEmpty()) {
      ResultLines lines = BlockLines.beforeDistinct(block).orElse(null);
      LostLines lost = new EqualLines("they show the same as another row", lines);
      add(Kind.DISTINCT, "DISTINCT", word(), Counting::rowsBeforeLimit, lost);
    }
    if (!select.distinctOn().isEmpty()) {
      String values = String.join(", ", select.distinctOn().stream().map(this::text).toList());
      LostLines lost =
          new EqualLines(
              "another row of the same values comes first", BlockLines.distinctOn(block));
      add(Kind.DISTINCT, "DISTINCT ON (" + values + ")", word(), Counting::rowsBeforeLimit, lost);
    }
    Limit limit = block.query().limit();
    if (limit != null) {
      LostLines lost = new CutLines(BlockLines.whole(block), limit, headings());
      add(Kind.LIMIT, "LIMIT", limit.span(), Counting::rows, lost);
    }
    if (!all.isEmpty()) {
      Stage last = all.remove(all.size() - 1);
      all.add(new Stage(last.kind(), last.words(), last.place(), counted, last.lost()));
    }
  }

  private List<ResultLines.Heading> headings() {
    return block.hasAllOutputs() ? ResultLines.headings(block) : List.of();
  }

  private void add(
      Kind kind,
      String words,
      Span place,
      Function<QueryBlock, Query> count,
      @Nullable LostLines lost) {
    all.add(new Stage(kind, words, place, Question.number(count.apply(block)), lost));
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
    all.stream()
        .map(Stage::lost)
        .filter(lost -> lost != null)
        .forEach(lost -> questions.addAll(lost.first()));
    return questions;
  }

  /**
   * Which lines are lost.
   *
   * @param before the rows that come in
   */
  List<Question<?>> names(long before, Answers first) {
    List<Question<?>> questions = new ArrayList<>();
    long rows = before;
    for (int i = 0; i < all.size(); i++) {
      Stage stage = all.get(i);
      long after = first.to(stage.count());
      if (stage.lost() != null && after < rows) {
        int most = naming.most(figure(stage.kind()), step + i);
        questions.addAll(stage.lost().names(rows - after, most, first));
      }
      rows = after;
    }
    return questions;
  }

  /**
   * @param before the rows that come in
   * @param names the answers to {@link #names}
   */
  List<Entry> entries(long before, Answers first, Answers names) {
    List<Entry> entries = new ArrayList<>();
    long rows = before;
    for (Stage stage : all) {
      long after = first.to(stage.count());
      Change change =
          after > rows
              ? new Change(Figure.REPEATED, after - rows, List.of())
              : new Change(
                  figure(stage.kind()), rows - after, causes(stage, rows - after, first, names));
      entries.add(
          new Entry(stage.kind(), stage.words(), stage.place(), rows, List.of(change), after));
      rows = after;
    }
    return entries;
  }

  private static List<Cause> causes(Stage stage, long lost, Answers first, Answers names) {
    return stage.lost() == null || lost == 0 ? List.of() : stage.lost().causes(lost, first, names);
  }

  private static Figure figure(Kind kind) {
    return switch (kind) {
      case DISTINCT -> Figure.MERGED;
      case LIMIT -> Figure.CUT;
      default -> Figure.DROPPED;
    };
  }
}
