package io.lantrel.trace.asked;

import io.lantrel.edit.OneQuery;
import io.lantrel.engine.Database;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Span;
import io.lantrel.trace.Answer;
import io.lantrel.trace.Answer.Kind;
import io.lantrel.trace.Answer.Outcome;
import io.lantrel.trace.Answer.Source;
import io.lantrel.trace.Answer.Stage;
import io.lantrel.trace.Answer.TracedValue;
import io.lantrel.trace.TraceException;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Follows one row of a table through the blocks of a query, until it is lost or in the result. */
final class FollowedRow {

  /** So many rows of a result are looked through for it. */
  static final int MOST_ROWS = 1_000;

  private final Database database;
  private final Asker asker;
  private final Function<String, OneQuery> reader;
  private final OneQuery query;
  private final Way way;
  private final String row;
  private final Source source;
  private final String text;

  /**
   * @param reader reads a text as the query was read
   * @param condition which row, by what its table goes by there
   * @param row the row by name
   * @param source the row with its values
   */
  FollowedRow(
      Database database,
      Function<String, OneQuery> reader,
      OneQuery query,
      Way way,
      String condition,
      String row,
      Source source) {
    this.database = database;
    this.asker = new Asker(database);
    this.reader = reader;
    this.query = query;
    this.way = way;
    this.row = row;
    this.source = source;
    this.text = MarkedText.of(query, way, condition);
  }

  /** What became of it. */
  Answer answer() {
    OneQuery marked = marked();
    Way here = way.in(marked.resolution()).orElseThrow();
    for (int at = here.steps().size() - 1; at >= 0; at--) {
      Way.Step step = here.steps().get(at);
      String block = at == 0 ? "" : here.steps().get(at - 1).use().name();
      Optional<Answer> lost =
          lostWithin(step.block(), step.use(), block, way.steps().get(at).block());
      if (lost.isPresent()) {
        return lost.get();
      }
      boolean behind =
          at == 0 || isThere(here.steps().get(at - 1).block(), here.steps().get(at - 1).use());
      if (!behind) {
        return lostBehind(marked, step, block, at);
      }
    }
    return inResult(marked, here.steps().get(0));
  }

  /** The marked text; what hinders that is told without the mark. */
  private OneQuery marked() {
    try {
      return reader.apply(text);
    } catch (SyntaxException fault) {
      throw new TraceException(
          "a row of "
              + way.use().words()
              + " cannot be followed through this query: a column more does not fit into it");
    }
  }

  private boolean isThere(QueryBlock block, TableUse use) {
    JoinedRows rows = JoinedRows.of(block, Promises.KEYS).orElse(null);
    return rows == null
        || asker.ask(
                Question.count(rows.side(use.item()), isMarked(rows, rows.side(use.item()), use)))
            > 0;
  }

  /** Of a query in FROM the mark is a column; of the table itself, what the block shows last. */
  static Expression isMarked(JoinedRows rows, Relation relation, TableUse use) {
    Optional<UseColumn> column = use.column(MarkedText.MARK);
    Expression mark =
        column.isPresent()
            ? rows.column(relation, column.get())
            : rows.value(relation, shownMark(rows.block()));
    return Sql.equal(mark, Sql.number(1));
  }

  /** The mark as a value of a row, without the aggregate that a group has. */
  private static Expression shownMark(QueryBlock block) {
    List<OutputColumn> outputs = block.outputs();
    Expression shown = outputs.get(outputs.size() - 1).value();
    return shown instanceof FunctionCall call && call.key().equals("max")
        ? call.arguments().get(0)
        : shown;
  }

  // ---- within the joins and WHERE of a block ----

