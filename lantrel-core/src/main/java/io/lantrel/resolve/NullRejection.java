package io.lantrel.resolve;

import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * Whether a condition can be true although some columns are NULL. Each expression is given the set
 * of truth values that it may take (ISO/IEC 9075-2, 8, three-valued logic); a value that is no
 * condition counts as unknown where it is NULL and as either truth value where it is not. The sets
 * are never too small: in doubt a condition may be anything, and then it rejects nothing.
 *
 * <p>After C. Galindo-Legaria, A. Rosenthal: Outerjoin Simplification and Reordering for Query
 * Optimization, 1997, section 2, strong predicates.
 */
public final class NullRejection implements Expression.Visitor<Set<NullRejection.Truth3>> {

  /** The truth values of SQL. */
  enum Truth3 {
    TRUE,
    FALSE,
    UNKNOWN
  }

  private static final Set<Truth3> ANY = EnumSet.allOf(Truth3.class);
  private static final Set<Truth3> NULL = EnumSet.of(Truth3.UNKNOWN);
  private static final Set<Truth3> NOT_NULL = EnumSet.of(Truth3.TRUE, Truth3.FALSE);
  private static final Set<Truth3> NOT_TRUE = EnumSet.of(Truth3.FALSE, Truth3.UNKNOWN);

  private final Predicate<ColumnName> isNull;
  private final Predicate<ColumnName> isNeverNull;

  private final QueryBlock block;

  private NullRejection(
      QueryBlock block, Predicate<ColumnName> isNull, Predicate<ColumnName> isNeverNull) {
    this.block = block;
    this.isNull = isNull;
    this.isNeverNull = isNeverNull;
  }

  /** Whether a condition is never true for rows in which all columns of the table uses are NULL. */
  public static boolean rejects(Expression condition, QueryBlock block, Set<TableUse> filled) {
    Predicate<ColumnName> isNull =
        name ->
            block.binding(name) instanceof Binding.ToColumn bound
                && filled.contains(bound.column().use());
    return neverTrue(condition, block, isNull);
  }

  /** Whether a condition is never true for rows in which this column is NULL. */
  public static boolean rejects(Expression condition, QueryBlock block, UseColumn column) {
    Predicate<ColumnName> isNull =
        name ->
            block.binding(name) instanceof Binding.ToColumn bound && bound.column().equals(column);
    return neverTrue(condition, block, isNull);
  }

  /** Whether a value is NULL in every row in which this column is. */
  public static boolean isNullWith(Expression value, QueryBlock block, UseColumn column) {
    Predicate<ColumnName> isNull =
        name ->
            block.binding(name) instanceof Binding.ToColumn bound && bound.column().equals(column);
    return value.accept(new NullRejection(block, isNull, name -> false)).equals(NULL);
  }

  private static boolean neverTrue(
      Expression condition, QueryBlock block, Predicate<ColumnName> isNull) {
    Predicate<ColumnName> isNeverNull =
        name ->
            block.binding(name) instanceof Binding.ToColumn bound
                && block.isOwn(bound.column())
                && !block.isNullable(bound.column());
    NullRejection values = new NullRejection(block, isNull, isNeverNull);
    return !condition.accept(values).contains(Truth3.TRUE);
  }

  /** Whether a value can be NULL in the rows of the result. */
  static boolean canBeNull(Expression value, QueryBlock block) {
    // Subtotals have NULL in the place of what they do not group by.
    boolean subtotals = block.grouping().stream().anyMatch(Call.Grouping.class::isInstance);
    Predicate<ColumnName> isNeverNull =
        name ->
            !subtotals
                && block.binding(name) instanceof Binding.ToColumn bound
                && block.isOwn(bound.column())
                && block.isNeverNull(bound.column());
    NullRejection values = new NullRejection(block, name -> false, isNeverNull);
    return value.accept(values).contains(Truth3.UNKNOWN);
  }

  private Set<Truth3> of(Expression expression) {
    return expression.accept(this);
  }

