package io.lantrel.claim.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.ResultColumn;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.LongStream;

/** Claims that could be worth making of a query; whether they are so is not known yet. */
final class Candidates {

  /** A recursion is tried with so many levels at most. */
  static final int MOST_LEVELS = 12;

  private final Resolution resolution;
  private final Dialect dialect;

  Candidates(Resolution resolution) {
    this.resolution = resolution;
    this.dialect = resolution.root().dialect();
  }

  private Optional<QueryBlock> block() {
    return resolution.result().block();
  }

  /** That there is one row for each row of a table; the more a table tells, the earlier. */
  List<String> rowsPerTable() {
    return tables().stream().map(use -> "one row per " + name(use)).toList();
  }

  /** The same by columns of the result that no two rows agree in. */
  List<String> rowsPerColumns() {
    List<String> claims = new ArrayList<>();
    for (Set<Integer> key : resolution.result().keys()) {
      List<OutputColumn> columns =
          new TreeSet<>(key).stream().map(resolution.result().outputs()::get).toList();
      if (!columns.isEmpty() && columns.stream().allMatch(this::isNamed)) {
        claims.add("one row per " + names(columns));
      }
    }
    return claims;
  }

  /** That nothing is lost of a table. */
  List<String> everyRow() {
    return tables().stream().map(use -> "every " + name(use) + " appears").toList();
  }

  /** That a column has no NULL, though its table could hold one, or an outer join fill one in. */
  List<OutputColumn> withoutNull() {
    return resolution.result().outputs().stream()
        .filter(this::isNamed)
        .filter(output -> block().isEmpty() || mayBeNull(output, block().get()))
        .toList();
  }

  private static boolean mayBeNull(OutputColumn output, QueryBlock block) {
    Optional<UseColumn> column = block.column(output.value());
    return column.isPresent()
        ? block.isNullable(column.get())
        : !(output.value() instanceof Value.Literal);
  }

  /** That nothing is counted twice or lost in a total. */
  List<String> totals() {
    List<String> claims = new ArrayList<>();
    for (OutputColumn output : resolution.result().outputs()) {
      if (block().isPresent() && isNamed(output)) {
        total(output, block().get()).ifPresent(claims::add);
      }
    }
    return claims;
  }

  private Optional<String> total(OutputColumn output, QueryBlock block) {
    Expression value = output.value();
    if (value instanceof FunctionCall call && call.key().equals("coalesce")) {
      value = call.arguments().get(0);
    }
    if (value instanceof FunctionCall call && call.arguments().size() == 1) {
      Optional<UseColumn> column = block.column(call.arguments().get(0)).filter(this::isOfTable);
      return switch (call.key()) {
        case "sum" -> column.map(each -> total(output, each));
        case "count" ->
            column
                .filter(each -> isKey(each) && isClear(each.use()))
                .map(each -> "total of " + written(output) + " is number of " + name(each.use()));
        default -> Optional.empty();
      };
    }
    return block
        .column(value)
        .filter(column -> !block.isGrouped() && isOfTable(column) && isMeasure(column))
        .map(column -> total(output, column));
  }

  private String total(OutputColumn output, UseColumn column) {
    return "total of "
        + written(output)
        + " is total of "
        + name(column.use())
        + "."
        + dialect.write(column.tableColumn());
  }

  private boolean isOfTable(UseColumn column) {
    return column.use().table().isPresent();
  }

  private static boolean isKey(UseColumn column) {
    return column.use().keys().stream().anyMatch(key -> key.columns().contains(column.name()));
  }

  /** A number that is neither a key nor a reference. */
  private boolean isMeasure(UseColumn column) {
    TypeFamily family = column.type().family();
    boolean number =
        family == TypeFamily.INTEGER || family == TypeFamily.DECIMAL || family == TypeFamily.FLOAT;
    Catalog catalog = resolution.root().catalog();
    return number
        && !isKey(column)
        && catalog.references().stream()
            .noneMatch(
                each ->
                    column.use().table().filter(each.from()::equals).isPresent()
                        && each.fromColumns().contains(column.tableColumn()));
  }

  /** What ORDER BY and LIMIT see to. */
  List<String> orderAndCount() {
    List<String> claims = new ArrayList<>(List.of("1 row"));
    if (resolution.result().query().limit() != null
        && resolution.result().query().limit().count() instanceof Value.Literal count
        && count.text().matches("[0-9]{1,9}")) {
      claims.add("at most " + count.text() + " rows");
    }
    List<String> order = new ArrayList<>();
    for (OrderItem item : resolution.result().query().orderBy()) {
      Optional<OutputColumn> output = shown(item.value());
      if (output.isEmpty()) {
        break;
      }
      order.add(written(output.get()) + (item.descending() ? " desc" : ""));
    }
    if (!order.isEmpty()) {
      claims.add("order by " + String.join(", ", order));
    }
    return claims;
  }

  private Optional<OutputColumn> shown(Expression value) {
    return block().stream()
        .flatMap(block -> block.outputsOf(value).stream())
        .filter(this::isNamed)
        .findFirst();
  }

  /**
   * How deep a recursion goes.
   *
   * @param depth how many levels it has here; if that is not known, all numbers that can be proven,
   *     the fewest first
   */
  List<String> levels(OptionalLong depth) {
    if (resolution.blocks().stream().noneMatch(QueryBlock::isRecursive)) {
      return List.of();
    }
    long least = Math.max(1, depth.orElse(1));
    return LongStream.rangeClosed(least, depth.isPresent() ? least : MOST_LEVELS)
        .filter(levels -> levels <= MOST_LEVELS)
        .mapToObj(levels -> "levels at most " + levels)
        .toList();
  }

  // ---- names ----

  private List<TableUse> tables() {
    return block().stream()
        .flatMap(block -> block.uses().stream())
        .filter(use -> use.table().isPresent())
        .toList();
  }

  private boolean isClear(TableUse use) {
    return tables().stream().filter(use::isOfTable).count() == 1;
  }

  /** The table by its own name if it is used once, else by its alias. */
  private String name(TableUse use) {
    boolean hidden =
        resolution.result().outputs().stream()
            .anyMatch(
                output ->
                    dialect
                        .key(output.name())
                        .equals(dialect.key(use.table().map(Table::name).orElse(""))));
    return isClear(use) && !hidden
        ? use.table().map(table -> dialect.write(table.name())).orElseThrow()
        : use.written();
  }

  private boolean isNamed(OutputColumn output) {
    long same =
        resolution.result().outputs().stream()
            .filter(each -> dialect.key(each.name()).equals(dialect.key(output.name())))
            .count();
    return same == 1 && ResultColumn.isGiven(output.name());
  }

  String written(OutputColumn output) {
    return dialect.write(output.name());
  }

  String names(List<OutputColumn> outputs) {
    return outputs.stream().map(this::written).collect(Collectors.joining(", "));
  }
}
