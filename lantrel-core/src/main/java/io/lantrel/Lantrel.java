package io.lantrel;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Constraint;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.ReferencesFile;
import io.lantrel.catalog.Table;
import io.lantrel.check.CheckRules;
import io.lantrel.check.inspection.Acceptances;
import io.lantrel.claim.text.ClaimComments;
import io.lantrel.draft.Draft;
import io.lantrel.draft.Drafter;
import io.lantrel.draft.Wish;
import io.lantrel.draft.WishException;
import io.lantrel.edit.OneQuery;
import io.lantrel.engine.Access;
import io.lantrel.engine.Database;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Limits;
import io.lantrel.engine.LiveDatabase;
import io.lantrel.engine.SampleData;
import io.lantrel.engine.SchemaText;
import io.lantrel.engine.StatementWatcher;
import io.lantrel.hierarchy.Hierarchy;
import io.lantrel.hierarchy.HierarchyWish;
import io.lantrel.hierarchy.RowsBetween;
import io.lantrel.hierarchy.asked.BetweenRows;
import io.lantrel.hierarchy.asked.HierarchyMaker;
import io.lantrel.hierarchy.asked.WrittenWalk;
import io.lantrel.probe.HeldConstraints;
import io.lantrel.probe.KeptReferences;
import io.lantrel.resolve.Resolution;
import io.lantrel.rewrite.Form;
import io.lantrel.rewrite.Rewritten;
import io.lantrel.rewrite.engines.Translator;
import io.lantrel.sample.Sample;
import io.lantrel.sample.SampleWish;
import io.lantrel.sample.asked.SampleMaker;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.ParameterValues;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.Statement;
import io.lantrel.sql.tree.Span;
import io.lantrel.survey.Survey;
import io.lantrel.survey.SurveyWish;
import io.lantrel.survey.Surveyor;
import java.nio.file.Path;
import java.sql.Connection;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/**
 * Opens sample data, or a database, and studies queries on it.
 *
 * <pre>{@code
 * try (Lantrel lantrel = Lantrel.open(Path.of("river-watch"))) {
 *   Study study = lantrel.study("SELECT s.name, r.name FROM station s JOIN river r ON r.id = s.river_id");
 *   study.findings().forEach(finding -> System.out.println(finding.message()));
 *   study.ledger().entries().forEach(System.out::println);
 * }
 * }</pre>
 *
 * <p>Several threads may share one, each with studies of its own; at the database they take turns.
 */
public final class Lantrel implements AutoCloseable {

  private final Catalog catalog;
  private final @Nullable Database database;
  private final List<String> notes;
  private final HeldConstraints held;
  private CheckRules rules = CheckRules.USUAL;

  private Lantrel(Catalog catalog, @Nullable Database database, List<String> notes) {
    this(catalog, database, notes, new HeldConstraints());
  }

  private Lantrel(
      Catalog catalog, @Nullable Database database, List<String> notes, HeldConstraints held) {
    this.held = held;
    this.catalog = catalog;
    this.database = database;
    this.notes = List.copyOf(notes);
  }

  /**
   * Opens a folder of sample data: {@code schema.sql} with CREATE TABLE statements, and a CSV file
   * for each table (RFC 4180, UTF-8, first line the column names; an empty field is NULL, {@code
   * ""} an empty text). All of it is loaded into an embedded database, or nothing.
   *
   * @throws io.lantrel.engine.DataException if the folder or one of its files cannot be used; the
   *     message names file, line and column
   * @throws io.lantrel.engine.DatabaseException if the database cannot be started
   */
  public static Lantrel open(Path folder) {
    return open(folder, Engine.DUCKDB);
  }

  /**
   * The same with another engine that runs within the program. Schema and queries are then in its
   * SQL.
   *
   * @throws io.lantrel.engine.DataException also if the engine is a server
   */
  public static Lantrel open(Path folder, Engine engine) {
    return open(folder, engine, Limits.usual());
  }

  /**
   * The same with other limits of time and memory, and with functions that Lantrel does not know.
   *
   * @throws io.lantrel.engine.DataException also if the engine is a server
   */
  public static Lantrel open(Path folder, Engine engine, Limits limits) {
    SampleData data = SampleData.load(folder, engine, limits);
    return new Lantrel(data.catalog(), data.database(), data.notes());
  }

