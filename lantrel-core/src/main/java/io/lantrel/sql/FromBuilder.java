package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.TypeName;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.List;
import org.antlr.v4.runtime.ParserRuleContext;
import org.antlr.v4.runtime.Token;
import org.antlr.v4.runtime.tree.TerminalNode;
import org.jspecify.annotations.Nullable;

/** Turns the parser's tree of a FROM into ours. */
final class FromBuilder {

  private final TreeBuilder trees;

  FromBuilder(TreeBuilder trees) {
    this.trees = trees;
  }

  FromItem from(SqlParser.FromContext context) {
    FromItem item = fromItem(context.fromItem(0));
    for (int i = 1; i < context.fromItem().size(); i++) {
      FromItem right = fromItem(context.fromItem(i));
      Span comma = trees.span(context.COMMA(i - 1).getSymbol());
      FromItem.Join both =
          new FromItem.Join(
              item.span().to(right.span()), item, JoinKind.COMMA, false, right, null, comma, false);
      FromItem reached = CommaReach.joined(both, trees.dialect());
      item = reached == null ? both : reached;
    }
    return item;
  }

  // ---- joins ----

  /** A long chain of joins leans to the left, so it is taken apart in a loop. */
  private FromItem fromItem(SqlParser.FromItemContext context) {
    List<SqlParser.FromItemContext> chain = new ArrayList<>();
    SqlParser.FromItemContext next = context;
    while (!(next instanceof SqlParser.PlainItemContext)) {
      chain.add(0, next);
      next = next.getRuleContext(SqlParser.FromItemContext.class, 0);
    }
    FromItem item = tablePrimary(((SqlParser.PlainItemContext) next).tablePrimary());
    for (SqlParser.FromItemContext join : chain) {
      item = join(item, join);
    }
    return item;
  }

  private FromItem join(FromItem left, SqlParser.FromItemContext context) {
    if (context instanceof SqlParser.QualifiedJoinContext join) {
      Token last = join.JOIN() == null ? symbol(join.STRAIGHT_JOIN()) : symbol(join.JOIN());
      return join(
          context,
          left,
          kind(join.joinKind()),
          false,
          fromItem(join.right),
          condition(join.joinCondition()),
          keyword(join.joinKind(), last));
    }
    if (context instanceof SqlParser.NaturalJoinContext join) {
      Span keyword = trees.span(symbol(join.NATURAL()), symbol(join.JOIN()));
      FromItem right = tablePrimary(join.right);
      return join(context, left, kind(join.joinKind()), true, right, null, keyword);
    }
    if (context instanceof SqlParser.BareJoinContext join) {
      return bare(left, join);
    }
    if (context instanceof SqlParser.CrossJoinContext join) {
      Span keyword = trees.span(symbol(join.CROSS()), symbol(join.JOIN()));
      return join(context, left, JoinKind.CROSS, false, tablePrimary(join.right), null, keyword);
    }
    return inAnotherWay(left, context);
  }

  /** Without a condition every row is a partner. */
  private FromItem bare(FromItem left, SqlParser.BareJoinContext join) {
    JoinKind kind = kind(join.joinKind());
    Span keyword = keyword(join.joinKind(), symbol(join.BARE_JOIN()));
    FromItem right = tablePrimary(join.right);
    if (kind == JoinKind.INNER) {
      return join(join, left, kind, false, right, null, keyword);
    }
    Expression always = new Value.Literal(keyword, Value.LiteralKind.TRUTH, "TRUE");
    return join(join, left, kind, false, right, new JoinCondition.On(keyword, always), keyword);
  }

  /** SEMI, ANTI, ASOF and POSITIONAL of DuckDB. */
  private FromItem inAnotherWay(FromItem left, SqlParser.FromItemContext context) {
    Span span = trees.span(context);
    if (context instanceof SqlParser.FilterJoinContext join) {
      boolean semi = join.SEMI() != null;
      return new FromItem.Join(
          span,
          left,
          JoinKind.INNER,
          false,
          fromItem(join.right),
          condition(join.joinCondition()),
          trees.span(join.word, symbol(join.JOIN())),
          false,
          null,
          semi ? FromItem.Way.SEMI : FromItem.Way.ANTI);
    }
    if (context instanceof SqlParser.NearestJoinContext join) {
      return new FromItem.Join(
          span,
          left,
          kind(join.joinKind()),
          false,
          fromItem(join.right),
          condition(join.joinCondition()),
          trees.span(symbol(join.ASOF()), symbol(join.JOIN())),
          false,
          null,
          FromItem.Way.NEAREST);
    }
    SqlParser.PositionalJoinContext join = (SqlParser.PositionalJoinContext) context;
    return new FromItem.Join(
        span,
        left,
        JoinKind.FULL,
        false,
        tablePrimary(join.right),
        null,
        trees.span(symbol(join.POSITIONAL()), symbol(join.JOIN())),
        false,
        null,
        FromItem.Way.BY_POSITION);
  }