  /** NULL if one of the values is; NULL possible if it is for one of them. */
  private Set<Truth3> strict(@Nullable Expression... values) {
    boolean mayBeNull = false;
    for (Expression value : values) {
      if (value != null) {
        Set<Truth3> set = of(value);
        if (set.equals(NULL)) {
          return NULL;
        }
        mayBeNull |= set.contains(Truth3.UNKNOWN);
      }
    }
    return mayBeNull ? ANY : NOT_NULL;
  }

  private static Set<Truth3> negated(Set<Truth3> set) {
    return map(
        set,
        truth ->
            switch (truth) {
              case TRUE -> Truth3.FALSE;
              case FALSE -> Truth3.TRUE;
              case UNKNOWN -> Truth3.UNKNOWN;
            });
  }

  private static Set<Truth3> map(Set<Truth3> set, Function<Truth3, Truth3> change) {
    EnumSet<Truth3> mapped = EnumSet.noneOf(Truth3.class);
    set.forEach(truth -> mapped.add(change.apply(truth)));
    return mapped;
  }

  /** All that AND (the weaker wins) or OR (the stronger wins) can make of the terms. */
  private Set<Truth3> connected(List<Expression> terms, boolean and) {
    Set<Truth3> result = EnumSet.of(and ? Truth3.TRUE : Truth3.FALSE);
    for (Expression term : terms) {
      EnumSet<Truth3> next = EnumSet.noneOf(Truth3.class);
      for (Truth3 one : result) {
        for (Truth3 other : of(term)) {
          next.add(and ? weaker(one, other) : stronger(one, other));
        }
      }
      result = next;
    }
    return result;
  }

  private static Truth3 weaker(Truth3 one, Truth3 other) {
    if (one == Truth3.FALSE || other == Truth3.FALSE) {
      return Truth3.FALSE;
    }
    return one == Truth3.UNKNOWN ? one : other;
  }

  private static Truth3 stronger(Truth3 one, Truth3 other) {
    if (one == Truth3.TRUE || other == Truth3.TRUE) {
      return Truth3.TRUE;
    }
    return one == Truth3.UNKNOWN ? one : other;
  }

  @Override
  public Set<Truth3> columnName(ColumnName column) {
    return isNull.test(column) ? NULL : isNeverNull.test(column) ? NOT_NULL : ANY;
  }

  @Override
  public Set<Truth3> literal(Value.Literal literal) {
    return switch (literal.kind()) {
      case NULL -> NULL;
      case TRUTH ->
          EnumSet.of(literal.text().equalsIgnoreCase("TRUE") ? Truth3.TRUE : Truth3.FALSE);
      default -> NOT_NULL;
    };
  }

  @Override
  public Set<Truth3> arithmetic(Value.Arithmetic a) {
    Set<Truth3> both = strict(a.left(), a.right());
    return switch (a.operator()) {
      case PLUS, MINUS, TIMES -> both;
      // Division by zero is NULL in some engines, and so is a root of a negative number.
      case DIVIDED, MODULO, WHOLE, DIV, MOD, POWER, CONCAT ->
          both.equals(NOT_NULL) ? orConcat(a) : both;
    };
  }

  private static Set<Truth3> orConcat(Value.Arithmetic a) {
    return a.operator() == Value.ArithmeticOperator.CONCAT ? NOT_NULL : ANY;
  }

  @Override
  public Set<Truth3> signed(Value.Signed signed) {
    return strict(signed.value());
  }

  @Override
  public Set<Truth3> operation(Value.Operation operation) {
    // What a strange sign makes of NULL, only its engine knows.
    return operation.sign().equals("XOR") && operation.left() != null && operation.right() != null
        ? strict(operation.left(), operation.right())
        : ANY;
  }

  @Override
  public Set<Truth3> comparison(Condition.Comparison c) {
    if (c.left() instanceof Value.RowValue || c.right() instanceof Value.RowValue) {
      // (1, NULL) = (2, 3) is false, and (1, NULL) < (2, 3) is true (8.2).
      boolean hasNull = holdsNull(c.left()) || holdsNull(c.right());
      return hasNull && c.operator() == Condition.ComparisonOperator.EQUAL ? NOT_TRUE : ANY;
    }
    return strict(c.left(), c.right());
  }

