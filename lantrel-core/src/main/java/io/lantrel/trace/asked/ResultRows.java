package io.lantrel.trace.asked;

import io.lantrel.edit.OneQuery;
import io.lantrel.engine.Database;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.trace.Answer;
import io.lantrel.trace.Answer.Outcome;
import io.lantrel.trace.Answer.Source;
import io.lantrel.trace.Answer.TracedValue;
import io.lantrel.trace.TraceException;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/** Why rows of a result are there: from which rows each was put together. */
public final class ResultRows {

  private final Database database;
  private final int most;

  /**
   * @param most how many rows of each group are told at most
   */
  public ResultRows(Database database, int most) {
    this.database = database;
    this.most = Math.max(1, most);
  }

  /**
   * The row of that number, in the order in which the database gives them.
   *
   * @param number from 1
   */
  public Answer row(OneQuery query, int number) {
    return database.inSnapshot(() -> traced(query, number));
  }

  private Answer traced(OneQuery query, int number) {
    Rows rows = database.run(query.query(), number);
    if (rows.size() < number) {
      return new Answer(
          Outcome.NO_SUCH_ROW,
          "row " + number,
          Optional.empty(),
          "",
          List.of(),
          List.of(),
          List.of(
              "There is no row " + number + ": the result has " + Words.rows(rows.size()) + "."));
    }
    ResolvedQuery result = query.resolution().result();
    Rows row = rows.only(number - 1);
    List<TracedValue> values = MarkedRows.values(rows.headings(), row.rows().get(0));
    SourceRows.Found found =
        new SourceRows(database, query.resolution().blocks(), most)
            .of(result, wanted(result, row), values);
    if (found.sources().isEmpty() && found.sentences().isEmpty()) {
      throw new TraceException(
          "row "
              + number
              + " could not be put together again from rows of the tables; perhaps the query gives"
              + " other rows each time");
    }
    List<String> sentences = new ArrayList<>();
    result.block().ifPresent(block -> sentences.addAll(whyNull(block, values, found.sources())));
    sentences.addAll(found.sentences());
    return new Answer(
        Outcome.PRESENT, "row " + number, Optional.empty(), "", values, found.sources(), sentences);
  }

  /**
   * The row as a member of WITH, picked out by its values: an engine need not give the rows in the
   * same order again. What cannot be written as a constant is left out, and compared afterwards.
   */
  private static SourceRows.Wanted wanted(ResolvedQuery result, Rows row) {
    ResultTable table = ResultTable.of(result);
    List<Expression> equal = new ArrayList<>();
    int width = row.headings().size();
    for (int i = 0; i < width; i++) {
      Constants.isAt(ResultTable.column(i), row, i).ifPresent(equal::add);
    }
    String name = SourceRows.WANTED + "0";
    Expression condition = equal.isEmpty() ? Sql.always() : Sql.all(equal);
    List<CommonTable> with = new ArrayList<>(table.with());
    with.add(Sql.named(name, Sql.first(table.where(condition), List.of(), 1), width));
    List<Integer> all = IntStream.range(0, width).boxed().toList();
    return SourceRows.Wanted.of(with, table.recursive(), name, row, all);
  }

  // ---- what NULL means ----

  /** For each NULL of the row: empty in the data, or filled, and at which step. */
  private static List<String> whyNull(
      QueryBlock block, List<TracedValue> values, List<Source> sources) {
    List<String> sentences = new ArrayList<>();
    for (OutputColumn output : block.outputs()) {
      if (output.position() >= values.size() || values.get(output.position()).value() != null) {
        continue;
      }
      String heading = values.get(output.position()).name();
      for (UseColumn column : block.columnsIn(output.value())) {
        if (isNull(column, sources) && NullRejection.isNullWith(output.value(), block, column)) {
          sentences.add(heading + " is NULL " + why(column, output.value(), block, sources));
          break;
        }
      }
    }
    return sentences;
  }

  private static String why(
      UseColumn column, Expression shown, QueryBlock block, List<Source> sources) {
    boolean itself = shown instanceof ColumnName;
    List<JoinStep> steps = block.stepsThatFill(column.use());
    if (isFilled(column, sources) && !steps.isEmpty()) {
      return "because "
          + (itself ? "" : column.words() + " is: ")
          + "no row of "
          + column.use().words()
          + " was found at "
          + steps.get(0).words()
          + ".";
    }
    String empty = column.words() + " is empty in that row.";
    return (itself ? "in the data: " : "because ") + empty;
  }

  private static boolean isFilled(UseColumn column, List<Source> sources) {
    return sources.stream()
        .filter(each -> each.use().equals(column.use().name()))
        .anyMatch(each -> !each.filled().isEmpty());
  }

  private static boolean isNull(UseColumn column, List<Source> sources) {
    return isFilled(column, sources)
        || sources.stream()
            .filter(each -> each.use().equals(column.use().name()))
            .limit(1)
            .flatMap(each -> each.values().stream())
            .anyMatch(each -> each.name().equals(column.name()) && each.value() == null);
  }

  // ---- rows by their values ----

  /**
   * The numbers, from 1, of the rows of a result that meet a condition over its headings.
   *
   * @throws TraceException if it is no condition over them
   */
  public List<Integer> numbers(OneQuery query, String condition) {
    return new MatchingRows(database).numbers(query, condition(query, condition));
  }

  /** A condition over the headings of a result. */
  static Expression condition(OneQuery query, String text) {
    try {
      return SqlReader.readCondition(text, query.resolution().root().dialect());
    } catch (SyntaxException wrong) {
      throw new TraceException("that is no condition: " + wrong.getMessage());
    }
  }
}
