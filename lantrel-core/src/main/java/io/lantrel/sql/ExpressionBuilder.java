package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Expression.ArithmeticOperator;
import io.lantrel.sql.tree.Expression.ComparisonOperator;
import io.lantrel.sql.tree.Expression.LiteralKind;
import io.lantrel.sql.tree.Expression.Truth;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.TypeName;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.antlr.v4.runtime.ParserRuleContext;
import org.antlr.v4.runtime.Token;
import org.antlr.v4.runtime.tree.ParseTree;

/** Turns the parser's tree of expressions into ours. */
final class ExpressionBuilder {

  private final TreeBuilder trees;
  private final SourceText source;

  ExpressionBuilder(TreeBuilder trees, SourceText source) {
    this.trees = trees;
    this.source = source;
  }

  Expression expression(SqlParser.ExpressionContext context) {
    List<Expression> terms = context.andExpression().stream().map(this::and).toList();
    return terms.size() == 1 ? terms.get(0) : new Expression.Or(trees.span(context), terms);
  }

  private Expression and(SqlParser.AndExpressionContext context) {
    List<Expression> terms = context.notExpression().stream().map(this::not).toList();
    return terms.size() == 1 ? terms.get(0) : new Expression.And(trees.span(context), terms);
  }

  private Expression not(SqlParser.NotExpressionContext context) {
    if (context instanceof SqlParser.NegationContext negation) {
      return new Expression.Not(trees.span(context), not(negation.notExpression()));
    }
    SqlParser.PredicateContext predicate = ((SqlParser.PlainPredicateContext) context).predicate();
    Expression value = operand(predicate.operand());
    for (SqlParser.TestContext test : predicate.test()) {
      value = test(value, test);
    }
    return value;
  }

