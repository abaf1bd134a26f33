package io.lantrel.edit;

import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import java.util.Optional;
import java.util.stream.Collectors;

/** The {@code *} of a SELECT list. */
public final class Stars {

  private Stars() {}

  /** The first one that stands for all tables; empty if none does. */
  public static Optional<SelectItem.AllColumns> ofAllTables(QueryBody.Select select) {
    return select.items().stream()
        .filter(SelectItem.AllColumns.class::isInstance)
        .map(SelectItem.AllColumns.class::cast)
        .filter(all -> all.qualifier().isEmpty())
        .findFirst();
  }

  /** The same, if the list has other columns besides. */
  public static Optional<SelectItem.AllColumns> besideOthers(QueryBody.Select select) {
    return select.items().size() < 2 ? Optional.empty() : ofAllTables(select);
  }

  /**
   * One of each table in the place of one of all: the same columns in the same order. Empty if
   * there is none of all, if a table has no name, or if a join makes one column of two.
   */
  public static Optional<Edit> tableByTable(QueryBlock block) {
    boolean separate =
        block.uses().stream().allMatch(TableUse::isNamed)
            && block.steps().stream().noneMatch(JoinStep::mergesColumns);
    return ofAllTables(block.select())
        .filter(all -> separate && all.excluded().isEmpty() && all.replaced().isEmpty())
        .map(all -> new Edit(all.span(), each(block)));
  }

  private static String each(QueryBlock block) {
    return block.uses().stream().map(use -> use.written() + ".*").collect(Collectors.joining(", "));
  }
}
