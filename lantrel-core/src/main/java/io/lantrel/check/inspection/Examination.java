package io.lantrel.check.inspection;

import io.lantrel.catalog.Catalog;
import io.lantrel.check.CheckRules;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.OwnRule;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.AllChecks;
import io.lantrel.check.kinds.DoesNotRun;
import io.lantrel.check.kinds.NotAQuery;
import io.lantrel.check.kinds.Syntax;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.DatabaseException;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Counting;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Obstacle;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.Resolver;
import io.lantrel.resolve.RunTimeFailure;
import io.lantrel.sql.ParameterValues;
import io.lantrel.sql.Place;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.Statement;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * One statement looked at, before anything is repaired: what is suspected, what is to be asked, and
 * what the answers amount to. It asks nothing itself.
 */
final class Examination {

  /** That something is empty is told where the result is counted anyway. */
  private static final Set<Kind> OF_EMPTINESS = Set.of(Kind.NEVER_A_ROW, Kind.NEVER_A_PARTNER);

  private final SourceText source;
  private final Catalog catalog;
  private final Statement statement;
  private final CheckRules rules;
  private final @Nullable Query query;
  private final @Nullable Resolution resolution;
  private final boolean understood;
  private final List<Subject> subjects = new ArrayList<>();
  private final List<Suspicion> suspicions = new ArrayList<>();
  private final List<Suspicion> precautions = new ArrayList<>();
  private final List<Concluded> concluded = new ArrayList<>();
  private final Set<Span> blamed = new HashSet<>();
  private final Set<Suspicion> toldBefore = Collections.newSetFromMap(new IdentityHashMap<>());
  private Answers answered = new Answers();
  private final List<String> unchecked = new ArrayList<>();
  private final @Nullable Question<Long> counted;
  private OptionalLong rows = OptionalLong.empty();
  private boolean failed;

  /** A finding before its repairs are tried. */
  record Concluded(Kind kind, Span place, Conclusion conclusion) {
    boolean isError() {
      return conclusion.severity() == Severity.ERROR;
    }
  }

  /**
   * @param keys which declared keys can be relied on
   * @param values for its parameters
   * @param rules what the project wants beside the kinds that are always looked for
   */
  Examination(
      SourceText source,
      Statement statement,
      Catalog catalog,
      Promises keys,
      ParameterValues values,
      CheckRules rules) {
    this.source = source;
    this.catalog = catalog;
    this.statement = statement;
    this.rules = rules;
    this.query =
        statement instanceof Statement.QueryStatement read ? values.in(read.query()) : null;
    this.resolution = query == null ? null : Resolver.resolve(query, catalog);
    this.understood = readsOrIsWrong();
    this.counted =
        resolution == null ? null : Question.number(Counting.producedRows(resolution.result()));
    if (resolution != null) {
      suspect(resolution, keys);
    }
  }

  /** What is certain of a statement that is no query, or could not be read. */
  private boolean readsOrIsWrong() {
    if (statement instanceof Statement.OtherStatement other) {
      conclude(NotAQuery.suspect(source, other), new Answers());
    }
    if (!(statement instanceof Statement.UnreadStatement unread)) {
      return true;
    }
    if (UnreadText.isWrong(source, unread, catalog)) {
      Syntax.suspect(unread, source, catalog).forEach(each -> conclude(each, new Answers()));
      return true;
    }
    unchecked.add(UnreadText.reason(source, unread));
    return false;
  }

  /** Only errors of names stop what would build on these names. */
  private void suspect(Resolution of, Promises keys) {
    Map<QueryBlock, JoinedRows> rows = new IdentityHashMap<>();
    for (QueryBlock block : of.blocks()) {
      Subject subject = new Subject(source, catalog, of, block, keys, rows);
      AllChecks.OF_NAMES.forEach(
          check -> check.suspect(subject).forEach(each -> conclude(each, new Answers())));
    }
    if (hasErrors()) {
      return;
    }
    for (QueryBlock block : of.blocks()) {
      subjects.add(new Subject(source, catalog, of, block, keys, rows));
    }
  }

  // ---- before anything is suspected of joins ----

  /** What tells where nothing is lost, so that it need not be looked for. */
  List<Question<?>> lossTests() {
    List<Question<?>> questions = new ArrayList<>();
    subjects.stream()
        .flatMap(each -> each.rows().stream())
        .forEach(
            each -> {
              questions.addAll(each.lossTests());
              questions.addAll(each.lossTestsOverTables());
            });
    return questions;
  }

  /** Takes note of the answers to {@link #lossTests}. */
  void readLossTests(Answers answers) {
    subjects.stream()
        .flatMap(each -> each.rows().stream())
        .forEach(each -> each.readLossTests(answers));
  }

  private List<Suspicion> suspicions() {
    if (suspicions.isEmpty()) {
      for (Subject subject : subjects) {
        AllChecks.OF_JOINS.forEach(check -> suspicions.addAll(check.suspect(subject)));
      }
      if (!subjects.isEmpty()) {
        ofTheProject(Objects.requireNonNull(query), Objects.requireNonNull(resolution));
      }
    }
    return suspicions;
  }

