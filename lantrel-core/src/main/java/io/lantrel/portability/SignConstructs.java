package io.lantrel.portability;

import static io.lantrel.sql.Dialect.DUCKDB;
import static io.lantrel.sql.Dialect.H2;
import static io.lantrel.sql.Dialect.HSQLDB;
import static io.lantrel.sql.Dialect.MARIADB;
import static io.lantrel.sql.Dialect.POSTGRESQL;
import static io.lantrel.sql.Dialect.SQLITE;
import static io.lantrel.sql.Dialect.TRINO;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Signs, and words between values. */
final class SignConstructs {

  static final List<Construct> ALL =
      List.of(
          Construct.differing(
              "||",
              "puts texts together",
              Construct.having(Rule.BARS_ARE_OR),
              "means OR",
              "CONCAT(…)",
              Arithmetic.class,
              (sum, passage) -> sum.operator() == ArithmeticOperator.CONCAT),
          Construct.differing(
              "||",
              "puts texts together",
              Construct.having(Rule.BARS_ARE_OR),
              "means OR",
              "OR",
              Condition.Or.class,
              (or, passage) ->
                  or.terms().size() > 1
                      && passage.between(or.terms().get(0), or.terms().get(1)).contains("||")),
          Construct.differing(
              "/ between whole numbers",
              "gives a whole number",
              Construct.without(Rule.WHOLE_DIVISION),
              "gives a fraction",
              "a CAST of one of the two, or a whole division",
              Arithmetic.class,
              (quotient, passage) ->
                  quotient.operator() == ArithmeticOperator.DIVIDED
                      && passage.isWhole(quotient.left())
                      && passage.isWhole(quotient.right())),
          Construct.differing(
              "/ between a whole and a decimal number",
              "gives a decimal number",
              Set.of(HSQLDB),
              "gives a whole number",
              "a CAST of the first to DECIMAL",
              Arithmetic.class,
              (quotient, passage) ->
                  quotient.operator() == ArithmeticOperator.DIVIDED
                      && passage.isWhole(quotient.left())
                      && passage.family(quotient.right()) == TypeFamily.DECIMAL),
          Construct.lacking(
              Set.of(HSQLDB),
              "%",
              "MOD(…, …)",
              Arithmetic.class,
              (rest, passage) -> rest.operator() == ArithmeticOperator.MODULO),
          Construct.only(
              Set.of(MARIADB),
              "MOD between two values",
              "MOD(…, …)",
              Arithmetic.class,
              (rest, passage) -> rest.operator() == ArithmeticOperator.MOD),
          Construct.only(
              Construct.having(Rule.WHOLE_SLASH),
              "//",
              "FLOOR(… / …)",
              Arithmetic.class,
              (quotient, passage) -> quotient.operator() == ArithmeticOperator.WHOLE),
          Construct.only(
              Set.of(MARIADB),
              "DIV",
              "FLOOR(… / …)",
              Arithmetic.class,
              (quotient, passage) -> quotient.operator() == ArithmeticOperator.DIV),
          Construct.differing(
                  "^",
                  "is a power",
                  Set.of(MARIADB),
                  "compares bits",
                  "POWER(…, …)",
                  Arithmetic.class,
                  (power, passage) ->
                      power.operator() == ArithmeticOperator.POWER
                          && passage.between(power.left(), power.right()).contains("^"))
              .missingIn(Set.of(SQLITE, H2, HSQLDB, TRINO)),
          Construct.only(
              Set.of(DUCKDB),
              "**",
              "POWER(…, …)",
              Arithmetic.class,
              (power, passage) ->
                  power.operator() == ArithmeticOperator.POWER
                      && passage.between(power.left(), power.right()).contains("**")),
          new Construct(
              "a number added to a date",
              Map.of(
                  DUCKDB, "moves it by days",
                  POSTGRESQL, "moves it by days",
                  H2, "moves it by days",
                  MARIADB, "is added to the number that all its digits make",
                  SQLITE, "is added to its year"),
              "an INTERVAL",
              Construct.at(
                  Arithmetic.class,
                  (sum, passage) ->
                      isSum(sum)
                          && passage.family(sum.left()) == TypeFamily.DATE
                          && passage.isWhole(sum.right()))),
          new Construct(
              "one date minus another",
              Map.of(
                  DUCKDB, "gives days",
                  POSTGRESQL, "gives days",
                  HSQLDB, "gives days",
                  MARIADB, "subtracts the numbers that all their digits make",
                  SQLITE, "subtracts the years",
                  H2, "gives an INTERVAL",
                  TRINO, "gives an INTERVAL that has seconds"),
              "the function for that",
              Construct.at(
                  Arithmetic.class,
                  (sum, passage) ->
                      sum.operator() == ArithmeticOperator.MINUS
                          && passage.family(sum.left()) == TypeFamily.DATE
                          && passage.family(sum.right()) == TypeFamily.DATE)),

          // ---- comparisons
          Construct.only(
                  Set.of(DUCKDB, SQLITE),
                  "==",
                  "=",
                  Condition.Comparison.class,
                  (each, passage) -> passage.between(each.left(), each.right()).contains("=="))
              .mendedBy(SignConstructs::single),
          Construct.lacking(
              Set.of(MARIADB),
              "IS DISTINCT FROM",
              "NOT (… <=> …)",
              Condition.IsDistinct.class,
              (each, passage) -> saysDistinct(each, passage)),
          Construct.only(
              Set.of(MARIADB),
              "<=>",
              "IS NOT DISTINCT FROM",
              Condition.IsDistinct.class,
              (each, passage) -> passage.between(each.left(), each.right()).contains("<=>")),
          Construct.only(
              Set.of(SQLITE),
              "IS between two values",
              "IS NOT DISTINCT FROM",
              Condition.IsDistinct.class,
              (each, passage) ->
                  !saysDistinct(each, passage)
                      && !passage.between(each.left(), each.right()).contains("<=>")),
          Construct.lacking(
              Set.of(MARIADB, SQLITE, HSQLDB, TRINO),
              "ILIKE",
              "LOWER(…) LIKE LOWER(…)",
              Condition.Like.class,
              (like, passage) -> like.how() == Condition.Pattern.ILIKE),
          Construct.differing(
              "LIKE",
              "tells capitals from small letters",
              Set.of(MARIADB, SQLITE),
              "takes capitals and small letters for the same",
              "LOWER(…) LIKE LOWER(…) if that is meant",
              Condition.Like.class,
              (like, passage) -> like.how() == Condition.Pattern.LIKE && hasLetters(like, passage)),
          Construct.lacking(
              Set.of(POSTGRESQL, SQLITE, DUCKDB, HSQLDB, TRINO),
              "REGEXP",
              "LIKE, or the function for patterns",
              Condition.Like.class,
              (like, passage) -> like.how() == Condition.Pattern.REGEXP),
          Construct.only(
              Set.of(DUCKDB, SQLITE),
              "GLOB",
              "LIKE",
              Condition.Like.class,
              (like, passage) -> like.how() == Condition.Pattern.GLOB),
          Construct.differing(
                  "SIMILAR TO",
                  "takes the patterns of the SQL standard",
                  Set.of(DUCKDB),
                  "takes regular expressions",
                  "LIKE, or the function for patterns",
                  Condition.Like.class,
                  (like, passage) -> like.how() == Condition.Pattern.SIMILAR)
              .missingIn(Set.of(MARIADB, SQLITE, H2, HSQLDB, TRINO)),
          Construct.only(
              Set.of(POSTGRESQL, H2, HSQLDB),
              "BETWEEN SYMMETRIC",
              "BETWEEN LEAST(…) AND GREATEST(…)",
              Condition.Or.class,
              (or, passage) -> isSymmetric(or, passage)),
          Construct.lacking(
              Set.of(SQLITE),
              "IS UNKNOWN",
              "IS NULL",
              Condition.IsTruth.class,
              (test, passage) -> test.truth() == Condition.Truth.UNKNOWN),
          Construct.lacking(
              Set.of(TRINO),
              "IS TRUE, IS FALSE or IS UNKNOWN",
              "COALESCE(…, FALSE), or IS NULL",
              Condition.IsTruth.class,
              (test, passage) -> true),
          Construct.lacking(
              Set.of(TRINO),
              "comparison of a text with a value of another type",
              "DATE or TIMESTAMP before the text, or a CAST",
              Condition.class,
              (each, passage) -> mixesTexts(each, passage)),
          Construct.lacking(
              Set.of(SQLITE),
              "comparison with ALL or ANY of a query",
              "NOT EXISTS or EXISTS",
              Condition.Quantified.class,
              (each, passage) -> true));

