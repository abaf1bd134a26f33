package io.lantrel;

import io.lantrel.catalog.Catalog;
import io.lantrel.check.CheckRules;
import io.lantrel.check.Finding;
import io.lantrel.check.Inspection;
import io.lantrel.check.inspection.Acceptances;
import io.lantrel.check.inspection.Inspector;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.Claim;
import io.lantrel.claim.ClaimFiles;
import io.lantrel.claim.ClaimProblem;
import io.lantrel.claim.Verification;
import io.lantrel.claim.asked.Suggester;
import io.lantrel.claim.asked.Verifier;
import io.lantrel.claim.text.ClaimComments;
import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Comparison;
import io.lantrel.compare.ExpectedTable;
import io.lantrel.compare.asked.Comparer;
import io.lantrel.compare.asked.Side;
import io.lantrel.edit.OneQuery;
import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.LedgerOfPart;
import io.lantrel.ledger.Naming;
import io.lantrel.ledger.OtherJoin;
import io.lantrel.ledger.RowShare;
import io.lantrel.ledger.WithoutJoin;
import io.lantrel.ledger.account.JoinLeftOut;
import io.lantrel.ledger.account.LedgerMaker;
import io.lantrel.ledger.account.Obstacles;
import io.lantrel.ledger.account.OtherJoins;
import io.lantrel.ledger.account.PartLedgerMaker;
import io.lantrel.probe.HeldConstraints;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.rows.ShownRows;
import io.lantrel.rows.StepRows;
import io.lantrel.rows.asked.RowsOfResult;
import io.lantrel.rows.asked.RowsOfSteps;
import io.lantrel.sql.ParameterValues;
import io.lantrel.sql.Place;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.Statement;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import io.lantrel.trace.Answer;
import io.lantrel.trace.ColumnOrigin;
import io.lantrel.trace.asked.ColumnOrigins;
import io.lantrel.trace.asked.MissingRows;
import io.lantrel.trace.asked.ResultRows;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntPredicate;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * One statement, looked at on sample data or at a database. Nothing is run before it is asked for.
 * Not safe for use by several threads at once.
 */
public final class Study {

  /** How many rows are named for each reason in a ledger, if nothing else is asked for. */
  public static final int EXAMPLES = 3;

  /** How many rows of a result are fetched, if nothing else is asked for. */
  public static final int ROWS = 1_000;

  private final Catalog catalog;
  private final @Nullable Database database;
  private final SourceText source;
  private final Statement statement;
  private final int number;
  private final ParameterValues values;
  private final ClaimComments comments;
  private final Acceptances acceptances;
  private final CheckRules rules;
  private final HeldConstraints held;
  private @Nullable Inspection inspection;
  private long sentToExplain;

  Study(
      Catalog catalog,
      @Nullable Database database,
      SourceText source,
      Statement statement,
      int number,
      ParameterValues values,
      ClaimComments comments,
      Acceptances acceptances,
      CheckRules rules,
      HeldConstraints held) {
    this.catalog = catalog;
    this.database = database == null ? null : database.forStudy();
    this.source = source;
    this.statement = statement;
    this.number = number;
    this.values = values;
    this.comments = comments;
    this.acceptances = acceptances;
    this.rules = rules;
    this.held = held;
  }

  /** Position of the statement in its text, from 1. */
  public int number() {
    return number;
  }

  /** The statement's own text, without its semicolon. */
  public String sql() {
    return source.at(statement.span());
  }

  /** The whole text that it stands in; all spans are places of it. */
  public SourceText source() {
    return source;
  }

  /**
   * The names and numbers of its parameters, as {@code since} of {@code :since}; {@code ?} goes by
   * its place among those of the statement, from 1. Empty if it is no query.
   */
  public Set<String> parameters() {
    return statement instanceof Statement.QueryStatement query
        ? ParameterValues.namesIn(query.query())
        : Set.of();
  }

  /** Whether it begins like a query; what does not is never run. */
  public boolean isQuery() {
    return !(statement instanceof Statement.OtherStatement);
  }

  /** Where the statement stands. */
  public Place place() {
    return source.place(statement.span());
  }

