package io.lantrel.sql;

import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.TypeName;
import io.lantrel.sql.tree.Value;
import java.util.List;
import java.util.stream.Collectors;

/** Writes expressions; a weaker sign inside a stronger one gets parentheses. */
final class ExpressionPrinter implements Expression.Visitor<String> {

  private static final int XOR = 1;
  private static final int AND = 2;
  private static final int NOT = 3;
  private static final int TEST = 4;
  private static final int OPERAND = 6;
  private static final int ZONE = 11;
  private static final int SIGNED = 12;
  private static final int PRIMARY = 14;

  private final SqlPrinter printer;

  ExpressionPrinter(SqlPrinter printer) {
    this.printer = printer;
  }

  /** How strongly each kind binds, after the layers of the grammar. */
  private static int binding(Expression expression) {
    if (expression instanceof Condition condition) {
      return binding(condition);
    }
    if (expression instanceof Value.Arithmetic arithmetic) {
      return OPERAND - 1 + arithmetic.operator().binding();
    }
    if (expression instanceof Value.Operation operation) {
      return binding(operation);
    }
    if (expression instanceof Value.Signed) {
      return SIGNED;
    }
    return expression instanceof Value.Collated ? ZONE : PRIMARY;
  }

  private static int binding(Condition condition) {
    if (condition instanceof Condition.Or) {
      return 0;
    }
    if (condition instanceof Condition.And) {
      return AND;
    }
    if (condition instanceof Condition.Not) {
      return NOT;
    }
    return condition instanceof Condition.Exists ? PRIMARY : TEST;
  }

  private static int binding(Value.Operation operation) {
    String sign = operation.sign();
    if (sign.equals(":")) {
      return 0;
    }
    if (sign.equals(":=")) {
      return 0;
    }
    if (sign.equals("XOR")) {
      return XOR;
    }
    if (operation.left() == null) {
      return sign.equals("VARIADIC") ? 0 : SIGNED;
    }
    if (sign.startsWith("AT ") || sign.equals("FORMAT JSON")) {
      return ZONE - 1;
    }
    if (operation.right() == null && SelectBuilder.UNITS.contains(sign)) {
      return ZONE;
    }
    boolean test =
        operation.right() == null
            || List.of("OVERLAPS", "SOUNDS LIKE", "IN", "NOT IN").contains(sign);
    return test ? TEST : OPERAND;
  }

  private String atLeast(int binding, Expression expression) {
    String sql = expression.accept(this);
    return binding(expression) < binding ? "(" + sql + ")" : sql;
  }

  String operand(Expression expression) {
    return atLeast(OPERAND, expression);
  }

  private static String not(boolean negated) {
    return negated ? "NOT " : "";
  }

  private String list(List<Expression> expressions) {
    return SqlPrinter.list(expressions, printer::expression);
  }

  // ---- conditions ----

  @Override
  public String comparison(Condition.Comparison c) {
    return operand(c.left()) + " " + c.operator().sign() + " " + operand(c.right());
  }

  @Override
  public String quantified(Condition.Quantified q) {
    String several =
        q.query() != null
            ? printer.query(q.query())
            : q.list() == null ? "" : printer.expression(q.list());
    String how = q.all() ? " ALL (" : " ANY (";
    return operand(q.value()) + " " + q.sign() + how + several + ")";
  }

  @Override
  public String and(Condition.And and) {
    return and.terms().stream()
        .map(term -> atLeast(NOT, term))
        .collect(Collectors.joining(" AND "));
  }

  @Override
  public String or(Condition.Or or) {
    return or.terms().stream().map(term -> atLeast(XOR, term)).collect(Collectors.joining(" OR "));
  }

  @Override
  public String not(Condition.Not not) {
    return "NOT " + atLeast(NOT, not.value());
  }

  @Override
  public String isNull(Condition.IsNull test) {
    return operand(test.value()) + " IS " + not(test.negated()) + "NULL";
  }

  @Override
  public String isTruth(Condition.IsTruth test) {
    return operand(test.value()) + " IS " + not(test.negated()) + test.truth();
  }

  @Override
  public String isDistinct(Condition.IsDistinct d) {
    return switch (printer.dialect()) {
      case MARIADB -> {
        String same = operand(d.left()) + " <=> " + operand(d.right());
        yield d.negated() ? same : "NOT (" + same + ")";
      }
      case SQLITE -> operand(d.left()) + " IS " + not(!d.negated()) + operand(d.right());
      case DUCKDB, POSTGRESQL, H2, HSQLDB, TRINO, STANDARD ->
          operand(d.left()) + " IS " + not(d.negated()) + "DISTINCT FROM " + operand(d.right());
    };
  }

