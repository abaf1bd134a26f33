package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Condition.Pattern;
import io.lantrel.sql.tree.Condition.Truth;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.TypeName;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.antlr.v4.runtime.ParserRuleContext;
import org.antlr.v4.runtime.Token;

/**
 * Turns the parser's tree of conditions and signs into ours; what stands between the signs is
 * {@link ValueBuilder}'s.
 */
final class ExpressionBuilder {

  /** IS with one of these asks for a property and compares with no column. */
  private static final Set<String> PROPERTIES =
      Set.of("document", "normalized", "empty", "dangling", "ambiguous", "nan", "infinite");

  private final TreeBuilder trees;
  private final ValueBuilder values;

  ExpressionBuilder(TreeBuilder trees, SourceText source) {
    this.trees = trees;
    this.values = new ValueBuilder(trees, this, source);
  }

  Expression expression(SqlParser.ExpressionContext context) {
    if (context.xorExpression().size() == 1) {
      return xor(context.xorExpression(0));
    }
    return new Condition.Or(
        trees.span(context), context.xorExpression().stream().map(this::xor).toList());
  }

  private Expression xor(SqlParser.XorExpressionContext context) {
    Expression result = and(context.andExpression(0));
    for (int i = 1; i < context.andExpression().size(); i++) {
      Expression right = and(context.andExpression(i));
      result = new Value.Operation(result.span().to(right.span()), result, "XOR", right);
    }
    return result;
  }

  private Expression and(SqlParser.AndExpressionContext context) {
    if (context.notExpression().size() == 1) {
      return not(context.notExpression(0));
    }
    return new Condition.And(
        trees.span(context), context.notExpression().stream().map(this::not).toList());
  }

  private Expression not(SqlParser.NotExpressionContext context) {
    if (context instanceof SqlParser.NegationContext negation) {
      return new Condition.Not(trees.span(context), not(negation.notExpression()));
    }
    SqlParser.PredicateContext predicate = ((SqlParser.PlainPredicateContext) context).predicate();
    Expression value = comparand(predicate.comparand());
    for (SqlParser.TestContext test : predicate.test()) {
      value = test(value, test);
    }
    return value;
  }

  // ---- tests ----

  private Expression test(Expression value, SqlParser.TestContext context) {
    Span span = value.span().to(trees.span(context));
    if (context instanceof SqlParser.ComparisonContext comparison) {
      return new Condition.Comparison(
          span, sign(comparison.comparisonSign()), value, notComparand(comparison.notComparand()));
    }
    if (context instanceof SqlParser.IsNullContext isNull) {
      return new Condition.IsNull(span, value, isNull.NOT() != null);
    }
    if (context instanceof SqlParser.IsTruthContext isTruth) {
      return new Condition.IsTruth(span, value, truth(isTruth.truth), isTruth.NOT() != null);
    }
    if (context instanceof SqlParser.IsDistinctContext isDistinct) {
      return new Condition.IsDistinct(
          span, value, comparand(isDistinct.comparand()), isDistinct.NOT() != null);
    }
    if (context instanceof SqlParser.NullSafeContext nullSafe) {
      return new Condition.IsDistinct(span, value, comparand(nullSafe.comparand()), true);
    }
    if (context instanceof SqlParser.IsSameContext same) {
      return isSame(span, value, same);
    }
    if (context instanceof SqlParser.QuantifiedContext quantified) {
      String sign = sign(quantified.comparisonSign()).sign();
      return quantified(span, sign, value, quantified.ALL() != null, quantified.compared());
    }
    SqlParser.IsKindContext kind = (SqlParser.IsKindContext) context;
    return new Value.Operation(span, value, capitals(TreeBuilder.words(kind)), null);
  }

  /** SQLite's {@code x IS y} compares; elsewhere a few words may stand there. */
  private Expression isSame(Span span, Expression value, SqlParser.IsSameContext same) {
    Expression right = comparand(same.comparand());
    boolean not = same.NOT() != null;
    if (right instanceof Value.ColumnName word
        && word.qualifier().isEmpty()
        && !word.name().quoted()
        && PROPERTIES.contains(word.name().key())) {
      return new Value.Operation(span, value, capitals(TreeBuilder.words(same)), null);
    }
    return new Condition.IsDistinct(span, value, right, !not);
  }

  private static String capitals(List<String> words) {
    return String.join(" ", words).toUpperCase(Locale.ROOT);
  }

  private Expression quantified(
      Span span, String sign, Expression value, boolean all, SqlParser.ComparedContext compared) {
    Query query = compared.query() == null ? null : trees.query(compared.query());
    return new Condition.Quantified(
        span, sign, value, all, query, trees.optional(compared.expression()));
  }

  private static Truth truth(Token token) {
    return switch (token.getType()) {
      case SqlLexer.TRUE -> Truth.TRUE;
      case SqlLexer.FALSE -> Truth.FALSE;
      default -> Truth.UNKNOWN;
    };
  }

