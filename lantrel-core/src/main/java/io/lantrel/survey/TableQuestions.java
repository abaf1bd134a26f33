package io.lantrel.survey;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.probe.Sql;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;

/** Questions about the rows of one table. */
final class TableQuestions {

  private static final String HERE = "here";
  private static final String THERE = "there";
  private static final String KEYS = "found_keys";
  private static final int SHOWN = 3;

  private final Catalog catalog;
  private final Table table;

  TableQuestions(Table table, Catalog catalog) {
    this.table = table;
    this.catalog = catalog;
  }

  Table table() {
    return table;
  }

  /** The columns in which NULL would violate the schema. */
  List<Column> neverNull() {
    return table.columns().stream().filter(column -> !column.nullable()).toList();
  }

  /**
   * Rows; then NULLs in each column that must not be NULL; then the rows that share each key with
   * another one.
   */
  Query figures() {
    List<SelectItem> items = new ArrayList<>();
    List<SelectItem> inner = new ArrayList<>(List.of(Sql.as(Sql.count(), "c0")));
    for (Column column : neverNull()) {
      inner.add(Sql.as(Sql.countIf(isNull(column.name())), "c" + inner.size()));
    }
    FromItem from = Sql.derived(Sql.select(inner, named(table, HERE), null), "counts");
    for (int i = 0; i < inner.size(); i++) {
      items.add(Sql.as(Sql.column("counts", "c" + i), "f" + i));
    }
    for (Key key : table.keys()) {
      String alias = KEYS + items.size();
      QueryBody total =
          Sql.select(
              List.of(Sql.as(Call.FunctionCall.of("SUM", Sql.column("k", "n")), "n")),
              Sql.derived(repeatedKeys(key), "k"),
              null);
      from = FromItem.Join.of(from, JoinKind.CROSS, Sql.derived(total, alias), null);
      items.add(Sql.as(Sql.column(alias, "n"), "f" + items.size()));
    }
    return Query.of(Sql.select(items, from, null));
  }

  /** The keys that several rows have, and how many rows; a key with NULL in it is none. */
  private QueryBody repeatedKeys(Key key) {
    List<SelectItem> items = new ArrayList<>(List.of(Sql.as(Sql.count(), "n")));
    List<Expression> columns = new ArrayList<>();
    for (String column : key.columns()) {
      items.add(Sql.as(column(HERE, column), "k" + columns.size()));
      columns.add(column(HERE, column));
    }
    return new QueryBody.Select(
        Span.NOWHERE,
        false,
        items,
        named(table, HERE),
        Sql.all(columns.stream().map(Sql::isNotNull).toList()),
        columns,
        new Condition.Comparison(
            Span.NOWHERE, ComparisonOperator.GREATER, Sql.count(), Sql.number(1)));
  }

  Expression isNull(String column) {
    return Sql.isNull(column(HERE, column));
  }

  Expression isRepeated(Key key) {
    List<Expression> equalities = new ArrayList<>();
    for (int i = 0; i < key.columns().size(); i++) {
      equalities.add(Sql.equal(Sql.column(KEYS, "k" + i), column(HERE, key.columns().get(i))));
    }
    return Sql.exists(
        Sql.select(
            List.of(Sql.as(Sql.number(1), "one")),
            Sql.derived(repeatedKeys(key), KEYS),
            Sql.all(equalities)));
  }

  /** Rows that refer to a row, that are empty, that refer to nothing. */
  Query figures(Reference reference) {
    Expression empty = isEmpty(reference);
    Expression found = found(reference);
    return Query.of(
        Sql.select(
            List.of(
                Sql.as(Sql.countIf(found), "found"),
                Sql.as(Sql.countIf(empty), "empty"),
                Sql.as(Sql.countIf(refersToNothing(reference)), "nothing")),
            named(table, HERE),
            null));
  }

  private Expression isEmpty(Reference reference) {
    List<Expression> nulls =
        reference.fromColumns().stream().map(name -> Sql.isNull(column(HERE, name))).toList();
    return nulls.size() == 1 ? nulls.get(0) : new Condition.Or(Span.NOWHERE, nulls);
  }

  private Expression found(Reference reference) {
    List<Expression> equalities = new ArrayList<>();
    for (int i = 0; i < reference.fromColumns().size(); i++) {
      equalities.add(
          Sql.equal(
              column(THERE, reference.toColumns().get(i)),
              column(HERE, reference.fromColumns().get(i))));
    }
    return Sql.exists(
        Sql.select(
            List.of(Sql.as(Sql.number(1), "one")),
            named(catalog.table(reference.toTable()).orElseThrow(), THERE),
            Sql.all(equalities)));
  }

  Expression refersToNothing(Reference reference) {
    return Sql.all(List.of(Sql.not(isEmpty(reference)), Sql.not(found(reference))));
  }

  /**
   * The first rows that meet a condition, by the columns that tell them.
   *
   * @param further columns that are shown behind those
   */
  Query rows(List<String> further, Expression condition) {
    List<SelectItem> items = new ArrayList<>();
    List<Expression> order = new ArrayList<>();
    for (Column column : table.telling()) {
      items.add(shown(column.name()));
      order.add(column(HERE, column.name()));
    }
    // A further column may be part of the key, and be shown twice.
    further.forEach(name -> items.add(shown(name)));
    return Sql.first(Sql.select(items, named(table, HERE), condition), order, SHOWN);
  }

  private SelectItem shown(String column) {
    return new SelectItem.Output(Span.NOWHERE, column(HERE, column), dialect().exact(column));
  }

  private Expression column(String alias, String name) {
    return new ColumnName(Span.NOWHERE, List.of(Identifier.of(alias)), dialect().exact(name));
  }

  private FromItem named(Table rows, String alias) {
    return Sql.table(rows, alias, dialect());
  }

  private Dialect dialect() {
    return catalog.dialect();
  }
}