  /**
   * Opens a folder for queries that another engine shall run: schema and queries are read, and
   * judged, by its rules. Where that is a server, the rows are in {@link Engine#DUCKDB}, which
   * {@link #notes} tells; what it does not take is not checked on rows then.
   *
   * @param engine what the queries are written for
   * @throws io.lantrel.engine.DataException if the folder or one of its files cannot be used; the
   *     message names file, line and column
   */
  public static Lantrel openFor(Engine engine, Path folder, Limits limits) {
    if (engine.isEmbedded()) {
      return open(folder, engine, limits);
    }
    SampleData data = SampleData.load(folder, Engine.DUCKDB, engine.dialect(), limits);
    List<String> told = new ArrayList<>(data.notes());
    told.add(
        engine.title()
            + " is a server, which is only read: the rows are in "
            + Engine.DUCKDB.title()
            + " here, and the queries are judged by the rules of "
            + engine.title());
    return new Lantrel(data.catalog(), data.database(), told);
  }

  /**
   * Connects to a database of yours. It is only read: every statement is a query that Lantrel has
   * read or written itself, runs in a transaction that is rolled back, under a time limit. What a
   * query can use is read from the database now.
   *
   * @throws io.lantrel.engine.DatabaseException if there is no such database, it lets nobody in, or
   *     does not tell what is in it
   */
  public static Lantrel connect(Access access) {
    return of(LiveDatabase.open(access));
  }

  /** The same with a connection of a data source, {@link Limits#usual} ones. */
  public static Lantrel connect(DataSource source) {
    return connect(source, Limits.usual());
  }

  /**
   * The same with a connection of a data source: taken now, given back as it was when this is
   * closed.
   *
   * @throws io.lantrel.engine.DatabaseException if the source gives none, if it is in a
   *     transaction, or if the database does not tell what is in it
   */
  public static Lantrel connect(DataSource source, Limits limits) {
    return of(LiveDatabase.from(source, limits));
  }

  /** The same with a connection that stays the caller's, {@link Limits#usual} ones. */
  public static Lantrel connect(Connection connection) {
    return connect(connection, Limits.usual());
  }

  /**
   * The same with a connection that stays the caller's: when this is closed, it is open and set as
   * it was. Until then nobody else uses it.
   *
   * @param connection with auto-commit on, so that no transaction runs: reading ends with a
   *     rollback
   * @throws io.lantrel.engine.DatabaseException if it is in a transaction, or if the database does
   *     not tell what is in it
   */
  public static Lantrel connect(Connection connection, Limits limits) {
    return of(LiveDatabase.lent(connection, limits));
  }

  private static Lantrel of(LiveDatabase live) {
    return new Lantrel(live.catalog(), live.database(), live.notes());
  }

  /**
   * Opens a schema without rows: CREATE TABLE and CREATE VIEW with the keys and references that
   * belong to them, as people or dumps write them. Then nothing is ever run, and a study finds only
   * what needs no rows.
   *
   * @param file the schema
   * @param dialect how the schema and the queries are written, and how names are compared
   * @throws io.lantrel.engine.DataException if the file cannot be used; the message names line and
   *     column
   */
  public static Lantrel openSchema(Path file, Dialect dialect) {
    SchemaText schema = SchemaText.read(file, dialect);
    return new Lantrel(schema.catalog(), null, schema.notes());
  }

  /**
   * The same tables with references and keys that only people know, from a file of {@code ALTER
   * TABLE … ADD FOREIGN KEY … REFERENCES …}, {@code ADD PRIMARY KEY} or {@code ADD UNIQUE}. Nothing
   * of it is run. They are believed like declared ones; where there are rows they are looked at
   * now, and {@link #notes} tells which do not hold: a key that does not is not used. Closing
   * either closes both.
   *
   * @throws io.lantrel.engine.DataException if the file cannot be used, or names a table or column
   *     that is not there; the message names line and column
   * @throws io.lantrel.engine.DatabaseException if the database does not tell whether they hold
   */
  public Lantrel withReferences(Path file) {
    ReferencesFile given = SchemaText.references(file, catalog);
    Set<Constraint> unguarded = new HashSet<>(held.given());
    unguarded.addAll(given.constraints());
    HeldConstraints all = new HeldConstraints(unguarded);
    List<String> told = new ArrayList<>(notes);
    List<Constraint> left = new ArrayList<>();
    if (database != null) {
      for (Constraint each : all.broken(given.constraints(), database)) {
        told.add(file.getFileName() + ": " + notHeld(each));
        if (each.ifReference().isEmpty()) {
          left.add(each);
        }
      }
    }
    return new Lantrel(given.without(left), database, told, all).judgingBy(rules);
  }

