package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.TypeName;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.LiteralKind;
import io.lantrel.sql.tree.Window;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.antlr.v4.runtime.ParserRuleContext;
import org.antlr.v4.runtime.Token;
import org.antlr.v4.runtime.tree.ParseTree;
import org.antlr.v4.runtime.tree.TerminalNode;
import org.jspecify.annotations.Nullable;

/** Turns the parser's tree of names, constants and calls into ours. */
final class ValueBuilder {

  private final TreeBuilder trees;
  private final ExpressionBuilder expressions;
  private final SourceText source;

  ValueBuilder(TreeBuilder trees, ExpressionBuilder expressions, SourceText source) {
    this.trees = trees;
    this.expressions = expressions;
    this.source = source;
  }

  Expression primary(SqlParser.PrimaryContext context) {
    Span span = trees.span(context);
    if (context instanceof SqlParser.ColumnNameContext column) {
      Value.ColumnName name = columnName(column.qualifiedName());
      return column.OUTER_MARK() == null ? name : new Value.OuterMark(span, name);
    }
    if (context instanceof SqlParser.LiteralValueContext literal) {
      return literal(span, literal.literal());
    }
    if (context instanceof SqlParser.FunctionCallContext call) {
      return fields(call(call), call.fieldPart());
    }
    if (context instanceof SqlParser.ParenthesisedContext inner) {
      Span own = upTo(inner, inner.RIGHT_PAREN());
      List<Expression> values = trees.expressions(inner.expression());
      Expression value =
          values.size() == 1 ? values.get(0).at(own) : new Value.RowValue(own, false, values);
      return fields(value, inner.fieldPart());
    }
    if (context instanceof SqlParser.CaseExpressionContext caseOf) {
      return caseOf(span, caseOf);
    }
    if (context instanceof SqlParser.CastContext cast) {
      TypeName type = expressions.typeName(cast.castType());
      Expression value = trees.expression(cast.expression());
      boolean trying = cast.TRY_CAST() != null;
      return fields(
          new Value.Cast(upTo(cast, cast.RIGHT_PAREN()), value, type, trying), cast.fieldPart());
    }
    if (context instanceof SqlParser.ParameterValueContext parameter) {
      return new Value.Parameter(span, parameter.getText());
    }
    if (context instanceof SqlParser.AssignmentContext assignment) {
      Span variable = trees.span(assignment.VARIABLE().getSymbol());
      return new Value.Operation(
          span,
          new Value.Parameter(variable, assignment.VARIABLE().getText()),
          ":=",
          trees.expression(assignment.expression()));
    }
    if (context instanceof SqlParser.NextValueContext next) {
      String words = String.join(" ", TreeBuilder.words(next));
      return new Value.Literal(span, LiteralKind.OTHER, words);
    }
    return overQuery(span, context);
  }

  /** MATCH (…) AGAINST (… IN BOOLEAN MODE) of MariaDB. */
  private Expression match(Span span, SqlParser.MatchAgainstContext match) {
    Identifier name = trees.identifier(match.MATCH().getSymbol());
    List<Expression> columns = trees.expressions(match.expression());
    Span left = trees.span(match.getStart(), match.RIGHT_PAREN(0).getSymbol());
    String mode =
        match.anyWord().stream().map(ParserRuleContext::getText).collect(Collectors.joining(" "));
    Span right = trees.span(match.LEFT_PAREN(1).getSymbol(), match.getStop());
    return new Value.Operation(
        span,
        new Call.FunctionCall(left, List.of(name), false, false, columns, null),
        "AGAINST",
        new Call.WordedCall(
            right, "", List.of(expressions.operand(match.operand())), List.of("", mode)));
  }

  /** {@code {d '…'}}, {@code {fn f()}}: what JDBC writes in braces means the same without. */
  private Expression escaped(Span span, SqlParser.EscapedContext escaped) {
    Expression inner = primary(escaped.primary()).at(span);
    LiteralKind kind =
        switch (escaped.NAME().getText().toLowerCase(Locale.ROOT)) {
          case "d" -> LiteralKind.DATE;
          case "t" -> LiteralKind.TIME;
          case "ts" -> LiteralKind.TIMESTAMP;
          default -> LiteralKind.OTHER;
        };
    return inner instanceof Value.Literal text && kind != LiteralKind.OTHER
        ? new Value.Literal(span, kind, kind + " " + text.text())
        : inner;
  }

