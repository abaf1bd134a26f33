package io.lantrel.check;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.check.kinds.AllChecks;
import io.lantrel.check.kinds.NotAQuery;
import io.lantrel.check.kinds.Syntax;
import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Counting;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.Edit;
import io.lantrel.sql.Place;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.Statement;
import io.lantrel.sql.SyntaxProblem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Inspects statements: runs the checks, asks their questions, and tries the repairs. */
public final class Inspector {

  /** What is not looked for where there are no rows. */
  private static final List<Kind> NEED_ROWS =
      List.of(
          Kind.CROSS_PRODUCT,
          Kind.NOT_A_REFERENCE,
          Kind.OUTER_JOIN_CANCELLED,
          Kind.ROWS_WITHOUT_PARTNER,
          Kind.REPEATED_IN_TOTAL);

  private final Catalog catalog;
  private final @Nullable Database database;

  /** Asked once for each table, however many repairs are tried. */
  private final Map<Table, Boolean> empty = new HashMap<>();

  /**
   * @param database where questions are asked; null if there are no rows: then nothing is run, and
   *     only what needs none is checked
   */
  public Inspector(Catalog catalog, @Nullable Database database) {
    this.catalog = catalog;
    this.database = database;
  }

  /**
   * Inspects one statement of a text.
   *
   * @throws DatabaseException if the database fails; a query that it refuses is no failure
   */
  public Inspection inspect(SourceText source, Statement statement) {
    Draft draft = draft(source, statement);
    List<Finding> findings =
        draft.concluded().stream()
            .sorted(Comparator.comparingInt(each -> each.place().start()))
            .map(each -> finding(source, statement, draft, each))
            .toList();
    return new Inspection(draft.understood(), findings, draft.refused(), draft.unchecked());
  }

  /** A finding before its repairs are tried. */
  private record Concluded(Kind kind, Span place, Conclusion conclusion) {}

  /** All that is known of a statement before repairs are tried. */
  private record Draft(
      boolean understood,
      List<Concluded> concluded,
      @Nullable String refused,
      List<String> unchecked,
      OptionalLong rows) {

    static Draft of(List<Suspicion> certain) {
      List<Concluded> concluded =
          certain.stream()
              .map(
                  each ->
                      new Concluded(
                          each.kind(),
                          each.place(),
                          each.conclude().apply(Inspector::nothingToAsk).orElseThrow()))
              .toList();
      return new Draft(true, concluded, null, List.of(), OptionalLong.empty());
    }

    Map<Kind, Long> counts() {
      return concluded.stream()
          .collect(Collectors.groupingBy(Concluded::kind, Collectors.counting()));
    }
  }

  private Draft draft(SourceText source, Statement statement) {
    if (statement instanceof Statement.OtherStatement other) {
      return Draft.of(List.of(NotAQuery.suspect(source, other)));
    }
    if (statement instanceof Statement.UnreadStatement unread) {
      return unread(source, unread);
    }
    Query query = ((Statement.QueryStatement) statement).query();
    Resolution resolution = Resolver.resolve(query, catalog);
    Questions questions = new Questions();
    for (QueryBlock block : resolution.blocks()) {
      Subject subject = new Subject(source, catalog, resolution, block);
      AllChecks.OF_NAMES.forEach(check -> check.suspect(subject).forEach(questions::ask));
    }
    if (!questions.concluded.isEmpty()) {
      return new Draft(true, questions.concluded, null, List.of(), OptionalLong.empty());
    }
    if (database == null) {
      return new Draft(true, List.of(), null, withoutRows(resolution), OptionalLong.empty());
    }
    Optional<Value.Parameter> parameter = query.openParameter();
    if (parameter.isPresent()) {
      String reason =
          "the parameter "
              + parameter.get().text()
              + " has no value here, so the query was not run; write a value in its place to have"
              + " the rows checked";
      return new Draft(true, List.of(), null, List.of(reason), OptionalLong.empty());
    }
    // Printed, the query holds nothing that was not read: no comment, and no second statement.
    Optional<String> refused;
    try {
      refused = database.refusal(query);
    } catch (DatabaseException failure) {
      orEnd(failure);
      String reason = "most was not checked: " + failure.getMessage();
      return new Draft(true, List.of(), null, List.of(reason), OptionalLong.empty());
    }
    if (refused.isPresent()) {
      String reason = refused.get();
      return new Draft(true, List.of(), reason, List.of(), OptionalLong.empty());
    }
    return draftOfRows(source, resolution, questions, database);
  }

  /** What is missing where there are no rows. */
  private static List<String> withoutRows(Resolution resolution) {
    boolean joins = resolution.blocks().stream().anyMatch(block -> !block.steps().isEmpty());
    return joins
        ? List.of(
            "there are no rows here, so what only rows can show was not checked: "
                + NEED_ROWS.stream().map(Kind::id).collect(Collectors.joining(", ")))
        : List.of();
  }