  private boolean holdsNull(Expression value) {
    return value instanceof Value.RowValue row
        ? row.values().stream().anyMatch(each -> of(each).equals(NULL))
        : of(value).equals(NULL);
  }

  @Override
  public Set<Truth3> quantified(Condition.Quantified q) {
    // Over no values ANY is false and ALL is true, even for NULL (8.9).
    return !q.all() && of(q.value()).equals(NULL) ? NOT_TRUE : ANY;
  }

  @Override
  public Set<Truth3> and(Condition.And and) {
    return connected(and.terms(), true);
  }

  @Override
  public Set<Truth3> or(Condition.Or or) {
    return connected(or.terms(), false);
  }

  @Override
  public Set<Truth3> not(Condition.Not not) {
    return negated(of(not.value()));
  }

  @Override
  public Set<Truth3> isNull(Condition.IsNull test) {
    Set<Truth3> value = of(test.value());
    Set<Truth3> result =
        test.value() instanceof Value.RowValue
            ? NOT_NULL
            : value.equals(NULL)
                ? EnumSet.of(Truth3.TRUE)
                : value.contains(Truth3.UNKNOWN) ? NOT_NULL : EnumSet.of(Truth3.FALSE);
    return test.negated() ? negated(result) : result;
  }

  @Override
  public Set<Truth3> isTruth(Condition.IsTruth test) {
    Truth3 wanted = Truth3.valueOf(test.truth().name());
    Set<Truth3> result =
        map(of(test.value()), truth -> truth == wanted ? Truth3.TRUE : Truth3.FALSE);
    return test.negated() ? negated(result) : result;
  }

  @Override
  public Set<Truth3> isDistinct(Condition.IsDistinct d) {
    Set<Truth3> left = of(d.left());
    Set<Truth3> right = of(d.right());
    boolean bothNull = left.equals(NULL) && right.equals(NULL);
    boolean oneNull =
        (left.equals(NULL) && !right.contains(Truth3.UNKNOWN))
            || (right.equals(NULL) && !left.contains(Truth3.UNKNOWN));
    Set<Truth3> result =
        bothNull ? EnumSet.of(Truth3.FALSE) : oneNull ? EnumSet.of(Truth3.TRUE) : NOT_NULL;
    return d.negated() ? negated(result) : result;
  }

  @Override
  public Set<Truth3> between(Condition.Between b) {
    // One NULL bound leaves FALSE possible, so only a NULL value decides.
    Set<Truth3> result =
        of(b.value()).equals(NULL)
            ? NULL
            : boundsReject(b) ? EnumSet.of(Truth3.FALSE, Truth3.UNKNOWN) : ANY;
    return b.negated() ? negated(result) : result;
  }

  private boolean boundsReject(Condition.Between b) {
    return of(b.low()).equals(NULL) || of(b.high()).equals(NULL);
  }

  @Override
  public Set<Truth3> inList(Condition.InList in) {
    // Over an empty list, which SQLite takes, IN is false even for NULL.
    Set<Truth3> result = in.list().isEmpty() ? NOT_NULL : of(in.value()).equals(NULL) ? NULL : ANY;
    return in.negated() ? negated(result) : result;
  }

  @Override
  public Set<Truth3> inQuery(Condition.InQuery in) {
    // Over no rows IN is false even for NULL (8.4).
    Set<Truth3> result = of(in.value()).equals(NULL) ? NOT_TRUE : ANY;
    return in.negated() ? negated(result) : result;
  }

  @Override
  public Set<Truth3> like(Condition.Like like) {
    return strict(like.value(), like.pattern(), like.escape());
  }

  @Override
  public Set<Truth3> exists(Condition.Exists exists) {
    return NOT_NULL;
  }

  @Override
  public Set<Truth3> outerMark(Value.OuterMark mark) {
    return columnName(mark.column());
  }

