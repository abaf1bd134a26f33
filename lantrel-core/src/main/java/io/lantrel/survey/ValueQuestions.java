package io.lantrel.survey;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.survey.ColumnValues.Counted;
import io.lantrel.survey.TableFigures.ColumnFigures;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Looks for values of a table's columns that are worth seeing: a few questions for each column. */
final class ValueQuestions {

  private static final String HERE = "here";
  private static final String COUNTED = "counted";
  private static final int SHOWN = 3;

  private final Table table;
  private final TableFigures figures;
  private final Dialect dialect;

  ValueQuestions(TableFigures figures, Dialect dialect) {
    this.table = figures.table();
    this.figures = figures;
    this.dialect = dialect;
  }

  /** What is asked of one column, if it can tell anything. */
  private record Asked(
      Optional<Question<List<Counted>>> frequent,
      Optional<Question<List<Counted>>> rare,
      Optional<Question<List<String>>> ends,
      Optional<Question<List<Long>>> texts) {

    Stream<Question<?>> all() {
      return Stream.of(frequent, rare, ends, texts).flatMap(Optional::stream);
    }
  }

  /** The values of each column that can be told apart; nothing for the others. */
  Map<Column, ColumnValues> ask(Asker asker) {
    Map<Column, Asked> asked = new LinkedHashMap<>();
    for (ColumnFigures each : figures.columns()) {
      if (ValueKind.of(each.column().type()) != ValueKind.OPAQUE && each.filled() > 0) {
        asked.put(each.column(), asked(each));
      }
    }
    Answers answers = asker.ask(asked.values().stream().flatMap(Asked::all).toList());
    Map<Column, ColumnValues> values = new LinkedHashMap<>();
    asked.forEach((column, each) -> values.put(column, read(each, answers)));
    return values;
  }

  /**
   * No value comes twice where there are as many as rows; texts have no ends, only texts blanks.
   */
  private Asked asked(ColumnFigures figures) {
    Column column = figures.column();
    boolean repeats = figures.values() < figures.filled();
    boolean text = ValueKind.of(column.type()) == ValueKind.TEXT;
    return new Asked(
        repeats ? Optional.of(counted(column, true)) : Optional.empty(),
        repeats ? Optional.of(counted(column, false)) : Optional.empty(),
        hasEnds(column.type()) ? Optional.of(ends(column)) : Optional.empty(),
        text ? Optional.of(texts(column)) : Optional.empty());
  }

  /** PostgreSQL has no least truth value or UUID. */
  private static boolean hasEnds(ColumnType type) {
    ValueKind kind = ValueKind.of(type);
    return kind == ValueKind.NUMBER
        || (kind == ValueKind.MEASURE && type.family() != TypeFamily.TRUTH);
  }

  private static ColumnValues read(Asked asked, Answers answers) {
    List<Counted> frequent =
        asked.frequent().map(answers::to).orElse(List.of()).stream()
            .filter(each -> each.rows() > 1)
            .toList();
    List<Counted> rare =
        asked.rare().map(answers::to).orElse(List.of()).stream()
            .filter(each -> !frequent.contains(each))
            .toList();
    List<String> ends = asked.ends().map(answers::to).orElse(List.of("", ""));
    List<Long> texts = asked.texts().map(answers::to).orElse(List.of(0L, 0L, 0L));
    return new ColumnValues(
        frequent, rare, ends.get(0), ends.get(1), texts.get(0), texts.get(1), texts.get(2));
  }

  /** Its values with how many rows hold them, those that most or that the fewest hold first. */
  private Question<List<Counted>> counted(Column column, boolean mostFirst) {
    FromItem all =
        Sql.derived(
            Sql.grouped(
                List.of(Sql.as(value(column), "c0"), Sql.as(Sql.count(), "c1")),
                rows(),
                List.of(value(column)),
                null),
            COUNTED);
    Expression rows = Sql.column(COUNTED, "c1");
    Query query =
        Sql.first(
            Sql.select(
                List.of(
                    Sql.as(Sql.column(COUNTED, "c0"), "c0"),
                    Sql.as(Sql.column(COUNTED, "c1"), "c1")),
                all,
                Sql.isNotNull(Sql.column(COUNTED, "c0"))),
            List.of(mostFirst ? opposite(rows) : rows, Sql.column(COUNTED, "c0")),
            SHOWN);
    return Question.values(query, 2, ValueQuestions::counted);
  }

  private static List<Counted> counted(Rows answer) {
    return answer.rows().stream()
        .map(row -> new Counted(text(row.get(0)), Long.parseLong(text(row.get(1)))))
        .toList();
  }

  private static String text(@Nullable Object value) {
    return Objects.toString(value, "");
  }

  private static Expression opposite(Expression number) {
    return new Value.Arithmetic(
        Span.NOWHERE, Value.ArithmeticOperator.MINUS, Sql.number(0), number);
  }

  private Question<List<String>> ends(Column column) {
    return Question.values(
        select(
            List.of(
                Call.FunctionCall.of("MIN", value(column)),
                Call.FunctionCall.of("MAX", value(column)))),
        2,
        answer -> answer.rows().get(0).stream().map(ValueQuestions::text).toList());
  }

  /** Rows with an empty text, rows with blanks at the ends, values that differ in case alone. */
  private Question<List<Long>> texts(Column column) {
    Expression value = value(column);
    Expression length = Call.FunctionCall.of("LENGTH", value);
    Expression trimmed = Call.FunctionCall.of("LENGTH", Call.FunctionCall.of("TRIM", value));
    boolean padded = column.type().isPadded();
    return Question.numbers(
        select(
            List.of(
                padded ? Sql.number(0) : Sql.countIf(Sql.equal(length, Sql.number(0))),
                padded ? Sql.number(0) : Sql.countIf(Sql.greater(length, trimmed)),
                new Value.Arithmetic(
                    Span.NOWHERE,
                    Value.ArithmeticOperator.MINUS,
                    Sql.countDistinct(value),
                    Sql.countDistinct(Call.FunctionCall.of("LOWER", value))))),
        row -> List.of(row.figure(0), row.figure(1), row.figure(2)));
  }

  private Query select(List<Expression> values) {
    List<SelectItem> items = new ArrayList<>();
    values.forEach(each -> items.add(Sql.as(each, "c" + items.size())));
    return Query.of(Sql.select(items, rows(), null));
  }

  private Expression value(Column column) {
    return Sql.column(HERE, column.name(), dialect);
  }

  private FromItem rows() {
    return Sql.table(table, HERE, dialect);
  }
}
