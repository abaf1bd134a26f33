package io.lantrel.survey;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
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
import io.lantrel.survey.TableFigures.ColumnFigures;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;

/** Questions about the rows of one table. */
final class TableQuestions {

  private static final String HERE = "here";
  private static final String THERE = "there";
  private static final String KEYS = "found_keys";
  private static final String VALUES = "referring";
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

  /**
   * Rows; then for each column: how many are not NULL, how many different values, the least and the
   * greatest of a number. What is not asked of a column is left out.
   */
  Query figures() {
    List<SelectItem> items = new ArrayList<>(List.of(Sql.as(Sql.count(), "f0")));
    for (Column column : table.columns()) {
      Expression value = column(HERE, column.name());
      for (Expression figure : asked(column, value)) {
        items.add(Sql.as(figure, "f" + items.size()));
      }
    }
    return Query.of(Sql.select(items, named(table, HERE), null));
  }

  private static List<Expression> asked(Column column, Expression value) {
    Expression filled = Sql.count(value);
    return switch (ValueKind.of(column.type())) {
      case OPAQUE -> List.of(filled);
      case TEXT, UUID, MEASURE -> List.of(filled, Sql.countDistinct(value));
      case NUMBER ->
          List.of(
              filled,
              Sql.countDistinct(value),
              Call.FunctionCall.of("MIN", value),
              Call.FunctionCall.of("MAX", value));
    };
  }

  /** What {@link #figures} was answered. */
  TableFigures read(Rows answer) {
    int at = 1;
    List<ColumnFigures> columns = new ArrayList<>();
    for (Column column : table.columns()) {
      ValueKind kind = ValueKind.of(column.type());
      long filled = answer.figure(at++);
      OptionalLong different =
          kind == ValueKind.OPAQUE ? OptionalLong.empty() : OptionalLong.of(answer.figure(at++));
      boolean number = kind == ValueKind.NUMBER;
      BigDecimal least = number ? decimal(answer.rows().get(0).get(at++)) : null;
      BigDecimal greatest = number ? decimal(answer.rows().get(0).get(at++)) : null;
      columns.add(new ColumnFigures(column, filled, different, least, greatest));
    }
    return new TableFigures(table, answer.figure(0), columns);
  }

  private static @Nullable BigDecimal decimal(@Nullable Object value) {
    return value instanceof Number number ? new BigDecimal(number.toString()) : null;
  }

  /** How many rows share a key with another one; a key with NULL in it is none. */
  Question<Long> repeats(Key key) {
    return Question.number(
        Query.of(
            Sql.select(
                List.of(Sql.as(Call.FunctionCall.of("SUM", Sql.column("k", "n")), "c0")),
                Sql.derived(repeatedKeys(key), "k"),
                null)));
  }

  /** The first rows, in the order of a key. */
  Query firstRows(List<String> order, int rows) {
    List<SelectItem> items = new ArrayList<>();
    table.columns().forEach(each -> items.add(shown(each.name())));
    return Sql.first(
        Sql.select(items, named(table, HERE), null),
        order.stream().map(name -> column(HERE, name)).toList(),
        rows);
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

  /**
   * Over the values that refer: rows that hold one, those whose value is there, values, those that
   * are there. Every value is looked up once, however many rows hold it.
   */
  Question<Rows> figures(Reference reference) {
    List<SelectItem> values = new ArrayList<>(List.of(Sql.as(Sql.count(), "n")));
    List<Expression> grouping = new ArrayList<>();
    List<SelectItem> keys = new ArrayList<>();
    List<Expression> equalities = new ArrayList<>();
    Table target = reference.to();
    for (int i = 0; i < reference.fromColumns().size(); i++) {
      Expression value = column(HERE, reference.fromColumns().get(i));
      values.add(Sql.as(value, "v" + i));
      grouping.add(value);
      keys.add(Sql.as(column(THERE, reference.toColumns().get(i)), "k" + i));
      equalities.add(Sql.equal(Sql.column(KEYS, "k" + i), Sql.column(VALUES, "v" + i)));
    }
    QueryBody referring =
        new QueryBody.Select(
            Span.NOWHERE,
            false,
            values,
            named(table, HERE),
            Sql.not(isEmpty(reference)),
            grouping,
            null);
    QueryBody known =
        new QueryBody.Select(Span.NOWHERE, true, keys, named(target, THERE), null, List.of(), null);
    Expression rows = Sql.column(VALUES, "n");
    Expression found = Sql.isNotNull(Sql.column(KEYS, "k0"));
    return Question.numbers(
        Query.of(
            Sql.select(
                List.of(
                    Sql.as(Call.FunctionCall.of("SUM", rows), "c0"),
                    Sql.as(
                        Call.FunctionCall.of("SUM", Sql.choose(found, rows, Sql.number(0))), "c1"),
                    Sql.as(Sql.count(), "c2"),
                    Sql.as(Sql.countIf(found), "c3")),
                FromItem.Join.of(
                    Sql.derived(referring, VALUES),
                    JoinKind.LEFT,
                    Sql.derived(known, KEYS),
                    Sql.all(equalities)),
                null)),
        answer -> answer);
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
            named(reference.to(), THERE),
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
    for (Column column : table.identifyingColumns()) {
      items.add(shown(column.name()));
      order.add(column(HERE, column.name()));
    }
    // A further column may be part of the key, and be shown twice.
    further.forEach(name -> items.add(shown(name)));
    return Sql.first(Sql.select(items, named(table, HERE), condition), order, SHOWN);
  }

  /** The rows that meet a condition, by name. */
  List<NamedRow> named(Asker asker, List<String> further, Expression which) {
    Rows rows = asker.rows(rows(further, which));
    return rows.rows().stream()
        .map(row -> new NamedRow(table.name(), rows.headings(), texts(row, rows)))
        .toList();
  }

  private List<@Nullable String> texts(List<@Nullable Object> row, Rows rows) {
    List<@Nullable String> texts = new ArrayList<>();
    for (Object value : row) {
      ColumnType type =
          table
              .column(rows.headings().get(texts.size()))
              .map(Column::type)
              .orElse(ColumnType.UNKNOWN);
      texts.add(ValueText.of(value, type));
    }
    return texts;
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
