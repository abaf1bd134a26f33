package io.lantrel.hierarchy.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.Database;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.hierarchy.HierarchyException;
import io.lantrel.hierarchy.HierarchyWish;
import io.lantrel.hierarchy.RowsBetween;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Sql;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Expression;
import io.lantrel.survey.walk.HierarchyWalk;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * What lies between two rows of a hierarchy. Both are followed upwards, one level at a time, in one
 * statement; where they meet first is their nearest common row.
 */
public final class BetweenRows {

  private final Dialect dialect;
  private final Reference reference;
  private final Table table;
  private final Column key;
  private final String first;
  private final String second;

  private BetweenRows(Catalog catalog, HierarchyWish wish, String first, String second) {
    if (!wish.over().isEmpty()) {
      throw new HierarchyException(
          "over a junction several ways lead from row to row; what lies between two is told where a"
              + " table refers to itself");
    }
    this.dialect = catalog.dialect();
    this.reference = HierarchyMaker.reference(catalog, wish);
    this.table = reference.to();
    if (reference.toColumns().size() > 1) {
      throw new HierarchyException(
          "the key of "
              + table.name()
              + " has several columns; what lies between two of its rows is not told yet");
    }
    this.key = HierarchyMaker.column(table, reference.toColumns().get(0));
    this.first = first;
    this.second = second;
  }

  /**
   * What lies between two rows.
   *
   * @param first the key of the one
   * @param second the key of the other
   * @throws HierarchyException if there is no such hierarchy or no such row
   */
  public static RowsBetween of(
      Database database, Catalog catalog, HierarchyWish wish, String first, String second) {
    BetweenRows between = new BetweenRows(catalog, wish, first, second);
    return database.inSnapshot(() -> between.followed(new Asker(database)));
  }

  /** A query that tells the same. */
  public static String query(Catalog catalog, HierarchyWish wish, String first, String second) {
    return new BetweenRows(catalog, wish, first, second).text();
  }

  // ---- the rows ----

  private record Step(String key, NamedRow row) {}

  private RowsBetween followed(Asker asker) {
    List<String> columns = new ArrayList<>(List.of(key.name()));
    columns.addAll(table.identifyingColumns().stream().map(Column::name).toList());
    List<Expression> keysOfBoth =
        isOneKey() ? List.of(value(first)) : List.of(value(first), value(second));
    Rows rows = new HierarchyWalk(reference, asker).upwards(keysOfBoth, columns);
    List<Step> ofFirst = chain(rows, columns, 0);
    List<Step> ofSecond = isOneKey() ? ofFirst : chain(rows, columns, 1);
    require(ofFirst, first);
    require(ofSecond, second);
    List<String> keys = ofSecond.stream().map(Step::key).toList();
    // In a circle the first that is met need not be the nearest.
    OptionalInt nearest =
        IntStream.range(0, ofFirst.size())
            .filter(i -> keys.contains(ofFirst.get(i).key()))
            .reduce(
                (i, j) ->
                    j + keys.indexOf(ofFirst.get(j).key()) < i + keys.indexOf(ofFirst.get(i).key())
                        ? j
                        : i);
    if (nearest.isPresent()) {
      Step common = ofFirst.get(nearest.getAsInt());
      return new RowsBetween(
          reference,
          rows(ofFirst.subList(0, nearest.getAsInt() + 1)),
          Optional.of(common.row()),
          downwards(ofSecond.subList(0, keys.indexOf(common.key()))));
    }
    return new RowsBetween(reference, rows(ofFirst), Optional.empty(), downwards(ofSecond));
  }

  private void require(List<Step> chain, String wanted) {
    if (chain.isEmpty()) {
      throw new HierarchyException(
          "no row of " + table.name() + " has the " + key.name() + " " + wanted);
    }
  }

  private static List<NamedRow> rows(List<Step> steps) {
    return steps.stream().map(Step::row).toList();
  }

  private static List<NamedRow> downwards(List<Step> steps) {
    List<NamedRow> rows = new ArrayList<>();
    steps.forEach(step -> rows.add(0, step.row()));
    return rows;
  }

  /** The rows from one upwards; in a circle each once. */
  private List<Step> chain(Rows rows, List<String> columns, int number) {
    List<Step> chain = new ArrayList<>();
    for (int i = 0; i < rows.size(); i++) {
      if (rows.figure(i, 0) != number) {
        continue;
      }
      List<@Nullable Object> row = rows.rows().get(i);
      List<@Nullable String> texts = new ArrayList<>();
      for (int at = 0; at < columns.size(); at++) {
        Column column = HierarchyMaker.column(table, columns.get(at));
        texts.add(ValueText.of(row.get(at + 2), column.type()));
      }
      String of = String.valueOf(texts.get(0));
      if (chain.stream().anyMatch(step -> step.key().equals(of))) {
        return chain;
      }
      chain.add(
          new Step(
              of,
              new NamedRow(
                  table.name(),
                  columns.subList(1, columns.size()),
                  texts.subList(1, texts.size()))));
    }
    return chain;
  }

  private boolean isOneKey() {
    return isNumber() ? number(first).compareTo(number(second)) == 0 : first.equals(second);
  }

  private boolean isNumber() {
    return EnumSet.of(TypeFamily.INTEGER, TypeFamily.DECIMAL, TypeFamily.FLOAT)
        .contains(key.type().family());
  }

  private BigDecimal number(String text) {
    if (!text.matches("[-+]?[0-9]{1,40}(?:\\.[0-9]{1,40})?")) {
      throw new HierarchyException(
          table.name() + "." + key.name() + " is a number, which " + text + " is not");
    }
    return new BigDecimal(text);
  }

  /** A key as it was typed, as a constant: what is no number is none. */
  private Expression value(String text) {
    return isNumber()
        ? Sql.literal(number(text).toPlainString(), key.type().family())
        : Sql.literal(text, TypeFamily.TEXT);
  }

  // ---- the query ----

  private String text() {
    String id = dialect.write(key.name());
    String above = "t." + dialect.write(reference.fromColumns().get(0));
    String from =
        (table.schema().isEmpty() ? "" : dialect.write(table.schema()) + ".")
            + dialect.write(table.name());
    String one = SqlPrinter.print(value(first), dialect);
    String other = SqlPrinter.print(value(second), dialect);
    List<String> shown = new ArrayList<>();
    table.identifyingColumns().forEach(column -> shown.add("r." + dialect.write(column.name())));
    return String.join(
        "\n",
        "WITH RECURSIVE way_up (start_id, row_id, steps) AS (",
        "  SELECT t." + id + ", t." + id + ", 0",
        "  FROM " + from + " t",
        "  WHERE t." + id + " IN (" + one + ", " + other + ")",
        "  UNION ALL",
        "  SELECT way_up.start_id, " + above + ", way_up.steps + 1",
        "  FROM way_up",
        "  JOIN " + from + " t ON t." + id + " = way_up.row_id",
        "  WHERE " + above + " IS NOT NULL AND way_up.steps < " + HierarchyWalk.DEEPEST,
        ")",
        "SELECT "
            + String.join(", ", shown)
            + ", a.steps AS steps_up, b.steps AS steps_down, a.steps + b.steps AS distance",
        "FROM way_up a",
        "JOIN way_up b ON b.row_id = a.row_id",
        "JOIN " + from + " r ON r." + id + " = a.row_id",
        "WHERE a.start_id = " + one + " AND b.start_id = " + other,
        "ORDER BY distance",
        "LIMIT 1");
  }
}