  /**
   * @param written the block as the user wrote it, by which its tables are called
   */
  private Optional<Answer> lostWithin(
      QueryBlock block, TableUse use, String name, QueryBlock written) {
    JoinedRows rows = JoinedRows.of(block, Promises.KEYS).orElse(null);
    if (rows == null) {
      return Optional.empty();
    }
    Map<JoinStep, Question<Long>> counts = new LinkedHashMap<>();
    for (JoinStep step : block.steps()) {
      if (step.left().contains(use) || step.right().contains(use)) {
        Relation side = rows.side(step.join());
        counts.put(step, Question.count(side, isMarked(rows, side, use)));
      }
    }
    Question<Long> kept = Question.count(rows.all(), rows.isKept(isMarked(rows, rows.all(), use)));
    List<Question<?>> all = new ArrayList<>(counts.values());
    all.add(kept);
    Answers answers = asker.ask(all);
    for (Map.Entry<JoinStep, Question<Long>> each : counts.entrySet()) {
      if (answers.to(each.getValue()) == 0) {
        return Optional.of(lostAt(each.getKey(), rows, use, name, written));
      }
    }
    return answers.to(kept) > 0 || block.filters().isEmpty()
        ? Optional.empty()
        : Optional.of(lostInWhere(rows, use, name));
  }

  private Answer lostAt(
      JoinStep step, JoinedRows rows, TableUse use, String name, QueryBlock written) {
    boolean left = step.left().contains(use);
    Relation side = rows.side(left ? step.join().left() : step.join().right());
    Expression marked = isMarked(rows, side, use);
    List<Question<Long>> alone = new ArrayList<>();
    List<Question<Long>> others = new ArrayList<>();
    for (Conjunct each : step.conjuncts()) {
      alone.add(almost(rows, step, left, List.of(each), use));
      List<Conjunct> rest = step.conjuncts().stream().filter(other -> !other.equals(each)).toList();
      others.add(almost(rows, step, left, rest, use));
    }
    List<UseColumn> columns =
        columns(rows.block(), step.conjuncts(), left ? step.left() : step.right());
    Question<List<List<@Nullable String>>> values = values(rows, side, marked, columns);
    List<Question<?>> all = new ArrayList<>(alone);
    all.addAll(others);
    all.add(values);
    Answers answers = asker.ask(all);
    List<Conjunct> failing = failing(step.conjuncts(), alone, others, answers);
    List<TracedValue> told =
        told(
            columns(rows.block(), failing, left ? step.left() : step.right()),
            columns,
            answers.to(values));
    String condition = print(failing.isEmpty() ? step.conjuncts() : failing, rows.block());
    String partner =
        Words.list(
            (left ? step.right() : step.left())
                .stream().map(each -> written.uses().get(each.index()).words()).toList());
    String words = written.steps().get(rows.block().steps().indexOf(step)).words();
    List<String> sentences = new ArrayList<>();
    sentences.add(row + " is lost at " + words + within(name) + ".");
    sentences.add(
        whyNoPartner(
            condition, partner, told, isMetByOthers(failing, step.conjuncts(), alone, answers)));
    if (failing.size() == 1) {
      new NearPartner(rows, step, left, failing.get(0), use, asker)
          .words()
          .ifPresent(sentences::add);
    }
    int number = number(rows.block(), step);
    return answer(
        Outcome.LOST, new Stage(Kind.JOIN, number, name, words), condition, told, sentences);
  }

  /** A comma list may be joined in another order than it is written. */
  private static int number(QueryBlock block, JoinStep step) {
    for (int i = 0; i < block.writtenSteps().size(); i++) {
      if (block.writtenSteps().get(i).right().equals(step.right())) {
        return i + 1;
      }
    }
    return step.number();
  }

  private static String whyNoPartner(
      String condition, String partner, List<TracedValue> values, boolean besides) {
    List<TracedValue> empty = values.stream().filter(each -> each.value() == null).toList();
    if (!empty.isEmpty()) {
      return empty.get(0).words()
          + ", so "
          + condition
          + " is unknown for every row of "
          + partner
          + ".";
    }
    String shown = values.isEmpty() ? "" : joined(values) + ", and ";
    return shown
        + "no row of "
        + partner
        + (besides ? ", of those that meet the rest of ON," : "")
        + " meets "
        + (condition.isEmpty() ? "the join" : condition)
        + ".";
  }

  /** Whether some partner meets the failing condition, but not together with the others. */
  private static boolean isMetByOthers(
      List<Conjunct> failing,
      List<Conjunct> conjuncts,
      List<Question<Long>> alone,
      Answers answers) {
    return failing.size() == 1
        && conjuncts.size() > 1
        && answers.to(alone.get(conjuncts.indexOf(failing.get(0)))) > 0;
  }

