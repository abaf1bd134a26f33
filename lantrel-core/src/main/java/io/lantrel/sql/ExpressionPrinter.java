package io.lantrel.sql;

import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Expression.And;
import io.lantrel.sql.tree.Expression.Arithmetic;
import io.lantrel.sql.tree.Expression.Between;
import io.lantrel.sql.tree.Expression.Case;
import io.lantrel.sql.tree.Expression.Cast;
import io.lantrel.sql.tree.Expression.ColumnName;
import io.lantrel.sql.tree.Expression.Comparison;
import io.lantrel.sql.tree.Expression.Exists;
import io.lantrel.sql.tree.Expression.Extract;
import io.lantrel.sql.tree.Expression.FunctionCall;
import io.lantrel.sql.tree.Expression.InList;
import io.lantrel.sql.tree.Expression.InQuery;
import io.lantrel.sql.tree.Expression.IsDistinct;
import io.lantrel.sql.tree.Expression.IsNull;
import io.lantrel.sql.tree.Expression.IsTruth;
import io.lantrel.sql.tree.Expression.Like;
import io.lantrel.sql.tree.Expression.Literal;
import io.lantrel.sql.tree.Expression.Not;
import io.lantrel.sql.tree.Expression.Or;
import io.lantrel.sql.tree.Expression.RowNumber;
import io.lantrel.sql.tree.Expression.ScalarQuery;
import io.lantrel.sql.tree.Expression.Signed;
import java.util.List;
import java.util.stream.Collectors;

/** Writes expressions; a weaker sign inside a stronger one gets parentheses. */
final class ExpressionPrinter implements Expression.Visitor<String> {

  private final SqlPrinter printer;

  ExpressionPrinter(SqlPrinter printer) {
    this.printer = printer;
  }

  /** How strongly each kind binds, after the layers of the grammar. */
  private static int binding(Expression expression) {
    if (expression instanceof Or) {
      return 0;
    }
    if (expression instanceof And) {
      return 1;
    }
    if (expression instanceof Not) {
      return 2;
    }
    if (expression instanceof Comparison
        || expression instanceof IsNull
        || expression instanceof IsTruth
        || expression instanceof IsDistinct
        || expression instanceof Between
        || expression instanceof InList
        || expression instanceof InQuery
        || expression instanceof Like) {
      return 3;
    }
    if (expression instanceof Arithmetic arithmetic) {
      return 3 + arithmetic.operator().binding();
    }
    return expression instanceof Signed ? 7 : 9;
  }

  private String atLeast(int binding, Expression expression) {
    String sql = expression.accept(this);
    return binding(expression) < binding ? "(" + sql + ")" : sql;
  }

  private String operand(Expression expression) {
    return atLeast(4, expression);
  }

  private static String not(boolean negated) {
    return negated ? "NOT " : "";
  }

  @Override
  public String columnName(ColumnName column) {
    String table = column.qualifier().isEmpty() ? "" : SqlPrinter.dotted(column.qualifier()) + ".";
    return table + SqlPrinter.print(column.name());
  }

  @Override
  public String literal(Literal literal) {
    return literal.text();
  }

  @Override
  public String arithmetic(Arithmetic a) {
    int own = binding(a);
    return atLeast(own, a.left()) + " " + a.operator().sign() + " " + atLeast(own + 1, a.right());
  }

  @Override
  public String signed(Signed signed) {
    String value = atLeast(7, signed.value());
    // Two minus signs in a row would begin a comment.
    boolean apart = signed.value() instanceof Signed || value.startsWith("-");
    return (signed.minus() ? "-" : "+") + (apart ? " " : "") + value;
  }

  @Override
  public String comparison(Comparison c) {
    return operand(c.left()) + " " + c.operator().sign() + " " + operand(c.right());
  }

  @Override
  public String and(And and) {
    return and.terms().stream().map(term -> atLeast(2, term)).collect(Collectors.joining(" AND "));
  }

  @Override
  public String or(Or or) {
    return or.terms().stream().map(term -> atLeast(1, term)).collect(Collectors.joining(" OR "));
  }

  @Override
  public String not(Not not) {
    return "NOT " + atLeast(2, not.value());
  }

  @Override
  public String isNull(IsNull test) {
    return operand(test.value()) + " IS " + not(test.negated()) + "NULL";
  }

  @Override
  public String isTruth(IsTruth test) {
    return operand(test.value()) + " IS " + not(test.negated()) + test.truth();
  }

  @Override
  public String isDistinct(IsDistinct d) {
    return operand(d.left()) + " IS " + not(d.negated()) + "DISTINCT FROM " + operand(d.right());
  }

  @Override
  public String between(Between b) {
    return operand(b.value())
        + " "
        + not(b.negated())
        + "BETWEEN "
        + operand(b.low())
        + " AND "
        + operand(b.high());
  }

  @Override
  public String inList(InList in) {
    List<Expression> list = in.list();
    return operand(in.value())
        + " "
        + not(in.negated())
        + "IN ("
        + SqlPrinter.list(list, printer::expression)
        + ")";
  }

  @Override
  public String inQuery(InQuery in) {
    return operand(in.value()) + " " + not(in.negated()) + "IN (" + printer.query(in.query()) + ")";
  }

  @Override
  public String like(Like like) {
    Expression escape = like.escape();
    return operand(like.value())
        + " "
        + not(like.negated())
        + (like.ignoringCase() ? "ILIKE " : "LIKE ")
        + operand(like.pattern())
        + (escape == null ? "" : " ESCAPE " + operand(escape));
  }

  @Override
  public String exists(Exists exists) {
    return "EXISTS (" + printer.query(exists.query()) + ")";
  }

  @Override
  public String scalarQuery(ScalarQuery scalar) {
    return "(" + printer.query(scalar.query()) + ")";
  }

  @Override
  public String caseOf(Case node) {
    Expression operand = node.operand();
    Expression otherwise = node.otherwise();
    return "CASE"
        + (operand == null ? "" : " " + printer.expression(operand))
        + node.whens().stream()
            .map(
                each ->
                    " WHEN "
                        + printer.expression(each.when())
                        + " THEN "
                        + printer.expression(each.then()))
            .collect(Collectors.joining())
        + (otherwise == null ? "" : " ELSE " + printer.expression(otherwise))
        + " END";
  }

  @Override
  public String cast(Cast cast) {
    return "CAST(" + printer.expression(cast.value()) + " AS " + cast.type().text() + ")";
  }

  @Override
  public String extract(Extract extract) {
    return "EXTRACT("
        + SqlPrinter.print(extract.field())
        + " FROM "
        + printer.expression(extract.value())
        + ")";
  }

  @Override
  public String functionCall(FunctionCall call) {
    String arguments = call.star() ? "*" : SqlPrinter.list(call.arguments(), printer::expression);
    Expression filter = call.filter();
    return functionName(call)
        + "("
        + (call.distinct() ? "DISTINCT " : "")
        + arguments
        + ")"
        + (filter == null ? "" : " FILTER (WHERE " + printer.expression(filter) + ")");
  }

  /** LEFT, RIGHT and IF are functions too, although reserved. */
  private static String functionName(FunctionCall call) {
    boolean plain = call.name().size() == 1 && !call.name().get(0).quoted();
    return plain ? call.name().get(0).text() : SqlPrinter.dotted(call.name());
  }

  @Override
  public String rowNumber(RowNumber rowNumber) {
    return "row_number() OVER ()";
  }
}