  /** The checks that ask the database, if it can run the query at all. */
  private Draft draftOfRows(
      SourceText source, Resolution resolution, Questions questions, Database rowsOf) {
    OptionalLong rows = OptionalLong.empty();
    List<Check> checks = AllChecks.OF_ROWS;
    try {
      rows = OptionalLong.of(rowsOf.ask(counting(resolution)).figure(0));
    } catch (DatabaseException failure) {
      orEnd(failure);
      String reason = String.valueOf(failure.getMessage());
      if (!failure.tookTooLong()) {
        return new Draft(true, List.of(), reason, List.of(), rows);
      }
      checks = AllChecks.OF_SLOW_QUERIES;
      questions.unchecked.add("most was not checked: " + reason);
    }
    for (QueryBlock block : resolution.blocks()) {
      Subject subject = new Subject(source, catalog, resolution, block);
      if (subject.chain().isEmpty() && !block.steps().isEmpty()) {
        Place place = source.place(block.select().span());
        questions.unchecked.add(
            "the joins of the subquery at line "
                + place.line()
                + ", column "
                + place.column()
                + " were not checked: its rows depend on other rows of the query");
      }
      checks.forEach(check -> check.suspect(subject).forEach(questions::ask));
    }
    try {
      emptyTables(resolution, rowsOf).forEach(questions.unchecked::add);
    } catch (DatabaseException failure) {
      orEnd(failure);
      questions.unchecked.add("whether tables are empty was not checked: " + failure.getMessage());
    }
    return new Draft(true, questions.concluded, null, questions.unchecked, rows);
  }

  private static Query counting(Resolution resolution) {
    return resolution
        .result()
        .block()
        .map(Counting::rows)
        .orElseGet(() -> Counting.rows(resolution.result().query()));
  }

  /** Over a table without rows nothing can show, which is not the same as nothing being wrong. */
  private List<String> emptyTables(Resolution resolution, Database rowsOf) {
    List<Table> tables =
        resolution.blocks().stream()
            .flatMap(block -> block.uses().stream())
            .flatMap(use -> use.table().stream())
            .distinct()
            .toList();
    List<Table> unknown = tables.stream().filter(table -> !empty.containsKey(table)).toList();
    if (!unknown.isEmpty()) {
      Rows answer = rowsOf.ask(Counting.anyRows(unknown, rowsOf.dialect()));
      for (int i = 0; i < unknown.size(); i++) {
        Table table = unknown.get((int) answer.figure(i, 0));
        empty.put(table, answer.figure(i, 1) == 0);
      }
    }
    return tables.stream()
        .filter(table -> Boolean.TRUE.equals(empty.get(table)))
        .map(
            table ->
                "the table "
                    + table.name()
                    + " has no rows here, so no row of it can show a mistake")
        .toList();
  }

  /**
   * What could not be read is wrong if it is a slip of the pen. No database is asked: what was not
   * read is not sent, not even to be planned.
   */
  private Draft unread(SourceText source, Statement.UnreadStatement unread) {
    boolean wrong =
        unread.problems().stream().allMatch(SyntaxProblem::isSlip)
            && meansSomethingMended(source, unread);
    if (wrong) {
      return Draft.of(Syntax.suspect(unread, source, catalog));
    }
    SyntaxProblem first = unread.problems().get(0);
    Place place = source.place(first.place());
    String beyond = source.at(first.place());
    String where =
        "line "
            + place.line()
            + ", column "
            + place.column()
            + (beyond.isEmpty() ? "" : ", from " + beyond + " on");
    String reason = "Lantrel does not read this statement: " + where + ": " + first.message();
    return new Draft(false, List.of(), null, List.of(reason), OptionalLong.empty());
  }

  /**
   * Whether all names mean something once the slips are mended. If they do not, the words are more
   * likely some product's own than a slip.
   */
  private boolean meansSomethingMended(SourceText source, Statement.UnreadStatement unread) {
    int start = unread.span().start();
    List<Edit> edits =
        unread.problems().stream()
            .flatMap(problem -> problem.guesses().stream().limit(1))
            .map(edit -> new Edit(shiftedBack(edit.span(), start), edit.text()))
            .toList();
    boolean quoted = edits.stream().anyMatch(edit -> edit.text().startsWith("\""));
    if (edits.isEmpty() || quoted || edits.size() < unread.problems().size()) {
      return true;
    }
    if (!Edit.areApart(edits)) {
      return false;
    }
    SourceText mended = new SourceText(Edit.apply(source.at(unread.span()), edits));
    List<Statement> statements = SqlReader.read(mended, catalog.dialect());
    return statements.size() != 1
        || !(statements.get(0) instanceof Statement.QueryStatement query)
        || Resolver.resolve(query.query(), catalog).problems().isEmpty();
  }

  /** Nothing can be said any more of this statement or a later one. */
  private static void orEnd(DatabaseException failure) {
    if (failure.isTheEnd()) {
      throw failure;
    }
  }