  /** A span as offset, line and column of the whole text. */
  public Place place(Span span) {
    return source.place(span);
  }

  /**
   * All that was found, what could not be checked, and whether the statement was understood at all.
   * It is worked out once.
   *
   * @throws io.lantrel.engine.DatabaseException if the database fails
   */
  public Inspection inspection() {
    if (inspection == null) {
      Inspection found =
          LargeStack.call(
              () -> new Inspector(catalog, database, values, rules).inspect(source, statement));
      inspection = acceptances.judged(found, number - 1, rules);
    }
    return inspection;
  }

  /** The findings, in the order of the text; see {@link #inspection()}. */
  public List<Finding> findings() {
    return inspection().findings();
  }

  /** Whether Lantrel could read the statement. If not, no findings does not mean no faults. */
  public boolean isUnderstood() {
    return inspection().understood();
  }

  /**
   * What each step did to the rows, with {@value #EXAMPLES} rows named for each reason. Of a part
   * that cannot be looked at step by step the account tells why, and how many rows it gives.
   *
   * @throws NoLedgerException if the statement is no query, has errors or was not understood
   * @throws io.lantrel.engine.DatabaseException if the database refuses it or takes too long
   */
  public Ledger ledger() {
    return ledger(EXAMPLES);
  }

  /**
   * The same, with so many rows named for each reason.
   *
   * @param examples at least 0
   */
  public Ledger ledger(int examples) {
    return ledger(Naming.some(examples));
  }

  /** The same with other rows named. */
  public Ledger ledger(Naming naming) {
    if (database == null) {
      throw new NoLedgerException("there are no rows here; a ledger needs sample data");
    }
    Database rows = database;
    return answered(() -> new LedgerMaker(rows, naming).make(asQuery()));
  }

  /**
   * The account of a part of the rows that the query begins with, where that of all takes too long:
   * each figure is about what it is for all rows. What does not grow with these rows is not told.
   *
   * @throws NoLedgerException if it has no account step by step, or a part of its first table tells
   *     nothing of it
   * @throws io.lantrel.engine.DatabaseException if the database refuses it or takes too long
   */
  public LedgerOfPart ledgerAbout(RowShare share, Naming naming) {
    Database rows = withRows();
    return answered(
        () -> {
          QueryBlock block = accountable();
          Optional<String> obstacle = PartLedgerMaker.obstacle(block);
          if (obstacle.isPresent()) {
            throw new NoLedgerException(obstacle.get());
          }
          return new PartLedgerMaker(rows, naming).make(block, share);
        });
  }

  /**
   * What other kinds of join would give: each join of FROM as one of that kind.
   *
   * @param kind INNER, LEFT, RIGHT or FULL
   * @param step which join, by the numbers of the account, in which the first is step 2; 0 for all
   * @param naming which of the rows are named that would come or go
   * @return one for each; those that are of that kind already are left out
   * @throws NoLedgerException if it has no account step by step, or no such join
   * @throws io.lantrel.engine.DatabaseException if the database refuses it or takes too long
   */
  public List<OtherJoin> otherJoins(JoinKind kind, int step, Naming naming) {
    Database rows = withRows();
    return answered(
        () -> {
          if (step != 0) {
            join(step);
          }
          accountable();
          return new OtherJoins(rows, this::reread, alone(), naming)
              .as(kind, number -> step == 0 || number == step);
        });
  }

  /**
   * What a join does to the rows at all: how many there would be without it.
   *
   * @param step which join, by the numbers of the account, in which the first is step 2
   * @throws NoLedgerException if it has no account step by step, or no such join
   * @throws io.lantrel.engine.DatabaseException if the database refuses it or takes too long
   */
  public WithoutJoin without(int step) {
    Database rows = withRows();
    return answered(() -> new JoinLeftOut(rows, join(step)).at(step));
  }

  private QueryBlock join(int step) {
    QueryBlock block = accountable();
    int joins = block.steps().size();
    if (step < 2 || step > joins + 1) {
      throw new NoLedgerException(
          "step "
              + step
              + " is no join of this query: "
              + (joins == 0
                  ? "it has none"
                  : joins == 1
                      ? "its join is step 2"
                      : "its joins are the steps 2 to " + (joins + 1)));
    }
    return block;
  }