  private Expression overQuery(Span span, SqlParser.PrimaryContext context) {
    if (context instanceof SqlParser.ExistsContext exists) {
      return new Condition.Exists(span, trees.query(exists.query()));
    }
    if (context instanceof SqlParser.QueryCallContext call) {
      return new Value.QueryCall(span, capitals(call.word), trees.query(call.query()));
    }
    if (context instanceof SqlParser.ScalarQueryContext scalar) {
      Expression value =
          new Value.ScalarQuery(upTo(scalar, scalar.RIGHT_PAREN()), trees.query(scalar.query()));
      return fields(value, scalar.fieldPart());
    }
    return together(span, context);
  }

  /** Several values in one. */
  private Expression together(Span span, SqlParser.PrimaryContext context) {
    if (context instanceof SqlParser.EmptyRowContext) {
      return new Value.RowValue(span, false, List.of());
    }
    if (context instanceof SqlParser.WholeRowContext row) {
      return new Value.WholeRow(span, trees.identifiers(row.qualifier));
    }
    if (context instanceof SqlParser.RowConstructorContext row) {
      List<Expression> parts = row.rowPart().stream().map(this::rowPart).toList();
      return fields(new Value.RowValue(upTo(row, row.RIGHT_PAREN()), true, parts), row.fieldPart());
    }
    if (context instanceof SqlParser.ArrayValueContext array) {
      List<Expression> elements = trees.expressions(array.expression());
      Span own = upTo(array, array.RIGHT_BRACKET());
      return fields(new Value.ArrayValue(own, array.ARRAY() != null, elements), array.fieldPart());
    }
    if (context instanceof SqlParser.StructValueContext struct) {
      Span own = upTo(struct, struct.RIGHT_BRACE());
      return fields(struct(own, null, struct.entry()), struct.fieldPart());
    }
    if (context instanceof SqlParser.MapValueContext map) {
      Span own = upTo(map, map.RIGHT_BRACE());
      Identifier word = trees.identifier(map.identifier());
      return fields(struct(own, word, map.entry()), map.fieldPart());
    }
    if (context instanceof SqlParser.MatchAgainstContext match) {
      return match(span, match);
    }
    if (context instanceof SqlParser.EscapedContext escaped) {
      return escaped(span, escaped);
    }
    if (context instanceof SqlParser.ComprehensionContext all) {
      return comprehension(span, all);
    }
    return worded(span, context);
  }

  /** {@code [x + 1 FOR x IN list IF x > 2]}, DuckDB's way to write a function over a list. */
  private Expression comprehension(Span span, SqlParser.ComprehensionContext all) {
    List<Identifier> names = trees.identifiers(all.identifier());
    List<Expression> parts = trees.expressions(all.expression());
    Expression list = parts.get(1);
    if (parts.size() > 2) {
      list = listCall(span, "list_filter", list, names, parts.get(2));
    }
    return listCall(span, "list_transform", list, names, parts.get(0));
  }

  private static Expression listCall(
      Span span, String function, Expression list, List<Identifier> names, Expression body) {
    Expression lambda = new Call.Lambda(span, names, body);
    Identifier name = new Identifier(new Span(span.start(), span.start()), function, false);
    return new Call.FunctionCall(span, List.of(name), false, false, List.of(list, lambda), null);
  }

  private Expression struct(
      Span span, @Nullable Identifier word, List<SqlParser.EntryContext> entries) {
    return new Value.StructValue(
        span,
        word,
        entries.stream().map(each -> trees.expression(each.expression(0))).toList(),
        entries.stream().map(each -> trees.expression(each.expression(1))).toList());
  }

  private Expression rowPart(SqlParser.RowPartContext context) {
    return context.STAR() == null
        ? trees.expression(context.expression())
        : new Value.WholeRow(trees.span(context), trees.identifiers(context.qualifier));
  }

  private Span upTo(ParserRuleContext context, TerminalNode last) {
    return trees.span(context.getStart(), last.getSymbol());
  }

  private static String capitals(Token token) {
    return token.getText().toUpperCase(Locale.ROOT);
  }

  // ---- names ----

  private Value.ColumnName columnName(SqlParser.QualifiedNameContext context) {
    List<Identifier> parts = trees.name(context);
    int last = parts.size() - 1;
    return new Value.ColumnName(trees.span(context), parts.subList(0, last), parts.get(last));
  }

