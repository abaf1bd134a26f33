package io.lantrel.trace.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.edit.OneQuery;
import io.lantrel.engine.Database;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.Sql;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.trace.Answer;
import io.lantrel.trace.Answer.Outcome;
import io.lantrel.trace.Answer.Source;
import io.lantrel.trace.Answer.TracedValue;
import io.lantrel.trace.TraceException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** What became of rows of a table, in each of the places where a query uses it. */
public final class MissingRows {

  private final Database database;
  private final Catalog catalog;
  private final Function<String, OneQuery> reader;

  /**
   * @param reader reads a text as the query was read, with the values of its parameters
   */
  public MissingRows(Database database, Catalog catalog, Function<String, OneQuery> reader) {
    this.database = database;
    this.catalog = catalog;
    this.reader = reader;
  }

  /**
   * Follows them.
   *
   * @param wanted which rows, as {@code station where id = 7}
   * @param most how many rows at most; of others nothing is told
   * @return for each row, and each use of the table, what became of it
   * @throws io.lantrel.trace.TraceException if the rows are not described in that form
   */
  public List<Answer> answers(OneQuery query, String wanted, int most) {
    return database.inSnapshot(() -> followed(query, wanted, Math.max(1, most)));
  }

  private List<Answer> followed(OneQuery query, String wanted, int most) {
    return WantedRow.isOne(wanted)
        ? followed(query, WantedRow.read(wanted, query.resolution(), catalog), wanted, most)
        : expected(query, wanted, most);
  }

  /** Values that were expected in the result: it is there, or the rows that show them are lost. */
  private List<Answer> expected(OneQuery query, String wanted, int most) {
    Expression condition = ResultRows.condition(query, wanted);
    List<Integer> numbers = new MatchingRows(database).numbers(query, condition);
    if (!numbers.isEmpty()) {
      return List.of(
          new Answer(
              Outcome.PRESENT,
              wanted.strip(),
              Optional.empty(),
              "",
              List.of(),
              List.of(),
              List.of("It is in the result, as " + FollowedRow.rowNumbers(numbers) + ".")));
    }
    ExpectedValues values = new ExpectedValues(query, wanted.strip(), condition);
    WantedRow row = values.rows();
    List<Answer> answers = new ArrayList<>(followed(query, row, wanted, most));
    if (!values.areAllIn(row)) {
      Answer last = answers.remove(answers.size() - 1);
      answers.add(
          last.saying(
              "Followed are the rows of "
                  + row.table().name()
                  + " where "
                  + row.text()
                  + "; the rest of "
                  + wanted.strip()
                  + " is not about its columns."));
    }
    return answers;
  }

  private List<Answer> followed(OneQuery query, WantedRow row, String wanted, int most) {
    List<Found> found = found(row, row.condition(catalog, WantedRow.ALIAS), most);
    if (found.isEmpty()) {
      return List.of(none(row, wanted));
    }
    List<Answer> answers = new ArrayList<>();
    for (Found each : found.subList(0, Math.min(most, found.size()))) {
      Map<Way, Answer> byWay = new LinkedHashMap<>();
      for (Way way : row.ways()) {
        if (way.use().isSampled()) {
          throw new TraceException(
              way.use().words() + " is sampled: which rows come is left to chance");
        }
        byWay.put(
            way,
            new FollowedRow(
                    database,
                    reader,
                    query,
                    way,
                    condition(row, each, way),
                    name(each, way, row.ways().size() > 1, query),
                    each.source(way.use().name()))
                .answer());
      }
      byWay.forEach(
          (way, answer) -> {
            if (!isBeside(way, answer, byWay)) {
              answers.add(answer);
            }
          });
    }
    if (found.size() > most) {
      Answer last = answers.remove(answers.size() - 1);
      answers.add(last.saying("Of the rows that meet this only the first " + most + " are told."));
    }
    return answers;
  }

  /**
   * Whether a row is lost on one way and comes by another one to the same table use: it need not be
   * in both queries that UNION, or a recursion, puts together.
   */
  private static boolean isBeside(Way way, Answer answer, Map<Way, Answer> byWay) {
    return answer.outcome() == Outcome.LOST
        && way.steps().size() > 1
        && byWay.entrySet().stream()
            .anyMatch(
                each ->
                    each.getValue().outcome() != Outcome.LOST
                        && each.getKey().steps().get(0).use().equals(way.steps().get(0).use()));
  }

  private static String name(Found row, Way way, boolean severalUses, OneQuery query) {
    boolean severalParts = query.resolution().result().parts().size() > 1;
    return row.named().words()
        + (severalUses ? ", as " + way.use().name() : "")
        + (severalUses && severalParts ? " of SELECT " + (way.steps().get(0).part() + 1) : "");
  }

  private static Answer none(WantedRow row, String wanted) {
    return new Answer(
        Outcome.NO_SUCH_ROW,
        wanted.strip(),
        Optional.empty(),
        row.text(),
        List.of(),
        List.of(),
        List.of(
            "There is no such row: "
                + row.table().name()
                + " has none"
                + (row.text().isEmpty() ? "" : " where " + row.text())
                + "."));
  }

  /** A row that is meant. */
  private record Found(NamedRow named) {

    Source source(String use) {
      List<TracedValue> values = new ArrayList<>();
      for (int i = 0; i < named.columns().size(); i++) {
        values.add(new TracedValue(named.columns().get(i), named.values().get(i)));
      }
      return new Source(use, named.table(), "", values, List.of());
    }
  }

  private List<Found> found(WantedRow row, Expression condition, int most) {
    Table table = row.table();
    Dialect dialect = catalog.dialect();
    List<Column> columns = table.identifyingColumns();
    List<SelectItem> items = new ArrayList<>();
    List<Expression> order = new ArrayList<>();
    for (Column column : columns) {
      Expression value = Sql.columnOf(WantedRow.ALIAS, column.name(), dialect);
      items.add(Sql.as(value, "c" + items.size()));
      order.add(value);
    }
    FromItem from = Sql.tableAs(table, WantedRow.ALIAS, dialect);
    Query query = Sql.first(Sql.select(items, from, condition), order, most + 1);
    List<Found> found = new ArrayList<>();
    for (List<@Nullable Object> each : database.ask(query).rows()) {
      List<@Nullable String> texts = new ArrayList<>();
      for (int i = 0; i < columns.size(); i++) {
        texts.add(ValueText.of(each.get(i), columns.get(i).type()));
      }
      NamedRow named =
          new NamedRow(table.name(), columns.stream().map(Column::name).toList(), texts);
      found.add(new Found(named));
    }
    return found;
  }

  /** What picks the row out, by what its table goes by on that way. */
  private String condition(WantedRow row, Found found, Way way) {
    String alias = way.use().name();
    List<Expression> conditions = new ArrayList<>(List.of(row.condition(catalog, alias)));
    conditions.addAll(key(row.table(), found.named().values(), alias));
    return SqlPrinter.print(Sql.all(conditions), catalog.dialect());
  }

  /** What tells the row from others that meet the condition. */
  private List<Expression> key(Table table, List<@Nullable String> values, String alias) {
    List<Column> columns = table.identifyingColumns();
    List<String> key = table.key().map(Key::columns).orElse(List.of());
    List<Expression> equal = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      Column column = columns.get(i);
      String value = values.get(i);
      if ((key.isEmpty() || key.contains(column.name())) && value != null) {
        Expression own = Sql.columnOf(alias, column.name(), catalog.dialect());
        equal.add(Sql.equal(own, Sql.literal(value, column.type().family())));
      }
    }
    return equal;
  }
}
