package io.lantrel.probe;

import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.BiConsumer;
import org.jspecify.annotations.Nullable;

/**
 * The one place that puts questions to a database. All questions of a round go in few statements:
 * figures over one relation are worked out side by side, and what is left is put one below the
 * other. Where a statement of several questions is refused, or fails, each is asked alone, so that
 * a bad question costs only its own answer. Of many rows, what a cheaper question can spare waits
 * for its answer.
 */
public final class Asker {

  /** Engines plan a UNION of very many parts in more than linear time. */
  private static final int MOST_PARTS = 100;

  /** More joins are not put into one statement, unless they belong to one question. */
  private static final int MOST_JOINS = 300;

  /** More columns are not put into one SELECT. */
  private static final int MOST_COLUMNS = 400;

  private final Database database;

  public Asker(Database database) {
    this.database = database;
  }

  /** The database that is asked. */
  public Database database() {
    return database;
  }

  /**
   * Asks all these questions, and waits for the answers.
   *
   * @throws DatabaseException if the database can answer nothing any more; what it has no answer to
   *     is told by {@link Answers#to}
   */
  public Answers ask(Collection<? extends Question<?>> questions) {
    Answers answers = new Answers();
    inTurn(questions, answers, this::put);
    return answers;
  }

  /**
   * The same, but for what was answered before: where a question says the same as an earlier one,
   * or as another of this round, it is not asked.
   *
   * @param known of the same snapshot; these answers are known afterwards as well
   */
  public Answers ask(Collection<? extends Question<?>> questions, Known known) {
    Answers answers = new Answers();
    inTurn(
        questions,
        answers,
        (some, all) -> {
          put(known.open(some, all), all);
          known.repeat(all);
        });
    known.add(answers);
    return answers;
  }

  /** What a cheaper question can spare waits for its answer. */
  private void inTurn(
      Collection<? extends Question<?>> questions,
      Answers answers,
      BiConsumer<Collection<? extends Question<?>>, Answers> asking) {
    if (database.isSmall()) {
      asking.accept(questions, answers);
      return;
    }
    List<Question<?>> first = new ArrayList<>();
    for (Question<?> question : questions) {
      question.screen().ifPresentOrElse(it -> first.addAll(it.tests()), () -> first.add(question));
    }
    asking.accept(first, answers);
    asking.accept(
        questions.stream()
            .filter(each -> each.screen().isPresent() && !answers.spares(each))
            .toList(),
        answers);
  }

  private void put(Collection<? extends Question<?>> questions, Answers answers) {
    for (Statement statement : statements(questions)) {
      for (Statement each : apart(statement)) {
        ask(each, answers, null);
      }
    }
  }

  /** What the database must not see together. */
  private List<Statement> apart(Statement statement) {
    if (database.mixesUpParts()) {
      return statement.parts();
    }
    return database.mixesUpWith() && statement.hasChainOfWith()
        ? statement.pieces()
        : List.of(statement);
  }

  /** One question alone. */
  public <A> A ask(Question<A> question) {
    return ask(List.of(question)).to(question);
  }

  /**
   * Asks for rows as the database gives them, by a query of its own.
   *
   * @throws DatabaseException if the database gives none
   */
  public Rows rows(Query query) {
    return database.ask(query);
  }

  /** What fails is taken apart: what is asked of one relation stays together as long as it can. */
  private void ask(Statement statement, Answers answers, @Nullable DatabaseException before) {
    DatabaseException failure = answer(statement, answers);
    if (failure == null) {
      return;
    }
    // That no time is left says less than what used it up.
    DatabaseException told =
        before != null && before.tookTooLong() && failure.tookTooLong() ? before : failure;
    List<Statement> pieces = statement.pieces();
    if (pieces.isEmpty() && !failure.tookTooLong()) {
      pieces = statement.asTheyAre();
    }
    if (pieces.isEmpty()) {
      statement.questions().forEach(each -> answers.put(each, told));
    }
    pieces.forEach(each -> ask(each, answers, told));
  }

  /** What went wrong; null if the answers are there. */
  private @Nullable DatabaseException answer(Statement statement, Answers answers) {
    Rows rows;
    try {
      rows = database.ask(statement.query());
    } catch (DatabaseException failure) {
      if (failure.isFatal()) {
        throw failure;
      }
      return failure;
    }
    statement.read(rows, answers);
    return null;
  }

  // ---- what goes into one statement ----