  /**
   * The first rows of the result, and how many there are.
   *
   * @param most how many rows are wanted at most, at least 0
   * @throws io.lantrel.sql.SyntaxException if it is no query, or has an error; the message says
   *     where
   * @throws IllegalStateException if there are no rows
   * @throws io.lantrel.engine.DatabaseException if the database refuses it or takes too long
   */
  public ShownRows rows(int most) {
    Database rows = withRows();
    return answered(
        () ->
            new RowsOfResult(rows)
                .make(OneQuery.of(source, statement, values, catalog).resolution(), most));
  }

  /**
   * How many steps FROM has: its first table, and each join.
   *
   * @throws NoLedgerException if it has no account step by step
   */
  public int stepCount() {
    return LargeStack.call(() -> 1 + accountable().steps().size());
  }

  /**
   * The rows as they stand after each step of FROM: of the first table, then after each join.
   *
   * @param most how many rows of each step are wanted at most, at least 0
   * @throws NoLedgerException if it has no account step by step
   * @throws IllegalStateException if there are no rows
   * @throws io.lantrel.engine.DatabaseException if the database refuses it or takes too long
   */
  public List<StepRows> steps(int most) {
    return steps(most, number -> true);
  }

  /**
   * The same of one step.
   *
   * @param step its number, from 1 to {@link #stepCount}
   * @throws IllegalArgumentException if there is no such step
   */
  public StepRows step(int step, int most) {
    if (step < 1 || step > stepCount()) {
      throw new IllegalArgumentException("there is no step " + step);
    }
    return steps(most, number -> number == step).get(0);
  }

  private List<StepRows> steps(int most, IntPredicate wanted) {
    Database rows = withRows();
    return answered(() -> new RowsOfSteps(rows, most).make(accountable(), wanted));
  }

  /**
   * What became of rows of a table: why one is not in the result, or that it is there.
   *
   * @param rows which rows, as {@code station where id = 7}: by the table, or by what it goes by in
   *     the query; or what the result should show, as {@code name = 'Mill Weir'}
   * @param most how many rows are followed at most, at least 1
   * @return for each row, and each use of the table in the query, what became of it
   * @throws io.lantrel.trace.TraceException if there is no such table in it, or this is no
   *     condition over it
   * @throws SyntaxException if it is no query, or has an error; the message says where
   * @throws IllegalStateException if there are no rows
   * @throws io.lantrel.engine.DatabaseException if the database refuses it or takes too long
   */
  public List<Answer> missing(String rows, int most) {
    Database asked = withRows();
    return answered(
        () -> new MissingRows(asked, catalog, this::reread).answers(alone(), rows, most));
  }

  /**
   * Why a row is in the result: the rows of the tables that it was put together from.
   *
   * @param number of the row, from 1, in the order in which the database gives them
   * @param most how many source rows are told at most, at least 1
   * @throws io.lantrel.trace.TraceException if the row cannot be put together again
   * @throws SyntaxException if it is no query, or has an error; the message says where
   * @throws IllegalStateException if there are no rows
   * @throws io.lantrel.engine.DatabaseException if the database refuses it or takes too long
   */
  public Answer trace(int number, int most) {
    Database asked = withRows();
    return answered(() -> new ResultRows(asked, most).row(alone(), number));
  }

  /**
   * The numbers, from 1, of the rows of the result that meet a condition over its headings; of its
   * first 1,000 rows.
   *
   * @param condition as {@code name = 'Mill Weir'}
   * @throws io.lantrel.trace.TraceException if it is no condition over the headings
   */
  public List<Integer> rowsWhere(String condition) {
    Database asked = withRows();
    return answered(() -> new ResultRows(asked, 1).numbers(alone(), condition));
  }

  /**
   * Where the columns of the result come from: through queries in FROM, views and what is worked
   * out, to the columns of tables. Nothing is run.
   *
   * @throws SyntaxException if it is no query, or has an error; the message says where
   */
  public List<ColumnOrigin> origins() {
    return LargeStack.call(
        () ->
            new ColumnOrigins(OneQuery.of(source, statement, values, catalog).resolution()).all());
  }

