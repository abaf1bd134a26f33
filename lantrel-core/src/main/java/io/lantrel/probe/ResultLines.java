package io.lantrel.probe;

import io.lantrel.catalog.ColumnType;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.Rows;
import io.lantrel.engine.SampleData;
import io.lantrel.engine.ValueText;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.QueryBody.SetOperation;
import io.lantrel.sql.tree.QueryBody.SetOperator;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Some lines of what a query gives, named by what they show: behind GROUP BY a row is no row of a
 * table any more.
 */
public final class ResultLines {

  /** More columns tell a reader no more. */
  private static final int MOST_COLUMNS = 5;

  private static final String LINES = SampleData.RESERVED + "lines";
  private static final String OTHERS = SampleData.RESERVED + "others";
  private static final String TIMES = "rows";

  private final Query query;
  private final List<Heading> headings;

  /**
   * What a column is called and holds.
   *
   * @param name its heading
   * @param type its type, as far as known
   */
  public record Heading(String name, ColumnType type) {}

  /**
   * @param query any query, with the WITH that it needs
   * @param headings of all its columns
   */
  public ResultLines(Query query, List<Heading> headings) {
    this.query = query;
    this.headings = List.copyOf(headings);
  }

  /** What all columns of a block are called and hold. */
  public static List<Heading> headings(QueryBlock block) {
    return block.outputs().stream().map(each -> new Heading(each.name(), each.type())).toList();
  }

  /** The same of values of a block, which are called as they are written. */
  static List<Heading> headings(QueryBlock block, List<Expression> values) {
    return values.stream()
        .map(each -> new Heading(SqlPrinter.print(each, block.dialect()), block.type(each)))
        .toList();
  }

  /** The first lines, in the order of what they show. */
  public Question<List<NamedRow>> least(int most) {
    QueryBody body = Sql.select(items(LINES), Sql.table(LINES), null);
    return asked(List.of(lines()), body, order(), most, headings);
  }

  /** The first lines as the query gives them: it is to have a LIMIT of its own. */
  public Question<List<NamedRow>> asGiven(int most) {
    QueryBody body = Sql.select(items(LINES), Sql.table(LINES), null);
    return asked(List.of(lines()), body, List.of(), most, headings);
  }

  /** The lines that come more than once, each once with how often, the most frequent first. */
  public Question<List<NamedRow>> repeated(int most) {
    List<SelectItem> items = new ArrayList<>(items(LINES));
    items.add(Sql.as(Sql.count(), "c" + headings.size()));
    QueryBody body =
        Sql.grouped(
            items,
            Sql.table(LINES),
            IntStream.range(0, headings.size()).mapToObj(i -> Sql.column(LINES, "c" + i)).toList(),
            Sql.greater(Sql.count(), Sql.number(1)));
    List<OrderItem> order = new ArrayList<>();
    order.add(new OrderItem(Span.NOWHERE, column(headings.size()), true, null));
    order.addAll(order());
    List<Heading> all = new ArrayList<>(headings);
    all.add(new Heading(TIMES, ColumnType.UNKNOWN));
    return asked(List.of(lines()), body, order, most, all);
  }

  /**
   * The lines that another query of as many columns does not give.
   *
   * @param all whether one is told as often as it is missing, or once
   */
  public Question<List<NamedRow>> missingIn(Query other, boolean all, int most) {
    CommonTable others = Sql.named(OTHERS, alone(other), headings.size());
    QueryBody body =
        new SetOperation(
            Span.NOWHERE,
            SetOperator.EXCEPT,
            all,
            null,
            List.of(
                Sql.select(items(LINES), Sql.table(LINES), null),
                Sql.select(items(OTHERS), Sql.table(OTHERS), null)));
    return asked(List.of(lines(), others), body, order(), most, headings);
  }

  private CommonTable lines() {
    return Sql.named(LINES, alone(query), headings.size());
  }

  /** Its WITH is written once, around all. */
  private static Query alone(Query query) {
    return new Query(query.span(), false, List.of(), query.body(), query.orderBy(), query.limit());
  }

  private List<SelectItem> items(String table) {
    return IntStream.range(0, headings.size())
        .mapToObj(i -> Sql.as(Sql.column(table, "c" + i), "c" + i))
        .toList();
  }

  private List<OrderItem> order() {
    return IntStream.range(0, headings.size()).mapToObj(i -> OrderItem.by(column(i))).toList();
  }

  private static Expression column(int position) {
    return new ColumnName(Span.NOWHERE, List.of(), Identifier.of("c" + position));
  }

  private Question<List<NamedRow>> asked(
      List<CommonTable> own, QueryBody body, List<OrderItem> order, int most, List<Heading> all) {
    List<CommonTable> with = new ArrayList<>(query.with());
    with.addAll(own);
    Query whole = new Query(Span.NOWHERE, query.recursive(), with, body, order, Limit.of(most));
    return Question.values(whole, all.size(), answer -> named(answer, all));
  }

  private static List<NamedRow> named(Rows answer, List<Heading> headings) {
    List<NamedRow> lines = new ArrayList<>();
    List<Integer> shown = shown(headings);
    for (List<@Nullable Object> row : answer.rows()) {
      List<String> names = new ArrayList<>();
      List<@Nullable String> values = new ArrayList<>();
      for (int i : shown) {
        String name = headings.get(i).name();
        names.add(names.contains(name) ? name + " " + (i + 1) : name);
        values.add(ValueText.of(row.get(i), headings.get(i).type()));
      }
      lines.add(NamedRow.ofResult(names, values));
    }
    return lines;
  }

  /** The first columns, and how often a line comes. */
  private static List<Integer> shown(List<Heading> headings) {
    int last = headings.size() - 1;
    return IntStream.rangeClosed(0, last)
        .filter(i -> i < MOST_COLUMNS || (i == last && headings.get(i).name().equals(TIMES)))
        .boxed()
        .toList();
  }
}
