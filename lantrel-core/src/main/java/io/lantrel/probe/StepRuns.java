package io.lantrel.probe;

import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BooleanSupplier;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The runs of steps that one relation shows: at every further step of a run a row has at most one
 * partner, so that nothing is repeated and all of them can be counted side by side. It is known of
 * some steps that no row lacks a partner; these need not be looked at.
 */
final class StepRuns {

  /** So many joins of a run are tested each for itself. */
  private static final int MOST_APART = 12;

  /** One that needs more joins than these, itself among them, is not tested for itself. */
  private static final int MOST_JOINS_APART = 2;

  private final QueryBlock block;
  private final Promises promises;
  private final FromTree tree;
  private final Presence presence;
  private final Function<FromItem, Relation> sides;
  private final Map<JoinStep, Attempt> attempts = new IdentityHashMap<>();
  private final Set<JoinStep> complete = Collections.newSetFromMap(new IdentityHashMap<>());
  private final List<LossTest> tests = new ArrayList<>();
  private final List<LossTest> partners = new ArrayList<>();
  private final Map<JoinStep, Long> found = new IdentityHashMap<>();

  /** What shows rows of a run, and none that it repeats or adds. */
  private final Map<Relation, Attempt> ofRun = new IdentityHashMap<>();

  /**
   * @param sides the rows of an item of FROM
   */
  StepRuns(
      QueryBlock block,
      Promises promises,
      FromTree tree,
      Presence presence,
      Function<FromItem, Relation> sides) {
    this.block = block;
    this.promises = promises;
    this.tree = tree;
    this.presence = presence;
    this.sides = sides;
    attempt(block.joinedFrom().orElseThrow());
  }

  boolean isComplete(JoinStep step) {
    return complete.contains(step);
  }

  /** The steps that one relation is made for, and the place of a step among them. */
  private record Attempt(Relation relation, List<JoinStep> run, int place) {}

  /** Looks through a chain of joins, the innermost first, and through those in parentheses. */
  private void attempt(FromItem item) {
    List<JoinStep> run = new ArrayList<>();
    for (JoinStep step : FromTree.chain(block, item)) {
      attempt(step.join().right());
      JoinStep last = run.isEmpty() ? null : run.get(run.size() - 1);
      boolean goesOn =
          last != null
              && !last.kind().keepsRight()
              && !step.kind().keepsRight()
              && !step.conjuncts().isEmpty()
              && !last.conjuncts().isEmpty()
              && isSingle(step);
      if (!goesOn) {
        close(run);
        run.clear();
      }
      run.add(step);
    }
    close(run);
  }

  /** Whether a row has at most one partner at a step, by keys that hold. */
  boolean isSingle(JoinStep step) {
    return block.partnersOnTheRight(step).isSingle()
        && step.right().stream().allMatch(promises::hold);
  }

  private void close(List<JoinStep> run) {
    if (run.isEmpty()) {
      return;
    }
    List<JoinStep> steps = List.copyOf(run);
    List<Relation.Added> added = new ArrayList<>();
    for (JoinStep step : steps) {
      added.add(added(step, isSingle(step), () -> allHavePartners(steps, step)));
    }
    FromItem from = tree.of(run.get(0).join().left());
    Relation relation = relation(from, added, null);
    for (int i = 0; i < steps.size(); i++) {
      attempts.put(steps.get(i), new Attempt(relation, steps, i));
    }
  }

  /** Whether every row of a run is still there at a step, and none lacks a partner. */
  private boolean allHavePartners(List<JoinStep> run, JoinStep step) {
    return complete.contains(step)
        && run.stream().takeWhile(each -> !each.equals(step)).noneMatch(this::mayLose);
  }

  // ---- whether anything is lost at all ----

  /**
   * Joins of a run at which a row has at most one partner and none of the right side alone is kept,
   * taken as inner ones: if as many rows come out as went in, none lacks a partner at any of them.
   */
  private record LossTest(List<JoinStep> inner, Question<Long> before, Question<Long> after) {}

  /** What tells whether runs lose rows at all; cheaper than to look for such rows. */
  List<Question<?>> lossTests() {
    if (tests.isEmpty()) {
      attempts.values().stream()
          .filter(each -> each.place() == 0)
          .forEach(each -> tests.addAll(lossTests(each.run())));
    }
    return questions(tests);
  }

