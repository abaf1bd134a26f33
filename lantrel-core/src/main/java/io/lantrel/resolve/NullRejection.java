package io.lantrel.resolve;

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

  /** Functions that give NULL as soon as one argument is NULL. */
  private static final Set<String> STRICT =
      Set.of(
          "abs",
          "ceil",
          "ceiling",
          "floor",
          "round",
          "sqrt",
          "power",
          "mod",
          "sign",
          "exp",
          "ln",
          "lower",
          "upper",
          "trim",
          "ltrim",
          "rtrim",
          "length",
          "char_length",
          "character_length",
          "substring",
          "substr",
          "replace",
          "left",
          "right",
          "lpad",
          "rpad",
          "reverse",
          "year",
          "month",
          "day",
          "hour",
          "minute",
          "date_trunc",
          "date_part",
          "starts_with");

  private final Predicate<ColumnName> isNull;
  private final Predicate<ColumnName> isNeverNull;

  private NullRejection(Predicate<ColumnName> isNull, Predicate<ColumnName> isNeverNull) {
    this.isNull = isNull;
    this.isNeverNull = isNeverNull;
  }

  /** Whether a condition is never true for rows in which all columns of the table uses are NULL. */
  public static boolean rejects(Expression condition, QueryBlock block, Set<TableUse> filled) {
    Predicate<ColumnName> isNull =
        name ->
            block.binding(name) instanceof Binding.ToColumn bound
                && filled.contains(bound.column().use());
    Predicate<ColumnName> isNeverNull =
        name ->
            block.binding(name) instanceof Binding.ToColumn bound
                && !block.isNullable(bound.column());
    return !condition.accept(new NullRejection(isNull, isNeverNull)).contains(Truth3.TRUE);
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
  public Set<Truth3> literal(Literal literal) {
    return switch (literal.kind()) {
      case NULL -> NULL;
      case TRUTH ->
          EnumSet.of(literal.text().equalsIgnoreCase("TRUE") ? Truth3.TRUE : Truth3.FALSE);
      default -> NOT_NULL;
    };
  }

  @Override
  public Set<Truth3> arithmetic(Arithmetic a) {
    // Division by zero is NULL in some engines.
    return strict(a.left(), a.right()).equals(NULL) ? NULL : ANY;
  }

  @Override
  public Set<Truth3> signed(Signed signed) {
    return strict(signed.value());
  }

  @Override
  public Set<Truth3> comparison(Comparison c) {
    return strict(c.left(), c.right());
  }

  @Override
  public Set<Truth3> and(And and) {
    return connected(and.terms(), true);
  }

  @Override
  public Set<Truth3> or(Or or) {
    return connected(or.terms(), false);
  }

  @Override
  public Set<Truth3> not(Not not) {
    return negated(of(not.value()));
  }

  @Override
  public Set<Truth3> isNull(IsNull test) {
    Set<Truth3> value = of(test.value());
    Set<Truth3> result =
        value.equals(NULL)
            ? EnumSet.of(Truth3.TRUE)
            : value.contains(Truth3.UNKNOWN) ? NOT_NULL : EnumSet.of(Truth3.FALSE);
    return test.negated() ? negated(result) : result;
  }

  @Override
  public Set<Truth3> isTruth(IsTruth test) {
    Truth3 wanted = Truth3.valueOf(test.truth().name());
    Set<Truth3> result =
        map(of(test.value()), truth -> truth == wanted ? Truth3.TRUE : Truth3.FALSE);
    return test.negated() ? negated(result) : result;
  }

  @Override
  public Set<Truth3> isDistinct(IsDistinct d) {
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
  public Set<Truth3> between(Between b) {
    // One NULL bound leaves FALSE possible, so only a NULL value decides.
    Set<Truth3> result =
        of(b.value()).equals(NULL)
            ? NULL
            : boundsReject(b) ? EnumSet.of(Truth3.FALSE, Truth3.UNKNOWN) : ANY;
    return b.negated() ? negated(result) : result;
  }

  private boolean boundsReject(Between b) {
    return of(b.low()).equals(NULL) || of(b.high()).equals(NULL);
  }

  @Override
  public Set<Truth3> inList(InList in) {
    Set<Truth3> result = of(in.value()).equals(NULL) ? NULL : ANY;
    return in.negated() ? negated(result) : result;
  }

  @Override
  public Set<Truth3> inQuery(InQuery in) {
    // Over no rows IN is false even for NULL (ISO/IEC 9075-2, 8.4).
    Set<Truth3> result =
        of(in.value()).equals(NULL) ? EnumSet.of(Truth3.FALSE, Truth3.UNKNOWN) : ANY;
    return in.negated() ? negated(result) : result;
  }

  @Override
  public Set<Truth3> like(Like like) {
    return strict(like.value(), like.pattern(), like.escape());
  }

  @Override
  public Set<Truth3> exists(Exists exists) {
    return NOT_NULL;
  }

  @Override
  public Set<Truth3> scalarQuery(ScalarQuery scalar) {
    return ANY;
  }

  @Override
  public Set<Truth3> caseOf(Case node) {
    return ANY;
  }

  @Override
  public Set<Truth3> cast(Cast cast) {
    return strict(cast.value());
  }

  @Override
  public Set<Truth3> extract(Extract extract) {
    return strict(extract.value());
  }

  @Override
  public Set<Truth3> functionCall(FunctionCall call) {
    List<Expression> arguments = call.arguments();
    if (call.key().equals("coalesce") && !arguments.isEmpty()) {
      boolean allNull = arguments.stream().allMatch(each -> of(each).equals(NULL));
      boolean oneNot = arguments.stream().anyMatch(each -> !of(each).contains(Truth3.UNKNOWN));
      return allNull ? NULL : oneNot ? NOT_NULL : ANY;
    }
    boolean gives =
        STRICT.contains(call.key())
            && arguments.stream().anyMatch(argument -> of(argument).equals(NULL));
    return gives ? NULL : ANY;
  }

  @Override
  public Set<Truth3> rowNumber(RowNumber rowNumber) {
    return NOT_NULL;
  }
}
