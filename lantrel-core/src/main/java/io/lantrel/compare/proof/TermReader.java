package io.lantrel.compare.proof;

import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Functions;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * Reads values and conditions as terms. Only what always gives the same for the same rows has one:
 * no chance, no clock, nothing that depends on the order of rows.
 */
final class TermReader {

  private static final Set<String> PLAIN_FUNCTIONS =
      Set.of("coalesce", "nullif", "greatest", "least", "concat", "concat_ws", "ifnull", "nvl");

  /** Among their arguments can be the time that it is. */
  private static final Set<String> CLOCKS = Set.of("strftime");

  private static final Set<String> PLAIN_AGGREGATES = Set.of("count", "sum", "min", "max", "avg");

  private final ShapeReader shapes;
  private final QueryBlock block;

  TermReader(ShapeReader shapes, QueryBlock block) {
    this.shapes = shapes;
    this.block = block;
  }

  /** What must hold where a condition does: its parts, if AND puts them together. */
  List<Term> conditions(Expression condition) throws NoProof {
    Term all = condition(condition, false);
    return all.is(Term.AND) ? all.parts() : List.of(all);
  }

  /**
   * A condition of which only matters whether it is true.
   *
   * @param negated whether its opposite is meant
   */
  private Term condition(Expression condition, boolean negated) throws NoProof {
    if (condition instanceof Condition.Not not) {
      return condition(not.value(), !negated);
    }
    if (condition instanceof Condition.And and) {
      return joined(negated ? Term.OR : Term.AND, and.terms(), negated);
    }
    if (condition instanceof Condition.Or or) {
      return joined(negated ? Term.AND : Term.OR, or.terms(), negated);
    }
    if (condition instanceof Condition.Comparison comparison) {
      return comparison(comparison, negated);
    }
    if (condition instanceof Condition.IsNull test) {
      return Term.of(
          test.negated() == negated ? Term.IS_NULL : Term.IS_NOT_NULL, value(test.value()));
    }
    if (condition instanceof Condition.Between between) {
      return between(between, between.negated() != negated);
    }
    if (condition instanceof Condition.InList in) {
      return inList(in, in.negated() != negated);
    }
    if (condition instanceof Condition.InQuery in) {
      return inQuery(in, in.negated() != negated);
    }
    if (condition instanceof Condition.Exists exists) {
      return Term.asking(negated ? Term.NOT_EXISTS : Term.EXISTS, asked(exists.query()));
    }
    if (negated && condition instanceof Condition.Like like) {
      return value(
          new Condition.Like(
              like.span(),
              like.value(),
              like.how(),
              like.pattern(),
              like.escape(),
              !like.negated()));
    }
    Term value = value(condition);
    return negated ? Term.of("not", value) : value;
  }

  private Term joined(String operation, List<Expression> terms, boolean negated) throws NoProof {
    List<Term> parts = new ArrayList<>();
    for (Expression each : terms) {
      Term part = condition(each, negated);
      parts.addAll(part.is(operation) ? part.parts() : List.of(part));
    }
    return Term.of(operation, parts);
  }

  private Term comparison(Condition.Comparison comparison, boolean negated) throws NoProof {
    Term left = value(comparison.left());
    Term right = value(comparison.right());
    ComparisonOperator operator = negated ? opposite(comparison.operator()) : comparison.operator();
    return switch (operator) {
      case GREATER -> Term.of("<", right, left);
      case GREATER_OR_EQUAL -> Term.of("<=", right, left);
      case LESS -> Term.of("<", left, right);
      case LESS_OR_EQUAL -> Term.of("<=", left, right);
      case EQUAL -> Term.of(Term.EQUAL, left, right);
      case NOT_EQUAL -> Term.of(Term.NOT_EQUAL, left, right);
    };
  }

  private static ComparisonOperator opposite(ComparisonOperator operator) {
    return switch (operator) {
      case GREATER -> ComparisonOperator.LESS_OR_EQUAL;
      case GREATER_OR_EQUAL -> ComparisonOperator.LESS;
      case LESS -> ComparisonOperator.GREATER_OR_EQUAL;
      case LESS_OR_EQUAL -> ComparisonOperator.GREATER;
      case EQUAL -> ComparisonOperator.NOT_EQUAL;
      case NOT_EQUAL -> ComparisonOperator.EQUAL;
    };
  }

  private Term between(Condition.Between between, boolean negated) throws NoProof {
    Term value = value(between.value());
    Term low = value(between.low());
    Term high = value(between.high());
    return negated
        ? Term.of(Term.OR, Term.of("<", value, low), Term.of("<", high, value))
        : Term.of(Term.AND, Term.of("<=", low, value), Term.of("<=", value, high));
  }

  private Term inList(Condition.InList in, boolean negated) throws NoProof {
    if (in.value() instanceof Value.RowValue) {
      throw new NoProof("rows as values");
    }
    Term value = value(in.value());
    List<Term> parts = new ArrayList<>();
    for (Expression each : in.list()) {
      parts.add(Term.of(negated ? Term.NOT_EQUAL : Term.EQUAL, value, value(each)));
    }
    return parts.size() == 1 ? parts.get(0) : Term.of(negated ? Term.AND : Term.OR, parts);
  }