  /** What only concerns who checks it: engines that it shall run on as well, rules of one's own. */
  private void ofTheProject(Query of, Resolution resolved) {
    if (!rules.alsoOn().isEmpty() && statement instanceof Statement.QueryStatement written) {
      suspicions.addAll(
          new OtherEngines(source, written, catalog, rules.alsoOn()).suspect(resolved));
    }
    for (OwnRule rule : rules.ownRules()) {
      for (OwnRule.Breach each : rule.breaches(source, of, catalog)) {
        suspicions.add(
            Suspicion.certain(
                Kind.OWN_RULE,
                each.place(),
                new Conclusion(
                    each.severity(),
                    each.message(),
                    Evidence.facts(List.of("a rule of this project")),
                    each.repair().isEmpty() ? List.of() : List.of(each.repair()))));
      }
    }
  }

  // ---- what it is ----

  boolean isUnderstood() {
    return understood;
  }

  boolean hasErrors() {
    return concluded.stream().anyMatch(Concluded::isError);
  }

  List<Concluded> concluded() {
    return concluded;
  }

  List<String> unchecked() {
    return unchecked;
  }

  /** How many rows it gives; empty if that is not known. */
  OptionalLong rows() {
    return rows;
  }

  /** The query, if it is one whose names all mean something. */
  Optional<Query> runnable() {
    return hasErrors() ? Optional.empty() : Optional.ofNullable(query);
  }

  List<QueryBlock> blocks() {
    return resolution == null ? List.of() : resolution.blocks();
  }

  /** A parameter without a value, with which it cannot run. */
  Optional<Value.Parameter> openParameter() {
    return query == null ? Optional.empty() : query.openParameter();
  }

  // ---- asking and concluding ----

  /** What it was concluded from; empty before. */
  Answers answered() {
    return answered;
  }

  /**
   * Takes what was told of the statement before it was changed for told, without asking again: it
   * is not concluded once more, and what follows from it is not told either.
   */
  void takeAsTold(Predicate<Suspicion> told) {
    suspicions().stream().filter(told).forEach(toldBefore::add);
  }

  /** Whether it can fail while it runs, although the database plans it. */
  boolean mayFail() {
    return resolution != null && RunTimeFailure.isPossible(resolution);
  }

  /**
   * All that is to be known; only if it is {@link #runnable}.
   *
   * @param whole whether it is run to its end for that, and its rows are counted
   */
  List<Question<?>> questions(boolean whole) {
    List<Question<?>> questions = new ArrayList<>();
    if (whole) {
      questions.addAll(counting());
    }
    suspicions().stream()
        .filter(each -> whole || !OF_EMPTINESS.contains(each.kind()))
        .filter(each -> !toldBefore.contains(each))
        .forEach(each -> questions.addAll(each.questions()));
    return questions;
  }

  /** How many rows it gives, if that is not known. */
  List<Question<?>> counting() {
    return counted == null || rows.isPresent() || failed || hasErrors()
        ? List.of()
        : List.of(counted);
  }

  /** Takes note of the answer to {@link #counting}. */
  void readCount(Answers answers) {
    if (!counting().isEmpty() && answers.ifAny(Objects.requireNonNull(counted)).isPresent()) {
      rows = OptionalLong.of(answers.to(counted));
    }
  }

  /** What can be concluded without rows. */
  void concludeWithoutRows() {
    precautions().forEach(each -> concludeUnlessBlamed(each, new Answers()));
    suspicions().stream()
        .filter(each -> each.kind().needs() != Kind.Needs.ROWS || each.questions().isEmpty())
        .forEach(each -> concludeUnlessBlamed(each, new Answers()));
  }

  /** What its own engine lacks, where that does not run it, or refuses it. */
  void concludeOwnLacks() {
    if (resolution != null && !hasErrors()) {
      OtherEngines.lackedByOwn(source, resolution)
          .forEach(each -> concludeUnlessBlamed(each, new Answers()));
    }
  }

  /**
   * Concludes from the answers to {@link #questions}.
   *
   * @param whole as it was there
   */
  void conclude(Answers answers, boolean whole) {
    conclude(answers, whole, null);
  }

  /**
   * The same.
   *
   * @param holder who ran it, if it is written for another engine
   */
  void conclude(Answers answers, boolean whole, @Nullable String holder) {
    answered = answers;
    failed = whole && !produces(answers, holder);
    Map<String, Set<String>> kindsByReason = new LinkedHashMap<>();
    for (Suspicion suspicion : suspicions()) {
      try {
        boolean open = !concludeUnlessBlamed(suspicion, answers);
        // Silence for want of an answer is not that nothing was found.
        answers
            .failure(suspicion.questions())
            .filter(failure -> open && !failed)
            .ifPresent(failure -> unasked(suspicion, failure, kindsByReason));
      } catch (DatabaseException failure) {
        if (!failed) {
          unasked(suspicion, failure, kindsByReason);
        }
      }
    }
    tellFailureOnce();
    kindsByReason.forEach(
        (reason, kinds) ->
            unchecked.add(
                String.join(", ", kinds)
                    + (kinds.size() == 1 ? " was" : " were")
                    + " not checked: "
                    + reason));
    addObstacles();
  }