  private static String notHeld(Constraint constraint) {
    String table = constraint.table().name();
    return switch (constraint.kind()) {
      case REFERENCE ->
          constraint.ifReference().orElseThrow().words()
              + " does not hold: rows of "
              + table
              + " refer to nothing";
      case KEY ->
          constraint.words()
              + ": that does not hold, since rows of "
              + table
              + " repeat it, so it is not used";
      case NOT_NULL -> constraint.words() + ": that does not hold, so it is not used";
    };
  }

  /**
   * Starts an engine once, which takes a while the first time in a process. Nothing depends on it;
   * it may run in a thread of its own beside anything else, as may {@link #warmUpReading}.
   *
   * @throws io.lantrel.engine.DatabaseException if the engine does not start; opening it then tells
   *     the same
   */
  public static void warmUp(Engine engine, Limits limits) {
    engine.warmUp(limits);
  }

  /** Loads what reading a query needs. */
  public static void warmUpReading(Engine engine) {
    SqlReader.read(new SourceText("SELECT 1"), engine.dialect());
  }

  /**
   * What is worth knowing, in sentences: what of a schema was passed over although it may matter,
   * and what the user of a database may do besides reading.
   */
  public List<String> notes() {
    return notes;
  }

  /** Whether there are rows that queries can run on. */
  public boolean hasRows() {
    return database != null;
  }

  /**
   * Has somebody told of every statement that the database is sent from now on: what is asked, and
   * how long it takes. What is read of the catalog is not told.
   *
   * @return this
   */
  public Lantrel watchedBy(StatementWatcher watcher) {
    if (database != null) {
      database.watchedBy(watcher);
    }
    return this;
  }

  private Database rows() {
    if (database == null) {
      throw new IllegalStateException("a schema alone has no rows; open sample data");
    }
    return database;
  }

  /** The tables with their columns, keys and references, as the schema declares them. */
  public Catalog catalog() {
    return catalog;
  }

  /**
   * The database that runs the queries, as {@code DuckDB 2.0.0}.
   *
   * @throws IllegalStateException if there are no rows
   */
  public String engine() {
    return rows().engine();
  }

  /**
   * What is in the tables, and what violates the keys and references that are declared.
   *
   * @throws IllegalStateException if there are no rows
   */
  public Survey survey() {
    return survey(SurveyWish.all(), doing -> {});
  }

  /**
   * The same of some tables, with so many rows, and if wished with values worth seeing.
   *
   * @param progress is told what is looked at next, in a few words
   * @throws IllegalStateException if there are no rows
   */
  public Survey survey(SurveyWish wish, Consumer<String> progress) {
    return new Surveyor(catalog, rows(), wish, progress).survey();
  }

  /**
   * A table that refers to itself, as trees: the levels, what lies below each row, circles, and
   * rows that refer to nothing. The reference is one that the schema declares, or that the rows
   * show. Over a junction table a row can be below several others.
   *
   * @throws io.lantrel.hierarchy.HierarchyException if there is no such table or column, it refers
   *     to itself not at all or in several ways, or a junction puts more rows below each other than
   *     are put together
   * @throws IllegalStateException if there are no rows
   * @throws io.lantrel.engine.DatabaseException if the database fails
   */
  public Hierarchy hierarchy(HierarchyWish wish) {
    Database asked = rows();
    return HierarchyMaker.make(asked, selfReferring(wish), wish);
  }

  /**
   * The query that walks a hierarchy: a recursive one, with the level, path and first row of each
   * and whether nothing is below it, and a stop for circles; or, if levels are wished for, a chain
   * of joins with a column for each, which goes no deeper. Rows that no root reaches are in
   * neither.
   *
   * @throws io.lantrel.hierarchy.HierarchyException as for {@link #hierarchy}, and if the key of
   *     the table has several columns
   */
  public String hierarchyQuery(HierarchyWish wish) {
    return WrittenWalk.of(database == null ? catalog : selfReferring(wish), wish);
  }

  /**
   * What lies between two rows of a table that refers to itself: their nearest common row, and how
   * many steps lead from one over it to the other.
   *
   * @param first the key of the one row, as text
   * @param second the key of the other
   * @throws io.lantrel.hierarchy.HierarchyException as for {@link #hierarchy}, if there is no such
   *     row, over a junction, and if the key of the table has several columns
   * @throws IllegalStateException if there are no rows
   * @throws io.lantrel.engine.DatabaseException if the database fails
   */
  public RowsBetween between(HierarchyWish wish, String first, String second) {
    return BetweenRows.of(rows(), selfReferring(wish), wish, first, second);
  }

  /**
   * The query that tells the nearest common row of two rows, and their distance; no row where their
   * trees differ.
   *
   * @throws io.lantrel.hierarchy.HierarchyException as for {@link #between}, but for rows that are
   *     not there
   */
  public String betweenQuery(HierarchyWish wish, String first, String second) {
    return BetweenRows.query(database == null ? catalog : selfReferring(wish), wish, first, second);
  }