  /** The same where earlier joins repeat rows; the account of such a run counts them anyway. */
  List<Question<?>> lossTestsOverTables() {
    List<LossTest> more =
        attempts.values().stream()
            .filter(each -> each.place() == 0 && !isCountable(each.run()))
            .flatMap(each -> each.run().stream())
            .filter(step -> !step.kind().isOuter())
            .flatMap(step -> overItsTable(step).stream())
            .toList();
    tests.addAll(more);
    return questions(more);
  }

  /**
   * What tells how many rows find a partner, of steps at which a row has at most one, where {@link
   * #lossTests} do not: outer joins, and those behind a join that repeats rows.
   */
  List<Question<?>> partnerTests() {
    Map<JoinStep, Question<Long>> coming = new IdentityHashMap<>();
    for (JoinStep step : block.steps()) {
      Attempt attempt = attemptAt(step);
      List<JoinStep> run = attempt.run();
      JoinStep first = run.get(0);
      boolean told = isCountable(run) && !step.kind().isOuter();
      boolean paired = !step.kind().keepsRight() && !step.conjuncts().isEmpty();
      if (isSingle(step) && !told && paired) {
        Relation relation = joined(run.subList(0, attempt.place() + 1), null, step);
        int repeating = isSingle(first) ? 0 : 1;
        if (relation.joinsNeeded() <= MOST_JOINS_APART + repeating) {
          Question<Long> before =
              coming.computeIfAbsent(first, key -> Question.count(compared(run)));
          partners.add(new LossTest(List.of(step), before, Question.count(relation)));
        }
      }
    }
    return questions(partners);
  }

  /** The rows of which those with a partner are some: what comes to a run, or of it is repeated. */
  private Relation compared(List<JoinStep> run) {
    return isSingle(run.get(0))
        ? sides.apply(run.get(0).join().left())
        : joined(run.subList(0, 1), null, null);
  }

  /** Takes note of the answers to {@link #partnerTests}, and of those to {@link #lossTests}. */
  void readPartnerTests(Answers answers) {
    // Tests over one table tell nothing of joined rows: they are of runs that are not countable.
    Stream<LossTest> apart =
        tests.stream()
            .filter(each -> each.inner().size() == 1)
            .filter(each -> isCountable(attemptAt(each.inner().get(0)).run()));
    Stream.concat(apart, partners.stream())
        .forEach(
            test -> {
              JoinStep step = test.inner().get(0);
              Optional<Long> before = answers.ifAny(test.before());
              Optional<Long> after = answers.ifAny(test.after());
              if (before.isPresent() && before.equals(after)) {
                complete.add(step);
              }
              after.ifPresent(rows -> found.put(step, rows));
            });
  }

  /**
   * How many of the rows that come to a step find a partner; empty if it is not known, as where an
   * earlier step of the run loses some of them.
   */
  Optional<Long> partnersFound(JoinStep step) {
    Attempt attempt = attemptAt(step);
    boolean all = attempt.run().stream().limit(attempt.place()).noneMatch(this::mayLoseSingle);
    return all ? Optional.ofNullable(found.get(step)) : Optional.empty();
  }

  /** Those that have several partners are joined in the test as well. */
  private boolean mayLoseSingle(JoinStep step) {
    return isSingle(step) && mayLose(step);
  }

  private static List<Question<?>> questions(List<LossTest> tests) {
    List<Question<?>> questions = new ArrayList<>();
    tests.forEach(each -> questions.addAll(List.of(each.before(), each.after())));
    return questions;
  }

  /** Whether as many rows come out of a run as go in, unless some are lost. */
  private boolean isCountable(List<JoinStep> run) {
    return run.stream().allMatch(step -> !step.kind().keepsRight() && isSingle(step));
  }

