package io.lantrel.probe;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.Rows;
import io.lantrel.engine.SampleData;
import io.lantrel.engine.ValueText;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
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
import java.util.Collections;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Asks for some rows by name: those of a table use, each once, the least first. */
public final class RowNames {

  /** So many rows of one name are reckoned with, where a row comes once, and where it may not. */
  private static final int FEW = 4;

  private static final int SEVERAL = 64;

  /** A row of more tables is named by the one that matters. */
  private static final int MOST_TABLES = 4;

  private static final String KEYS = SampleData.RESERVED + "keys";
  private static final String TABLE = SampleData.RESERVED + "table";

  private RowNames() {}

  /** The columns by which a row of a table use is told from others. */
  public static List<UseColumn> identifyingColumns(TableUse use) {
    List<UseColumn> columns =
        use.table()
            .map(
                table ->
                    table.identifyingColumns().stream()
                        .map(Column::name)
                        .map(use::column)
                        .flatMap(Optional::stream)
                        .toList())
            .orElse(List.of());
    return columns.isEmpty() ? use.columns().stream().limit(3).toList() : columns;
  }

  /**
   * Some rows.
   *
   * @param subject the table use by which a row is named
   * @param condition which rows, in the short names of the relation
   * @param limit how many at most
   */
  public static Question<List<NamedRow>> question(
      JoinedRows rows, Relation relation, TableUse subject, Expression condition, int limit) {
    boolean once = rows.comesOnce(relation, subject) || rows.isOfOneTable(relation, subject);
    // A table without a key may hold a row twice, which is not worth a DISTINCT over all of it.
    boolean all = once || subject.table().filter(table -> table.key().isEmpty()).isPresent();
    if (all) {
      List<UseColumn> columns = identifyingColumns(subject);
      QueryBody body =
          relation.select(false, items(rows, relation, columns), condition, List.of(), null);
      Query query = Sql.first(body, order(columns), limit * (once ? FEW : SEVERAL));
      return asked(relation, subject, columns, query, limit);
    }
    return told(
        rows,
        relation,
        subject,
        limit,
        columns ->
            relation.select(true, items(rows, relation, columns), condition, List.of(), null));
  }

  /**
   * Some joined rows, each by all tables that tell it from others.
   *
   * @param step the rows that come to it; null for all
   * @param subject the table use that the condition is about
   * @param condition which rows, in the short names of the relation
   * @param limit how many at most
   */
  public static Question<List<NamedRow>> ofJoined(
      JoinedRows rows,
      Relation relation,
      @Nullable JoinStep step,
      TableUse subject,
      Expression condition,
      int limit) {
    List<TableUse> uses = new ArrayList<>(rows.tellingUses(step));
    if (!uses.contains(subject)) {
      uses.add(subject);
    }
    if (uses.size() == 1 || uses.size() > MOST_TABLES) {
      return question(rows, relation, subject, condition, limit);
    }
    List<UseColumn> columns =
        uses.stream().flatMap(use -> identifyingColumns(use).stream()).toList();
    QueryBody body =
        relation.select(false, items(rows, relation, columns), condition, List.of(), null);
    return Question.values(
        relation,
        Sql.first(body, order(columns), limit),
        columns.size(),
        answer ->
            answer.rows().stream()
                .map(row -> joined(texts(row, columns), uses))
                .distinct()
                .toList());
  }

  /** A table whose row was filled in is left out. */
  private static NamedRow joined(List<@Nullable String> texts, List<TableUse> uses) {
    List<NamedRow> named = new ArrayList<>();
    int at = 0;
    for (TableUse use : uses) {
      List<String> columns = identifyingColumns(use).stream().map(UseColumn::name).toList();
      List<@Nullable String> own = texts.subList(at, at + columns.size());
      at += columns.size();
      if (own.stream().anyMatch(Objects::nonNull) || uses.size() == 1) {
        named.add(new NamedRow(use.tableName(), columns, own));
      }
    }
    if (named.isEmpty()) {
      return new NamedRow(uses.get(0).tableName(), List.of(""), Collections.singletonList(null));
    }
    NamedRow first = named.get(0);
    return new NamedRow(
        first.table(), first.columns(), first.values(), named.subList(1, named.size()));
  }