  private static void unasked(
      Suspicion suspicion, DatabaseException failure, Map<String, Set<String>> kindsByReason) {
    kindsByReason
        .computeIfAbsent(String.valueOf(failure.getMessage()), key -> new TreeSet<>())
        .add(suspicion.kind().id());
  }

  /** Why it does not run is told in Lantrel's words where they say it: at the subquery. */
  private void tellFailureOnce() {
    for (int i = 0; i < concluded.size(); i++) {
      Concluded each = concluded.get(i);
      boolean ended =
          each.kind() == Kind.SUBQUERY_MANY_ROWS
              && each.conclusion().severity() == Severity.WARNING
              && concluded.removeIf(other -> other.kind() == Kind.DOES_NOT_RUN);
      if (ended) {
        int at = concluded.indexOf(each);
        concluded.set(
            at, new Concluded(each.kind(), each.place(), each.conclusion().as(Severity.ERROR)));
        return;
      }
    }
  }

  // ---- what must be known before it is run ----

  /** What may keep it from ending. */
  private List<Suspicion> precautions() {
    if (precautions.isEmpty()) {
      for (Subject subject : subjects) {
        AllChecks.BEFORE_RUNNING.forEach(check -> precautions.addAll(check.suspect(subject)));
      }
    }
    return precautions;
  }

  /** What tells whether it ends. */
  List<Question<?>> precautionQuestions() {
    List<Question<?>> questions = new ArrayList<>();
    precautions().forEach(each -> questions.addAll(each.questions()));
    return questions;
  }

  /**
   * Concludes from the answers to {@link #precautionQuestions}.
   *
   * @return whether it may be run
   */
  boolean mayBeRun(Answers answers) {
    int before = concluded.size();
    precautions().forEach(each -> concludeUnlessBlamed(each, answers));
    return concluded.size() == before;
  }

  /** Why it never ends, by the answers to {@link #precautionQuestions}. */
  Optional<String> endless(Answers answers) {
    return precautions().stream()
        .flatMap(each -> each.conclude().apply(answers).stream())
        .map(Conclusion::message)
        .findFirst();
  }

  /** Whether the database gets to the end of the query; if not, that is a finding. */
  private boolean produces(Answers answers, @Nullable String holder) {
    try {
      rows = OptionalLong.of(answers.to(Objects.requireNonNull(counted)));
      return true;
    } catch (DatabaseException failure) {
      if (holder != null) {
        unchecked.add(
            holder + " has the rows here, and cannot work out its result: " + failure.getMessage());
      } else if (failure.reason() != DatabaseException.Reason.REFUSED) {
        unchecked.add("the query was not run to its end: " + failure.getMessage());
      } else {
        conclude(DoesNotRun.suspect(Objects.requireNonNull(query), failure), new Answers());
      }
      return false;
    }
  }

  private void addObstacles() {
    for (QueryBlock block : blocks()) {
      Optional<String> obstacle = block.steps().isEmpty() ? Optional.empty() : Obstacle.of(block);
      obstacle.ifPresent(
          reason -> {
            Place place = source.place(block.select().span());
            unchecked.add(
                "the joins of the SELECT at line "
                    + place.line()
                    + ", column "
                    + place.column()
                    + " were only checked as far as their text tells: "
                    + reason);
          });
    }
  }

  /** Whether something was concluded, or what it is about is told already. */
  private boolean concludeUnlessBlamed(Suspicion suspicion, Answers answers) {
    boolean told =
        suspicion.about().stream().anyMatch(blamed::contains)
            || concluded.stream().anyMatch(each -> isSame(each, suspicion))
            // An empty result is what follows from whatever else is wrong.
            || (OF_EMPTINESS.contains(suspicion.kind()) && isExplained(suspicion.kind()));
    if (told) {
      return true;
    }
    if (toldBefore.contains(suspicion)) {
      blamed.addAll(suspicion.about());
      return true;
    }
    Optional<Conclusion> conclusion = conclude(suspicion, answers);
    conclusion
        .filter(each -> each.severity() != Severity.NOTE)
        .ifPresent(each -> blamed.addAll(suspicion.about()));
    return conclusion.isPresent();
  }

  private static boolean isSame(Concluded earlier, Suspicion suspicion) {
    return earlier.kind() == suspicion.kind() && earlier.place().isSame(suspicion.place());
  }

  /** By a warning of another kind; two outer joins may find nothing, each for its own reason. */
  private boolean isExplained(Kind emptiness) {
    return concluded.stream()
        .filter(each -> each.conclusion().severity() != Severity.NOTE)
        .anyMatch(each -> each.kind() != emptiness || emptiness == Kind.NEVER_A_ROW);
  }

  private Optional<Conclusion> conclude(Suspicion suspicion, Answers answers) {
    Optional<Conclusion> conclusion = suspicion.conclude().apply(answers);
    conclusion.ifPresent(
        each ->
            concluded.add(
                new Concluded(suspicion.kind(), each.found().orElse(suspicion.place()), each)));
    return conclusion;
  }
}