  /** One for each join where that is little work, else one for all of them. */
  private List<LossTest> lossTests(List<JoinStep> run) {
    List<JoinStep> inner = run.stream().filter(step -> !step.kind().isOuter()).toList();
    boolean countable = isCountable(run);
    if (inner.isEmpty() || !countable) {
      return List.of();
    }
    FromItem from = run.get(0).join().left();
    Question<Long> before = Question.count(sides.apply(from));
    List<Relation> apart = new ArrayList<>();
    for (JoinStep step : inner) {
      Relation relation = joined(run.subList(0, run.indexOf(step) + 1), null, step);
      if (relation.joinsNeeded() <= MOST_JOINS_APART) {
        apart.add(relation);
      }
    }
    if (inner.size() == 1 || inner.size() > MOST_APART || apart.size() < inner.size()) {
      JoinStep last = run.get(run.size() - 1);
      return List.of(new LossTest(inner, before, Question.count(sides.apply(last.join()))));
    }
    List<LossTest> all = new ArrayList<>();
    for (int i = 0; i < inner.size(); i++) {
      all.add(new LossTest(List.of(inner.get(i)), before, Question.count(apart.get(i))));
    }
    return all;
  }

  /**
   * One over the only table that a later join mentions: if none of its rows lacks a partner, no
   * joined row does.
   */
  private Optional<LossTest> overItsTable(JoinStep step) {
    Set<TableUse> mentioned = new HashSet<>();
    step.conjuncts().forEach(each -> mentioned.addAll(each.uses()));
    mentioned.removeAll(step.right());
    if (!isSingle(step) || step.kind().keepsRight() || mentioned.size() != 1) {
      return Optional.empty();
    }
    TableUse use = mentioned.iterator().next();
    boolean always = step.left().contains(use) && block.stepsThatFill(use).isEmpty();
    boolean dependent = step.right().stream().anyMatch(TableUse::isDependent);
    if (!always || dependent || use.table().isEmpty() || step.left().size() == 1) {
      return Optional.empty();
    }
    Relation joined = relation(tree.of(use.item()), List.of(added(step, false, () -> true)), null);
    return Optional.of(
        new LossTest(
            List.of(step), Question.count(sides.apply(use.item())), Question.count(joined)));
  }

  /** Takes note of the answers to {@link #lossTests}. */
  void readLossTests(Answers answers) {
    for (LossTest test : tests) {
      Optional<Long> before = answers.ifAny(test.before());
      if (before.isPresent() && before.equals(answers.ifAny(test.after()))) {
        complete.addAll(test.inner());
      }
    }
  }

  /**
   * The rows that a run hands on, without the joins that change nothing and show nothing of what is
   * used.
   *
   * @param where which of them; null for all
   * @param asked a step at which only rows with a partner are meant, while the losses of others do
   *     not matter; null if they do
   */
  private Relation joined(
      List<JoinStep> run, @Nullable Expression where, @Nullable JoinStep asked) {
    List<Relation.Added> added = new ArrayList<>();
    for (JoinStep step : run) {
      boolean changesNothing = isSingle(step) && (step.kind().keepsLeft() || isComplete(step));
      boolean showsOnly = asked == null ? changesNothing : !step.equals(asked) && isSingle(step);
      added.add(added(step, showsOnly, () -> step.equals(asked) || !step.kind().keepsLeft()));
    }
    FromItem from = tree.of(run.get(0).join().left());
    return relation(from, added, where);
  }

  private Relation relation(FromItem from, List<Relation.Added> added, @Nullable Expression where) {
    return new Relation(from, added, where, block.commonTables(), block.hasRecursiveTables());
  }

  private Relation.Added added(JoinStep step, boolean showsOnly, BooleanSupplier inner) {
    return new Relation.Added(
        tree.of(step.join().right()), tree.conditionOrTrue(step), showsOnly, names(step), inner);
  }

  private Set<String> names(JoinStep step) {
    Set<String> names = new HashSet<>();
    step.right().forEach(use -> names.add(tree.names().name(use).text()));
    return names;
  }

  /**
   * The joined rows and no others, without the joins that by now are known to change nothing.
   *
   * @param where which of them, in the names of the rows
   */
  Optional<Relation> joined(Expression where) {
    return lastAttempt().map(each -> shown(each, each.run(), where));
  }

  private Relation shown(Attempt attempt, List<JoinStep> run, @Nullable Expression where) {
    Relation relation = joined(run, where, null);
    ofRun.put(relation, attempt);
    return relation;
  }

