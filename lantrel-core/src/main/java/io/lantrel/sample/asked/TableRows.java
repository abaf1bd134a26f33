package io.lantrel.sample.asked;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.SelectItem;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** A table as its rows are asked for: all columns, as texts. */
final class TableRows {

  static final String HERE = "here";

  /** Types whose values every engine puts in an order. */
  private static final Set<TypeFamily> ORDERED =
      Set.of(
          TypeFamily.INTEGER,
          TypeFamily.DECIMAL,
          TypeFamily.TEXT,
          TypeFamily.DATE,
          TypeFamily.TIMESTAMP);

  private final Table table;
  private final List<String> key;
  private final Dialect dialect;

  /**
   * @param key what tells its rows apart, declared or observed; null if nothing does
   */
  TableRows(Table table, @Nullable Key key, Dialect dialect) {
    this.table = table;
    this.key = key == null ? List.of() : key.columns();
    this.dialect = dialect;
  }

  Table table() {
    return table;
  }

  /** The columns that tell its rows apart; all columns if nothing less does. */
  List<String> identity() {
    return key.isEmpty() ? table.columns().stream().map(Column::name).toList() : key;
  }

  boolean hasKey() {
    return !key.isEmpty();
  }

  Dialect dialect() {
    return dialect;
  }

  FromItem from() {
    return Sql.table(table, HERE, dialect);
  }

  Expression column(String name) {
    return Sql.column(HERE, name, dialect);
  }

  /** A column by whose least value a row is found again fast: the first of its key, if it can. */
  Optional<Column> leading() {
    return identity().stream().map(this::of).filter(TableRows::isOrdered).findFirst();
  }

  static boolean isOrdered(Column column) {
    return ORDERED.contains(column.type().family());
  }

  Column of(String name) {
    return table.columns().stream()
        .filter(each -> each.name().equals(name))
        .findFirst()
        .orElseThrow();
  }

  /** That columns have these values. */
  Expression equal(List<String> columns, List<String> values) {
    List<Expression> terms = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      terms.add(Sql.equal(column(columns.get(i)), literal(columns.get(i), values.get(i))));
    }
    return Sql.all(terms);
  }

  Expression literal(String column, String value) {
    return Sql.literal(value, of(column).type().family());
  }

  /** The rows that meet a condition, in the order of their keys. */
  Question<List<List<@Nullable String>>> where(@Nullable Expression condition, int most) {
    List<SelectItem> items = new ArrayList<>();
    table.columns().forEach(each -> items.add(Sql.as(column(each.name()), "c" + items.size())));
    return Question.values(
        Sql.first(Sql.select(items, from(), condition), order(), most),
        items.size(),
        answer -> answer.rows().stream().map(this::normal).toList());
  }

  /** A row of texts as it was answered. */
  /** The least of some values; PostgreSQL has none of UUIDs and of other types of its own. */
  static Expression least(Expression value, ColumnType type) {
    return FunctionCall.of("MIN", comparable(value, type));
  }

  /** A value as {@link #least} gives it. */
  static Expression comparable(Expression value, ColumnType type) {
    return ORDERED.contains(type.family()) ? value : Sql.text(value);
  }

  static List<@Nullable String> texts(List<@Nullable Object> row) {
    List<@Nullable String> texts = new ArrayList<>();
    row.forEach(each -> texts.add(each == null ? null : each.toString()));
    return texts;
  }

  List<Expression> order() {
    return identity().stream().filter(each -> isOrdered(of(each))).map(this::column).toList();
  }

  /** A row as all engines write it. */
  List<@Nullable String> normal(List<? extends @Nullable Object> row) {
    List<@Nullable String> texts = new ArrayList<>();
    for (int i = 0; i < row.size(); i++) {
      texts.add(ValueText.of(row.get(i), table.columns().get(i).type()));
    }
    return texts;
  }

  /** The values of some columns of a row; null if one of them is NULL. */
  @Nullable List<String> values(List<@Nullable String> row, List<String> columns) {
    List<String> values = new ArrayList<>();
    for (String name : columns) {
      String value = row.get(position(name));
      if (value == null) {
        return null;
      }
      values.add(value);
    }
    return values;
  }

  int position(String name) {
    return IntStream.range(0, table.columns().size())
        .filter(i -> table.columns().get(i).name().equals(name))
        .findFirst()
        .orElseThrow();
  }
}