  private static ComparisonOperator sign(SqlParser.ComparisonSignContext context) {
    return switch (context.getStart().getType()) {
      case SqlLexer.EQUAL -> ComparisonOperator.EQUAL;
      case SqlLexer.NOT_EQUAL -> ComparisonOperator.NOT_EQUAL;
      case SqlLexer.LESS -> ComparisonOperator.LESS;
      case SqlLexer.LESS_OR_EQUAL -> ComparisonOperator.LESS_OR_EQUAL;
      case SqlLexer.GREATER -> ComparisonOperator.GREATER;
      case SqlLexer.GREATER_OR_EQUAL -> ComparisonOperator.GREATER_OR_EQUAL;
      default -> throw new IllegalStateException("no comparison: " + context.getText());
    };
  }

  private Expression notComparand(SqlParser.NotComparandContext context) {
    Expression value = comparand(context.comparand());
    return context.NOT() == null ? value : new Condition.Not(trees.span(context), value);
  }

  private Expression comparand(SqlParser.ComparandContext context) {
    Expression value = operand(context.operand());
    for (SqlParser.RangeTestContext test : context.rangeTest()) {
      value = rangeTest(value, test);
    }
    return value;
  }

  private Expression rangeTest(Expression value, SqlParser.RangeTestContext context) {
    Span span = value.span().to(trees.span(context));
    if (context instanceof SqlParser.BetweenContext between) {
      boolean not = between.NOT() != null;
      Expression low = operand(between.low);
      Expression high = operand(between.high);
      return between.SYMMETRIC() == null
          ? new Condition.Between(span, value, low, high, not)
          : symmetric(span, value, low, high, not);
    }
    if (context instanceof SqlParser.InQueryContext in) {
      return new Condition.InQuery(span, value, trees.query(in.query()), in.NOT() != null);
    }
    if (context instanceof SqlParser.InListContext in) {
      List<Expression> list = trees.expressions(in.expression());
      return new Condition.InList(span, value, list, in.NOT() != null);
    }
    if (context instanceof SqlParser.InArrayContext in) {
      return inArray(span, value, in);
    }
    if (context instanceof SqlParser.LikeContext like) {
      return new Condition.Like(
          span,
          value,
          pattern(like.likeSign()),
          operand(like.pattern),
          like.escape == null ? null : operand(like.escape),
          like.NOT() != null);
    }
    if (context instanceof SqlParser.QuantifiedLikeContext like) {
      String sign = (like.NOT() == null ? "" : "NOT ") + pattern(like.likeSign()).words();
      return quantified(span, sign, value, like.ALL() != null, like.compared());
    }
    if (context instanceof SqlParser.OverlapsContext overlaps) {
      return new Value.Operation(span, value, "OVERLAPS", operand(overlaps.operand()));
    }
    if (context instanceof SqlParser.SoundsLikeContext sounds) {
      return new Value.Operation(span, value, "SOUNDS LIKE", operand(sounds.operand()));
    }
    SqlParser.IsNullWordContext word = (SqlParser.IsNullWordContext) context;
    return new Condition.IsNull(span, value, word.ISNULL() == null);
  }

  /** BETWEEN SYMMETRIC is BETWEEN either way round (ISO/IEC 9075-2, 8.3, general rules). */
  private static Expression symmetric(
      Span span, Expression value, Expression low, Expression high, boolean not) {
    Expression either =
        new Condition.Or(
            span,
            List.of(
                new Condition.Between(span, value, low, high, false),
                new Condition.Between(span, value, high, low, false)));
    return not ? new Condition.Not(span, either) : either;
  }

  /** IN over a table's name means IN over all its rows; over anything else, over its elements. */
  private Expression inArray(Span span, Expression value, SqlParser.InArrayContext in) {
    Expression right = values.inValue(in.inValue());
    boolean not = in.NOT() != null;
    if (trees.dialect() == Dialect.SQLITE && right instanceof Value.ColumnName name) {
      List<Identifier> parts = new ArrayList<>(name.qualifier());
      parts.add(name.name());
      SelectItem all = new SelectItem.AllColumns(name.span(), List.of(), List.of(), List.of());
      FromItem table = new FromItem.TableName(name.span(), parts, null);
      QueryBody body =
          new QueryBody.Select(name.span(), false, List.of(all), table, null, List.of(), null);
      Query query = new Query(name.span(), false, List.of(), body, List.of(), null);
      return new Condition.InQuery(span, value, query, not);
    }
    return new Value.Operation(span, value, not ? "NOT IN" : "IN", right);
  }