  /** The rows that come to a step and no others, without the joins that change nothing. */
  Relation coming(JoinStep step) {
    Attempt attempt = attemptAt(step);
    if (attempt.place() == 0) {
      Relation relation = relation(tree.of(step.join().left()), List.of(), null);
      ofRun.put(relation, attempt);
      return relation;
    }
    return shown(attempt, attempt.run().subList(0, attempt.place()), null);
  }

  private Attempt attemptAt(JoinStep step) {
    return Optional.ofNullable(attempts.get(step)).orElseThrow();
  }

  /**
   * The rows so far at a step, each with its partners or with none; several steps in a row may
   * share one.
   */
  Relation relation(JoinStep step) {
    return attemptAt(step).relation();
  }

  /** Whether no step of the last run is counted over the relation of the run. */
  boolean lastIsCountedApart() {
    return lastAttempt()
        .map(
            last ->
                last.run().stream()
                    .allMatch(step -> complete.contains(step) || partnersFound(step).isPresent()))
        .orElse(true);
  }

  /** In {@link #relation}: whether it is the relation of no earlier step. */
  boolean isFirst(JoinStep step) {
    return attemptAt(step).place() == 0;
  }

  /** In {@link #relation}: whether a row got as far as this step. */
  Expression reached(JoinStep step) {
    Attempt attempt = attemptAt(step);
    return reached(attempt.relation(), attempt.run(), attempt.place());
  }

  private Expression reached(Relation relation, List<JoinStep> run, int place) {
    boolean lost = run.stream().limit(place).anyMatch(this::mayLose);
    if (!lost) {
      return Sql.always();
    }
    Expression at = relation.named(lostAt(run));
    return Sql.any(List.of(Sql.equal(at, Sql.number(0)), Sql.greater(at, Sql.number(place))));
  }

  private boolean mayLose(JoinStep step) {
    return !step.kind().keepsLeft() && !complete.contains(step);
  }

  /** Takes note that no row lacks a partner at a step: it need not be looked for any more. */
  void knowComplete(JoinStep step) {
    complete.add(step);
  }

  /** At which step of a run a row is lost, counted from 1; 0 if at none. */
  private Expression lostAt(List<JoinStep> run) {
    List<Value.When> whens = new ArrayList<>();
    for (int i = 0; i < run.size(); i++) {
      JoinStep step = run.get(i);
      if (mayLose(step)) {
        Expression alone = Sql.isNull(presence.ofPartner(step));
        whens.add(new Value.When(Span.NOWHERE, alone, Sql.number(i + 1L)));
      }
    }
    return new Value.Case(Span.NOWHERE, null, whens, Sql.number(0));
  }

  /** The relation of the last step, if it shows all rows that this hands on. */
  Optional<Relation> last() {
    return lastAttempt().map(Attempt::relation);
  }

  private Optional<Attempt> lastAttempt() {
    return block
        .step(block.joinedFrom().orElseThrow())
        .filter(step -> !step.kind().keepsRight() && !step.conjuncts().isEmpty())
        .map(this::attemptAt);
  }

  /** In the relation of the last step: whether a row is lost at none. */
  Expression isJoined() {
    return lastAttempt()
        .map(each -> reached(each.relation(), each.run(), each.run().size()))
        .orElseGet(Sql::always);
  }

  boolean comesOnce(Relation relation, TableUse use) {
    Attempt shown = ofRun.get(relation);
    return shown == null
        ? attempts.values().stream()
            .filter(each -> each.relation() == relation)
            .anyMatch(each -> each.place() == 0 && comesOnce(each, use))
        : comesOnce(shown, use);
  }

  private boolean comesOnce(Attempt attempt, TableUse use) {
    FromItem item = attempt.run().get(0).join().left();
    for (FromItem next = item; next instanceof FromItem.Join join; next = join.left()) {
      JoinStep step = block.step(join).orElseThrow();
      if (step.kind().keepsRight() || !isSingle(step)) {
        return false;
      }
    }
    return attempt.run().stream().allMatch(this::isSingle) && block.uses().get(0).equals(use);
  }
}
