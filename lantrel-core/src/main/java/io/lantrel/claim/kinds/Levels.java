package io.lantrel.claim.kinds;

import io.lantrel.claim.ClaimException;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * A recursion finds no new row after so many levels, its start being the first. Its own query is
 * asked, with a column that counts the levels and a condition that ends them one level later: so it
 * ends also where the data lead in a circle.
 */
final class Levels implements Meaning {

  private static final String LEVEL = SampleData.RESERVED + "level";
  private static final String DEEP = SampleData.RESERVED + "deep";
  private static final Expression LOWEST = Sql.column(DEEP, "n");

  private final long most;
  private final CommonTable table;
  private final QueryBody.SetOperation walk;
  private final QueryBody.Select start;
  private final QueryBody.Select step;
  private final Query query;
  private final String alias;

  private Levels(
      long most,
      CommonTable table,
      QueryBody.SetOperation walk,
      QueryBody.Select start,
      QueryBody.Select step,
      Query query,
      String alias) {
    this.most = most;
    this.table = table;
    this.walk = walk;
    this.start = start;
    this.step = step;
    this.query = query;
    this.alias = alias;
  }

  /**
   * @throws ClaimException if the query has no recursion
   */
  static Levels of(long most, Resolution resolution) {
    if (resolution.blocks().stream().noneMatch(QueryBlock::isRecursive)) {
      throw new ClaimException("this query has no recursion whose levels could be counted");
    }
    return ifAny(most, resolution)
        .orElseThrow(
            () ->
                new UndecidedException(
                    "levels are counted of one recursion in WITH, whose start and step are a SELECT"
                        + " each, with columns by name"));
  }

  /** The same; empty if the query has no recursion whose levels can be counted. */
  static Optional<Levels> ifAny(long most, Resolution resolution) {
    Query query = resolution.result().query();
    List<QueryBlock> steps = resolution.blocks().stream().filter(QueryBlock::isRecursive).toList();
    if (steps.size() != 1) {
      return Optional.empty();
    }
    QueryBlock block = steps.get(0);
    for (CommonTable member : query.with()) {
      if (member.query().body() instanceof QueryBody.SetOperation walk
          && walk.operator() == QueryBody.SetOperator.UNION
          && walk.parts().size() == 2
          && walk.parts().get(0) instanceof QueryBody.Select start
          && walk.parts().get(1) instanceof QueryBody.Select step
          && step.equals(block.select())
          && isPlain(step)
          && isPlain(start)) {
        Optional<TableUse> self =
            block.uses().stream().filter(use -> isOf(use, member, block.dialect())).findFirst();
        if (self.isPresent()) {
          return Optional.of(new Levels(most, member, walk, start, step, query, self.get().name()));
        }
      }
    }
    return Optional.empty();
  }

  private static boolean isPlain(QueryBody.Select select) {
    return !select.distinct()
        && select.groupBy().isEmpty()
        && select.items().stream().allMatch(SelectItem.Output.class::isInstance);
  }

  private static boolean isOf(TableUse use, CommonTable member, Dialect dialect) {
    return use.item() instanceof FromItem.TableName name
        && name.name().size() == 1
        && dialect.means(name.last(), dialect.stored(member.name()));
  }

  // ---- proof ----

  /** The query counts its levels itself, and ends them: {@code level + 1} and {@code level < 5}. */
  @Override
  public boolean follows(Resolution resolution) {
    for (int i = 0; i < step.items().size(); i++) {
      if (item(start, i) instanceof Value.Literal first
          && item(step, i) instanceof Value.Arithmetic next
          && next.operator() == Value.ArithmeticOperator.PLUS
          && next.right() instanceof Value.Literal one
          && one.text().equals("1")
          && first.text().matches("[0-9]{1,9}")
          && next.left() instanceof ColumnName counter
          && isCounter(counter, i, resolution)
          && isBounded(
              counter, Long.parseLong(first.text()) + most - 1, resolution.root().dialect())) {
        return true;
      }
    }
    return false;
  }

  private static Expression item(QueryBody.Select select, int position) {
    return position < select.items().size()
            && select.items().get(position) instanceof SelectItem.Output output
        ? output.value()
        : Sql.nothing();
  }

  private boolean isCounter(ColumnName counter, int position, Resolution resolution) {
    @Nullable Identifier name =
        position < table.columns().size()
            ? table.columns().get(position)
            : start.items().get(position) instanceof SelectItem.Output output
                ? output.label()
                : null;
    Dialect dialect = resolution.root().dialect();
    return name != null
        && counter.qualifier().size() == 1
        && dialect.means(counter.qualifier().get(0), alias)
        && dialect.key(counter.name()).equals(dialect.key(name));
  }

  /** Whether no row goes on whose count has reached the last level. */
  private boolean isBounded(ColumnName counter, long last, Dialect dialect) {
    Expression where = step.where() == null ? Sql.always() : step.where();
    List<Expression> terms = Condition.terms(where);
    return terms.stream()
        .anyMatch(
            term ->
                term instanceof Condition.Comparison comparison
                    && comparison.left() instanceof ColumnName column
                    && dialect.key(column.name()).equals(dialect.key(counter.name()))
                    && column.qualifier().size() == 1
                    && dialect.means(column.qualifier().get(0), alias)
                    && comparison.right() instanceof Value.Literal bound
                    && bound.text().matches("[0-9]{1,9}")
                    && highest(comparison.operator(), Long.parseLong(bound.text())) < last);
  }