  @Override
  public String between(Condition.Between b) {
    return operand(b.value())
        + " "
        + not(b.negated())
        + "BETWEEN "
        + operand(b.low())
        + " AND "
        + operand(b.high());
  }

  @Override
  public String inList(Condition.InList in) {
    return operand(in.value()) + " " + not(in.negated()) + "IN (" + list(in.list()) + ")";
  }

  @Override
  public String inQuery(Condition.InQuery in) {
    return operand(in.value()) + " " + not(in.negated()) + "IN (" + printer.query(in.query()) + ")";
  }

  @Override
  public String like(Condition.Like like) {
    Expression escape = like.escape();
    return operand(like.value())
        + " "
        + not(like.negated())
        + like.how().words()
        + " "
        + operand(like.pattern())
        + (escape == null ? "" : " ESCAPE " + operand(escape));
  }

  @Override
  public String exists(Condition.Exists exists) {
    return "EXISTS (" + printer.query(exists.query()) + ")";
  }

  // ---- values ----

  @Override
  public String columnName(Value.ColumnName column) {
    String table = column.qualifier().isEmpty() ? "" : printer.dotted(column.qualifier()) + ".";
    return table + printer.name(column.name());
  }

  @Override
  public String outerMark(Value.OuterMark mark) {
    return columnName(mark.column()) + " (+)";
  }

  @Override
  public String wholeRow(Value.WholeRow row) {
    // In parentheses it can stand anywhere.
    return "(" + printer.dotted(row.qualifier()) + ".*)";
  }

  @Override
  public String literal(Value.Literal literal) {
    return printer.constant(literal.text());
  }

  @Override
  public String parameter(Value.Parameter parameter) {
    return parameter.text();
  }

  @Override
  public String interval(Value.Interval interval) {
    // DuckDB takes anything but a constant in parentheses only.
    boolean constant = interval.value() instanceof Value.Literal;
    String value = interval.value().accept(this);
    return "INTERVAL " + (constant ? value : "(" + value + ")") + " " + interval.unit();
  }

  @Override
  public String arithmetic(Value.Arithmetic a) {
    int own = binding(a);
    return atLeast(own, a.left()) + " " + a.operator().sign() + " " + atLeast(own + 1, a.right());
  }

  @Override
  public String operation(Value.Operation operation) {
    int own = binding(operation);
    Expression left = operation.left();
    Expression right = operation.right();
    boolean unit = right == null && SelectBuilder.UNITS.contains(operation.sign());
    int beside = unit ? PRIMARY : own == TEST ? OPERAND : own;
    String before = left == null ? "" : atLeast(beside, left) + " ";
    int behind = own == TEST ? OPERAND : left == null ? own : own + 1;
    return before + operation.sign() + (right == null ? "" : " " + atLeast(behind, right));
  }

  @Override
  public String signed(Value.Signed signed) {
    String value = atLeast(SIGNED, signed.value());
    // Two minus signs in a row would begin a comment.
    boolean apart = signed.value() instanceof Value.Signed || value.startsWith("-");
    return (signed.minus() ? "-" : "+") + (apart ? " " : "") + value;
  }

  @Override
  public String collated(Value.Collated collated) {
    return atLeast(ZONE, collated.value()) + " COLLATE " + printer.dotted(collated.collation());
  }

  @Override
  public String cast(Value.Cast cast) {
    return (cast.trying() ? "TRY_CAST(" : "CAST(")
        + printer.expression(cast.value())
        + " AS "
        + type(cast.type())
        + ")";
  }

  private String type(TypeName type) {
    if (!type.isAnyText()) {
      return type.text();
    }
    return switch (printer.dialect()) {
      case MARIADB -> "CHAR";
      case HSQLDB -> "LONGVARCHAR";
      case STANDARD -> "VARCHAR(4000)";
      case DUCKDB, POSTGRESQL, SQLITE, H2, TRINO -> "VARCHAR";
    };
  }

  @Override
  public String fieldOf(Value.FieldOf field) {
    String name =
        field.field().text().equals("*") && !field.field().quoted()
            ? "*"
            : printer.name(field.field());
    boolean bare =
        field.value() instanceof Value.FieldOf
            || field.value() instanceof Value.Subscript
            || field.value() instanceof FunctionCall
            || field.value() instanceof Value.Cast
            || field.value() instanceof Value.ScalarQuery;
    String value = printer.expression(field.value());
    return (bare ? value : "(" + value + ")") + "." + name;
  }

