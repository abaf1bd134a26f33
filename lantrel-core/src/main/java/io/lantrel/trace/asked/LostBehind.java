package io.lantrel.trace.asked;

import io.lantrel.edit.OneQuery;
import io.lantrel.engine.SampleData;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.trace.Answer;
import io.lantrel.trace.Answer.Kind;
import io.lantrel.trace.Answer.Stage;
import io.lantrel.trace.Answer.TracedValue;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;

/**
 * A row that came through the joins and WHERE of a block, and is not in what the block gives: at
 * which of the clauses behind WHERE it went, found by leaving one out.
 */
final class LostBehind {

  private static final String TOTAL = SampleData.RESERVED + "total";

  private final Followed followed;
  private final OneQuery marked;
  private final Function<String, Optional<List<TracedValue>>> without;

  /**
   * @param marked the marked text
   * @param without what the row would show by another text; empty if it is not there either
   */
  LostBehind(
      Followed followed, OneQuery marked, Function<String, Optional<List<TracedValue>>> without) {
    this.followed = followed;
    this.marked = marked;
    this.without = without;
  }

  Answer answer() {
    QueryBlock block = followed.block();
    Limit limit = block.query().limit();
    if (limit != null && shown(List.of(new Edit(limit.span(), ""))).isPresent()) {
      String text = marked.source().at(limit.span());
      return lost(
          Kind.LIMIT,
          "at LIMIT",
          text,
          List.of(),
          "It is not among the rows that " + text + " takes.");
    }
    Expression having = block.select().having();
    if (having != null) {
      return inHaving(having);
    }
    Expression qualify = block.select().qualify();
    if (qualify != null) {
      String condition = SqlPrinter.print(qualify, block.dialect());
      return lost(
          Kind.QUALIFY, "in QUALIFY", condition, List.of(), condition + " is not true for it.");
    }
    return lost(
        Kind.DISTINCT,
        "at DISTINCT",
        "",
        List.of(),
        "Another row of its group is taken, or the clauses behind WHERE drop it.");
  }

  private Answer inHaving(Expression having) {
    String condition = SqlPrinter.print(having, followed.block().dialect());
    List<TracedValue> values = groupWithout(having);
    return lost(
        Kind.HAVING,
        "in HAVING",
        condition,
        values,
        (values.isEmpty() ? "" : "In its group " + Followed.words(values) + ", so ")
            + condition
            + " is not true"
            + (values.isEmpty() ? " for its group." : "."));
  }

  /** What the group shows that the row is in, if it is one of the whole query. */
  private List<TracedValue> groupWithout(Expression having) {
    Span before = new Span(followed.block().select().span().start(), having.span().start());
    Optional<Span> word =
        new LexedText(marked.source(), before, followed.block().dialect()).last("HAVING");
    if (word.isEmpty()) {
      return List.of();
    }
    List<Edit> gone = new ArrayList<>(List.of(new Edit(word.get().to(having.span()), "")));
    List<String> totals = totals(having);
    for (int i = 0; i < totals.size(); i++) {
      // In front of the mark, so that items are still called by their numbers.
      List<SelectItem> items = followed.block().select().items();
      int place = items.get(items.size() - 1).span().start();
      gone.add(Edit.insert(place, totals.get(i) + " AS " + TOTAL + i + ", "));
    }
    Optional.ofNullable(followed.block().query().limit())
        .ifPresent(each -> gone.add(new Edit(each.span(), "")));
    return shown(gone).orElse(List.of()).stream().map(each -> named(each, totals)).toList();
  }

  /** The aggregates that HAVING asks about, if the block alone is what the result shows. */
  private List<String> totals(Expression having) {
    boolean whole =
        marked.resolution().result().block().filter(followed.block()::equals).isPresent();
    return whole
        ? Aggregates.in(having).map(each -> marked.source().at(each.span())).distinct().toList()
        : List.of();
  }

  /** A value under the text of its aggregate. */
  private static TracedValue named(TracedValue value, List<String> totals) {
    String name = value.name().toLowerCase(Locale.ROOT);
    return name.startsWith(TOTAL)
        ? new TracedValue(
            totals.get(Integer.parseInt(name.substring(TOTAL.length()))), value.value())
        : value;
  }

  private Optional<List<TracedValue>> shown(List<Edit> gone) {
    return without.apply(Edit.apply(marked.source().text(), gone));
  }

  private Answer lost(
      Kind kind, String where, String condition, List<TracedValue> values, String why) {
    String words = where.substring(where.indexOf(' ') + 1);
    return followed.lost(
        new Stage(kind, 0, followed.name(), words),
        condition,
        values,
        List.of(followed.lostAt(where), why));
  }
}
