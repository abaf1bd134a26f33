package io.lantrel.probe;

import io.lantrel.catalog.Key;
import io.lantrel.engine.SampleData;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Multiplicity;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
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
import org.jspecify.annotations.Nullable;

/**
 * The joined rows of a block, as relations that can be counted over. Rows have no numbers: at each
 * step the rows so far are joined to what comes next by an outer join, so that the ones without a
 * partner are there to be counted, and the rest is a matter of differences. Steps at which a row
 * has at most one partner repeat nothing, so that a run of them is one relation.
 */
public final class JoinedRows {

  private final QueryBlock block;
  private final Promises promises;
  private final Presence presence;
  private final FromTree tree;
  private final OuterRows outer;
  private final Map<JoinStep, Attempt> attempts = new IdentityHashMap<>();
  private final Map<FromItem, Relation> sides = new IdentityHashMap<>();
  private final Map<JoinStep, Relation> lonely = new IdentityHashMap<>();
  private final Set<JoinStep> complete = Collections.newSetFromMap(new IdentityHashMap<>());
  private final List<LosslessRun> lossless = new ArrayList<>();
  private @Nullable Relation all;
  private @Nullable Expression failing;

  private JoinedRows(QueryBlock block, Promises promises) {
    this.block = block;
    this.promises = promises;
    Names names = Names.of(block);
    this.outer = new OuterRows(block, names);
    this.presence = new Presence(block, names);
    this.tree = new FromTree(block, names, presence, conjunct -> false);
    if (promises.relyOnReferences()) {
      block.steps().stream().filter(this::isPromised).forEach(complete::add);
    }
    attempt(from());
  }

  /**
   * An inner join along a reference that is never empty loses no row; if it did, the joined rows
   * would be fewer than the account says.
   */
  private boolean isPromised(JoinStep step) {
    return !step.kind().isOuter()
        && !step.conjuncts().isEmpty()
        && block.partnersOnTheRight(step) == Multiplicity.EXACTLY_ONE
        && isSingle(step);
  }

  /** Whether it is known that no row lacks a partner at a step. */
  public boolean isComplete(JoinStep step) {
    return complete.contains(step);
  }

  /**
   * The rows of a block whose names all mean something.
   *
   * @param promises which promises of the schema can be relied on
   * @return empty if {@link Obstacle#of} tells why there is none
   */
  public static Optional<JoinedRows> of(QueryBlock block, Promises promises) {
    return Obstacle.of(block).isPresent()
        ? Optional.empty()
        : Optional.of(new JoinedRows(block, promises));
  }

  /** The block whose rows these are. */
  public QueryBlock block() {
    return block;
  }

  private FromItem from() {
    return block.joinedFrom().orElseThrow();
  }

  // ---- runs of steps ----

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
  private boolean isSingle(JoinStep step) {
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
      Set<String> names = new HashSet<>();
      step.right().forEach(use -> names.add(tree.names().name(use).text()));
      added.add(
          new Relation.Added(
              tree.of(step.join().right()),
              tree.conditionOrTrue(step),
              isSingle(step),
              names,
              () -> allHavePartners(steps, step)));
    }
    FromItem from = tree.of(run.get(0).join().left());
    Relation relation =
        new Relation(from, added, null, block.commonTables(), block.hasRecursiveTables());
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
   * A run of inner joins at which a row has at most one partner: if as many rows come out as went
   * in, none was lost at any of them.
   */
  private record LosslessRun(List<JoinStep> steps, Question<Long> before, Question<Long> after) {}

  /**
   * What tells whether runs of inner joins lose rows at all; cheaper than to look for such rows.
   */
  public List<Question<?>> lossTests() {
    if (lossless.isEmpty()) {
      Set<List<JoinStep>> runs = Collections.newSetFromMap(new IdentityHashMap<>());
      attempts.values().forEach(each -> runs.add(each.run()));
      for (List<JoinStep> run : runs) {
        boolean inner =
            run.stream().allMatch(step -> !step.kind().isOuter() && isSingle(step))
                && !complete.containsAll(run);
        if (inner) {
          JoinStep last = run.get(run.size() - 1);
          Question<Long> before = Question.count(side(run.get(0).join().left()));
          Question<Long> after = Question.count(side(last.join()));
          lossless.add(new LosslessRun(run, before, after));
        }
      }
    }
    List<Question<?>> questions = new ArrayList<>();
    lossless.forEach(each -> questions.addAll(List.of(each.before(), each.after())));
    return questions;
  }