  private Question<Long> almost(
      JoinedRows rows, JoinStep step, boolean left, List<Conjunct> some, TableUse use) {
    Relation almost = rows.almostMet(step, left, some, true);
    return Question.count(almost, isMarked(rows, almost, use));
  }

  /** The conditions that no partner meets; or those without which there would be one. */
  private static List<Conjunct> failing(
      List<Conjunct> conjuncts,
      List<Question<Long>> alone,
      List<Question<Long>> others,
      Answers answers) {
    List<Conjunct> never = new ArrayList<>();
    List<Conjunct> last = new ArrayList<>();
    for (int i = 0; i < conjuncts.size(); i++) {
      if (answers.to(alone.get(i)) == 0) {
        never.add(conjuncts.get(i));
      }
      if (answers.to(others.get(i)) > 0) {
        last.add(conjuncts.get(i));
      }
    }
    return !never.isEmpty() ? never : last.isEmpty() ? conjuncts : last.subList(0, 1);
  }

  private Answer lostInWhere(JoinedRows rows, TableUse use, String name) {
    List<Conjunct> filters = rows.block().filters();
    Expression marked = isMarked(rows, rows.all(), use);
    List<Question<Long>> meets = new ArrayList<>();
    List<Question<Long>> fails = new ArrayList<>();
    for (Conjunct each : filters) {
      Expression joined = Sql.all(List.of(rows.isJoined(), marked));
      Expression condition = each.condition();
      meets.add(
          Question.count(rows.all(), Sql.all(List.of(joined, rows.holds(rows.all(), condition)))));
      fails.add(
          Question.count(
              rows.all(), Sql.all(List.of(joined, rows.holds(rows.all(), Sql.not(condition))))));
    }
    List<UseColumn> columns = columns(rows.block(), filters, rows.block().uses());
    Question<List<List<@Nullable String>>> values =
        values(rows, rows.all(), Sql.all(List.of(rows.isJoined(), marked)), columns);
    List<Question<?>> all = new ArrayList<>(meets);
    all.addAll(fails);
    all.add(values);
    Answers answers = asker.ask(all);
    List<Conjunct> failing = new ArrayList<>();
    boolean unknown = true;
    for (int i = 0; i < filters.size(); i++) {
      if (answers.to(meets.get(i)) == 0) {
        failing.add(filters.get(i));
        unknown &= answers.to(fails.get(i)) == 0;
      }
    }
    List<Conjunct> named = failing.isEmpty() ? filters : failing;
    List<TracedValue> told =
        told(columns(rows.block(), named, rows.block().uses()), columns, answers.to(values));
    String condition = print(named, rows.block());
    List<String> sentences = new ArrayList<>();
    sentences.add(row + " is lost in WHERE" + within(name) + ".");
    sentences.add(
        (told.isEmpty() ? "" : joined(told) + ", so ")
            + condition
            + (unknown && !failing.isEmpty() ? " is unknown." : " is not true."));
    return answer(
        Outcome.LOST, new Stage(Kind.WHERE, 0, name, "WHERE"), condition, told, sentences);
  }

  // ---- values ----

  private static List<UseColumn> columns(
      QueryBlock block, List<Conjunct> conjuncts, List<TableUse> uses) {
    List<UseColumn> columns = new ArrayList<>();
    for (Conjunct each : conjuncts) {
      each.equality()
          .ifPresent(
              equality -> {
                add(columns, equality.left(), uses);
                add(columns, equality.right(), uses);
              });
      block.columnsIn(each.condition()).forEach(column -> add(columns, column, uses));
    }
    return columns;
  }

  private static void add(List<UseColumn> columns, UseColumn column, List<TableUse> uses) {
    if (uses.contains(column.use()) && !columns.contains(column)) {
      columns.add(column);
    }
  }

  /** The different values of some columns; a few rows of them. */
  private static Question<List<List<@Nullable String>>> values(
      JoinedRows rows, Relation relation, Expression condition, List<UseColumn> columns) {
    List<Expression> shown = columns.stream().map(each -> rows.column(relation, each)).toList();
    return RowValues.question(relation, shown, condition, columns, 2);
  }

  private static List<TracedValue> told(
      List<UseColumn> wanted, List<UseColumn> columns, List<List<@Nullable String>> values) {
    List<TracedValue> told = new ArrayList<>();
    if (values.size() == 1) {
      for (UseColumn column : wanted) {
        told.add(new TracedValue(column.words(), values.get(0).get(columns.indexOf(column))));
      }
    }
    return told;
  }

