package io.lantrel.trace.asked;

import io.lantrel.catalog.ColumnType;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Some different rows of values, as texts. */
final class RowValues {

  private RowValues() {}

  /**
   * Asks for them, the least first.
   *
   * @param shown the values, in the short names of the relation
   * @param most how many rows at most
   */
  static Question<Rows> question(
      Relation relation, List<Expression> shown, Expression condition, int most) {
    List<SelectItem> items = new ArrayList<>();
    List<Expression> order = new ArrayList<>();
    for (Expression each : shown) {
      String name = "c" + items.size();
      items.add(Sql.as(each, name));
      order.add(new ColumnName(Span.NOWHERE, List.of(), Identifier.of(name)));
    }
    if (items.isEmpty()) {
      items.add(Sql.as(Sql.number(1), "c0"));
    }
    QueryBody body = relation.select(true, items, condition, List.of(), null);
    return Question.values(
        relation, Sql.first(body, order, most), items.size(), Function.identity());
  }

  /** The values of each row. */
  static List<List<@Nullable String>> texts(Rows rows, List<ColumnType> types) {
    return rows.rows().stream()
        .map(
            row -> {
              List<@Nullable String> texts = new ArrayList<>();
              for (int i = 0; i < types.size(); i++) {
                texts.add(ValueText.of(row.get(i), types.get(i)));
              }
              return texts;
            })
        .toList();
  }
}