  /** That there is a row with that value; the same, where only matters whether it is true. */
  private Term inQuery(Condition.InQuery in, boolean negated) throws NoProof {
    Shape asked = asked(in.query());
    if (in.value() instanceof Value.RowValue
        || !(asked instanceof Shape.Block plain)
        || plain.grouped()
        || plain.outputs().size() != 1) {
      throw new NoProof("IN over a query that puts rows together");
    }
    if (negated) {
      return Term.asking(Term.NOT_IN, plain, value(in.value()));
    }
    plain.rows().conditions.add(Term.of(Term.EQUAL, value(in.value()), plain.outputs().get(0)));
    return Term.asking(Term.EXISTS, plain);
  }

  private Shape asked(Query query) throws NoProof {
    return shapes.query(query);
  }

  // ---- values ----

  Term value(Expression value) throws NoProof {
    if (value instanceof Value.ColumnName name) {
      return shapes.name(name, block);
    }
    if (value instanceof Value.Literal literal) {
      return Term.constant(literal.kind() + " " + literal.text());
    }
    if (value instanceof Value.Parameter parameter && !parameter.isOpen()) {
      return Term.constant("parameter " + parameter.text());
    }
    if (value instanceof Value.Arithmetic arithmetic) {
      return Term.of(
          arithmetic.operator().sign(), value(arithmetic.left()), value(arithmetic.right()));
    }
    if (value instanceof Value.Signed signed) {
      return signed.minus() ? Term.of("minus", value(signed.value())) : value(signed.value());
    }
    if (value instanceof Value.Cast cast) {
      String type = SqlPrinter.text(cast).replaceFirst("^.*\\bAS ", "");
      return Term.of((cast.trying() ? "try " : "cast ") + type, value(cast.value()));
    }
    if (value instanceof Value.Case choice) {
      return choice(choice);
    }
    if (value instanceof FunctionCall call) {
      return call(call);
    }
    if (value instanceof Value.ScalarQuery scalar) {
      return Term.asking(Term.VALUE_OF, asked(scalar.query()));
    }
    if (value instanceof Condition.Like like && like.escape() == null) {
      return Term.of(
          "like " + like.how() + (like.negated() ? " not" : ""),
          value(like.value()),
          value(like.pattern()));
    }
    if (value.preorder().anyMatch(Condition.InQuery.class::isInstance)) {
      throw new NoProof("IN as a value");
    }
    if (value instanceof Condition.Comparison
        || value instanceof Condition.IsNull
        || value instanceof Condition.Between
        || value instanceof Condition.InList
        || value instanceof Condition.Exists
        || value instanceof Condition.And
        || value instanceof Condition.Or) {
      return condition(value, false);
    }
    throw new NoProof("the value " + SqlPrinter.text(value));
  }

  private Term choice(Value.Case choice) throws NoProof {
    List<Term> parts = new ArrayList<>();
    for (Value.When when : choice.whens()) {
      Term test =
          choice.operand() == null
              ? condition(when.when(), false)
              : Term.of(Term.EQUAL, value(choice.operand()), value(when.when()));
      parts.add(test);
      parts.add(value(when.then()));
    }
    if (choice.otherwise() != null) {
      parts.add(value(choice.otherwise()));
    }
    return Term.of("case", parts);
  }

  private Term call(FunctionCall call) throws NoProof {
    String name = call.key().toLowerCase(Locale.ROOT);
    boolean aggregate = Aggregates.isOne(call);
    boolean known =
        aggregate
            ? PLAIN_AGGREGATES.contains(name)
            : PLAIN_FUNCTIONS.contains(name)
                || (Functions.isNullOnNull(name) && !CLOCKS.contains(name));
    if (!known
        || call.over() != null
        || !call.orderBy().isEmpty()
        || !call.withinGroup().isEmpty()
        || call.clauses() != null
        || call.treatment() != null
        || call.separator() != null
        || call.name().size() > 1) {
      throw new NoProof("the function " + name);
    }
    if (call.star()) {
      return filtered(Term.of(Term.COUNT_ROWS), call);
    }
    List<Term> arguments = new ArrayList<>();
    for (Expression each : call.arguments()) {
      arguments.add(value(each));
    }
    boolean onlyOnce = call.distinct() && !name.equals("min") && !name.equals("max");
    if (name.equals(Term.COUNT) && !onlyOnce && isConstant(arguments)) {
      return filtered(Term.of(Term.COUNT_ROWS), call);
    }
    return filtered(Term.of(name + (onlyOnce ? " distinct" : ""), arguments), call);
  }

  private static boolean isConstant(List<Term> arguments) {
    return arguments.size() == 1
        && arguments.get(0).operation().startsWith("constant ")
        && !arguments.get(0).operation().contains("NULL");
  }

  private Term filtered(Term aggregate, FunctionCall call) throws NoProof {
    return call.filter() == null
        ? aggregate
        : Term.of("filtered", aggregate, condition(call.filter(), false));
  }
}
