package io.lantrel.sql;

import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Call.GroupingKind;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Window;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.antlr.v4.runtime.Token;

/** Turns the parser's tree of one SELECT into ours. */
final class SelectBuilder {

  /** Units of intervals. */
  static final Set<String> UNITS = Set.of("YEAR", "MONTH", "DAY", "HOUR", "MINUTE", "SECOND");

  private final TreeBuilder trees;

  SelectBuilder(TreeBuilder trees) {
    this.trees = trees;
  }

  QueryBody.Select select(SqlParser.SelectContext context) {
    SqlParser.SelectTailContext tail = context.selectTail();
    List<SelectItem> items = new ArrayList<>();
    context.selectItem().forEach(item -> items.add(item(item)));
    if (items.isEmpty()) {
      withoutItems(context, items);
    }
    if (context.last != null && trees.dialect() != Dialect.DUCKDB) {
      Span comma = trees.span(context.last);
      throw new SyntaxException(
          new SyntaxProblem(
              comma,
              "found , and no value behind it",
              List.of(new Edit(comma, "")),
              SyntaxProblem.Cause.SLIP));
    }
    return new QueryBody.Select(
        trees.span(context),
        context.quantifier().stream().anyMatch(each -> each.DISTINCT() != null),
        context.quantifier().stream()
            .flatMap(each -> trees.expressions(each.expression()).stream())
            .toList(),
        items,
        context.from() == null ? null : trees.tables().from(context.from()),
        trees.optional(tail.where),
        tail.groupBy() == null ? List.of() : groups(tail.groupBy()),
        trees.optional(tail.having),
        tail.namedWindow().stream().map(this::named).toList(),
        trees.optional(tail.qualify));
  }

  /** {@code FROM t} shows all columns; {@code SELECT FROM t} none, and few engines take it. */
  private void withoutItems(SqlParser.SelectContext context, List<SelectItem> items) {
    if (context.SELECT() == null) {
      Span from = trees.span(context.FROM().getSymbol());
      items.add(new SelectItem.AllColumns(from, List.of(), List.of(), List.of()));
    } else if (!trees.dialect().has(Dialect.Rule.EMPTY_SELECT_LIST)) {
      Span place =
          context.FROM() == null
              ? new Span(trees.span(context).end(), trees.span(context).end())
              : trees.span(context.FROM().getSymbol());
      String found = context.FROM() == null ? "the statement ends here" : "found FROM";
      throw new SyntaxException(
          new SyntaxProblem(
              place, found + "; expected a value or *", List.of(), SyntaxProblem.Cause.SLIP));
    }
  }

  private SelectItem item(SqlParser.SelectItemContext context) {
    if (context instanceof SqlParser.AllColumnsContext all) {
      List<Identifier> excluded = new ArrayList<>();
      List<SelectItem.Output> replaced = new ArrayList<>();
      for (SqlParser.StarOptionContext option : all.starOption()) {
        if (option instanceof SqlParser.ExcludedContext without) {
          excluded.addAll(trees.identifiers(without.identifier()));
        } else {
          ((SqlParser.ReplacedContext) option)
              .replacement()
              .forEach(each -> replaced.add(replacement(each)));
        }
      }
      List<Identifier> qualifier = trees.identifiers(all.qualifier);
      return new SelectItem.AllColumns(trees.span(all), qualifier, excluded, replaced);
    }
    SqlParser.OutputContext output = (SqlParser.OutputContext) context;
    Identifier label = null;
    if (output.asLabel() != null) {
      label = trees.identifier(output.asLabel().getStart());
    } else if (output.label() != null && isUnit(output.label().getStart())) {
      String unit = output.label().getText().toUpperCase(Locale.ROOT);
      Expression value = trees.expression(output.expression());
      boolean whole = output.expression().getStop().getType() == SqlLexer.RIGHT_PAREN;
      return new SelectItem.Output(
          trees.span(output), withUnit(trees.span(output), value, unit, whole), null);
    } else if (output.label() != null) {
      label = trees.identifier(output.label().getStart());
    }
    return new SelectItem.Output(trees.span(output), trees.expression(output.expression()), label);
  }

  /** The unit belongs to what stands before it, as 1 in {@code taken_at + 1 DAY}. */
  private static Expression withUnit(Span span, Expression value, String unit, boolean whole) {
    return !whole && value instanceof Value.Arithmetic sum
        ? new Value.Arithmetic(
            span, sum.operator(), sum.left(), withUnit(span, sum.right(), unit, false))
        : new Value.Operation(span, value, unit, null);
  }