  /** Some of the rows at a step that have several partners. */
  public static Question<List<NamedRow>> repeated(
      JoinedRows rows, JoinedRows.Repeated repeated, TableUse subject, int limit) {
    Relation relation = repeated.relation();
    return told(
        rows,
        relation,
        subject,
        limit,
        columns -> {
          List<Expression> groups = new ArrayList<>(repeated.identity());
          columns.forEach(column -> groups.add(rows.column(relation, column)));
          return relation.select(
              true,
              items(rows, relation, columns),
              null,
              groups.stream().distinct().toList(),
              Sql.greater(Sql.count(), Sql.number(1)));
        });
  }

  /**
   * Rows that come several times, each once: told apart by the key alone, and only those that are
   * named are looked up for their text, which would make the engine's work much dearer.
   *
   * @param body those columns of the rows, each combination once
   */
  private static Question<List<NamedRow>> told(
      JoinedRows rows,
      Relation relation,
      TableUse subject,
      int limit,
      Function<List<UseColumn>, QueryBody> body) {
    List<UseColumn> columns = identifyingColumns(subject);
    List<String> key = rows.keyOf(subject).map(Key::columns).orElseGet(List::of);
    List<UseColumn> keys =
        columns.stream().filter(column -> key.contains(column.tableColumn())).toList();
    if (keys.isEmpty() || keys.size() == columns.size()) {
      Query query = Sql.first(body.apply(columns), order(columns), limit);
      return asked(relation, subject, columns, query, limit);
    }
    Query first = Sql.first(body.apply(keys), order(keys), limit);
    Query query =
        Sql.first(
            lookedUp(rows.block().dialect(), first, subject, columns, keys),
            order(columns),
            limit * FEW);
    return asked(relation, subject, columns, query, limit);
  }

  private static QueryBody lookedUp(
      Dialect dialect,
      Query first,
      TableUse subject,
      List<UseColumn> columns,
      List<UseColumn> keys) {
    List<Expression> equalities = new ArrayList<>();
    for (int i = 0; i < keys.size(); i++) {
      Expression key = Sql.column(TABLE, keys.get(i).tableColumn(), dialect);
      equalities.add(Sql.equal(key, Sql.column(KEYS, "c" + i)));
    }
    List<SelectItem> items = new ArrayList<>();
    for (UseColumn column : columns) {
      int key = keys.indexOf(column);
      Expression value =
          key < 0 ? Sql.column(TABLE, column.tableColumn(), dialect) : Sql.column(KEYS, "c" + key);
      items.add(Sql.as(value, "c" + items.size()));
    }
    FromItem table = Sql.table(subject.table().orElseThrow(), TABLE, dialect);
    return Sql.select(
        items,
        FromItem.Join.of(Sql.derived(first, KEYS), JoinKind.LEFT, table, Sql.all(equalities)),
        null);
  }

  private static List<SelectItem> items(
      JoinedRows rows, Relation relation, List<UseColumn> columns) {
    List<SelectItem> items = new ArrayList<>();
    columns.forEach(column -> items.add(Sql.as(rows.column(relation, column), "c" + items.size())));
    return items;
  }

  private static List<Expression> order(List<UseColumn> columns) {
    List<Expression> order = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      order.add(new ColumnName(Span.NOWHERE, List.of(), Identifier.of("c" + i)));
    }
    return order;
  }

  private static Question<List<NamedRow>> asked(
      Relation relation, TableUse subject, List<UseColumn> columns, Query query, int limit) {
    return Question.values(
        relation,
        query,
        columns.size(),
        answer -> named(answer, subject, columns).limit(limit).toList());
  }

  private static Stream<NamedRow> named(Rows answer, TableUse subject, List<UseColumn> columns) {
    List<String> names = columns.stream().map(UseColumn::name).toList();
    return answer.rows().stream()
        .map(row -> texts(row, columns))
        .distinct()
        .map(texts -> new NamedRow(subject.tableName(), names, texts));
  }

  private static List<@Nullable String> texts(List<@Nullable Object> row, List<UseColumn> columns) {
    List<@Nullable String> texts = new ArrayList<>();
    for (UseColumn column : columns) {
      texts.add(ValueText.of(row.get(texts.size()), column.type()));
    }
    return texts;
  }
}