  @Override
  public String subscript(Value.Subscript subscript) {
    Expression low = subscript.low();
    Expression high = subscript.high();
    // PostgreSQL wants the parentheses around a call.
    String value =
        subscript.value() instanceof FunctionCall || subscript.value() instanceof Value.ArrayValue
            ? "(" + printer.expression(subscript.value()) + ")"
            : atLeast(PRIMARY, subscript.value());
    return value
        + "["
        + (low == null ? "" : printer.expression(low))
        + (subscript.stretch() ? " : " : "")
        + (high == null ? "" : printer.expression(high))
        + "]";
  }

  @Override
  public String rowValue(Value.RowValue row) {
    boolean word = row.word() || row.values().size() == 1;
    return (word ? "ROW(" : "(") + list(row.values()) + ")";
  }

  @Override
  public String arrayValue(Value.ArrayValue array) {
    return (array.word() ? "ARRAY[" : "[") + list(array.values()) + "]";
  }

  @Override
  public String structValue(Value.StructValue struct) {
    StringBuilder sql = new StringBuilder();
    if (struct.word() != null) {
      sql.append(printer.name(struct.word())).append(' ');
    }
    sql.append('{');
    for (int i = 0; i < struct.names().size(); i++) {
      sql.append(i == 0 ? "" : ", ").append(printer.expression(struct.names().get(i)));
      sql.append(": ").append(printer.expression(struct.values().get(i)));
    }
    return sql.append('}').toString();
  }

  @Override
  public String scalarQuery(Value.ScalarQuery scalar) {
    return "(" + printer.query(scalar.query()) + ")";
  }

  @Override
  public String queryCall(Value.QueryCall call) {
    return call.word() + "(" + printer.query(call.query()) + ")";
  }

  @Override
  public String caseOf(Value.Case node) {
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

  // ---- calls ----

  @Override
  public String functionCall(FunctionCall call) {
    StringBuilder sql = new StringBuilder(functionName(call)).append('(');
    sql.append(call.distinct() ? "DISTINCT " : "");
    sql.append(call.star() ? "*" : list(call.arguments()));
    if (!call.orderBy().isEmpty()) {
      sql.append(" ").append(printer.orderBy(call.orderBy()));
    }
    if (call.clauses() != null) {
      sql.append(" ").append(call.clauses());
    }
    Expression separator = call.separator();
    if (separator != null) {
      sql.append(" SEPARATOR ").append(operand(separator));
    }
    // DuckDB has the words on NULLs within the parentheses, the standard behind them.
    boolean inside =
        printer.dialect() == Dialect.DUCKDB
            && call.treatment() != null
            && call.treatment().endsWith(" NULLS");
    sql.append(inside ? " " + call.treatment() + ")" : ")");
    if (!call.withinGroup().isEmpty()) {
      sql.append(" WITHIN GROUP (").append(printer.orderBy(call.withinGroup())).append(')');
    }
    Expression filter = call.filter();
    if (filter != null) {
      sql.append(" FILTER (WHERE ").append(printer.expression(filter)).append(')');
    }
    if (call.treatment() != null && !inside) {
      sql.append(' ').append(call.treatment());
    }
    if (call.over() != null) {
      sql.append(" OVER ").append(printer.window(call.over()));
    }
    return sql.toString();
  }

  /** LEFT, RIGHT and the like are functions too, although reserved. */
  private String functionName(FunctionCall call) {
    Identifier first = call.name().get(0);
    boolean bare = call.name().size() == 1 && !first.quoted() && printer.isBare(first.text());
    return bare ? first.text() : printer.dotted(call.name());
  }

  @Override
  public String wordedCall(Call.WordedCall call) {
    StringBuilder sql = new StringBuilder(call.name()).append('(');
    for (int i = 0; i < call.words().size(); i++) {
      String word = call.words().get(i);
      boolean atStart = sql.charAt(sql.length() - 1) == '(';
      if (!word.isEmpty()) {
        sql.append(atStart || word.equals(",") ? "" : " ").append(word);
      }
      if (i < call.values().size()) {
        sql.append(sql.charAt(sql.length() - 1) == '(' ? "" : " ");
        sql.append(operand(call.values().get(i)));
      }
    }
    return sql.append(')').toString();
  }

  @Override
  public String namedArgument(Call.NamedArgument argument) {
    return printer.name(argument.name())
        + " "
        + argument.sign()
        + " "
        + printer.expression(argument.value());
  }

  @Override
  public String lambda(Call.Lambda lambda) {
    return "LAMBDA "
        + SqlPrinter.list(lambda.names(), printer::name)
        + " : "
        + printer.expression(lambda.body());
  }

  @Override
  public String grouping(Call.Grouping grouping) {
    if (grouping.kind() == Call.GroupingKind.DISTINCT) {
      return "DISTINCT " + list(grouping.items());
    }
    return grouping.kind() == Call.GroupingKind.ALL
        ? "ALL"
        : grouping.kind().words() + " (" + list(grouping.items()) + ")";
  }
}