  private static Token symbol(TerminalNode node) {
    return node.getSymbol();
  }

  private FromItem join(
      SqlParser.FromItemContext context,
      FromItem left,
      JoinKind kind,
      boolean natural,
      FromItem right,
      @Nullable JoinCondition condition,
      Span keyword) {
    return new FromItem.Join(
        trees.span(context), left, kind, natural, right, condition, keyword, false);
  }

  private Span keyword(SqlParser.JoinKindContext kind, Token last) {
    return trees.span(kind.getChildCount() > 0 ? kind.getStart() : last, last);
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
      return new JoinCondition.On(trees.span(on), trees.expression(on.expression()));
    }
    SqlParser.UsingConditionContext using = (SqlParser.UsingConditionContext) context;
    return new JoinCondition.Using(
        trees.span(using),
        trees.columns(using.columnList()),
        using.identifier() == null ? null : trees.identifier(using.identifier()));
  }

  // ---- tables ----

  private FromItem tablePrimary(SqlParser.TablePrimaryContext context) {
    Span span = trees.span(context);
    if (context instanceof SqlParser.TableNameContext table) {
      return new FromItem.TableName(
          span,
          table.ONLY() != null,
          trees.name(table.qualifiedName()),
          table.partition() != null
              ? written(table.partition())
              : table.period() == null ? null : written(table.period()),
          alias(table.alias()),
          table.sample().isEmpty() ? null : written(table.sample(0)));
    }
    if (context instanceof SqlParser.DerivedTableContext derived) {
      return new FromItem.DerivedTable(
          span, derived.LATERAL() != null, trees.query(derived.query()), alias(derived.alias()));
    }
    if (context instanceof SqlParser.FunctionTableContext function) {
      return new FromItem.TableFunction(
          span,
          function.LATERAL() != null,
          List.of(trees.expressions().tableFunction(function.tableFunction())),
          function.ORDINALITY() != null,
          alias(function.functionAlias(), function.tableFunction()));
    }
    if (context instanceof SqlParser.RowsFromTableContext rows) {
      return new FromItem.TableFunction(
          span,
          false,
          rows.rowsFromItem().stream()
              .map(each -> trees.expressions().tableFunction(each.tableFunction()))
              .toList(),
          rows.ORDINALITY() != null,
          alias(rows.functionAlias(), rows.rowsFromItem(0).tableFunction()));
    }
    if (context instanceof SqlParser.ValuesTableContext values) {
      Query query = Query.of(trees.values(span, values.valuesRow()));
      Query placed = new Query(span, false, List.of(), query.body(), List.of(), null);
      return new FromItem.DerivedTable(span, placed, alias(values.alias()));
    }
    if (context instanceof SqlParser.EscapedItemContext escaped) {
      return nested(span, fromItem(escaped.fromItem()), null);
    }
    SqlParser.NestedItemContext nested = (SqlParser.NestedItemContext) context;
    return nested(span, from(nested.from()), alias(nested.alias()));
  }

  private static FromItem nested(Span span, FromItem inner, @Nullable Alias alias) {
    if (inner instanceof FromItem.Join join) {
      return new FromItem.Join(
          span,
          join.left(),
          join.kind(),
          join.natural(),
          join.right(),
          join.condition(),
          join.keyword(),
          true,
          alias,
          join.way());
    }
    if (alias != null && inner instanceof FromItem.TableName table && table.alias() == null) {
      return new FromItem.TableName(
          span, table.only(), table.name(), table.partition(), alias, table.sample());
    }
    return inner;
  }

  private static String written(ParserRuleContext context) {
    return String.join(" ", TreeBuilder.words(context));
  }

  private @Nullable Alias alias(SqlParser.@Nullable AliasContext context) {
    if (context == null) {
      return null;
    }
    ParserRuleContext name =
        context.aliasName() == null ? context.tableLabel() : context.aliasName();
    return new Alias(
        trees.span(context),
        trees.identifier(name.getStart()),
        trees.columns(context.columnList()));
  }

  /** Without a name of its own, the table goes by that of its function. */
  private @Nullable Alias alias(
      SqlParser.@Nullable FunctionAliasContext context, SqlParser.TableFunctionContext function) {
    if (context == null) {
      return null;
    }
    if (context.alias() != null) {
      return alias(context.alias());
    }
    Token name =
        context.tableLabel() == null ? function.getStart() : context.tableLabel().getStart();
    List<Identifier> columns = new ArrayList<>();
    List<TypeName> types = new ArrayList<>();
    for (SqlParser.ColumnDefinitionContext column : context.columnDefinition()) {
      columns.add(trees.identifier(column.identifier()));
      types.add(trees.expressions().typeName(column.markedType()));
    }
    Identifier called = trees.identifier(name);
    Span span = trees.span(context);
    Identifier within =
        span.contains(called.span())
            ? called
            : new Identifier(new Span(span.start(), span.start()), called.text(), called.quoted());
    return new Alias(span, within, columns, types);
  }
}
