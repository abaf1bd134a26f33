package io.lantrel.trace.asked;

import io.lantrel.edit.OneQuery;
import io.lantrel.engine.Database;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.QueryBody;
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
   * @throws TraceException if rows cannot be followed through that query
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
    Optional<Followed> within = Optional.empty();
    for (int at = here.steps().size() - 1; at >= 0; at--) {
      Optional<Followed> followed = followed(here, at);
      if (followed.isEmpty()) {
        // What cannot be looked at step by step is told by what comes out of it.
        within = Optional.empty();
        continue;
      }
      Optional<Answer> lost = lostWithin(followed.get(), within, marked, at);
      if (lost.isPresent()) {
        return lost.get();
      }
      within = followed;
    }
    return inResult(marked, within, here.steps().get(0).block());
  }

  /** The marked text; what hinders that is told without the mark. */
  private OneQuery marked() {
    try {
      return reader.apply(text);
    } catch (SyntaxException fault) {
      throw new TraceException(
          "rows of "
              + way.use().words()
              + " cannot be followed through this query: a column more does not fit into it");
    }
  }

  private Optional<Followed> followed(Way here, int at) {
    Way.Step step = here.steps().get(at);
    Optional<TableUse> outer =
        at == 0 ? Optional.empty() : Optional.of(here.steps().get(at - 1).use());
    String name = outer.map(TableUse::name).orElse("");
    List<QueryBlock> parts =
        outer
            .flatMap(TableUse::queryOfText)
            .map(ResolvedQuery::parts)
            .orElseGet(() -> query.resolution().result().parts());
    String place = parts.size() > 1 ? place(step, name, parts) : name;
    return JoinedRows.of(step.block(), Promises.KEYS)
        .map(
            rows ->
                new Followed(
                    row,
                    source,
                    rows,
                    step.use(),
                    step.use().column(MarkedText.name(at + 1)).orElse(null),
                    name,
                    place));
  }

  /** Which of several queries that are put together a block is. */
  private static String place(Way.Step step, String name, List<QueryBlock> parts) {
    boolean recursion = parts.stream().anyMatch(QueryBlock::isRecursive);
    String which =
        !recursion
            ? "SELECT " + (step.part() + 1)
            : step.block().isRecursive() ? "the steps" : "the start";
    return name.isEmpty() ? which : which + " of " + name;
  }

  /**
   * Whether it is lost at a join or in WHERE of a block, or behind WHERE of the block within.
   *
   * @param within the block whose rows the table use is; empty for a table, or if it is not known
   */
  private Optional<Answer> lostWithin(
      Followed followed, Optional<Followed> within, OneQuery marked, int at) {
    JoinedRows rows = followed.rows();
    Map<JoinStep, Question<Long>> counts = new LinkedHashMap<>();
    for (JoinStep step : followed.block().steps()) {
      if (step.left().contains(followed.use()) || step.right().contains(followed.use())) {
        counts.put(step, followed.count(rows.side(step.join())));
      }
    }
    Question<Long> begins = there(followed);
    Question<Long> kept = followed.count(rows.all(), rows.isKept(Sql.always()));
    List<Question<?>> all = new ArrayList<>(counts.values());
    within.ifPresent(inner -> all.add(begins));
    all.add(kept);
    Answers answers = asker.ask(all);
    if (within.isPresent() && answers.to(begins) == 0) {
      return Optional.of(
          new LostBehind(within.get(), marked, changed -> isThere(changed, at)).answer());
    }
    QueryBlock written = way.steps().get(at).block();
    for (Map.Entry<JoinStep, Question<Long>> each : counts.entrySet()) {
      if (answers.to(each.getValue()) == 0) {
        return Optional.of(new LostAtJoin(followed, each.getKey(), written, asker).answer());
      }
    }
    return answers.to(kept) > 0 || followed.block().filters().isEmpty()
        ? Optional.empty()
        : Optional.of(new LostInWhere(followed, asker).answer());
  }

  private static Question<Long> there(Followed followed) {
    return followed.count(followed.rows().side(followed.use().item()));
  }

  /** By another text: whether a block has it among the rows of the query in its FROM. */
  private Optional<List<TracedValue>> isThere(String changed, int at) {
    Way here = way.in(reader.apply(changed).resolution()).orElseThrow();
    return followed(here, at)
        .filter(followed -> asker.ask(there(followed)) > 0)
        .map(there -> List.of());
  }

  // ---- in the result ----

  private Answer inResult(OneQuery marked, Optional<Followed> within, QueryBlock block) {
    MarkedRows rows = new MarkedRows(database.run(marked.query(), MOST_ROWS));
    List<Integer> numbers = rows.numbers();
    if (numbers.isEmpty()) {
      Optional<List<TracedValue>> further = rows.rows().cut() ? inResultOf(text) : Optional.empty();
      return further.isPresent()
          ? present(
              further.get(),
              row + " is in the result, behind its first " + Words.rows(MOST_ROWS) + ".")
          : notInResult(marked, within);
    }
    List<TracedValue> values = rows.values(numbers.get(0));
    Optional<Kind> merging = merging(block);
    if (merging.isPresent()) {
      Rows plain = database.run(query.query(), MOST_ROWS);
      List<@Nullable Object> own = rows.row(numbers.get(0));
      int number = plain.rows().indexOf(own) + 1;
      if (number > 0 && rows.alike(own) > 1) {
        return merged(merging.get(), values, number);
      }
      numbers = numbersIn(plain, rows, numbers);
    }
    return present(
        values,
        row
            + (block.isGrouped() ? " is in the result, in the group of " : " is in the result, as ")
            + rowNumbers(numbers)
            + ".");
  }

  private Answer notInResult(OneQuery marked, Optional<Followed> within) {
    return within
        .map(inner -> new LostBehind(inner, marked, this::inResultOf).answer())
        .orElseThrow(
            () -> new TraceException(row + " is not in the result; where it is lost is not known"));
  }

  /** By another text: what the first row of the result shows that comes of it. */
  private Optional<List<TracedValue>> inResultOf(String changed) {
    ResolvedQuery result = reader.apply(changed).resolution().result();
    ResultTable table = ResultTable.of(result);
    Expression isMarked = Sql.equal(ResultTable.column(table.width() - 1), Sql.number(1));
    Rows found = database.ask(table.whole(Sql.first(table.where(isMarked), List.of(), 1)));
    List<String> headings = result.outputs().stream().map(OutputColumn::name).toList();
    return found.rows().stream().findFirst().map(row -> MarkedRows.values(headings, row));
  }

  /** What makes one row of equal ones in the whole query; empty if nothing does. */
  private Optional<Kind> merging(QueryBlock block) {
    if (isMerging(query.query().body())) {
      return Optional.of(Kind.UNION);
    }
    return block.select().distinct() ? Optional.of(Kind.DISTINCT) : Optional.empty();
  }

  private static boolean isMerging(QueryBody body) {
    return body instanceof QueryBody.SetOperation operation
        && (!operation.all() || operation.parts().stream().anyMatch(FollowedRow::isMerging));
  }

  private Answer present(List<TracedValue> values, String sentence) {
    return new Answer(
        Outcome.PRESENT, row, Optional.empty(), "", values, List.of(source), List.of(sentence));
  }

  private Answer merged(Kind kind, List<TracedValue> values, int number) {
    return new Answer(
        Outcome.MERGED,
        row,
        Optional.of(new Stage(kind, 0, "", kind.name())),
        "",
        values,
        List.of(source),
        List.of(
            row
                + " is in the result: "
                + kind
                + " made one row of it and of others, row "
                + number
                + "."));
  }

  /** The rows as the query itself numbers them, whose mark would tell equal rows apart. */
  private static List<Integer> numbersIn(Rows plain, MarkedRows marked, List<Integer> numbers) {
    Set<Integer> found = new TreeSet<>();
    for (int number : numbers) {
      int at = plain.rows().indexOf(marked.row(number));
      if (at >= 0) {
        found.add(at + 1);
      }
    }
    return found.isEmpty() ? numbers : List.copyOf(found);
  }

  /** Rows of a result by their numbers, which are told one by one if there are few. */
  static String rowNumbers(List<Integer> numbers) {
    if (numbers.size() == 1) {
      return "row " + numbers.get(0);
    }
    return numbers.size() > 5
        ? Words.number(numbers.size()) + " rows, the first of them row " + numbers.get(0)
        : "rows " + Words.list(numbers.stream().map(String::valueOf).toList());
  }
}
