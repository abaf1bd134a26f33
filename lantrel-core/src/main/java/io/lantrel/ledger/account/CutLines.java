package io.lantrel.ledger.account;

import io.lantrel.engine.NamedRow;
import io.lantrel.ledger.Cause;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Question;
import io.lantrel.probe.ResultLines;
import io.lantrel.probe.ResultLines.Heading;
import io.lantrel.probe.Sql;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;

/** The lines that OFFSET passes over and those behind LIMIT. */
final class CutLines implements LostLines {

  private final Query query;
  private final Limit limit;
  private final List<Heading> headings;
  private final OptionalLong skip;
  private final OptionalLong count;
  private long passed;
  private @Nullable Question<List<NamedRow>> before;
  private @Nullable Question<List<NamedRow>> behind;

  /**
   * @param query with its order and its limit
   * @param headings of all its columns; none if they are not known
   */
  CutLines(Query query, Limit limit, List<Heading> headings) {
    this.query = query;
    this.limit = limit;
    this.headings = List.copyOf(headings);
    this.skip = limit.skip() == null ? OptionalLong.of(0) : number(limit.skip());
    this.count = number(limit.count());
  }

  private static OptionalLong number(@Nullable Expression value) {
    return value instanceof Literal literal
            && literal.kind() == LiteralKind.NUMBER
            && literal.text().matches("[0-9]{1,9}")
        ? OptionalLong.of(Long.parseLong(literal.text()))
        : OptionalLong.empty();
  }

  @Override
  public List<Question<?>> names(long lost, int most, Answers first) {
    passed = Math.min(lost, skip.orElse(0));
    boolean isNameable = !headings.isEmpty() && !query.orderBy().isEmpty() && skip.isPresent();
    if (!isNameable || most == 0) {
      return List.of();
    }
    List<Question<?>> questions = new ArrayList<>();
    if (passed > 0) {
      before = lines(0, Math.min(most, passed));
      questions.add(before);
    }
    if (lost > passed && count.isPresent() && !limit.percent() && !limit.withTies()) {
      behind = lines(skip.getAsLong() + count.getAsLong(), most);
      questions.add(behind);
    }
    return questions;
  }

  private Question<List<NamedRow>> lines(long from, long rows) {
    Limit some =
        new Limit(
            Span.NOWHERE, Sql.number(rows), from == 0 ? null : Sql.number(from), false, false);
    Query cut =
        new Query(
            query.span(), query.recursive(), query.with(), query.body(), query.orderBy(), some);
    return new ResultLines(cut, headings).asGiven((int) rows);
  }

  @Override
  public List<Cause> causes(long lost, Answers first, Answers names) {
    if (skip.isEmpty()) {
      return LostLines.one("passed over by OFFSET, or behind the last row", lost, null, names);
    }
    List<Cause> causes = new ArrayList<>();
    String any = query.orderBy().isEmpty() ? "; without ORDER BY any rows can be these" : "";
    if (passed > 0) {
      String reason = "passed over by OFFSET" + any;
      causes.addAll(LostLines.one(reason, passed, before, names));
    }
    if (lost > passed) {
      String rows =
          count.isPresent() && !limit.percent()
              ? "behind the first " + Words.rows(skip.getAsLong() + count.getAsLong())
              : "behind the last row";
      causes.addAll(LostLines.one(rows + any, lost - passed, behind, names));
    }
    return causes;
  }
}
