package io.lantrel.trace.asked;

import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlPrinter;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Conditions as they are written, and the columns that they name. */
final class Written {

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