  /**
   * The statement as a text of its own; what is wrong with it is told by its place in the whole.
   */
  private OneQuery alone() {
    OneQuery whole = OneQuery.of(source, statement, values, catalog);
    return whole.source().text().equals(sql()) ? whole : reread(sql());
  }

  /** A text as this statement is read. */
  private OneQuery reread(String text) {
    return OneQuery.read(text, values, catalog);
  }

  /**
   * Compares the rows of this query with those of another, of the same database or of another one.
   *
   * @throws io.lantrel.compare.CompareException if a column of the key is not there
   * @return undecided if one is no query, has an error or is refused; the reason says where
   * @throws IllegalStateException if there are no rows
   * @throws io.lantrel.engine.DatabaseException if a database is lost
   */
  public Comparison compare(Study other, CompareOptions options) {
    return LargeStack.call(
        () -> compared(side(options.first()), () -> other.side(options.second()).get(), options));
  }

  /** The same with a table that is expected. */
  public Comparison compare(ExpectedTable expected, CompareOptions options) {
    return LargeStack.call(
        () -> compared(side(options.first()), () -> new Side.OfTable(expected), options));
  }

  private static Comparison compared(
      Supplier<Side> first, Supplier<Side> second, CompareOptions options) {
    List<Side> sides = new ArrayList<>();
    for (Supplier<Side> side : List.of(first, second)) {
      try {
        sides.add(side.get());
      } catch (SyntaxException unread) {
        String name = sides.isEmpty() ? options.first() : options.second();
        return Comparison.undecided(name + ": " + unread.getMessage());
      }
    }
    return new Comparer(sides.get(0), sides.get(1), options).compared();
  }

  private Supplier<Side> side(String name) {
    Database rows = withRows();
    return () ->
        new Side.OfQuery(
            name, rows, held, OneQuery.of(source, statement, values, catalog).resolution());
  }

  /**
   * The claims that stand with the statement: comments as {@code -- claim: one row per station}.
   * One belongs to the statement in which it stands, or on whose last line; else to the next one,
   * and behind the last statement to that.
   */
  public List<Claim> claims() {
    return List.copyOf(comments.of(number - 1).claims());
  }

  /**
   * Whether the claims that stand with the statement are so, and further ones. Files that they name
   * are looked for in the working directory.
   *
   * @param further claims besides, as {@code no null in name}
   * @throws io.lantrel.engine.DatabaseException if the database is lost
   */
  public Verification verify(String... further) {
    return verify(new ClaimFiles(Path.of("")), EXAMPLES, further);
  }

  /**
   * The same.
   *
   * @param files where the files are that claims name
   * @param shown how many rows are shown at most that break a claim, at least 0
   */
  public Verification verify(ClaimFiles files, int shown, String... further) {
    return verified(files, shown, null, further);
  }

  /**
   * Whether a part of the rows breaks the claims that stand with the statement, and further ones: a
   * quick look where all rows take too long. What these rows break is broken, and what is proven is
   * so for any rows; all else stays undecided, and says how many rows were looked at.
   *
   * @param share how many rows of the first table
   * @throws io.lantrel.engine.DatabaseException if the database is lost
   */
  public Verification verifyAbout(RowShare share, String... further) {
    return verifyAbout(share, new ClaimFiles(Path.of("")), EXAMPLES, further);
  }

  /**
   * The same.
   *
   * @param files where the files are that claims name
   * @param shown how many rows are shown at most that break a claim, at least 0
   */
  public Verification verifyAbout(RowShare share, ClaimFiles files, int shown, String... further) {
    return verified(files, shown, share, further);
  }

  private Verification verified(
      ClaimFiles files, int shown, @Nullable RowShare share, String... further) {
    List<Claim> claims = new ArrayList<>(claims());
    Arrays.stream(further).map(Claim::of).forEach(claims::add);
    Verification found = LargeStack.call(() -> verified(files, shown, share, claims));
    List<ClaimProblem> problems = new ArrayList<>(comments.of(number - 1).problems());
    problems.addAll(found.problems());
    return new Verification(found.claims(), problems, found.rows());
  }

  private Verifier verifier(ClaimFiles files, int shown) {
    return new Verifier(
        catalog, database, held, files, shown, text -> OneQuery.read(text, values, catalog));
  }

