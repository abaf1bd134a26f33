package io.lantrel.hierarchy.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.edit.PathText;
import io.lantrel.hierarchy.HierarchyException;
import io.lantrel.hierarchy.HierarchyWish;
import io.lantrel.sql.Dialect;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The queries that walk a hierarchy: a recursive one with a stop for circles (ISO/IEC 9075-2,
 * 7.17), and a chain of joins for so many levels.
 */
public final class WrittenWalk {

  private final Dialect dialect;
  private final Table table;
  private final String key;
  private final String above;
  private final Optional<JunctionEnds> junction;
  private final List<String> shown = new ArrayList<>();

  /**
   * @param reference by which the row above is named
   * @param junction both references, if a junction has it
   */
  private WrittenWalk(Catalog catalog, Reference reference, Optional<JunctionEnds> junction) {
    this.dialect = catalog.dialect();
    this.junction = junction;
    this.table = reference.to();
    if (reference.toColumns().size() > 1) {
      throw new HierarchyException(
          "the key of "
              + table.name()
              + " has several columns; such a walk is shown, but not written yet");
    }
    this.key = reference.toColumns().get(0);
    this.above = reference.fromColumns().get(0);
    table.identifyingColumns().stream()
        .map(Column::name)
        .filter(name -> !name.equals(key))
        .forEach(shown::add);
  }

  /**
   * The query.
   *
   * @throws HierarchyException if there is no such hierarchy, or its key has several columns
   */
  public static String of(Catalog catalog, HierarchyWish wish) {
    Optional<JunctionEnds> junction =
        wish.over().isEmpty() ? Optional.empty() : Optional.of(JunctionEnds.of(catalog, wish));
    Reference reference =
        junction.map(JunctionEnds::above).orElseGet(() -> HierarchyMaker.reference(catalog, wish));
    WrittenWalk walk = new WrittenWalk(catalog, reference, junction);
    return wish.levels() == 0 ? walk.recursive() : walk.chain(wish.levels());
  }

  private String column(String alias, String name) {
    return alias + "." + dialect.write(name);
  }

  private String from(String alias) {
    return from(table, alias);
  }

  private String from(Table table, String alias) {
    String schema = table.schema().isEmpty() ? "" : dialect.write(table.schema()) + ".";
    return schema + dialect.write(table.name()) + " " + alias;
  }

  private String recursive() {
    PathText path = new PathText(dialect);
    List<String> columns = new ArrayList<>(List.of(key));
    columns.addAll(shown);
    String names = String.join(", ", columns.stream().map(dialect::write).toList());
    String own = String.join(", ", columns.stream().map(name -> column("t", name)).toList());
    String all = String.join(", ", columns.stream().map(name -> column("w", name)).toList());
    return String.join(
        "\n",
        "WITH RECURSIVE walk (" + names + ", walk_level, walk_root, walk_path) AS (",
        "  SELECT " + own + ", 1, " + column("t", key) + ", " + path.first(column("t", key)),
        "  FROM " + from("t"),
        "  WHERE " + isRoot("t"),
        "  UNION ALL",
        "  SELECT "
            + own
            + ", walk.walk_level + 1, walk.walk_root, "
            + path.longer("walk.walk_path", column("t", key)),
        "  FROM walk",
        "  " + join("JOIN", "walk", "t"),
        "  WHERE " + path.isNotOn("walk.walk_path", column("t", key)),
        ")",
        "SELECT " + all + ", w.walk_level, w.walk_root, w.walk_path,",
        "  CASE WHEN EXISTS (" + below("w") + ") THEN 0 ELSE 1 END AS is_leaf",
        "FROM walk w",
        "ORDER BY w.walk_path");
  }

  private String chain(int levels) {
    String name = shown.isEmpty() ? key : shown.get(0);
    List<String> items = new ArrayList<>();
    List<String> joins = new ArrayList<>();
    for (int level = 1; level <= levels; level++) {
      String alias = "l" + level;
      items.add(column(alias, name) + " AS level_" + level);
      joins.add(level == 1 ? "FROM " + from(alias) : join("LEFT JOIN", "l" + (level - 1), alias));
    }
    List<String> order = new ArrayList<>();
    for (int level = 1; level <= levels; level++) {
      order.add(column("l" + level, key));
    }
    return "SELECT "
        + String.join(", ", items)
        + "\n"
        + String.join("\n", joins)
        + "\nWHERE "
        + isRoot("l1")
        + "\nORDER BY "
        + String.join(", ", order);
  }

  /** That a row is below none; a pair with a row that is not there does not count. */
  private String isRoot(String alias) {
    return junction
        .map(ends -> "NOT EXISTS (" + paired(ends.below(), ends.above(), alias) + ")")
        .orElseGet(() -> column(alias, above) + " IS NULL");
  }

  /** A query for the rows directly below one. */
  private String below(String alias) {
    return junction
        .map(ends -> paired(ends.above(), ends.below(), alias))
        .orElseGet(
            () ->
                "SELECT 1 FROM "
                    + from("c")
                    + " WHERE "
                    + column("c", above)
                    + " = "
                    + column(alias, key));
  }

  /** The rows that a row is paired with, which it names by one reference and they by the other. */
  private String paired(Reference own, Reference other, String alias) {
    return "SELECT 1 FROM "
        + from(own.from(), "p")
        + " JOIN "
        + from("o")
        + " ON "
        + column("o", key)
        + " = "
        + column("p", other.fromColumns().get(0))
        + " WHERE "
        + column("p", own.fromColumns().get(0))
        + " = "
        + column(alias, key);
  }

  /**
   * The rows below one, over pairs that are each taken once if there is a junction.
   *
   * @param upper the alias of the upper row
   * @param lower the alias of the lower one
   */
  private String join(String kind, String upper, String lower) {
    if (junction.isEmpty()) {
      return kind + " " + from(lower) + " ON " + column(lower, above) + " = " + column(upper, key);
    }
    Reference below = junction.get().below();
    String pair = lower + "_pair";
    String lowerEnd = below.fromColumns().get(0);
    return kind
        + " "
        + pairs(below, pair)
        + " ON "
        + column(pair, above)
        + " = "
        + column(upper, key)
        + "\n  "
        + kind
        + " "
        + from(lower)
        + " ON "
        + column(lower, key)
        + " = "
        + column(pair, lowerEnd);
  }

  private String pairs(Reference below, String alias) {
    String lowerEnd = below.fromColumns().get(0);
    boolean once =
        below.from().keys().stream()
            .anyMatch(each -> Set.of(lowerEnd, above).containsAll(each.columns()));
    return once
        ? from(below.from(), alias)
        : "(SELECT DISTINCT "
            + column("d", lowerEnd)
            + ", "
            + column("d", above)
            + " FROM "
            + from(below.from(), "d")
            + " WHERE "
            + column("d", lowerEnd)
            + " IS NOT NULL) "
            + alias;
  }
}
