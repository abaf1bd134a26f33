package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.CreateTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import java.util.List;
import org.antlr.v4.runtime.ParserRuleContext;
import org.antlr.v4.runtime.Token;
import org.antlr.v4.runtime.tree.TerminalNode;
import org.jspecify.annotations.Nullable;

/** Turns the parser's tree of queries into ours; expressions are {@link ExpressionBuilder}'s. */
final class TreeBuilder {

  private final Offsets offsets;
  private final ExpressionBuilder expressions;

  TreeBuilder(SourceText source, Offsets offsets) {
    this.offsets = offsets;
    this.expressions = new ExpressionBuilder(this, source);
  }

  Span span(ParserRuleContext context) {
    return offsets.span(context.getStart(), context.getStop());
  }

  Span span(Token token) {
    return offsets.span(token, token);
  }

  Query query(SqlParser.QueryContext context) {
    return new Query(
        span(context),
        List.of(),
        select(context.queryBody().select()),
        context.orderBy() == null ? List.of() : orderItems(context.orderBy()),
        context.limit() == null ? null : limit(context.limit()));
  }

  private QueryBody select(SqlParser.SelectContext context) {
    return new QueryBody.Select(
        span(context),
        context.DISTINCT() != null,
        context.selectItem().stream().map(this::selectItem).toList(),
        context.from() == null ? null : from(context.from()),
        optional(context.where),
        context.groupItem().stream().map(item -> expression(item.expression())).toList(),
        optional(context.having));
  }

  private SelectItem selectItem(SqlParser.SelectItemContext context) {
    if (context instanceof SqlParser.AllColumnsContext all) {
      return new SelectItem.AllColumns(span(all), identifiers(all.qualifier));
    }
    SqlParser.OutputContext output = (SqlParser.OutputContext) context;
    return new SelectItem.Output(
        span(output),
        expression(output.expression()),
        output.label() == null ? null : identifier(output.label().identifier()));
  }

  private FromItem from(SqlParser.FromContext context) {
    FromItem item = fromItem(context.fromItem(0));
    for (int i = 1; i < context.fromItem().size(); i++) {
      FromItem right = fromItem(context.fromItem(i));
      Span comma = span(context.COMMA(i - 1).getSymbol());
      item =
          new FromItem.Join(
              item.span().to(right.span()), item, JoinKind.COMMA, false, right, null, comma, false);
    }
    return item;
  }

  private FromItem fromItem(SqlParser.FromItemContext context) {
    if (context instanceof SqlParser.PlainItemContext plain) {
      return tablePrimary(plain.tablePrimary());
    }
    if (context instanceof SqlParser.QualifiedJoinContext join) {
      Token first = join.joinKind().getChildCount() > 0 ? join.joinKind().getStart() : null;
      return join(
          context,
          fromItem(join.left),
          kind(join.joinKind()),
          false,
          fromItem(join.right),
          condition(join.joinCondition()),
          keyword(first, join.JOIN()));
    }
    if (context instanceof SqlParser.NaturalJoinContext join) {
      return join(
          context,
          fromItem(join.left),
          kind(join.joinKind()),
          true,
          tablePrimary(join.right),
          null,
          keyword(join.NATURAL().getSymbol(), join.JOIN()));
    }
    SqlParser.CrossJoinContext join = (SqlParser.CrossJoinContext) context;
    return join(
        context,
        fromItem(join.left),
        JoinKind.CROSS,
        false,
        tablePrimary(join.right),
        null,
        keyword(join.CROSS().getSymbol(), join.JOIN()));
  }

  private FromItem join(
      SqlParser.FromItemContext context,
      FromItem left,
      JoinKind kind,
      boolean natural,
      FromItem right,
      @Nullable JoinCondition condition,
      Span keyword) {
    return new FromItem.Join(span(context), left, kind, natural, right, condition, keyword, false);
  }

  private Span keyword(@Nullable Token first, TerminalNode join) {
    return offsets.span(first == null ? join.getSymbol() : first, join.getSymbol());
  }

  private static JoinKind kind(SqlParser.JoinKindContext context) {
    if (context.LEFT() != null) {
      return JoinKind.LEFT;
    }
    if (context.RIGHT() != null) {
      return JoinKind.RIGHT;
    }
    return context.FULL() != null ? JoinKind.FULL : JoinKind.INNER;
  }

  private JoinCondition condition(SqlParser.JoinConditionContext context) {
    if (context instanceof SqlParser.OnConditionContext on) {
      return new JoinCondition.On(span(on), expression(on.expression()));
    }
    SqlParser.UsingConditionContext using = (SqlParser.UsingConditionContext) context;
    return new JoinCondition.Using(span(using), identifiers(using.identifier()));
  }

  private FromItem tablePrimary(SqlParser.TablePrimaryContext context) {
    if (context instanceof SqlParser.TableNameContext table) {
      return new FromItem.TableName(
          span(table), identifiers(table.qualifiedName().identifier()), alias(table.alias()));
    }
    if (context instanceof SqlParser.DerivedTableContext derived) {
      return new FromItem.DerivedTable(
          span(derived), query(derived.query()), alias(derived.alias()));
    }
    FromItem inner = fromItem(((SqlParser.NestedItemContext) context).fromItem());
    return inner instanceof FromItem.Join join
        ? new FromItem.Join(
            span(context),
            join.left(),
            join.kind(),
            join.natural(),
            join.right(),
            join.condition(),
            join.keyword(),
            true)
        : inner;
  }

  private @Nullable Alias alias(SqlParser.@Nullable AliasContext context) {
    if (context == null) {
      return null;
    }
    List<Identifier> names = identifiers(context.identifier());
    return new Alias(span(context), names.get(0), names.subList(1, names.size()));
  }

  private List<OrderItem> orderItems(SqlParser.OrderByContext context) {
    return context.orderItem().stream()
        .map(
            item ->
                new OrderItem(
                    span(item),
                    expression(item.expression()),
                    item.DESC() != null,
                    item.NULLS() == null ? null : item.FIRST() != null))
        .toList();
  }

  private Limit limit(SqlParser.LimitContext context) {
    return new Limit(span(context), optional(context.count), optional(context.skip));
  }

  Expression expression(SqlParser.ExpressionContext context) {
    return expressions.expression(context);
  }

  private @Nullable Expression optional(SqlParser.@Nullable ExpressionContext context) {
    return context == null ? null : expressions.expression(context);
  }

  List<Identifier> identifiers(List<SqlParser.IdentifierContext> contexts) {
    return contexts.stream().map(this::identifier).toList();
  }

  Identifier identifier(SqlParser.IdentifierContext context) {
    String text = context.getText();
    boolean quoted = context.QUOTED_NAME() != null;
    return new Identifier(
        span(context),
        quoted ? text.substring(1, text.length() - 1).replace("\"\"", "\"") : text,
        quoted);
  }

  CreateTable createTable(SqlParser.CreateTableContext context) {
    return new SchemaBuilder(this, expressions).createTable(context);
  }
}