  /** The tables with the references that are declared; with those that the rows show if needed. */
  private Catalog selfReferring(HierarchyWish wish) {
    List<String> wished =
        wish.over().isEmpty() ? List.of(wish.table()) : List.of(wish.table(), wish.over());
    List<Table> tables = wished.stream().flatMap(each -> catalog.table(each).stream()).toList();
    if (tables.size() < wished.size() || HierarchyMaker.isDeclared(catalog, wish)) {
      return catalog;
    }
    // What a junction refers to is only known beside all tables that it could mean as well.
    Catalog looked = wish.over().isEmpty() ? catalog.only(tables.get(0).name()::equals) : catalog;
    Set<Reference> known = new LinkedHashSet<>(catalog.references());
    known.addAll(new Surveyor(looked, rows(), SurveyWish.all(), doing -> {}).survey().reliable());
    return catalog.with(List.copyOf(known));
  }

  /**
   * Writes queries that show what is wished for: several if the tables hang together in several
   * ways, the best first. Nothing is run but to see whether the rows keep the references that no
   * row may be without, since only what they keep is joined by JOIN; and, where no declared
   * reference connects the tables, a survey for observed ones, and for possible ones if those do
   * not either; the reasons of the draft tell. A draft is studied like any other query.
   *
   * @throws io.lantrel.draft.WishException if a name means nothing or several things, or nothing
   *     connects the tables
   * @throws io.lantrel.engine.DatabaseException if the database fails
   */
  public List<Draft> drafts(Wish wish) {
    return drafted(wish).drafts();
  }

  /** Drafts, and who wrote them. */
  private record Drafted(Drafter drafter, List<Draft> drafts) {
    static Drafted over(Catalog catalog, Wish wish, UnaryOperator<List<Reference>> kept) {
      Drafter drafter = new Drafter(catalog, kept);
      return new Drafted(drafter, drafter.drafts(wish));
    }
  }

  /** Over the references that are declared, or else over those that the rows show. */
  private Drafted drafted(Wish wish) {
    KeptReferences kept = new KeptReferences(held, database);
    try {
      return Drafted.over(catalog, wish, kept);
    } catch (WishException unfit) {
      if (database == null || !unfit.isOfReferences()) {
        throw unfit;
      }
      Survey survey = survey();
      try {
        return Drafted.over(catalog.with(survey.reliable()), wish, kept);
      } catch (WishException further) {
        if (!further.isOfReferences()) {
          throw further;
        }
        List<Reference> all =
            survey.references().stream().map(Survey.ReferenceSurvey::reference).toList();
        return Drafted.over(catalog.with(all), wish, kept);
      }
    }
  }

  /**
   * Which condition of a wish the database refuses, where it refuses the draft: each is left out in
   * turn until the rest runs, so this asks as many statements as there are conditions at most, and
   * one.
   *
   * @return with the condition as it was written, and what the database says; empty if the draft
   *     runs, or does not run for another reason
   * @throws IllegalStateException if there are no rows to run it on
   */
  public Optional<WishException> refusedCondition(Wish wish) {
    return new RefusedCondition(this, drafted(wish).drafter()).of(wish);
  }

  /**
   * Brings a query into another form, and runs both to see that they give the same rows, in any
   * order.
   *
   * @param sql one query
   * @throws io.lantrel.rewrite.RewriteException if it is not one query without errors, or cannot be
   *     brought into the form; the message says why
   * @throws io.lantrel.engine.DatabaseException if the database fails
   */
  public Rewriting rewrite(String sql, Form form) {
    Rewritten rewritten = new TestedRewriter(catalog, this::broken).rewrite(sql, form);
    return new ResultComparison(this, this).of(form.words(), sql, rewritten);
  }

  /**
   * Writes a query in the SQL of another product, and runs both to see that they give the same
   * rows, in any order. Where rows are cut, by LIMIT, both need an order that leaves no choice.
   *
   * @param sql one query
   * @param other the same tables there; {@link #tablesAlone} if there is no such database at hand
   * @throws io.lantrel.rewrite.RewriteException if it is not one query without errors, or the other
   *     product has no words for something in it; the message says for what
   * @throws io.lantrel.engine.DatabaseException if one of the databases fails
   */
  public Rewriting translate(String sql, Lantrel other) {
    Rewritten translated = new Translator(catalog, other.catalog).translate(sql);
    String product = other.catalog.dialect().id();
    String has = "the SQL of " + Engine.of(product).map(Engine::title).orElse(product);
    return new ResultComparison(this, other).of(has, sql, translated);
  }

