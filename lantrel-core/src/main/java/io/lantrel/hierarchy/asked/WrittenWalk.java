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

/**
 * The queries that walk a hierarchy: a recursive one with a stop for circles (ISO/IEC 9075-2,
 * 7.17), and a chain of joins for so many levels.
 */
public final class WrittenWalk {

  private final Dialect dialect;
  private final Table table;
  private final String key;
  private final String above;
  private final List<String> shown = new ArrayList<>();

  private WrittenWalk(Catalog catalog, Reference reference) {
    this.dialect = catalog.dialect();
    this.table = reference.from();
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
    WrittenWalk walk = new WrittenWalk(catalog, HierarchyMaker.reference(catalog, wish));
    return wish.levels() == 0 ? walk.recursive() : walk.chain(wish.levels());
  }

  private String column(String alias, String name) {
    return alias + "." + dialect.write(name);
  }

  private String from(String alias) {
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
        "  WHERE " + column("t", above) + " IS NULL",
        "  UNION ALL",
        "  SELECT "
            + own
            + ", walk.walk_level + 1, walk.walk_root, "
            + path.longer("walk.walk_path", column("t", key)),
        "  FROM walk",
        "  JOIN " + from("t") + " ON " + column("t", above) + " = " + column("walk", key),
        "  WHERE " + path.isNotOn("walk.walk_path", column("t", key)),
        ")",
        "SELECT " + all + ", w.walk_level, w.walk_root, w.walk_path,",
        "  CASE WHEN EXISTS (SELECT 1 FROM "
            + from("c")
            + " WHERE "
            + column("c", above)
            + " = "
            + column("w", key)
            + ") THEN 0 ELSE 1 END AS is_leaf",
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
      joins.add(
          level == 1
              ? "FROM " + from(alias)
              : "LEFT JOIN "
                  + from(alias)
                  + " ON "
                  + column(alias, above)
                  + " = "
                  + column("l" + (level - 1), key));
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
        + column("l1", above)
        + " IS NULL\nORDER BY "
        + String.join(", ", order);
  }
}