  private static Pattern pattern(SqlParser.LikeSignContext context) {
    return switch (context.getStart().getType()) {
      case SqlLexer.LIKE -> Pattern.LIKE;
      case SqlLexer.ILIKE -> Pattern.ILIKE;
      case SqlLexer.SIMILAR -> Pattern.SIMILAR;
      case SqlLexer.GLOB -> Pattern.GLOB;
      case SqlLexer.REGEXP -> Pattern.REGEXP;
      case SqlLexer.RLIKE -> Pattern.RLIKE;
      case SqlLexer.MATCH -> Pattern.MATCH;
      default -> throw new IllegalStateException("no pattern: " + context.getText());
    };
  }

  // ---- signs ----

  Expression operand(SqlParser.OperandContext context) {
    if (context instanceof SqlParser.PlainPrimaryContext plain) {
      return values.primary(plain.primary());
    }
    Span span = trees.span(context);
    if (context instanceof SqlParser.ArithmeticContext arithmetic) {
      return new Value.Arithmetic(
          span, operator(arithmetic.op), operand(arithmetic.left), operand(arithmetic.right));
    }
    if (context instanceof SqlParser.TypeMarkContext mark) {
      return new Value.Cast(span, operand(mark.operand()), typeName(mark.markedType()), false);
    }
    if (context instanceof SqlParser.SignedContext signed) {
      Expression value = operand(signed.operand());
      int sign = signed.sign.getType();
      return sign == SqlLexer.PLUS || sign == SqlLexer.MINUS
          ? new Value.Signed(span, sign == SqlLexer.MINUS, value)
          : new Value.Operation(span, null, signed.sign.getText().toUpperCase(Locale.ROOT), value);
    }
    if (context instanceof SqlParser.OtherOperationContext other) {
      return operation(span, other);
    }
    if (context instanceof SqlParser.SubscriptedContext subscripted) {
      return values.fields(subscript(subscripted), subscripted.fieldPart());
    }
    if (context instanceof SqlParser.CollatedContext collated) {
      return new Value.Collated(
          span, operand(collated.operand()), trees.name(collated.qualifiedName()));
    }
    if (context instanceof SqlParser.InFormatContext format) {
      return new Value.Operation(span, operand(format.operand()), "FORMAT JSON", null);
    }
    SqlParser.AtZoneContext zone = (SqlParser.AtZoneContext) context;
    Expression value = operand(zone.operand(0));
    return zone.LOCAL() != null
        ? new Value.Operation(span, value, "AT LOCAL", null)
        : new Value.Operation(span, value, "AT TIME ZONE", operand(zone.operand(1)));
  }

  private Expression operation(Span span, SqlParser.OtherOperationContext other) {
    Expression left = operand(other.left);
    Expression right = operand(other.right);
    SqlParser.OtherSignContext sign = other.otherSign();
    return sign.CONCAT() != null
        ? new Value.Arithmetic(span, ArithmeticOperator.CONCAT, left, right)
        : new Value.Operation(span, left, String.join("", TreeBuilder.words(sign)), right);
  }

  private Expression subscript(SqlParser.SubscriptedContext context) {
    SqlParser.SubscriptContext inner = context.subscript();
    Span span = trees.span(context.getStart(), context.RIGHT_BRACKET().getSymbol());
    return new Value.Subscript(
        span,
        operand(context.operand()),
        trees.optional(inner.low),
        inner.COLON() != null,
        trees.optional(inner.high));
  }

  private static ArithmeticOperator operator(Token token) {
    return switch (token.getType()) {
      case SqlLexer.CARET -> ArithmeticOperator.POWER;
      case SqlLexer.STAR -> ArithmeticOperator.TIMES;
      case SqlLexer.SLASH -> ArithmeticOperator.DIVIDED;
      case SqlLexer.PERCENT_SIGN -> ArithmeticOperator.MODULO;
      case SqlLexer.WHOLE_SLASH -> ArithmeticOperator.WHOLE;
      case SqlLexer.DIV -> ArithmeticOperator.DIV;
      case SqlLexer.MOD -> ArithmeticOperator.MOD;
      case SqlLexer.PLUS -> ArithmeticOperator.PLUS;
      case SqlLexer.MINUS -> ArithmeticOperator.MINUS;
      default -> throw new IllegalStateException("no operator: " + token.getText());
    };
  }

  Expression tableFunction(SqlParser.TableFunctionContext context) {
    return values.tableFunction(context);
  }

  TypeName typeName(ParserRuleContext context) {
    return new TypeName(trees.span(context), typeWords(TreeBuilder.words(context)));
  }

  /** The words of a type, one blank between two words and none around its numbers. */
  static String typeWords(List<String> words) {
    StringBuilder type = new StringBuilder();
    String before = "";
    for (String word : words) {
      boolean close = type.length() == 0 || "([.%".contains(before) || "([.%)],".contains(word);
      type.append(close ? "" : " ").append(word);
      before = word;
    }
    return type.toString();
  }
}
