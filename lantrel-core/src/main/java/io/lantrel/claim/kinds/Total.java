package io.lantrel.claim.kinds;

import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Call.Grouping;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value;
import java.math.BigDecimal;
import java.math.MathContext;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The values of a column sum up to those of a column of a table, or to its number of rows: nothing
 * was counted twice, and nothing lost.
 */
final class Total implements Meaning {

  /** Floating-point sums depend on the order of their terms. */
  private static final BigDecimal NEARLY = new BigDecimal("1e-9");

  private final int position;
  private final String heading;
  private final Subject subject;
  private final @Nullable String column;
  private final TableCondition condition;

  /**
   * @param subject the table; its place in the query is used if it has one
   * @param column its column; null if its rows are counted
   */
  Total(
      int position,
      String heading,
      Subject subject,
      @Nullable String column,
      TableCondition condition) {
    this.position = position;
    this.heading = heading;
    this.subject = subject;
    this.column = column;
    this.condition = condition;
  }

  // ---- proof ----

  @Override
  public boolean follows(Resolution resolution) {
    List<Subject.Through> way = subject.through(resolution);
    if (way.size() != 1 || !Survival.of(way, condition)) {
      return false;
    }
    QueryBlock block = way.get(0).block();
    TableUse use = way.get(0).use();
    return !block.select().distinct()
        && isPlainlyGrouped(block)
        && Uniqueness.of(block, use, subject.key())
        && condition.isAllOf(block, use)
        && sums(block, use, block.outputs().get(position).value());
  }

  private static boolean isPlainlyGrouped(QueryBlock block) {
    return block.grouping().stream().noneMatch(Grouping.class::isInstance);
  }

  private boolean sums(QueryBlock block, TableUse use, Expression value) {
    if (value instanceof FunctionCall call && call.key().equals("coalesce")) {
      return call.arguments().size() == 2
          && call.arguments().get(1) instanceof Value.Literal zero
          && zero.text().equals("0")
          && sums(block, use, call.arguments().get(0));
    }
    if (!block.isGrouped()) {
      return isColumn(block, use, value);
    }
    if (!(value instanceof FunctionCall call)
        || call.distinct()
        || call.filter() != null
        || call.over() != null
        || call.name().size() != 1) {
      return false;
    }
    if (column == null) {
      return call.key().equals("count") && counts(block, use, call);
    }
    return call.key().equals("sum")
        && call.arguments().size() == 1
        && isColumn(block, use, call.arguments().get(0));
  }

  /** COUNT over a column that is NULL only where the table has no row here. */
  private static boolean counts(QueryBlock block, TableUse use, FunctionCall call) {
    if (call.star()) {
      return block.stepsThatFill(use).isEmpty();
    }
    return call.arguments().size() == 1
        && block
            .column(call.arguments().get(0))
            .filter(each -> each.use() == use && !each.nullable())
            .isPresent();
  }

  private boolean isColumn(QueryBlock block, TableUse use, Expression value) {
    return column != null
        && block
            .column(value)
            .filter(each -> each.use() == use && each.tableColumn().equals(column))
            .isPresent();
  }

  // ---- rows ----

  @Override
  public Inquiry inquiry(ResultRows rows) {
    Question<Rows> here =
        rows.values(
            Query.of(Sql.select(List.of(sum(ResultRows.column(position))), rows.from(), null)), 1);
    Dialect dialect = rows.dialect();
    Expression value =
        column == null
            ? Sql.count()
            : FunctionCall.of("SUM", Sql.columnOf(subject.alias(), column, dialect));
    FromItem from = Sql.tableAs(subject.table(), subject.alias(), dialect);
    Question<Rows> there =
        Question.values(
            Relation.of(from, null),
            Query.of(Sql.select(List.of(Sql.as(value, "c0")), from, condition.orNull())),
            1,
            answer -> answer);
    return new Inquiry(
        List.of(here, there),
        answers -> conclusion(number(answers.to(here)), number(answers.to(there))));
  }

  private static SelectItem sum(Expression column) {
    return Sql.as(FunctionCall.of("SUM", column), "c0");
  }

  private static Optional<BigDecimal> number(Rows answer) {
    @Nullable Object value = answer.rows().get(0).get(0);
    if (value == null) {
      return Optional.of(BigDecimal.ZERO);
    }
    try {
      return Optional.of(new BigDecimal(ValueText.of(value).strip()));
    } catch (NumberFormatException infinite) {
      return Optional.empty();
    }
  }

  private Outcome conclusion(Optional<BigDecimal> here, Optional<BigDecimal> there) {
    if (here.isEmpty() || there.isEmpty()) {
      throw new UndecidedException("a total is no finite number");
    }
    BigDecimal difference = here.get().subtract(there.get());
    if (difference.signum() == 0
        || difference.abs().compareTo(there.get().abs().multiply(NEARLY)) <= 0) {
      return here.get().signum() == 0 && there.get().signum() == 0
          ? Outcome.nothing("both totals are 0")
          : Outcome.holds("both totals are " + plain(here.get()));
    }
    return Outcome.broken(
            "the total of "
                + heading
                + " is "
                + plain(here.get())
                + (column == null
                    ? ", and the number of rows of " + subject.word()
                    : ", and that of " + subject.word() + "." + column)
                + condition.words()
                + " is "
                + plain(there.get())
                + ": "
                + plain(difference.abs())
                + (difference.signum() > 0 ? " too much" : " too little"))
        .by(subject, difference.signum() > 0);
  }

  private static String plain(BigDecimal number) {
    BigDecimal shown = number.round(new MathContext(15)).stripTrailingZeros();
    return shown.toPlainString();
  }
}