  private static List<Statement> statements(Collection<? extends Question<?>> questions) {
    Map<Relation, List<List<Question<?>>>> overOne = new LinkedHashMap<>();
    List<Part> parts = new ArrayList<>();
    for (Question<?> question : new LinkedHashSet<Question<?>>(questions)) {
      if (question.asked() instanceof Question.Figures figures) {
        List<List<Question<?>>> lots =
            overOne.computeIfAbsent(figures.relation(), key -> new ArrayList<>());
        if (lots.isEmpty() || !hasRoomFor(figures, lots.get(lots.size() - 1))) {
          lots.add(new ArrayList<>());
        }
        lots.get(lots.size() - 1).add(question);
      }
    }
    overOne.forEach(
        (relation, lots) -> lots.forEach(lot -> parts.add(Part.Figures.of(relation, lot))));
    for (Question<?> question : new LinkedHashSet<Question<?>>(questions)) {
      if (question.asked() instanceof Question.Listed listed) {
        parts.add(new Part.Listed(question, listed, true));
      }
    }
    return packed(parts);
  }

  private static boolean hasRoomFor(Question.Figures figures, List<Question<?>> others) {
    return width(others) + figures.values().size() <= MOST_COLUMNS;
  }

  private static int width(List<Question<?>> questions) {
    return questions.stream()
        .mapToInt(each -> ((Question.Figures) each.asked()).values().size())
        .sum();
  }

  private static List<Statement> packed(List<Part> parts) {
    List<Statement> statements = new ArrayList<>();
    for (Part part : parts) {
      statements.stream()
          .filter(each -> each.hasRoomFor(part))
          .findFirst()
          .orElseGet(
              () -> {
                Statement statement = new Statement();
                statements.add(statement);
                return statement;
              })
          .add(part);
    }
    return statements;
  }

  /** Parts one below the other, told apart by a number in their first column. */
  private static final class Statement {
    private final List<Part> parts = new ArrayList<>();
    private int joins;
    private int columns;

    boolean hasRoomFor(Part part) {
      Part first = parts.get(0);
      int widest = Math.max(part.width(), parts.stream().mapToInt(Part::width).max().orElse(0));
      int cells = widest * (parts.size() + 1);
      return first.numbers() == part.numbers()
          && first.recursive() == part.recursive()
          && first.with().equals(part.with())
          && parts.size() < MOST_PARTS
          && joins + part.joins() <= MOST_JOINS
          && (cells <= MOST_COLUMNS || cells <= 3 * (columns + part.width()));
    }

    void add(Part part) {
      parts.add(part);
      joins += part.joins();
      columns += part.width();
    }

    List<Question<?>> questions() {
      return parts.stream().flatMap(each -> each.questions().stream()).toList();
    }

    /**
     * Whether it is put together of parts that share queries of WITH, one of which uses another.
     */
    boolean hasChainOfWith() {
      Set<String> names = new HashSet<>();
      parts.get(0).with().forEach(each -> names.add(each.name().key()));
      return parts.size() > 1
          && parts.get(0).with().stream()
              .flatMap(each -> each.query().preorder())
              .anyMatch(
                  node ->
                      node instanceof FromItem.TableName table
                          && names.contains(table.last().key()));
    }

    /** Each part in a statement of its own. */
    List<Statement> parts() {
      return parts.stream().map(Statement::of).toList();
    }

    /** The same in several statements; empty if it is about one question. */
    List<Statement> pieces() {
      if (parts.size() > 1) {
        return parts();
      }
      List<Question<?>> questions = questions();
      return questions.size() == 1
          ? List.of()
          : questions.stream().flatMap(each -> statements(List.of(each)).stream()).toList();
    }

    /**
     * That of one question with its values as they are, since not every type can be made a text;
     * empty if it is that.
     */
    List<Statement> asTheyAre() {
      return parts.get(0) instanceof Part.Listed listed && listed.cast() && !listed.numbers()
          ? List.of(of(new Part.Listed(listed.question(), listed.asked(), false)))
          : List.of();
    }

    private static Statement of(Part part) {
      Statement statement = new Statement();
      statement.add(part);
      return statement;
    }

    Query query() {
      int width = parts.stream().mapToInt(Part::width).max().orElseThrow();
      List<QueryBody> bodies = new ArrayList<>();
      for (Part part : parts) {
        bodies.add(part.body(bodies.size(), width));
      }
      QueryBody body = bodies.size() == 1 ? bodies.get(0) : QueryBody.SetOperation.unionAll(bodies);
      return WithNeeded.define(parts.get(0).with(), parts.get(0).recursive(), Query.of(body));
    }

    void read(Rows rows, Answers answers) {
      List<List<List<@Nullable Object>>> byPart = new ArrayList<>();
      parts.forEach(part -> byPart.add(new ArrayList<>()));
      for (List<@Nullable Object> row : rows.rows()) {
        int tag = ((Number) Objects.requireNonNull(row.get(0))).intValue();
        byPart.get(tag).add(row.subList(1, row.size()));
      }
      for (int i = 0; i < parts.size(); i++) {
        parts.get(i).read(byPart.get(i), answers);
      }
    }
  }
}