  private Rows ask(Query probe) {
    return database == null ? nothingToAsk(probe) : database.ask(probe);
  }

  private static Rows nothingToAsk(Query probe) {
    throw new IllegalStateException("there are no rows to ask");
  }

  private static Evidence evidence(Conclusion conclusion) {
    try {
      return conclusion.evidence().get();
    } catch (DatabaseException failure) {
      orEnd(failure);
      return Evidence.facts(List.of("the rows that show it were not got: " + failure.getMessage()));
    }
  }

  /** Asks what suspicions ask, and keeps what the answers bear out. */
  private final class Questions {
    private final List<Concluded> concluded = new ArrayList<>();
    private final List<String> unchecked = new ArrayList<>();
    private final Set<JoinStep> blamed = Collections.newSetFromMap(new IdentityHashMap<>());

    void ask(Suspicion suspicion) {
      if (suspicion.steps().stream().anyMatch(blamed::contains)) {
        return;
      }
      Optional<Conclusion> concluding;
      try {
        concluding = suspicion.conclude().apply(Inspector.this::ask);
      } catch (DatabaseException failure) {
        orEnd(failure);
        unchecked.add(suspicion.kind().id() + " was not checked: " + failure.getMessage());
        return;
      }
      concluding.ifPresent(
          conclusion -> {
            concluded.add(new Concluded(suspicion.kind(), suspicion.place(), conclusion));
            if (conclusion.severity() != Severity.NOTE) {
              blamed.addAll(suspicion.steps());
            }
          });
    }
  }

  // ---- repairs ----

  private Finding finding(
      SourceText source, Statement statement, Draft draft, Concluded concluded) {
    Conclusion conclusion = concluded.conclusion();
    Repair repair = null;
    for (List<Edit> edits : conclusion.repairs()) {
      if (repair == null) {
        repair = tried(source, statement, draft, concluded, edits).orElse(null);
      }
    }
    return new Finding(
        concluded.kind(),
        conclusion.severity(),
        conclusion.message(),
        concluded.place(),
        evidence(conclusion),
        repair);
  }

  /** The repair, if the changed statement is read, has no such finding and no new one, and runs. */
  private Optional<Repair> tried(
      SourceText source, Statement statement, Draft before, Concluded concluded, List<Edit> edits) {
    int start = statement.span().start();
    List<Edit> within =
        together(before, concluded, edits).stream()
            .map(edit -> new Edit(shiftedBack(edit.span(), start), edit.text()))
            .toList();
    String changed = Edit.apply(source.at(statement.span()), within);
    SourceText text = new SourceText(changed);
    List<Statement> statements = SqlReader.read(text, catalog.dialect());
    if (statements.size() != 1 || !(statements.get(0) instanceof Statement.QueryStatement)) {
      return Optional.empty();
    }
    Draft after = draft(text, statements.get(0));
    if (!isBetter(before, after, concluded)) {
      return Optional.empty();
    }
    // Without rows a repair is only read and resolved, and so it must be an error that it mends.
    return after.rows().isEmpty() && database != null
        ? Optional.empty()
        : Optional.of(new Repair(edits, changed, before.rows(), after.rows()));
  }

  /**
   * With several errors no single repair makes the query run, so the others are mended along: each
   * by its first repair, unless that touches the same characters.
   */
  private static List<Edit> together(Draft draft, Concluded concluded, List<Edit> edits) {
    List<Edit> all = new ArrayList<>(edits);
    if (concluded.conclusion().severity() == Severity.ERROR) {
      draft.concluded().stream()
          .filter(other -> !other.equals(concluded) && !other.conclusion().repairs().isEmpty())
          .map(other -> other.conclusion().repairs().get(0))
          .filter(other -> other.stream().noneMatch(edit -> touchesAny(edit, all)))
          .forEach(all::addAll);
    }
    return all;
  }

  private static boolean touchesAny(Edit edit, List<Edit> others) {
    return others.stream()
        .map(Edit::span)
        .anyMatch(span -> edit.span().start() <= span.end() && span.start() <= edit.span().end());
  }

  private static Span shiftedBack(Span span, int by) {
    return new Span(span.start() - by, span.end() - by);
  }

  /**
   * Behind an error nothing else is checked, so warnings that appear once it is gone were there all
   * the time; behind a warning nothing new may appear.
   */
  private static boolean isBetter(Draft before, Draft after, Concluded concluded) {
    Map<Kind, Long> had = before.counts();
    Map<Kind, Long> has = after.counts();
    boolean fewer = has.getOrDefault(concluded.kind(), 0L) < had.getOrDefault(concluded.kind(), 0L);
    boolean wasError = concluded.conclusion().severity() == Severity.ERROR;
    boolean nothingNew =
        has.keySet().stream()
            .allMatch(kind -> has.getOrDefault(kind, 0L) <= had.getOrDefault(kind, 0L));
    return fewer && after.refused() == null && (wasError || nothingNew);
  }
}