  /** Takes note of the answers to {@link #lossTests}. */
  public void readLossTests(Answers answers) {
    for (LosslessRun run : lossless) {
      Optional<Long> before = answers.ifAny(run.before());
      if (before.isPresent() && before.equals(answers.ifAny(run.after()))) {
        complete.addAll(run.steps());
      }
    }
  }

  private Attempt attemptAt(JoinStep step) {
    return Optional.ofNullable(attempts.get(step)).orElseThrow();
  }

  private Relation relation(FromItem from, @Nullable Expression where) {
    return new Relation(from, List.of(), where, block.commonTables(), block.hasRecursiveTables());
  }

  // ---- relations ----

  /** The rows of an item of FROM. */
  public Relation side(FromItem item) {
    return sides.computeIfAbsent(item, key -> relation(tree.of(item), null));
  }

  /**
   * The rows so far at a step, each with its partners or with none; several steps in a row may
   * share one.
   */
  public Relation attempts(JoinStep step) {
    return attemptAt(step).relation();
  }

  /** In {@link #attempts}: whether it is the relation of no earlier step. */
  public boolean isFirst(JoinStep step) {
    return attemptAt(step).place() == 0;
  }

  /** In {@link #attempts}: whether a row got as far as this step. */
  public Expression reached(JoinStep step) {
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
  public void knowComplete(JoinStep step) {
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

  /** In {@link #attempts}: whether the row has no partner at this step. */
  public Expression isAlone(JoinStep step) {
    return Sql.isNull(attempts(step).named(presence.ofPartner(step)));
  }

  /**
   * The rows so far at one step, each with all its partners, and what tells them apart.
   *
   * @param identity values in the short names of the relation; they hold within one statement
   */
  public record Repeated(Relation relation, List<Expression> identity) {

    /** How many of them have several partners. */
    public Question<Long> count() {
      QueryBody several =
          relation.select(
              false,
              List.of(Sql.as(Sql.count(), "x")),
              null,
              identity,
              Sql.greater(Sql.count(), Sql.number(1)));
      FromItem groups = Sql.derived(several, SampleData.RESERVED + "groups");
      return Question.numbers(
          relation,
          Query.of(Sql.select(List.of(Sql.as(Sql.count(), "c0")), groups, null)),
          1,
          answer -> answer.figure(0));
    }
  }

  /** The rows so far at a step and no further one. */
  public Repeated repeated(JoinStep step) {
    FromTree own = new FromTree(block, tree.names(), presence, conjunct -> false);
    List<Expression> identity = new ArrayList<>();
    step.left().forEach(use -> identity.addAll(identity(use, own)));
    FromItem from =
        FromItem.Join.of(
            own.of(step.join().left()),
            JoinKind.LEFT,
            own.of(step.join().right()),
            own.conditionOrTrue(step));
    Relation relation = relation(from, null);
    return new Repeated(relation, identity.stream().map(relation::named).toList());
  }

  private static boolean isNeverEmpty(TableUse use, Key key) {
    return key.columns().stream()
        .allMatch(each -> use.column(each).filter(column -> !column.nullable()).isPresent());
  }

  /** The rows on the right of a step that have no partner. */
  public Relation lonelyOnTheRight(JoinStep step) {
    return lonely.computeIfAbsent(step, key -> lonely(step, tree.of(step.join().left())));
  }

  /** The same where all rows of one table use, which alone the step mentions, are still there. */
  public Relation lonelyOnTheRight(JoinStep step, TableUse partner) {
    return lonely.computeIfAbsent(step, key -> lonely(step, tree.of(partner.item())));
  }

  private Relation lonely(JoinStep step, FromItem left) {
    return relation(
        tree.of(step.join().right()),
        Sql.not(
            Sql.exists(
                Sql.select(
                    List.of(Sql.as(Sql.number(1), "one")), left, tree.conditionOrTrue(step)))));
  }

  /**
   * The column of the first table by which a step finds its partners, if these are found by their
   * key and by nothing else: its different values are then the keys that are met.
   */
  public Optional<UseColumn> referringColumn(JoinStep step) {
    Optional<UseColumn> key = keyColumn(step);
    if (step.conjuncts().size() != 1 || key.isEmpty()) {
      return Optional.empty();
    }
    return step.conjuncts().get(0).equality().stream()
        .filter(each -> each.of(key.get().use()).equals(key))
        .map(each -> each.other(key.get()))
        .filter(column -> step.left().get(0).equals(column.use()))
        .findFirst();
  }

  /**
   * In {@link #attempts}: the key of what is joined, if it is one column, which tells its rows
   * apart.
   */
  public Optional<Expression> keyOfPartner(JoinStep step) {
    return keyColumn(step).map(column -> column(attempts(step), column));
  }

  private Optional<UseColumn> keyColumn(JoinStep step) {
    return block
        .use(step.join().right())
        .filter(promises::hold)
        .flatMap(
            use ->
                use.keys().stream()
                    .filter(key -> key.columns().size() == 1 && isNeverEmpty(use, key))
                    .findFirst()
                    .flatMap(key -> use.column(key.columns().get(0))));
  }

  /** All joined rows, before WHERE; some more may be there, which {@link #isJoined} tells apart. */
  public Relation all() {
    if (all == null) {
      Attempt last = last();
      all = last == null ? relation(tree.of(from()), null) : last.relation();
    }
    return all;
  }

  /** The run that ends with the last step, if it shows all rows that this hands on. */
  private @Nullable Attempt last() {
    return block
        .step(from())
        .filter(step -> !step.kind().keepsRight() && !step.conjuncts().isEmpty())
        .map(this::attemptAt)
        .orElse(null);
  }

  /** In {@link #all}: whether it is a joined row, and not one that a join loses. */
  public Expression isJoined() {
    Attempt last = last();
    return last == null ? Sql.always() : reached(last.relation(), last.run(), last.run().size());
  }

  /**
   * The rows that meet WHERE, and what tells the rows of one table use apart in them.
   *
   * @param identity values in the short names of the relation; they hold within one statement, and
   *     the first is NULL where the row is filled in
   */
  public record Kept(Relation relation, List<Expression> identity) {}

  /** The rows that meet WHERE. */
  public Kept kept(TableUse use) {
    FromTree own = new FromTree(block, tree.names(), presence, conjunct -> false);
    List<Expression> identity = identity(use, own);
    List<Expression> conditions = filters();
    Relation relation = relation(own.of(from()), conditions.isEmpty() ? null : Sql.all(conditions));
    return new Kept(relation, identity.stream().map(relation::named).toList());
  }

  /** The columns of a key; if there is none that holds, a number. */
  private List<Expression> identity(TableUse use, FromTree own) {
    return use.keys().stream()
        .filter(key -> promises.hold(use) && isNeverEmpty(use, key))
        .findFirst()
        .map(
            key ->
                key.columns().stream()
                    .flatMap(column -> use.column(column).stream())
                    .map(tree.names()::of)
                    .toList())
        .orElseGet(() -> List.of(own.number(use)));
  }

  /**
   * The conditions of WHERE in the names of the rows. Those that look at rows outside are one: that
   * there is such a row.
   */
  private List<Expression> filters() {
    List<Expression> conditions = new ArrayList<>();
    List<Expression> outside = new ArrayList<>();
    for (Conjunct filter : block.filters()) {
      (outer.isMentioned(filter.condition()) ? outside : conditions)
          .add(tree.names().of(filter.condition()));
    }
    if (!outside.isEmpty()) {
      conditions.add(outer.meet(outside));
    }
    return conditions;
  }

  /**
   * Whether the rows of a table use come at most once in a relation of attempts: the use comes
   * first and no join before or in the relation repeats a row.
   */
  boolean comesOnce(Relation relation, TableUse use) {
    return attempts.values().stream()
        .filter(each -> each.relation() == relation)
        .anyMatch(each -> each.place() == 0 && comesOnce(each, use));
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

  /** Whether the rows of a relation of one table come at most once. */
  boolean isOfOneTable(Relation relation, TableUse use) {
    return (relation.equals(sides.get(use.item()))
        || lonely.entrySet().stream()
            .anyMatch(
                each ->
                    each.getValue().equals(relation)
                        && each.getKey().join().right().equals(use.item())));
  }

  // ---- values ----

  /** In {@link #all}: whether this condition of WHERE is the first that does not hold. */
  public Expression failsFirst(int filter) {
    if (failing == null) {
      List<Value.When> whens = new ArrayList<>();
      for (Conjunct each : block.filters()) {
        Expression own = tree.names().of(each.condition());
        Expression condition = outer.isMentioned(each.condition()) ? outer.meet(List.of(own)) : own;
        Expression fails =
            Sql.equal(Sql.choose(condition, Sql.number(1), Sql.number(0)), Sql.number(0));
        whens.add(new Value.When(Span.NOWHERE, fails, Sql.number(whens.size() + 1L)));
      }
      failing = all().named(new Value.Case(Span.NOWHERE, null, whens, Sql.number(0)));
    }
    return Sql.equal(failing, Sql.number(filter + 1L));
  }

  /** A column in a relation of these rows. */
  public Expression column(Relation relation, UseColumn column) {
    return relation.named(tree.names().of(column));
  }

  /** A value of the block, in a relation of its rows. */
  public Expression value(Relation relation, Expression value) {
    return relation.named(tree.names().of(value));
  }

  /** Whether a condition of the block holds in a row of a relation. */
  public Expression holds(Relation relation, Expression condition) {
    Expression own = tree.names().of(condition);
    return relation.holds(outer.isMentioned(condition) ? outer.meet(List.of(own)) : own);
  }

  /** Whether the conditions of WHERE hold, as far as they only concern these table uses. */
  public Expression holdsOfFilters(Relation relation, List<TableUse> uses) {
    List<Expression> conditions = new ArrayList<>();
    for (Conjunct filter : block.filters()) {
      if (uses.containsAll(filter.uses())) {
        conditions.add(holds(relation, filter.condition()));
      }
    }
    return Sql.all(conditions);
  }

  /** In a relation: whether the row of a table use is there, and was not filled in. */
  public Expression isThere(Relation relation, TableUse use) {
    return Sql.isNotNull(relation.named(presence.of(use)));
  }

  /** In the rows of one table use: whether its value of a column is among those of another. */
  public Expression isAmong(Relation relation, UseColumn column, UseColumn other) {
    return relation.holds(
        Sql.exists(
            Sql.select(
                List.of(Sql.as(Sql.number(1), "one")),
                tree.of(other.use().item()),
                Sql.equal(tree.names().of(other), tree.names().of(column)))));
  }

  /**
   * The rows of one side of a step that have no partner, but would have one (or would not) if only
   * some of the conditions of the step were there.
   */
  Relation almostMet(JoinStep step, boolean left, List<Conjunct> some, boolean met) {
    FromItem side = tree.of(left ? step.join().left() : step.join().right());
    FromItem other = tree.of(left ? step.join().right() : step.join().left());
    List<Expression> conditions =
        some.stream().map(each -> tree.names().of(each.condition())).toList();
    Expression almost = isThere(other, Sql.all(conditions));
    return relation(
        side,
        Sql.all(
            List.of(
                Sql.not(isThere(other, tree.conditionOrTrue(step))),
                met ? almost : Sql.not(almost))));
  }

  private static Expression isThere(FromItem from, Expression condition) {
    return Sql.exists(Sql.select(List.of(Sql.as(Sql.number(1), "one")), from, condition));
  }
}
