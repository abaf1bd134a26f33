package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.QueryBody.SetOperator;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.antlr.v4.runtime.ParserRuleContext;
import org.antlr.v4.runtime.Token;
import org.antlr.v4.runtime.tree.ParseTree;
import org.antlr.v4.runtime.tree.TerminalNode;
import org.jspecify.annotations.Nullable;

/**
 * Turns the parser's tree of queries into ours. The tables are {@link FromBuilder}'s, the blocks
 * {@link SelectBuilder}'s, and expressions {@link ExpressionBuilder}'s.
 */
final class TreeBuilder {

  private final Offsets offsets;
  private final Dialect dialect;
  private final ExpressionBuilder expressions;
  private final FromBuilder tables;
  private final SelectBuilder selects;

  TreeBuilder(SourceText source, Offsets offsets, Dialect dialect) {
    this.offsets = offsets;
    this.dialect = dialect;
    this.expressions = new ExpressionBuilder(this, source);
    this.tables = new FromBuilder(this);
    this.selects = new SelectBuilder(this);
  }

  Dialect dialect() {
    return dialect;
  }

  ExpressionBuilder expressions() {
    return expressions;
  }

  SelectBuilder selects() {
    return selects;
  }

  FromBuilder tables() {
    return tables;
  }

  Span span(ParserRuleContext context) {
    return offsets.span(context.getStart(), context.getStop());
  }

  Span span(Token token) {
    return offsets.span(token, token);
  }

  Span span(Token first, Token last) {
    return offsets.span(first, last);
  }

  // ---- query expressions ----

  Query query(SqlParser.QueryContext context) {
    List<OrderItem> orderBy = new ArrayList<>();
    Limit limit = null;
    for (SqlParser.TailContext tail : context.tail()) {
      if (tail.orderBy() != null) {
        orderBy.addAll(orderItems(tail.orderBy()));
      } else if (tail.limit() != null && !(tail.limit() instanceof SqlParser.LimitWorkContext)) {
        limit = both(limit, limit(tail.limit()));
        // LIMIT ALL takes nothing away.
        limit = limit.count() == null && limit.skip() == null ? null : limit;
      }
    }
    SqlParser.SelectContext only = only(context.queryBody());
    if (only != null && !only.top().isEmpty()) {
      limit = both(limit, selects.top(only.top(0)));
    }
    return new Query(
        span(context),
        context.with() != null && context.with().RECURSIVE() != null,
        context.with() == null
            ? List.of()
            : context.with().commonTable().stream().map(this::commonTable).toList(),
        body(context.queryBody()),
        orderBy,
        limit);
  }

  /** The SELECT, if the body is one and nothing else; TOP of any other has no place in the tree. */
  private static SqlParser.@Nullable SelectContext only(SqlParser.QueryBodyContext body) {
    if (body.queryTerm().size() == 1
        && body.queryTerm(0).queryPrimary().size() == 1
        && body.queryTerm(0).queryPrimary(0) instanceof SqlParser.SelectBodyContext select) {
      return select.select();
    }
    return null;
  }

  /** OFFSET and FETCH may come apart. */
  private static Limit both(@Nullable Limit one, Limit other) {
    if (one == null) {
      return other;
    }
    return new Limit(
        one.span().to(other.span()),
        one.count() == null ? other.count() : one.count(),
        one.skip() == null ? other.skip() : one.skip(),
        one.percent() || other.percent(),
        one.withTies() || other.withTies());
  }

  private CommonTable commonTable(SqlParser.CommonTableContext context) {
    List<Identifier> added = new ArrayList<>();
    List<String> walk = new ArrayList<>();
    if (context.searchClause() != null) {
      List<SqlParser.IdentifierContext> names = context.searchClause().identifier();
      added.add(identifier(names.get(names.size() - 1)));
      walk.addAll(words(context.searchClause()));
    }
    if (context.cycleClause() != null) {
      walk.addAll(words(context.cycleClause()));
      if (context.cycleClause() instanceof SqlParser.CycleMarkContext mark) {
        int usings = mark.USING() == null ? 0 : 1;
        int names = mark.identifier().size();
        added.addAll(identifiers(mark.identifier().subList(names - 1 - usings, names)));
      }
    }
    return new CommonTable(
        span(context),
        identifier(context.identifier()),
        columns(context.columnList()),
        context.MATERIALIZED() == null ? null : context.NOT() == null,
        query(context.query()),
        walk.isEmpty() ? null : String.join(" ", walk),
        added);
  }

