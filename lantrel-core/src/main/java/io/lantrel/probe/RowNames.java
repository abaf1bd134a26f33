package io.lantrel.probe;

import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Asks for the names of some rows of several kinds at once: one statement, whose parts are tagged
 * with the position of what they belong to.
 */
public final class RowNames {

  private final Chain chain;
  private final int limit;
  private final List<Wanted> wanted = new ArrayList<>();

  /**
   * @param limit how many rows of each kind are named at most
   */
  public RowNames(Chain chain, int limit) {
    this.chain = chain;
    this.limit = limit;
  }

  /**
   * Asks for rows of a relation.
   *
   * @param relation the relation
   * @param subject the table use by which a row is named
   * @param condition which rows
   * @return the position under which {@link #names} gives them
   */
  public int want(String relation, TableUse subject, Expression condition) {
    wanted.add(new Wanted(subject, relation, Sql.table(relation), condition));
    return wanted.size() - 1;
  }

  /** Whether nothing was asked for. */
  public boolean isEmpty() {
    return wanted.isEmpty();
  }

  /** The statement that answers all of it. */
  public Query ask() {
    int width = wanted.stream().mapToInt(each -> each.columns().size()).max().orElse(1);
    List<QueryBody> parts = new ArrayList<>();
    for (int tag = 0; tag < wanted.size(); tag++) {
      parts.add(part(tag, width));
    }
    return chain.probe(QueryBody.SetOperation.unionAll(parts));
  }

  private QueryBody part(int tag, int width) {
    Wanted each = wanted.get(tag);
    List<Expression> columns =
        each.columns().stream().map(column -> chain.column(each.relation(), column)).toList();
    List<SelectItem> inner = new ArrayList<>();
    List<SelectItem> outer = new ArrayList<>(List.of(Sql.as(Sql.number(tag), "tag")));
    String alias = Chain.PREFIX + "e" + tag;
    for (int i = 0; i < width; i++) {
      String name = "v" + i;
      if (i < columns.size()) {
        inner.add(Sql.as(columns.get(i), name));
      }
      Expression value = i < columns.size() ? Sql.column(alias, name) : Sql.nothing();
      outer.add(Sql.as(Sql.text(value), name));
    }
    QueryBody rows =
        new QueryBody.Select(
            Span.NOWHERE, true, inner, each.from(), each.condition(), List.of(), null);
    List<Expression> order = new ArrayList<>();
    for (int i = 1; i <= columns.size(); i++) {
      order.add(new ColumnName(Span.NOWHERE, List.of(), Identifier.of("v" + (i - 1))));
    }
    return Sql.select(outer, Sql.derived(Sql.first(rows, order, limit), alias), null);
  }

  /**
   * The names of the rows asked for under a position.
   *
   * @param answer what {@link #ask} gave
   */
  public List<NamedRow> names(Rows answer, int position) {
    Wanted each = wanted.get(position);
    List<String> columns = each.columns().stream().map(UseColumn::name).toList();
    return answer.rows().stream()
        .filter(row -> tag(row.get(0)) == position)
        .map(row -> new NamedRow(each.subject().rowWord(), columns, texts(row, each.columns())))
        .toList();
  }

  private static int tag(@Nullable Object value) {
    return Optional.ofNullable((Number) value).orElseThrow().intValue();
  }

  private static List<@Nullable String> texts(List<@Nullable Object> row, List<UseColumn> columns) {
    List<@Nullable String> texts = new ArrayList<>();
    for (UseColumn column : columns) {
      texts.add(ValueText.of(row.get(texts.size() + 1), column.type()));
    }
    return texts;
  }

  private record Wanted(TableUse subject, String relation, FromItem from, Expression condition) {
    List<UseColumn> columns() {
      return Chain.telling(subject);
    }
  }
}