  /**
   * Draws a small part of the database that is worth checking on: closed under its references, with
   * the rows in which mistakes show, as far as the database has them.
   *
   * @param queries what shall show the same on it: rows that they lose, repeat and show are taken
   * @param progress is told what is looked at next, in a few words
   * @throws io.lantrel.sample.SampleException if what shall be masked is not there, or cannot be
   * @throws io.lantrel.engine.DatabaseException if the database fails
   * @throws IllegalStateException if there are no rows
   */
  public Sample sample(SampleWish wish, List<Study> queries, Consumer<String> progress) {
    Database asked = rows();
    return new SampleMaker(catalog, asked, wish, progress)
        .make(QueriesForSample.look(queries, this, progress));
  }

  /** What the names of a query mean; empty if it is not one query without errors. */
  Optional<Resolution> reading(String sql) {
    return OneQuery.ifAny(sql, catalog).map(OneQuery::resolution);
  }

  /** How many statements were sent to the database so far; 0 without one. */
  long statementsSent() {
    return database == null ? 0 : database.statementsSent();
  }

  /** Whether it is a query with a parameter that has no value. */
  boolean isOpen(String sql) {
    return OneQuery.ifAny(sql, catalog).flatMap(one -> one.query().openParameter()).isPresent();
  }

  /** Those that the rows at hand break; none if there are no rows. */
  List<Constraint> broken(List<Constraint> constraints) {
    return database == null ? List.of() : held.broken(constraints, database);
  }

  /** The same tables without their rows, as a product of that dialect would have them. */
  public Lantrel tablesAlone(Dialect dialect) {
    return new Lantrel(catalog.in(dialect), null, notes);
  }

  /**
   * Studies one statement.
   *
   * @throws IllegalArgumentException if the text holds no statement, or more than one; {@link
   *     #studies} takes several
   */
  public Study study(String sql) {
    return study(sql, Map.of());
  }

  /**
   * The same with values for its parameters: {@code :name} by its name, {@code $1} by its number,
   * {@code ?} by its place, from 1. A parameter without a value stays open: then the query is not
   * run.
   *
   * @param values numbers, truth values and null as they are; anything else as a text
   * @throws IllegalArgumentException if the text holds no statement, or more than one
   */
  public Study study(String sql, Map<String, ? extends @Nullable Object> values) {
    List<Study> all = studies(sql, values);
    if (all.size() != 1) {
      throw new IllegalArgumentException("one statement is wanted, here are " + all.size());
    }
    return all.get(0);
  }

  /**
   * Judges findings by the rules of a project, of all that is studied from now on.
   *
   * @return this
   */
  public Lantrel judgingBy(CheckRules other) {
    rules = other;
    return this;
  }

  /**
   * Has queries checked for engines that they shall run on as well, of all that is studied from now
   * on: what one of them lacks or takes otherwise is a finding, {@code not-in-engine}. Nothing is
   * run there.
   *
   * @return this
   * @throws IllegalArgumentException if one of them is {@link Engine#OTHER}
   */
  public Lantrel alsoOn(Set<Engine> engines) {
    rules = rules.alsoOn(engines);
    return this;
  }

  /** Studies every statement of a text, in order; the list is empty if there is none. */
  public List<Study> studies(String text) {
    return studies(text, Map.of());
  }

  /** The same with values for their parameters, as {@link #study(String, Map)} takes them. */
  public List<Study> studies(String text, Map<String, ? extends @Nullable Object> values) {
    ParameterValues given = ParameterValues.of(values);
    SourceText source = new SourceText(text);
    List<Study> studies = new ArrayList<>();
    List<Statement> statements = SqlReader.read(source, catalog.dialect());
    List<Span> places = statements.stream().map(Statement::span).toList();
    ClaimComments comments = new ClaimComments(source, places, catalog.dialect());
    Acceptances acceptances = new Acceptances(source, places, catalog.dialect());
    for (Statement statement : statements) {
      int number = studies.size() + 1;
      studies.add(
          new Study(
              catalog,
              database,
              source,
              statement,
              number,
              given,
              comments,
              acceptances,
              rules,
              held));
    }
    return studies;
  }

  /**
   * Stops what is running, from another thread. Who waits for it gets a {@link
   * io.lantrel.engine.DatabaseException} whose reason is CANCELLED, and nothing can be asked any
   * more.
   */
  public void cancel() {
    if (database != null) {
      database.cancel();
    }
  }

  @Override
  public void close() {
    if (database != null) {
      database.close();
    }
  }
}
