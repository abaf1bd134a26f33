package io.lantrel.rewrite.forms;

import io.lantrel.catalog.Catalog;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Query;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * The three ways to say that a row has no partner: NOT IN, NOT EXISTS, and LEFT JOIN … IS NULL.
 * Each goes into the others over NOT EXISTS, which alone needs no care with NULL.
 */
final class Absence {

  private final Reading reading;
  private final QueryBlock block;

  Absence(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits notExists() {
    FormEdits change = new NotInToNotExists(reading, block).change();
    return change.isNone() ? new JoinToExists(reading, block).change() : change;
  }

  FormEdits notIn() {
    FormEdits change = new JoinToExists(reading, block).change();
    return change.isNone() ? new ExistsToList(reading, block).change() : change;
  }

  FormEdits isNull() {
    FormEdits change = new NotInToNotExists(reading, block).change();
    return change.isNone() ? new ExistsToJoin(reading, block).change() : change;
  }

  /** What a block holds of a kind of condition, its subqueries not counted. */
  static <C> Stream<C> conditions(QueryBlock block, Class<C> kind) {
    return Aggregates.withoutQueries(block.select()).filter(kind::isInstance).map(kind::cast);
  }

  /** The block of a subquery that is a plain SELECT … FROM … WHERE. */
  static Optional<QueryBlock> plain(Reading reading, Query query) {
    return reading.block(query).filter(inner -> isWhole(inner) && !inner.isGrouped());
  }

  /** Whether a subquery shows all rows of its FROM, or all groups of them. */
  static boolean isWhole(QueryBlock inner) {
    return inner.select().from() != null
        && inner.query().with().isEmpty()
        && inner.query().limit() == null
        && inner.select().qualify() == null
        && inner.select().distinctOn().isEmpty();
  }

  /**
   * A new alias for the first table use of a subquery that goes by the same name as one outside;
   * empty if each has a name of its own.
   */
  static List<Edit> apart(Reading reading, QueryBlock inner, List<TableUse> outside) {
    Catalog catalog = reading.catalog();
    for (TableUse use : inner.uses()) {
      String key = catalog.tableKey(use.name());
      if (outside.stream().anyMatch(each -> catalog.tableKey(each.name()).equals(key))) {
        String alias = reading.aliases().like("other_" + use.name());
        return new Renaming(reading).edits(inner, use, alias);
      }
    }
    return List.of();
  }
}