  private static String joined(List<TracedValue> values) {
    return Words.list(values.stream().map(TracedValue::words).toList());
  }

  private static String print(List<Conjunct> conjuncts, QueryBlock block) {
    return String.join(
        " AND ",
        conjuncts.stream()
            .map(each -> SqlPrinter.print(each.condition(), block.dialect()))
            .toList());
  }

  private static String within(String block) {
    return block.isEmpty() ? "" : ", within " + block;
  }

  private Answer answer(
      Outcome outcome,
      Stage stage,
      String condition,
      List<TracedValue> values,
      List<String> sentences) {
    return new Answer(
        outcome, row, Optional.of(stage), condition, values, List.of(source), sentences);
  }

  // ---- behind WHERE ----

  /** It came through the joins and WHERE of a block, and is not in what the block gives. */
  private Answer lostBehind(OneQuery marked, Way.Step step, String name, int at) {
    QueryBlock block = step.block();
    Limit limit = block.query().limit();
    if (limit != null) {
      String without = Edit.apply(text, List.of(new Edit(limit.span(), "")));
      if (count(without, at) > 0) {
        return answer(
            Outcome.LOST,
            new Stage(Kind.LIMIT, 0, name, "LIMIT"),
            marked.source().at(limit.span()),
            List.of(),
            List.of(
                row + " is lost at LIMIT" + within(name) + ".",
                "In the order of the query it comes behind "
                    + marked.source().at(limit.span())
                    + "."));
      }
    }
    if (block.select().having() != null) {
      return lostInHaving(marked, block, name, at);
    }
    Kind kind = block.select().qualify() != null ? Kind.QUALIFY : Kind.DISTINCT;
    String words = kind == Kind.QUALIFY ? "QUALIFY" : "DISTINCT";
    String condition =
        block.select().qualify() == null
            ? ""
            : SqlPrinter.print(block.select().qualify(), block.dialect());
    return answer(
        Outcome.LOST,
        new Stage(kind, 0, name, words),
        condition,
        List.of(),
        List.of(row + " is lost at " + words + within(name) + "."));
  }

  private Answer lostInHaving(OneQuery marked, QueryBlock block, String name, int at) {
    Expression having = Optional.ofNullable(block.select().having()).orElseThrow();
    String condition = SqlPrinter.print(having, block.dialect());
    List<TracedValue> values = List.of();
    if (at == 0) {
      values = group(marked, block, having).orElse(List.of());
    }
    List<String> sentences = new ArrayList<>();
    sentences.add(row + " is lost in HAVING" + within(name) + ", with its group.");
    sentences.add(
        (values.isEmpty() ? "" : "Of that group " + joined(values) + ", so ")
            + condition
            + " is not true"
            + (values.isEmpty() ? " for that group." : "."));
    return answer(
        Outcome.LOST, new Stage(Kind.HAVING, 0, name, "HAVING"), condition, values, sentences);
  }

  /** What the group shows that the row is in, without HAVING. */
  private Optional<List<TracedValue>> group(OneQuery marked, QueryBlock block, Expression having) {
    Span before = new Span(block.select().span().start(), having.span().start());
    Optional<Span> word = new LexedText(marked.source(), before, block.dialect()).last("HAVING");
    if (word.isEmpty()) {
      return Optional.empty();
    }
    List<Edit> gone = new ArrayList<>(List.of(new Edit(word.get().to(having.span()), "")));
    Optional.ofNullable(block.query().limit())
        .ifPresent(each -> gone.add(new Edit(each.span(), "")));
    String without = Edit.apply(text, gone);
    Rows rows = database.run(reader.apply(without).query(), MOST_ROWS);
    return marked(rows).stream().findFirst().map(number -> shown(rows, number - 1));
  }

  private long count(String changed, int at) {
    OneQuery read = reader.apply(changed);
    Way here = way.in(read.resolution()).orElseThrow();
    if (at > 0) {
      Way.Step outer = here.steps().get(at - 1);
      return isThere(outer.block(), outer.use()) ? 1 : 0;
    }
    return marked(database.run(read.query(), MOST_ROWS)).size();
  }