  private QueryBody body(SqlParser.QueryBodyContext context) {
    List<QueryBody> terms = context.queryTerm().stream().map(this::term).toList();
    List<Step> steps = new ArrayList<>();
    for (int i = 0; i < context.setOptions().size(); i++) {
      Token sign = ((TerminalNode) context.getChild(3 * i + 1)).getSymbol();
      SetOperator operator =
          sign.getType() == SqlLexer.UNION ? SetOperator.UNION : SetOperator.EXCEPT;
      steps.add(step(operator, context.setOptions(i)));
    }
    return together(terms, steps);
  }

  private QueryBody term(SqlParser.QueryTermContext context) {
    return together(
        context.queryPrimary().stream().map(this::primary).toList(),
        context.setOptions().stream().map(each -> step(SetOperator.INTERSECT, each)).toList());
  }

  private record Step(SetOperator operator, boolean all, @Nullable String matching) {}

  private Step step(SetOperator operator, SqlParser.SetOptionsContext options) {
    List<String> words = new ArrayList<>(words(options));
    words.removeIf(word -> word.equalsIgnoreCase("ALL") || word.equalsIgnoreCase("DISTINCT"));
    return new Step(
        operator, options.ALL() != null, words.isEmpty() ? null : String.join(" ", words));
  }

  /** From left to right; equal steps in a row become one, so that a long union is flat. */
  private static QueryBody together(List<QueryBody> terms, List<Step> steps) {
    QueryBody result = terms.get(0);
    int next = 0;
    while (next < steps.size()) {
      Step step = steps.get(next);
      List<QueryBody> parts = new ArrayList<>(List.of(result));
      while (next < steps.size() && steps.get(next).equals(step)) {
        parts.add(terms.get(++next));
      }
      Span span = result.span().to(parts.get(parts.size() - 1).span());
      result =
          new QueryBody.SetOperation(span, step.operator(), step.all(), step.matching(), parts);
    }
    return result;
  }

  private QueryBody primary(SqlParser.QueryPrimaryContext context) {
    if (context instanceof SqlParser.SelectBodyContext select) {
      return selects.select(select.select());
    }
    if (context instanceof SqlParser.ValuesBodyContext values) {
      return values(span(values), values.valuesRow());
    }
    if (context instanceof SqlParser.TableBodyContext table) {
      return allOf(table);
    }
    SqlParser.NestedBodyContext nested = (SqlParser.NestedBodyContext) context;
    Query inner = query(nested.query());
    boolean plain = inner.with().isEmpty() && inner.orderBy().isEmpty() && inner.limit() == null;
    return plain ? inner.body() : new QueryBody.Nested(span(nested), inner);
  }

  QueryBody.Values values(Span span, List<SqlParser.ValuesRowContext> rows) {
    List<Value.RowValue> all = rows.stream().map(this::row).toList();
    boolean one =
        dialect().has(Dialect.Rule.BARE_VALUES_ARE_ONE_ROW)
            && rows.stream().allMatch(row -> row.operand() != null);
    return new QueryBody.Values(span, one ? List.of(together(span, all)) : all);
  }

  private static Value.RowValue together(Span span, List<Value.RowValue> rows) {
    List<Expression> values = rows.stream().flatMap(row -> row.values().stream()).toList();
    return new Value.RowValue(span, false, values);
  }

  private Value.RowValue row(SqlParser.ValuesRowContext row) {
    List<Expression> values =
        row.operand() == null
            ? expressions(row.expression())
            : List.of(expressions.operand(row.operand()));
    return new Value.RowValue(span(row), false, values);
  }