  private Expression test(Expression value, SqlParser.TestContext context) {
    Span span = value.span().to(trees.span(context));
    if (context instanceof SqlParser.ComparisonContext comparison) {
      return new Expression.Comparison(
          span, sign(comparison.comparisonSign()), value, operand(comparison.operand()));
    }
    if (context instanceof SqlParser.IsNullContext isNull) {
      return new Expression.IsNull(span, value, isNull.NOT() != null);
    }
    if (context instanceof SqlParser.IsTruthContext isTruth) {
      return new Expression.IsTruth(span, value, truth(isTruth.truth), isTruth.NOT() != null);
    }
    if (context instanceof SqlParser.IsDistinctContext isDistinct) {
      return new Expression.IsDistinct(
          span, value, operand(isDistinct.operand()), isDistinct.NOT() != null);
    }
    if (context instanceof SqlParser.BetweenContext between) {
      return new Expression.Between(
          span, value, operand(between.low), operand(between.high), between.NOT() != null);
    }
    if (context instanceof SqlParser.InQueryContext in) {
      return new Expression.InQuery(span, value, trees.query(in.query()), in.NOT() != null);
    }
    if (context instanceof SqlParser.InListContext in) {
      List<Expression> list = in.expression().stream().map(this::expression).toList();
      return new Expression.InList(span, value, list, in.NOT() != null);
    }
    SqlParser.LikeContext like = (SqlParser.LikeContext) context;
    return new Expression.Like(
        span,
        value,
        like.ILIKE() != null,
        operand(like.pattern),
        like.escape == null ? null : operand(like.escape),
        like.NOT() != null);
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

  private Expression operand(SqlParser.OperandContext context) {
    if (context instanceof SqlParser.PlainPrimaryContext plain) {
      return primary(plain.primary());
    }
    if (context instanceof SqlParser.TypeMarkContext mark) {
      TypeName type = new TypeName(trees.span(mark.markedType()), words(mark.markedType()));
      return new Expression.Cast(trees.span(mark), operand(mark.operand()), type);
    }
    if (context instanceof SqlParser.SignedContext signed) {
      return new Expression.Signed(
          trees.span(signed), signed.sign.getType() == SqlLexer.MINUS, operand(signed.operand()));
    }
    SqlParser.ArithmeticContext arithmetic = (SqlParser.ArithmeticContext) context;
    return new Expression.Arithmetic(
        trees.span(arithmetic),
        operator(arithmetic.op),
        operand(arithmetic.left),
        operand(arithmetic.right));
  }

  private static ArithmeticOperator operator(Token token) {
    return switch (token.getType()) {
      case SqlLexer.STAR -> ArithmeticOperator.TIMES;
      case SqlLexer.SLASH -> ArithmeticOperator.DIVIDED;
      case SqlLexer.PERCENT -> ArithmeticOperator.MODULO;
      case SqlLexer.PLUS -> ArithmeticOperator.PLUS;
      case SqlLexer.MINUS -> ArithmeticOperator.MINUS;
      case SqlLexer.CONCAT -> ArithmeticOperator.CONCAT;
      default -> throw new IllegalStateException("no operator: " + token.getText());
    };
  }

  private Expression primary(SqlParser.PrimaryContext context) {
    Span span = trees.span(context);
    if (context instanceof SqlParser.LiteralValueContext literal) {
      return new Expression.Literal(span, kind(literal.literal()), source.at(span));
    }
    if (context instanceof SqlParser.ColumnNameContext column) {
      List<Identifier> parts = trees.identifiers(column.qualifiedName().identifier());
      int last = parts.size() - 1;
      return new Expression.ColumnName(span, parts.subList(0, last), parts.get(last));
    }
    if (context instanceof SqlParser.FunctionCallContext call) {
      return call(span, call);
    }
    if (context instanceof SqlParser.ParenthesisedContext inner) {
      return expression(inner.expression()).at(span);
    }
    if (context instanceof SqlParser.CaseExpressionContext caseOf) {
      return caseOf(span, caseOf);
    }
    if (context instanceof SqlParser.CastContext cast) {
      return new Expression.Cast(span, expression(cast.expression()), typeName(cast.typeName()));
    }
    if (context instanceof SqlParser.ExtractContext extract) {
      return new Expression.Extract(
          span, trees.identifier(extract.identifier()), expression(extract.expression()));
    }
    if (context instanceof SqlParser.ExistsContext exists) {
      return new Expression.Exists(span, trees.query(exists.query()));
    }
    return new Expression.ScalarQuery(
        span, trees.query(((SqlParser.ScalarQueryContext) context).query()));
  }

  private Expression call(Span span, SqlParser.FunctionCallContext call) {
    SqlParser.FunctionNameContext function = call.functionName();
    List<Identifier> name =
        function.qualifiedName() != null
            ? trees.identifiers(function.qualifiedName().identifier())
            : List.of(new Identifier(trees.span(function), function.getText(), false));
    List<Expression> all = new ArrayList<>();
    call.expression().forEach(each -> all.add(expression(each)));
    Expression filter = call.FILTER() == null ? null : all.remove(all.size() - 1);
    return new Expression.FunctionCall(
        span, name, call.STAR() != null, call.DISTINCT() != null, all, filter);
  }

  private Expression caseOf(Span span, SqlParser.CaseExpressionContext context) {
    return new Expression.Case(
        span,
        context.operandOfCase == null ? null : expression(context.operandOfCase),
        context.whenClause().stream()
            .map(
                when ->
                    new Expression.When(
                        trees.span(when), expression(when.when), expression(when.then)))
            .toList(),
        context.otherwise == null ? null : expression(context.otherwise));
  }

  private static LiteralKind kind(SqlParser.LiteralContext literal) {
    return switch (literal.getStart().getType()) {
      case SqlLexer.NUMBER -> LiteralKind.NUMBER;
      case SqlLexer.STRING -> LiteralKind.STRING;
      case SqlLexer.TRUE, SqlLexer.FALSE -> LiteralKind.TRUTH;
      case SqlLexer.NULL -> LiteralKind.NULL;
      case SqlLexer.DATE -> LiteralKind.DATE;
      case SqlLexer.TIME -> LiteralKind.TIME;
      case SqlLexer.TIMESTAMP -> LiteralKind.TIMESTAMP;
      default -> LiteralKind.INTERVAL;
    };
  }

  TypeName typeName(SqlParser.TypeNameContext context) {
    return new TypeName(trees.span(context), words(context));
  }

  /** The words of a type, one blank between two words and none around its numbers. */
  private static String words(ParserRuleContext context) {
    return leaves(context).stream()
        .collect(Collectors.joining(" "))
        .replaceAll(" ?\\( ?", "(")
        .replace(" )", ")")
        .replace(" ,", ",");
  }

  private static List<String> leaves(ParseTree tree) {
    if (tree.getChildCount() == 0) {
      return tree.getText().isEmpty() ? List.of() : List.of(tree.getText());
    }
    List<String> words = new ArrayList<>();
    for (int i = 0; i < tree.getChildCount(); i++) {
      words.addAll(leaves(tree.getChild(i)));
    }
    return words;
  }
}