  // ---- in the result ----

  private Answer inResult(OneQuery marked, Way.Step step) {
    Rows rows = database.run(marked.query(), MOST_ROWS);
    List<Integer> numbers = marked(rows);
    if (numbers.isEmpty() && !rows.cut()) {
      return lostBehind(marked, step, "", 0);
    }
    if (numbers.isEmpty()) {
      return new Answer(
          Outcome.PRESENT,
          row,
          Optional.empty(),
          "",
          List.of(),
          List.of(source),
          List.of(
              row
                  + " comes through every join and condition; it is not among the first "
                  + Words.rows(MOST_ROWS)
                  + " of the result."));
    }
    QueryBlock block = step.block();
    boolean together = block.select().distinct() || query.resolution().result().parts().size() > 1;
    List<TracedValue> values = shown(rows, numbers.get(0) - 1);
    if (together) {
      Rows plain = database.run(query.query(), MOST_ROWS);
      List<@Nullable Object> own = withoutMark(rows.rows().get(numbers.get(0) - 1));
      int number = plain.rows().indexOf(own) + 1;
      long equal = rows.rows().stream().map(FollowedRow::withoutMark).filter(own::equals).count();
      if (number > 0 && equal > 1) {
        Kind kind = block.select().distinct() ? Kind.DISTINCT : Kind.UNION;
        String words = kind == Kind.DISTINCT ? "DISTINCT" : "UNION";
        return new Answer(
            Outcome.MERGED,
            row,
            Optional.of(new Stage(kind, 0, "", words)),
            "",
            values,
            List.of(source),
            List.of(
                row
                    + " is in the result: "
                    + words
                    + " made one row of it and of others, row "
                    + number
                    + "."));
      }
      numbers = numbersIn(plain, rows, numbers);
    }
    return new Answer(
        Outcome.PRESENT,
        row,
        Optional.empty(),
        "",
        values,
        List.of(source),
        List.of(
            row
                + (block.isGrouped()
                    ? " is in the result, in the group of "
                    : " is in the result, as ")
                + rowNumbers(numbers)
                + "."));
  }

  /** The rows as the query itself numbers them, whose mark would tell equal rows apart. */
  private static List<Integer> numbersIn(Rows plain, Rows marked, List<Integer> numbers) {
    Set<Integer> found = new TreeSet<>();
    for (int number : numbers) {
      int at = plain.rows().indexOf(withoutMark(marked.rows().get(number - 1)));
      if (at >= 0) {
        found.add(at + 1);
      }
    }
    return found.isEmpty() ? numbers : List.copyOf(found);
  }

  private static String rowNumbers(List<Integer> numbers) {
    if (numbers.size() == 1) {
      return "row " + numbers.get(0);
    }
    List<String> first = numbers.stream().limit(5).map(String::valueOf).toList();
    return numbers.size() > 5
        ? Words.number(numbers.size()) + " rows, the first of them row " + numbers.get(0)
        : "rows " + Words.list(first);
  }

  private static List<@Nullable Object> withoutMark(List<@Nullable Object> row) {
    return row.subList(0, row.size() - 1);
  }

  /** The numbers, from 1, of the rows with the mark, which is the last column. */
  private static List<Integer> marked(Rows rows) {
    List<Integer> numbers = new ArrayList<>();
    int mark = markColumn(rows);
    for (int i = 0; i < rows.size(); i++) {
      if (rows.rows().get(i).get(mark) instanceof Number number && number.intValue() == 1) {
        numbers.add(i + 1);
      }
    }
    return numbers;
  }

  private static int markColumn(Rows rows) {
    for (int i = rows.headings().size() - 1; i >= 0; i--) {
      if (rows.headings().get(i).equalsIgnoreCase(MarkedText.MARK)) {
        return i;
      }
    }
    throw new IllegalStateException("the rows have no mark");
  }

  private static List<TracedValue> shown(Rows rows, int number) {
    List<TracedValue> values = new ArrayList<>();
    int mark = markColumn(rows);
    for (int i = 0; i < rows.headings().size(); i++) {
      if (i != mark) {
        Object value = rows.rows().get(number).get(i);
        values.add(
            new TracedValue(rows.headings().get(i), value == null ? null : ValueText.of(value)));
      }
    }
    return values;
  }
}
