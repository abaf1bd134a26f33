package io.lantrel.trace.asked;

import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Conditions as they are written, and the columns that they name. */
final class Written {

  private static final int MOST_SIDES = 8;
  private static final int FIRST_SIDES = 3;

  private Written() {}

  static String conditions(List<Conjunct> conditions, Dialect dialect) {
    return conditions.stream()
        .map(each -> condition(each, dialect))
        .collect(Collectors.joining(" AND "));
  }

  /** USING and NATURAL have columns only. */
  static String condition(Conjunct condition, Dialect dialect) {
    boolean named = condition.origin() == Origin.USING || condition.origin() == Origin.NATURAL;
    return condition
        .equality()
        .filter(each -> named)
        .map(each -> each.left().words() + " = " + each.right().words())
        .orElseGet(() -> SqlPrinter.print(condition.condition(), dialect));
  }

  /** A condition of many sides by its first ones, and how many more there are. */
  static String briefly(Expression condition, Dialect dialect) {
    List<Expression> sides =
        condition instanceof Condition.Or or
            ? or.terms()
            : condition instanceof Condition.And and ? and.terms() : List.of();
    if (sides.size() <= MOST_SIDES) {
      return SqlPrinter.print(condition, dialect);
    }
    List<Expression> first = sides.subList(0, FIRST_SIDES);
    boolean or = condition instanceof Condition.Or;
    return SqlPrinter.print(
            or
                ? new Condition.Or(condition.span(), first)
                : new Condition.And(condition.span(), first),
            dialect)
        + (or ? " OR … (" : " AND … (")
        + Words.number(sides.size() - FIRST_SIDES)
        + " more)";
  }

  /** The columns of a block that a condition names, by USING or NATURAL too. */
  static Stream<UseColumn> columns(Conjunct condition, QueryBlock block) {
    return Stream.concat(
            condition.equality().stream().flatMap(each -> Stream.of(each.left(), each.right())),
            block.columnsIn(condition.condition()).stream())
        .distinct();
  }

  /** Those of these table uses, of several conditions. */
  static List<UseColumn> columns(List<Conjunct> conditions, QueryBlock block, List<TableUse> uses) {
    return conditions.stream()
        .flatMap(each -> columns(each, block))
        .filter(column -> uses.contains(column.use()))
        .distinct()
        .toList();
  }
}
