package io.lantrel.probe;

import io.lantrel.catalog.Column;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Asks for some rows by name: those of a table use, each once, the least first. */
public final class RowNames {

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
    List<UseColumn> columns = identifyingColumns(subject);
    List<SelectItem> items = items(rows, relation, columns);
    boolean once = rows.comesOnce(relation, subject) || rows.isOfOneTable(relation, subject);
    QueryBody body = relation.select(!once, items, condition, List.of(), null);
    // A table without a key may hold a row twice, which is not worth a DISTINCT over all of it.
    return asked(relation, subject, columns, body, once ? limit * 4 : limit, limit);
  }

  /** Some of the rows at a step that have several partners. */
  public static Question<List<NamedRow>> repeated(
      JoinedRows rows, JoinedRows.Repeated repeated, TableUse subject, int limit) {
    List<UseColumn> columns = identifyingColumns(subject);
    List<Expression> groups = new ArrayList<>(repeated.identity());
    columns.forEach(column -> groups.add(rows.column(repeated.relation(), column)));
    QueryBody body =
        repeated
            .relation()
            .select(
                true,
                items(rows, repeated.relation(), columns),
                null,
                groups.stream().distinct().toList(),
                Sql.greater(Sql.count(), Sql.number(1)));
    return asked(repeated.relation(), subject, columns, body, limit, limit);
  }

  private static List<SelectItem> items(
      JoinedRows rows, Relation relation, List<UseColumn> columns) {
    List<SelectItem> items = new ArrayList<>();
    columns.forEach(column -> items.add(Sql.as(rows.column(relation, column), "c" + items.size())));
    return items;
  }

  private static Question<List<NamedRow>> asked(
      Relation relation,
      TableUse subject,
      List<UseColumn> columns,
      QueryBody body,
      int fetched,
      int limit) {
    List<Expression> order = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      order.add(new ColumnName(Span.NOWHERE, List.of(), Identifier.of("c" + i)));
    }
    Query query = Sql.first(body, order, fetched);
    return Question.values(
        relation,
        query,
        columns.size(),
        answer -> named(answer, subject, columns).distinct().limit(limit).toList());
  }

  private static Stream<NamedRow> named(Rows answer, TableUse subject, List<UseColumn> columns) {
    List<String> names = columns.stream().map(UseColumn::name).toList();
    return answer.rows().stream()
        .map(row -> new NamedRow(subject.rowWord(), names, texts(row, columns)));
  }

  private static List<@Nullable String> texts(List<@Nullable Object> row, List<UseColumn> columns) {
    List<@Nullable String> texts = new ArrayList<>();
    for (UseColumn column : columns) {
      texts.add(ValueText.of(row.get(texts.size()), column.type()));
    }
    return texts;
  }
}