  /** The highest count that goes on. */
  private static long highest(Condition.ComparisonOperator operator, long bound) {
    return switch (operator) {
      case LESS -> bound - 1;
      case LESS_OR_EQUAL, EQUAL -> bound;
      default -> Long.MAX_VALUE;
    };
  }

  // ---- rows ----

  @Override
  public Inquiry inquiry(ResultRows rows) {
    Dialect dialect = rows.dialect();
    Question<Long> deep = walked(dialect, from -> deeper(from, dialect));
    return new Inquiry(
        List.of(deep),
        answers -> {
          long found = answers.to(deep);
          return found == 0
              ? Outcome.holds("no row is found after level " + most)
              : Outcome.broken(
                  Words.rows(found)
                      + " of level "
                      + (most + 1)
                      + (found == 1 ? " is" : " are")
                      + " found");
        });
  }

  /** How many levels there are; one more than the most that are looked at if there are more. */
  Question<Long> depth(Dialect dialect) {
    Expression level = new ColumnName(Span.NOWHERE, List.of(), Identifier.of(LEVEL));
    return walked(
        dialect,
        from ->
            Query.of(
                Sql.select(
                    List.of(Sql.as(FunctionCall.of("MAX", walk.all() ? level : LOWEST), "c0")),
                    walk.all() ? from : Sql.derived(lowest(from, dialect, null), DEEP),
                    null)));
  }

  /** What a query gives over the walk with its levels. */
  private Question<Long> walked(Dialect dialect, Function<FromItem, Query> asked) {
    Expression level =
        new ColumnName(Span.NOWHERE, List.of(dialect.exact(alias)), Identifier.of(LEVEL));
    QueryBody.Select counted =
        with(
            step,
            new Value.Arithmetic(Span.NOWHERE, Value.ArithmeticOperator.PLUS, level, Sql.number(1)),
            Sql.not(Sql.greater(level, Sql.number(most))));
    List<Identifier> columns = new ArrayList<>(table.columns());
    if (!columns.isEmpty()) {
      columns.add(Identifier.of(LEVEL));
    }
    CommonTable walked =
        new CommonTable(
            table.span(),
            table.name(),
            columns,
            table.materialized(),
            Query.of(
                new QueryBody.SetOperation(
                    walk.span(),
                    walk.operator(),
                    walk.all(),
                    walk.matching(),
                    List.of(with(start, Sql.number(1), null), counted))),
            null,
            List.of());
    List<CommonTable> with =
        query.with().stream().map(each -> each.equals(table) ? walked : each).toList();
    FromItem from =
        new FromItem.TableName(
            Span.NOWHERE, List.of(dialect.exact(dialect.stored(table.name()))), null);
    return Question.numbers(
        Relation.of(from, with, true), asked.apply(from), 1, answer -> answer.figure(0));
  }

  /** Rows whose lowest level is too deep; what UNION merges has been met before. */
  private Query deeper(FromItem from, Dialect dialect) {
    Expression level = new ColumnName(Span.NOWHERE, List.of(), Identifier.of(LEVEL));
    List<SelectItem> count = List.of(Sql.as(Sql.count(), "c0"));
    if (walk.all()) {
      return Query.of(Sql.select(count, from, Sql.greater(level, Sql.number(most))));
    }
    Expression deep = Sql.greater(FunctionCall.of("MIN", level), Sql.number(most));
    return Query.of(Sql.select(count, Sql.derived(lowest(from, dialect, deep), DEEP), null));
  }

  /** The lowest level of each row. */
  private QueryBody.Select lowest(FromItem from, Dialect dialect, @Nullable Expression having) {
    Expression level = new ColumnName(Span.NOWHERE, List.of(), Identifier.of(LEVEL));
    List<Expression> columns =
        IntStream.range(0, start.items().size()).mapToObj(i -> heading(i, dialect)).toList();
    return Sql.grouped(List.of(Sql.as(FunctionCall.of("MIN", level), "n")), from, columns, having);
  }

  private Expression heading(int position, Dialect dialect) {
    Identifier name =
        position < table.columns().size()
            ? table.columns().get(position)
            : start.items().get(position) instanceof SelectItem.Output output
                ? output.label() != null
                    ? output.label()
                    : output.value() instanceof ColumnName column ? column.name() : unnamed()
                : unnamed();
    return new ColumnName(Span.NOWHERE, List.of(), dialect.exact(dialect.stored(name)));
  }

  private static Identifier unnamed() {
    throw new UndecidedException("a column of the recursion has no name");
  }

  private static QueryBody.Select with(
      QueryBody.Select select, Expression added, @Nullable Expression condition) {
    List<SelectItem> items = new ArrayList<>(select.items());
    items.add(Sql.as(added, LEVEL));
    List<Expression> conditions = new ArrayList<>();
    if (select.where() != null) {
      conditions.add(select.where());
    }
    if (condition != null) {
      conditions.add(condition);
    }
    return new QueryBody.Select(
        select.span(),
        false,
        List.of(),
        items,
        select.from(),
        conditions.isEmpty() ? null : Sql.all(conditions),
        List.of(),
        select.having(),
        select.windows(),
        select.qualify());
  }
}
