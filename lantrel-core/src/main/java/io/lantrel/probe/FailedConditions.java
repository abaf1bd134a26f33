package io.lantrel.probe;

import io.lantrel.engine.SampleData;
import io.lantrel.probe.ResultLines.Heading;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.When;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * What HAVING drops of the groups, or QUALIFY of the rows: by its conditions, the first that is not
 * true counting, and whether that is false or unknown (ISO/IEC 9075-2, 7.14).
 */
public final class FailedConditions {

  private static final String FAILED = SampleData.RESERVED + "failed";

  private final QueryBlock block;
  private final boolean groups;
  private final List<Expression> written;
  private final List<Expression> conditions;

  private FailedConditions(QueryBlock block, boolean groups, Expression whole) {
    this.block = block;
    this.groups = groups;
    this.written = Condition.terms(whole);
    this.conditions = written.stream().map(each -> Counting.withoutLabels(block, each)).toList();
  }

  /** Those of HAVING, which is there. */
  public static FailedConditions ofHaving(QueryBlock block, Expression having) {
    return new FailedConditions(block, true, having);
  }

  /** Those of QUALIFY, which is there. */
  public static FailedConditions ofQualify(QueryBlock block, Expression qualify) {
    return new FailedConditions(block, false, qualify);
  }

  /** The conditions, as they are written. */
  public List<String> conditions() {
    return written.stream().map(each -> SqlPrinter.print(each, block.dialect())).toList();
  }

  /**
   * How many fail each of the conditions first.
   *
   * @param failed for each condition how many it is false for, and behind that how many it is
   *     unknown for
   */
  public record Failed(List<Long> failed) {
    public Failed {
      failed = List.copyOf(failed);
    }

    public long whenFalse(int condition) {
      return failed.get(2 * condition);
    }

    public long whenUnknown(int condition) {
      return failed.get(2 * condition + 1);
    }
  }

  /** How many fail, and what. */
  public Question<Failed> question() {
    QueryBody.Select each = select(List.of(Sql.as(code(), "x")), null);
    int codes = 2 * conditions.size();
    List<SelectItem> items = new ArrayList<>();
    for (int i = 0; i < codes; i++) {
      Expression is = Sql.equal(Sql.column(FAILED, "x"), Sql.number(i + 1L));
      items.add(Sql.as(Sql.countIf(is), "c" + i));
    }
    Query query = Counting.query(block, each, null, List.of());
    return Question.numbers(
        Query.of(Sql.select(items, Sql.derived(query, FAILED), null)),
        answer -> new Failed(IntStream.range(0, codes).mapToObj(answer::figure).toList()));
  }

  /**
   * Those that fail a condition first; empty if they have no columns to be named by.
   *
   * @param condition which, from 0
   * @param isUnknown whether it is unknown for them, and not false
   */
  public Optional<ResultLines> lines(int condition, boolean isUnknown) {
    List<Expression> keys = groups ? Counting.grouping(block) : List.of();
    boolean isNameable =
        groups ? !keys.isEmpty() && !Counting.hasSets(block) : block.hasAllOutputs();
    if (!isNameable) {
      return Optional.empty();
    }
    Expression fails = Sql.equal(code(), Sql.number(2L * condition + (isUnknown ? 2 : 1)));
    List<SelectItem> items = new ArrayList<>();
    keys.forEach(key -> items.add(Sql.as(key, "k" + items.size())));
    QueryBody.Select select = select(groups ? items : block.select().items(), fails);
    List<Heading> headings =
        groups ? ResultLines.headings(block, keys) : ResultLines.headings(block);
    return Optional.of(new ResultLines(Counting.query(block, select, null, List.of()), headings));
  }

  private QueryBody.Select select(List<SelectItem> items, @Nullable Expression condition) {
    QueryBody.Select own = block.select();
    return new QueryBody.Select(
        own.span(),
        false,
        List.of(),
        items,
        own.from(),
        Counting.withoutLabelsIfPresent(block, own.where()),
        Counting.grouping(block),
        groups ? condition : Counting.withoutLabelsIfPresent(block, own.having()),
        own.windows(),
        groups ? null : condition);
  }

  /** 0 if all hold; else 1 and 2 for the first condition, 3 and 4 for the second… */
  private Expression code() {
    List<When> whens = new ArrayList<>();
    for (int i = 0; i < conditions.size(); i++) {
      Expression condition = conditions.get(i);
      Expression holds = Sql.choose(condition, Sql.number(1), Sql.number(0));
      Expression which =
          Sql.choose(Sql.not(condition), Sql.number(2L * i + 1), Sql.number(2L * i + 2));
      whens.add(new When(Span.NOWHERE, Sql.equal(holds, Sql.number(0)), which));
    }
    return new Value.Case(Span.NOWHERE, null, whens, Sql.number(0));
  }
}