  Expression fields(Expression value, List<SqlParser.FieldPartContext> parts) {
    Expression result = value;
    for (SqlParser.FieldPartContext part : parts) {
      Identifier field =
          part.STAR() == null
              ? trees.identifier(part.anyWord().getStart())
              : new Identifier(trees.span(part.STAR().getSymbol()), "*", false);
      result = new Value.FieldOf(value.span().to(trees.span(part)), result, field);
    }
    return result;
  }

  Expression inValue(SqlParser.InValueContext context) {
    Span span = trees.span(context);
    if (context.qualifiedName() != null) {
      return columnName(context.qualifiedName());
    }
    if (context.parameter() != null) {
      return new Value.Parameter(span, context.parameter().getText());
    }
    if (context.STRING() != null) {
      return new Value.Literal(span, LiteralKind.STRING, context.STRING().getText());
    }
    return context.functionName() != null
        ? plainCall(span, context.functionName(), context.callBody())
        : new Value.ArrayValue(
            span, context.ARRAY() != null, trees.expressions(context.expression()));
  }

  // ---- constants ----

  private Expression literal(Span span, SqlParser.LiteralContext context) {
    if (context.INTERVAL() != null && context.operand() != null) {
      String unit = String.join(" ", TreeBuilder.words(context.intervalUnit()));
      return new Value.Interval(span, expressions.operand(context.operand()), unit);
    }
    return new Value.Literal(span, kind(context), literalText(context, span));
  }