  private SignConstructs() {}

  private static List<Edit> single(Node node, Passage passage) {
    Condition.Comparison each = (Condition.Comparison) node;
    Span gap = Span.between(each.left().span(), each.right().span());
    return List.of(new Edit(gap, passage.between(each.left(), each.right()).replace("==", "=")));
  }

  private static boolean isSum(Arithmetic each) {
    return each.operator() == ArithmeticOperator.PLUS
        || each.operator() == ArithmeticOperator.MINUS;
  }

  /** It has its values twice in the tree. */
  private static boolean isSymmetric(Condition.Or or, Passage passage) {
    return or.terms().get(0) instanceof Condition.Between between
        && between.span().equals(or.span())
        && passage
            .between(between.value(), between.low())
            .toUpperCase(Locale.ROOT)
            .contains("SYMMETRIC");
  }

  private static boolean saysDistinct(Condition.IsDistinct each, Passage passage) {
    return passage.between(each.left(), each.right()).matches("(?is).*DISTINCT.*");
  }

  /** The first of its values against the others. */
  private static boolean mixesTexts(Condition condition, Passage passage) {
    List<TypeFamily> families =
        Condition.compared(condition).stream().map(passage::family).toList();
    return !families.isEmpty()
        && families.get(0) != TypeFamily.OTHER
        && families.stream()
            .filter(each -> each != TypeFamily.OTHER)
            .anyMatch(each -> (each == TypeFamily.TEXT) != (families.get(0) == TypeFamily.TEXT));
  }

  private static boolean hasLetters(Condition.Like like, Passage passage) {
    return !(like.pattern() instanceof Value.Literal)
        || passage.text(like.pattern()).chars().anyMatch(Character::isLetter);
  }
}