  @Override
  public Set<Truth3> wholeRow(Value.WholeRow row) {
    return ANY;
  }

  @Override
  public Set<Truth3> parameter(Value.Parameter parameter) {
    return ANY;
  }

  @Override
  public Set<Truth3> interval(Value.Interval interval) {
    return strict(interval.value());
  }

  @Override
  public Set<Truth3> collated(Value.Collated collated) {
    return strict(collated.value());
  }

  @Override
  public Set<Truth3> fieldOf(Value.FieldOf field) {
    return ANY;
  }

  @Override
  public Set<Truth3> subscript(Value.Subscript subscript) {
    return ANY;
  }

  @Override
  public Set<Truth3> rowValue(Value.RowValue row) {
    return ANY;
  }

  @Override
  public Set<Truth3> arrayValue(Value.ArrayValue array) {
    return NOT_NULL;
  }

  @Override
  public Set<Truth3> structValue(Value.StructValue struct) {
    return NOT_NULL;
  }

  @Override
  public Set<Truth3> scalarQuery(Value.ScalarQuery scalar) {
    return ANY;
  }

  @Override
  public Set<Truth3> queryCall(Value.QueryCall call) {
    return ANY;
  }

  /** Any branch may be the one (6.12). */
  @Override
  public Set<Truth3> caseOf(Value.Case node) {
    EnumSet<Truth3> any = EnumSet.noneOf(Truth3.class);
    node.whens().forEach(when -> any.addAll(of(when.then())));
    any.addAll(node.otherwise() == null ? NULL : of(node.otherwise()));
    return any;
  }

  @Override
  public Set<Truth3> cast(Value.Cast cast) {
    Set<Truth3> value = strict(cast.value());
    boolean mayFail = cast.trying() || block.dialect().has(Rule.WRONG_CASTS_ARE_NULL);
    return value.equals(NOT_NULL) && mayFail ? ANY : value;
  }

  @Override
  public Set<Truth3> wordedCall(Call.WordedCall call) {
    return call.values().stream().anyMatch(value -> of(value).equals(NULL))
            && Functions.isNullOnNull(call.key())
        ? NULL
        : ANY;
  }

  @Override
  public Set<Truth3> functionCall(Call.FunctionCall call) {
    List<Expression> arguments = call.arguments();
    if (call.key().equals("coalesce") && !arguments.isEmpty()) {
      boolean allNull = arguments.stream().allMatch(each -> of(each).equals(NULL));
      boolean oneNot = arguments.stream().anyMatch(each -> !of(each).contains(Truth3.UNKNOWN));
      return allNull ? NULL : oneNot ? NOT_NULL : ANY;
    }
    if (call.key().equals("count") || call.key().equals("row_number")) {
      return NOT_NULL;
    }
    if (Aggregates.isOne(call)) {
      return isOverRows(call) && !of(arguments.get(0)).contains(Truth3.UNKNOWN) ? NOT_NULL : ANY;
    }
    if (call.over() != null || !Functions.isNullOnNull(call.key())) {
      return ANY;
    }
    Set<Truth3> all = strict(arguments.toArray(Expression[]::new));
    return all.equals(NOT_NULL) && !Functions.isStrict(call.key()) ? ANY : all;
  }

  /** A group has a row at least, so over values that are never NULL there is one. */
  private boolean isOverRows(Call.FunctionCall call) {
    return Set.of("sum", "min", "max", "avg").contains(call.key())
        && call.arguments().size() == 1
        && call.filter() == null
        && !block.select().groupBy().isEmpty()
        && block.grouping().stream().noneMatch(Call.Grouping.class::isInstance);
  }

  @Override
  public Set<Truth3> namedArgument(Call.NamedArgument argument) {
    return of(argument.value());
  }

  @Override
  public Set<Truth3> lambda(Call.Lambda lambda) {
    return NOT_NULL;
  }

  @Override
  public Set<Truth3> grouping(Call.Grouping grouping) {
    return ANY;
  }
}