  /** {@code TABLE t} means {@code SELECT * FROM t} (ISO/IEC 9075-2, 7.17, syntax rules). */
  private QueryBody allOf(SqlParser.TableBodyContext context) {
    Span span = span(context);
    FromItem table =
        new FromItem.TableName(span(context.qualifiedName()), name(context.qualifiedName()), null);
    SelectItem all =
        new SelectItem.AllColumns(
            span(context.TABLE().getSymbol()), List.of(), List.of(), List.of());
    return new QueryBody.Select(span, false, List.of(all), table, null, List.of(), null);
  }

  List<OrderItem> orderItems(SqlParser.OrderByContext context) {
    return context.orderItem().stream().map(this::orderItem).toList();
  }

  private OrderItem orderItem(SqlParser.OrderItemContext item) {
    boolean using = item.operatorSign() != null && item.operatorSign().getText().startsWith(">");
    return new OrderItem(
        span(item),
        item.expression() == null
            ? selects.allOutputs(span(item.ALL().getSymbol()))
            : expression(item.expression()),
        item.DESC() != null || using,
        item.NULLS() == null ? null : item.FIRST() != null);
  }

  private Limit limit(SqlParser.LimitContext context) {
    Span span = span(context);
    if (context instanceof SqlParser.LimitCountContext limit) {
      boolean percent = limit.PERCENT() != null || limit.PERCENT_SIGN() != null;
      return new Limit(span, operand(limit.count), operand(limit.skip), percent, false);
    }
    if (context instanceof SqlParser.LimitPairContext pair) {
      return new Limit(span, operand(pair.count), operand(pair.skip), false, false);
    }
    if (context instanceof SqlParser.LimitOffsetContext offset) {
      return new Limit(span, null, operand(offset.skip), false, false);
    }
    SqlParser.LimitFetchContext fetch = (SqlParser.LimitFetchContext) context;
    Expression count = operand(fetch.count);
    Expression one = new Value.Literal(span, Value.LiteralKind.NUMBER, "1");
    return new Limit(
        span, count == null ? one : count, null, fetch.PERCENT() != null, fetch.TIES() != null);
  }

  // ---- pieces ----

  Expression expression(SqlParser.ExpressionContext context) {
    return expressions.expression(context);
  }

  @Nullable Expression optional(SqlParser.@Nullable ExpressionContext context) {
    return context == null ? null : expressions.expression(context);
  }

  List<Expression> expressions(List<SqlParser.ExpressionContext> contexts) {
    return contexts.stream().map(expressions::expression).toList();
  }

  private @Nullable Expression operand(SqlParser.@Nullable OperandContext context) {
    return context == null ? null : expressions.operand(context);
  }

  List<Identifier> identifiers(List<SqlParser.IdentifierContext> contexts) {
    return contexts.stream().map(this::identifier).toList();
  }

  Identifier identifier(SqlParser.IdentifierContext context) {
    return identifier(context.getStart());
  }

  List<Identifier> columns(SqlParser.@Nullable ColumnListContext context) {
    return context == null ? List.of() : identifiers(context.identifier());
  }

  List<Identifier> name(SqlParser.QualifiedNameContext context) {
    List<Identifier> parts = new ArrayList<>(List.of(identifier(context.identifier())));
    context.anyWord().forEach(word -> parts.add(identifier(word.getStart())));
    return parts;
  }

  /** A name without its quotes, whichever they are. */
  Identifier identifier(Token token) {
    String text = token.getText();
    if (token.getType() != SqlLexer.QUOTED_NAME && token.getType() != SqlLexer.STRING) {
      return new Identifier(span(token), text, false);
    }
    String close = text.substring(text.length() - 1);
    String inner =
        text.substring(text.indexOf(close) + 1, text.length() - 1).replace(close + close, close);
    // An empty text as a label: a name needs a character.
    return new Identifier(span(token), inner.isEmpty() ? " " : inner, true);
  }

  /** The words and signs below a node, as written. */
  static List<String> words(ParseTree tree) {
    if (tree instanceof TerminalNode leaf) {
      return List.of(Objects.requireNonNull(leaf.getText()));
    }
    List<String> words = new ArrayList<>();
    for (int i = 0; i < tree.getChildCount(); i++) {
      words.addAll(words(tree.getChild(i)));
    }
    return words;
  }
}