  private boolean isUnit(Token token) {
    return trees.dialect().has(Rule.UNITS_BEHIND_VALUES)
        && UNITS.contains(token.getText().toUpperCase(Locale.ROOT));
  }

  private SelectItem.Output replacement(SqlParser.ReplacementContext context) {
    return new SelectItem.Output(
        trees.span(context),
        trees.expression(context.expression()),
        trees.identifier(context.identifier()));
  }

  // ---- TOP ----

  Limit top(SqlParser.TopContext context) {
    if (context.LIMIT() != null) {
      return new Limit(
          trees.span(context),
          number(trees.span(context.count), String.valueOf(context.count.getText())),
          number(trees.span(context.skip), String.valueOf(context.skip.getText())),
          false,
          false);
    }
    Expression count =
        context.expression() != null
            ? trees.expression(context.expression())
            : !context.NUMBER().isEmpty()
                ? number(trees.span(context.NUMBER(0).getSymbol()), context.NUMBER(0).getText())
                : new Value.Parameter(
                    trees.span(context.PARAMETER().getSymbol()), context.PARAMETER().getText());
    return new Limit(
        trees.span(context), count, null, context.PERCENT() != null, context.TIES() != null);
  }

  private static Expression number(Span span, String text) {
    return new Value.Literal(span, Value.LiteralKind.NUMBER, text);
  }

  // ---- GROUP BY ----

  /** ALL: everything that is no aggregate. */
  Expression allOutputs(Span span) {
    return new Call.Grouping(span, GroupingKind.ALL, List.of());
  }

  private List<Expression> groups(SqlParser.GroupByContext context) {
    if (context instanceof SqlParser.GroupByAllContext all) {
      return List.of(allOutputs(trees.span(all)));
    }
    SqlParser.GroupByItemsContext items = (SqlParser.GroupByItemsContext) context;
    List<Expression> groups = items.groupItem().stream().map(this::group).toList();
    if (items.DISTINCT() != null && groups.stream().anyMatch(Call.Grouping.class::isInstance)) {
      return List.of(new Call.Grouping(trees.span(items), GroupingKind.DISTINCT, groups));
    }
    return items.WITH() == null
        ? groups
        : List.of(new Call.Grouping(trees.span(items), GroupingKind.ROLLUP, groups));
  }

  private Expression group(SqlParser.GroupItemContext context) {
    if (context instanceof SqlParser.PlainGroupContext plain) {
      return trees.expression(plain.expression());
    }
    if (context instanceof SqlParser.GrandTotalContext) {
      return new Value.RowValue(trees.span(context), false, List.of());
    }
    if (context instanceof SqlParser.GroupingSetsContext sets) {
      return new Call.Grouping(
          trees.span(sets), GroupingKind.SETS, sets.groupItem().stream().map(this::group).toList());
    }
    SqlParser.RollupContext rollup = (SqlParser.RollupContext) context;
    return new Call.Grouping(
        trees.span(rollup),
        rollup.ROLLUP() == null ? GroupingKind.CUBE : GroupingKind.ROLLUP,
        rollup.groupItem().stream().map(this::group).toList());
  }

  // ---- windows ----

  private Window.Named named(SqlParser.NamedWindowContext context) {
    return new Window.Named(
        trees.span(context), trees.identifier(context.identifier()), window(context.windowSpec()));
  }

  Window window(SqlParser.WindowSpecContext context) {
    return new Window(
        trees.span(context),
        context.base == null ? null : trees.identifier(context.base),
        false,
        trees.expressions(context.expression()),
        context.orderBy() == null ? List.of() : trees.orderItems(context.orderBy()),
        context.frame() == null ? null : frame(context.frame()));
  }

  private Window.Frame frame(SqlParser.FrameContext context) {
    return new Window.Frame(
        trees.span(context),
        capitals(context.unit.getText()),
        bound(context.start),
        context.end == null ? null : bound(context.end),
        context.exclusion() == null
            ? null
            : capitals(String.join(" ", TreeBuilder.words(context.exclusion()))));
  }

  private Window.Bound bound(SqlParser.FrameBoundContext context) {
    Span span = trees.span(context);
    if (context.CURRENT() != null) {
      return new Window.Bound(span, null, "CURRENT ROW");
    }
    String side = context.PRECEDING() == null ? "FOLLOWING" : "PRECEDING";
    boolean unbounded = context.operand().getText().equalsIgnoreCase("UNBOUNDED");
    return unbounded
        ? new Window.Bound(span, null, "UNBOUNDED " + side)
        : new Window.Bound(span, trees.expressions().operand(context.operand()), side);
  }

  private static String capitals(String words) {
    return words.toUpperCase(Locale.ROOT);
  }
}