  /**
   * Claims that are proven or hold, and that the query does not make yet, the strongest first;
   * trivial ones are left out.
   *
   * @throws SyntaxException if it is no query, or has an error; the message says where
   * @throws io.lantrel.engine.DatabaseException if the database is lost
   */
  public List<CheckedClaim> suggestedClaims() {
    return LargeStack.call(
        () ->
            new Suggester(verifier(new ClaimFiles(Path.of("")), 0))
                .suggest(OneQuery.of(source, statement, values, catalog), claims()));
  }

  private Verification verified(
      ClaimFiles files, int shown, @Nullable RowShare share, List<Claim> claims) {
    Verifier verifier = verifier(files, shown);
    OneQuery query;
    try {
      query = OneQuery.of(source, statement, values, catalog);
    } catch (SyntaxException unread) {
      return verifier.unread(claims, String.valueOf(unread.getMessage()));
    }
    return share == null ? verifier.verify(query, claims) : verifier.verify(query, claims, share);
  }

  private Database withRows() {
    if (database == null) {
      throw new IllegalStateException("a schema alone has no rows; open sample data");
    }
    return database;
  }

  /** How many statements were sent to the database for it so far: queries, and queries planned. */
  public long statementsSent() {
    return database == null ? 0 : database.statementsSent() + sentToExplain;
  }

  /** Whether there are rows to run it on, and not a schema alone. */
  public boolean hasRows() {
    return database != null;
  }

  /**
   * The work in the database: of a query that was stopped, why it can never end is told too, for
   * which there is a time limit of its own.
   */
  private <T> T answered(Supplier<T> work) {
    try {
      return LargeStack.call(work);
    } catch (DatabaseException failure) {
      throw failure.tookTooLong() ? explained(failure) : failure;
    }
  }

  /** What was asked for was stopped: that is told, whatever becomes of the question why. */
  private DatabaseException explained(DatabaseException stopped) {
    Database again = withRows().forStudy();
    Optional<String> endless = Optional.empty();
    try {
      endless =
          LargeStack.call(
              () -> new Inspector(catalog, again, values, rules).endless(source, statement));
    } catch (DatabaseException unexplained) {
      stopped.addSuppressed(unexplained);
    }
    sentToExplain += again.statementsSent();
    return endless
        .map(why -> stopped.getMessage() + ". " + why)
        .map(message -> new DatabaseException(stopped.reason(), message, stopped))
        .orElse(stopped);
  }

  private Resolution asQuery() {
    try {
      return OneQuery.of(source, statement, values, catalog).resolution();
    } catch (SyntaxException fault) {
      throw new NoLedgerException(
          (statement instanceof Statement.QueryStatement
                  ? "this query has an error: "
                  : "only a query that was read has a ledger: ")
              + fault.getMessage());
    }
  }

  private QueryBlock accountable() {
    QueryBlock block =
        asQuery()
            .result()
            .block()
            .orElseThrow(
                () ->
                    new NoLedgerException(
                        "a query that puts several together has no steps of its own; ask for those"
                            + " of each SELECT"));
    Optional<String> obstacle = Obstacles.of(block);
    if (obstacle.isPresent()) {
      throw new NoLedgerException(
          "the rows of this query cannot be shown step by step: " + obstacle.get());
    }
    return block;
  }

  /**
   * The rows that the query gives, at most {@value #ROWS}.
   *
   * @throws IllegalStateException if the statement is not a query: nothing else is ever run; or if
   *     there are no rows
   * @throws io.lantrel.engine.DatabaseException if the database refuses it or takes too long
   */
  public Rows result() {
    return result(ROWS);
  }

  /**
   * The same, at most so many rows; {@link Rows#cut()} tells if there were more.
   *
   * @param cap at least 1
   */
  public Rows result(int cap) {
    if (database == null) {
      throw new IllegalStateException("a schema alone has no rows; open sample data");
    }
    if (statement instanceof Statement.QueryStatement query) {
      Database rows = database;
      return answered(() -> rows.run(values.in(query.query()), cap));
    }
    throw new IllegalStateException("only a statement that was read as a query is run");
  }
}