  /** Constants that follow each other are one (ISO/IEC 9075-2, 5.3). */
  private String literalText(SqlParser.LiteralContext context, Span span) {
    List<TerminalNode> texts = context.STRING();
    if (texts.isEmpty()) {
      return source.at(span);
    }
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < context.getChildCount(); i++) {
      List<String> words =
          context.getChild(i) instanceof TerminalNode leaf && texts.contains(leaf)
              ? List.of(leaf.getText())
              : TreeBuilder.words(context.getChild(i));
      String next = ExpressionBuilder.typeWords(words);
      boolean goesOn = text.length() > 0 && text.charAt(text.length() - 1) == '\'';
      if (goesOn && next.startsWith("'")) {
        text.setLength(text.length() - 1);
        text.append(next, 1, next.length());
      } else {
        text.append(text.length() == 0 || next.startsWith("(") ? "" : " ").append(next);
      }
    }
    return text.toString();
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
      case SqlLexer.INTERVAL -> LiteralKind.INTERVAL;
      default -> LiteralKind.OTHER;
    };
  }

  private Expression caseOf(Span span, SqlParser.CaseExpressionContext context) {
    return new Value.Case(
        span,
        trees.optional(context.operandOfCase),
        context.whenClause().stream()
            .map(
                when ->
                    new Value.When(
                        trees.span(when), trees.expression(when.when), trees.expression(when.then)))
            .toList(),
        trees.optional(context.otherwise));
  }

  // ---- calls with words between the values ----

  private Expression worded(Span span, SqlParser.PrimaryContext context) {
    if (context instanceof SqlParser.ExtractContext extract) {
      String field =
          extract.anyWord() == null ? extract.STRING().getText() : extract.anyWord().getText();
      String name = extract.EXTRACT().getText();
      Expression value = trees.expression(extract.expression());
      return new Call.WordedCall(span, name, List.of(value), List.of(field + " FROM", ""));
    }
    if (context instanceof SqlParser.SubstringContext substring) {
      List<Expression> values = new ArrayList<>(List.of(trees.expression(substring.expression())));
      List<String> words = new ArrayList<>(List.of(""));
      for (SqlParser.SubstringPartContext part : substring.substringPart()) {
        words.add(capitals(part.getStart()));
        values.add(trees.expression(part.expression()));
      }
      words.add("");
      return new Call.WordedCall(span, substring.word.getText(), values, words);
    }
    if (context instanceof SqlParser.PositionContext position) {
      List<Expression> values = position.operand().stream().map(expressions::operand).toList();
      String using = position.USING() == null ? "" : "USING " + position.anyWord().getText();
      return new Call.WordedCall(span, position.word.getText(), values, List.of("", "IN", using));
    }
    if (context instanceof SqlParser.OverlayContext overlay) {
      List<String> words = new ArrayList<>(List.of("", "PLACING", "FROM"));
      if (overlay.FOR() != null) {
        words.add("FOR");
      }
      words.add("");
      List<Expression> values = trees.expressions(overlay.expression());
      return new Call.WordedCall(span, overlay.word.getText(), values, words);
    }
    if (context instanceof SqlParser.CollationOfContext collation) {
      Expression value = trees.expression(collation.expression());
      return new Value.Operation(
          span,
          null,
          "COLLATION FOR",
          new Call.WordedCall(span, "", List.of(value), List.of("", "")));
    }
    if (context instanceof SqlParser.XmlValueContext xml) {
      return wordsBetween(span, xml.xmlCall());
    }
    return trim(span, (SqlParser.TrimContext) context);
  }

  /** A call in parentheses of which only the values are understood; the words stay. */
  private Call.WordedCall wordsBetween(Span span, ParserRuleContext call) {
    List<Expression> values = new ArrayList<>();
    List<String> words = new ArrayList<>(List.of(""));
    List<ParseTree> inner = call.children.subList(2, call.getChildCount() - 1);
    inner.forEach(each -> collect(each, values, words));
    return new Call.WordedCall(span, call.getStart().getText(), values, words);
  }

  private void collect(ParseTree part, List<Expression> values, List<String> words) {
    if (part instanceof SqlParser.ExpressionContext expression) {
      values.add(trees.expression(expression));
      words.add("");
    } else if (part instanceof SqlParser.OperandContext operand) {
      values.add(expressions.operand(operand));
      words.add("");
    } else if (part instanceof TerminalNode word) {
      int last = words.size() - 1;
      words.set(last, (words.get(last) + " " + word.getText()).strip());
    } else {
      for (int i = 0; i < part.getChildCount(); i++) {
        collect(part.getChild(i), values, words);
      }
    }
  }

  private Expression trim(Span span, SqlParser.TrimContext trim) {
    List<Expression> values = trees.expressions(trim.expression());
    String side = trim.trimSide == null ? "" : capitals(trim.trimSide);
    List<String> words = new ArrayList<>();
    int behindFrom = 1 + trim.COMMA().size();
    for (int i = 0; i < values.size(); i++) {
      boolean first = i == 0;
      boolean afterFrom = trim.FROM() != null && i == values.size() - behindFrom;
      String from = afterFrom ? "FROM" : first ? "" : ",";
      words.add((first ? side + " " + from : from).strip());
    }
    words.add("");
    return new Call.WordedCall(span, trim.word.getText(), values, words);
  }

  // ---- calls ----

  Expression tableFunction(SqlParser.TableFunctionContext context) {
    Span span = trees.span(context);
    if (context.xmlTable() != null) {
      return wordsBetween(span, context.xmlTable());
    }
    if (context.functionName() == null) {
      Identifier table = trees.identifier(context.TABLE().getSymbol());
      List<Expression> arguments = List.of(trees.expression(context.expression()));
      return new Call.FunctionCall(span, List.of(table), false, false, arguments, null);
    }
    return plainCall(span, context.functionName(), context.callBody());
  }

  private Call.FunctionCall plainCall(
      Span span, SqlParser.FunctionNameContext function, SqlParser.@Nullable CallBodyContext body) {
    List<Identifier> name =
        function.identifier().isEmpty()
            ? List.of(new Identifier(trees.span(function), function.getText(), false))
            : trees.identifiers(function.identifier());
    if (body == null) {
      return new Call.FunctionCall(span, name, false, false, List.of(), null);
    }
    List<Expression> arguments = new ArrayList<>();
    body.argument().forEach(each -> arguments.add(argument(each)));
    if (body.query() != null) {
      Span place = trees.span(body);
      arguments.add(new Value.ScalarQuery(place, trees.query(body.query())));
    }
    boolean nulls = body.NULLS() != null;
    String treatment = !nulls ? null : (body.IGNORE() == null ? "RESPECT" : "IGNORE") + " NULLS";
    return new Call.FunctionCall(
        span,
        name,
        body.STAR() != null,
        body.DISTINCT() != null,
        arguments,
        body.orderBy() == null ? List.of() : trees.orderItems(body.orderBy()),
        body.SEPARATOR() == null ? null : expressions.operand(body.operand()),
        List.of(),
        null,
        clauses(body),
        treatment,
        null);
  }

  private static @Nullable String clauses(SqlParser.CallBodyContext body) {
    List<String> words = new ArrayList<>();
    body.jsonClause().forEach(clause -> words.addAll(TreeBuilder.words(clause)));
    return words.isEmpty() ? null : String.join(" ", words);
  }

  private Expression argument(SqlParser.ArgumentContext context) {
    Span span = trees.span(context);
    if (context instanceof SqlParser.VariadicArgumentContext variadic) {
      return new Value.Operation(span, null, "VARIADIC", trees.expression(variadic.expression()));
    }
    if (context instanceof SqlParser.LambdaArgumentContext lambda) {
      return new Call.Lambda(
          span, trees.identifiers(lambda.identifier()), trees.expression(lambda.expression()));
    }
    if (context instanceof SqlParser.NamedArgumentContext named) {
      return new Call.NamedArgument(
          span,
          trees.identifier(named.identifier()),
          named.ASSIGN().getText(),
          trees.expression(named.expression()));
    }
    if (context instanceof SqlParser.PairArgumentContext pair) {
      List<Expression> both = trees.expressions(pair.expression());
      return new Value.Operation(span, both.get(0), ":", both.get(1));
    }
    return context instanceof SqlParser.RowArgumentContext row
        ? new Value.WholeRow(span, trees.identifiers(row.qualifier))
        : trees.expression(((SqlParser.PlainArgumentContext) context).expression());
  }

  private Expression call(SqlParser.FunctionCallContext context) {
    TerminalNode close = context.RIGHT_PAREN();
    Token last =
        context.callTail().isEmpty()
            ? close.getSymbol()
            : context.callTail(context.callTail().size() - 1).getStop();
    Span span = trees.span(context.getStart(), last);
    if (context.callBody() != null && context.callBody().USING() != null) {
      return inCharacterSet(span, context.functionName(), context.callBody());
    }
    Call.FunctionCall call = plainCall(span, context.functionName(), context.callBody());
    Expression converted = converted(call);
    if (converted != null) {
      return converted;
    }
    for (SqlParser.CallTailContext tail : context.callTail()) {
      call = with(call, tail);
    }
    return call;
  }

  /** CONVERT(x USING utf8): the name of a character set stands for itself. */
  private Expression inCharacterSet(
      Span span, SqlParser.FunctionNameContext function, SqlParser.CallBodyContext body) {
    List<Expression> values = body.argument().stream().map(this::argument).toList();
    List<String> words = new ArrayList<>(Collections.nCopies(values.size(), ","));
    words.set(0, "");
    words.add("USING " + body.anyWord().getText());
    return new Call.WordedCall(span, function.getText(), values, words);
  }

  /** CONVERT(value, type) of MariaDB, H2 and HSQLDB is a cast; the type is no column. */
  private static @Nullable Expression converted(Call.FunctionCall call) {
    if (!call.key().equals("convert") || call.arguments().size() != 2) {
      return null;
    }
    Expression type = call.arguments().get(1);
    boolean named =
        (type instanceof Value.ColumnName column && column.qualifier().isEmpty())
            || type instanceof Call.FunctionCall;
    String words = SqlPrinter.print(type, Dialect.STANDARD).replaceFirst("^SQL_", "");
    return named
        ? new Value.Cast(
            call.span(), call.arguments().get(0), new TypeName(type.span(), words), false)
        : null;
  }

  private Call.FunctionCall with(Call.FunctionCall call, SqlParser.CallTailContext tail) {
    boolean over = tail.OVER() != null;
    boolean within = tail.WITHIN() != null;
    boolean filter = tail.FILTER() != null;
    String words =
        over || within || filter
            ? call.treatment()
            : (call.treatment() == null ? "" : call.treatment() + " ")
                + TreeBuilder.words(tail).stream()
                    .collect(Collectors.joining(" "))
                    .toUpperCase(Locale.ROOT);
    return new Call.FunctionCall(
        call.span(),
        call.name(),
        call.star(),
        call.distinct(),
        call.arguments(),
        call.orderBy(),
        call.separator(),
        within ? trees.orderItems(tail.orderBy()) : call.withinGroup(),
        filter ? trees.expression(tail.expression()) : call.filter(),
        call.clauses(),
        words,
        over ? window(tail) : call.over());
  }

  private Window window(SqlParser.CallTailContext tail) {
    if (tail.windowSpec() != null) {
      return trees.selects().window(tail.windowSpec());
    }
    Identifier name = trees.identifier(tail.identifier());
    return new Window(name.span(), name, true, List.of(), List.of(), null);
  }
}
