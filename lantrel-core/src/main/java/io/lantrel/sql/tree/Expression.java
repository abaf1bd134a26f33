package io.lantrel.sql.tree;

/** A value or a condition. */
public sealed interface Expression extends Node permits Condition, Value, Call {

  /** Calls the method of the visitor that fits. */
  <R> R accept(Visitor<R> visitor);

  /** The same expression at another place: one in parentheses stands where these stand. */
  Expression at(Span span);

  /** One method for every kind of expression. */
  interface Visitor<R> {
    R comparison(Condition.Comparison comparison);

    R quantified(Condition.Quantified quantified);

    R and(Condition.And and);

    R or(Condition.Or or);

    R not(Condition.Not not);

    R isNull(Condition.IsNull isNull);

    R isTruth(Condition.IsTruth isTruth);

    R isDistinct(Condition.IsDistinct isDistinct);

    R between(Condition.Between between);

    R inList(Condition.InList inList);

    R inQuery(Condition.InQuery inQuery);

    R like(Condition.Like like);

    R exists(Condition.Exists exists);

    R columnName(Value.ColumnName columnName);

    R wholeRow(Value.WholeRow wholeRow);

    R literal(Value.Literal literal);

    R parameter(Value.Parameter parameter);

    R interval(Value.Interval interval);

    R arithmetic(Value.Arithmetic arithmetic);

    R signed(Value.Signed signed);

    R operation(Value.Operation operation);

    R caseOf(Value.Case node);

    R cast(Value.Cast cast);

    R collated(Value.Collated collated);

    R fieldOf(Value.FieldOf fieldOf);

    R subscript(Value.Subscript subscript);

    R rowValue(Value.RowValue rowValue);

    R arrayValue(Value.ArrayValue arrayValue);

    R structValue(Value.StructValue structValue);

    R scalarQuery(Value.ScalarQuery scalarQuery);

    R queryCall(Value.QueryCall queryCall);

    R outerMark(Value.OuterMark outerMark);

    R functionCall(Call.FunctionCall functionCall);

    R wordedCall(Call.WordedCall wordedCall);

    R namedArgument(Call.NamedArgument namedArgument);

    R lambda(Call.Lambda lambda);

    R grouping(Call.Grouping grouping);
  }
}
