package io.lantrel.probe;

import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The joined rows of a block, as relations that can be counted over. Rows have no numbers: at each
 * step the rows so far are joined to what comes next by an outer join, so that the ones without a
 * partner are there to be counted, and the rest is a matter of differences. Steps at which a row
 * has at most one partner repeat nothing, so that a run of them is one relation. Engines are faster
 * at inner joins: where rows may be many, {@link #lossTests} and {@link #partnerTests} count by
 * these who has a partner, and only what is left is looked for.
 */
public final class JoinedRows {

  private final QueryBlock block;
  private final Promises promises;
  private final Presence presence;
  private final FromTree tree;
  private final OuterRows outer;
  private final StepRuns runs;
  private final Map<FromItem, Relation> sides = new IdentityHashMap<>();
  private final Map<JoinStep, Relation> lonely = new IdentityHashMap<>();
  private final Map<JoinStep, Relation> coming = new IdentityHashMap<>();
  private @Nullable Relation all;
  private @Nullable Expression failing;

  private JoinedRows(QueryBlock block, Promises promises, @Nullable RowPart part) {
    this.block = block;
    this.promises = promises;
    Names names = Names.of(block);
    this.outer = new OuterRows(block, names);
    this.presence = new Presence(block, names);
    this.tree = new FromTree(block, names, presence, conjunct -> false, part);
    this.runs = new StepRuns(block, promises, tree, presence, this::side);
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
        : Optional.of(new JoinedRows(block, promises, null));
  }

  /** The same as if one of its tables had but a part of its rows. */
  public JoinedRows ofPart(RowPart part) {
    return new JoinedRows(block, promises, part);
  }

  /** The block whose rows these are. */
  public QueryBlock block() {
    return block;
  }

  private FromItem from() {
    return block.joinedFrom().orElseThrow();
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
    return runs.relation(step);
  }

  /** In {@link #attempts}: whether it is the relation of no earlier step. */
  public boolean isFirst(JoinStep step) {
    return runs.isFirst(step);
  }

  /** In {@link #attempts}: whether a row got as far as this step. */
  public Expression reached(JoinStep step) {
    return runs.reached(step);
  }

  /** In {@link #attempts}: whether the row has no partner at this step. */
  public Expression isAlone(JoinStep step) {
    return Sql.isNull(attempts(step).named(presence.ofPartner(step)));
  }

  /**
   * What tells whether runs of inner joins lose rows at all; cheaper than to look for such rows.
   */
  public List<Question<?>> lossTests() {
    return runs.lossTests();
  }

  /** More of them, which look at one table each. */
  public List<Question<?>> lossTestsOverTables() {
    return runs.lossTestsOverTables();
  }

  /** Takes note of the answers to {@link #lossTests} and {@link #lossTestsOverTables}. */
  public void readLossTests(Answers answers) {
    runs.readLossTests(answers);
  }

  /** What tells how many rows find a partner, where {@link #lossTests} do not. */
  public List<Question<?>> partnerTests() {
    return runs.partnerTests();
  }

  /** Takes note of the answers to {@link #partnerTests}, and of those to {@link #lossTests}. */
  public void readPartnerTests(Answers answers) {
    runs.readPartnerTests(answers);
  }

  /** How many of the rows that come to a step find a partner; empty if it is not known. */
  public Optional<Long> partnersFound(JoinStep step) {
    return runs.partnersFound(step);
  }

  /** The rows that come to a step. */
  public Relation coming(JoinStep step) {
    return coming.computeIfAbsent(step, runs::coming);
  }

  /** Takes note that no row lacks a partner at a step: it need not be looked for any more. */
  public void knowComplete(JoinStep step) {
    runs.knowComplete(step);
  }

  /** Whether it is known that no row lacks a partner at a step. */
  public boolean isComplete(JoinStep step) {
    return runs.isComplete(step);
  }

  /**
   * The rows so far at one step that have a partner, each with all its partners, and what tells
   * them apart.
   *
   * @param identity values in the short names of the relation; they hold within one statement
   */
  public record Repeated(Relation relation, List<Expression> identity) {

    /** How many they are, how many pairs they make, and how many of them have several partners. */
    public Question<Met> met() {
      return Question.overGroups(
          relation,
          identity,
          size ->
              List.of(
                  Sql.count(),
                  FunctionCall.of("SUM", size),
                  Sql.countIf(Sql.greater(size, Sql.number(1)))),
          row -> new Met(row.figure(0), row.figure(1), row.figure(2)));
    }

    /** How many of them have several partners. */
    public Question<Long> count() {
      return Question.groups(relation, identity, Sql.greater(Sql.count(), Sql.number(1)));
    }
  }

  /**
   * Rows that have partners.
   *
   * @param rows how many
   * @param pairs they and their partners
   * @param several how many of the rows have more than one
   */
  public record Met(long rows, long pairs, long several) {}

  /**
   * Whether a row can have several partners at a step, and the rows that have any can be told apart
   * by keys that hold, which is less work than to look for those that have none.
   */
  public boolean canRepeat(JoinStep step) {
    return !runs.isSingle(step) && haveKeys(step);
  }

  /** Whether keys that hold tell the rows so far at a step apart. */
  public boolean haveKeys(JoinStep step) {
    return step.left().stream().allMatch(use -> key(use).isPresent());
  }

  /** The rows so far at a step and no further one. */
  public Repeated repeated(JoinStep step) {
    FromTree own = tree.anew();
    List<Expression> identity = new ArrayList<>();
    step.left().forEach(use -> identity.addAll(identity(use, own)));
    FromItem from =
        FromItem.Join.of(
            own.of(step.join().left()),
            JoinKind.INNER,
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
        tree.of(step.join().right()), Sql.not(Sql.exists(left, tree.conditionOrTrue(step))));
  }

  /**
   * The column of the rows so far by which a step finds its partners, if these are found by their
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
        .filter(column -> step.left().contains(column.use()) && areAlike(column, key.get()))
        .findFirst();
  }

  /** Whether values of both are the same just where they are equal: '1' and '01' are both 1. */
  private static boolean areAlike(UseColumn column, UseColumn key) {
    return column.type().family() == key.type().family()
        && column.type().isPadded() == key.type().isPadded()
        && (column.type().family() != TypeFamily.OTHER || column.type().equals(key.type()));
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
      all = runs.last().orElseGet(() -> relation(tree.of(from()), null));
    }
    return all;
  }

  /**
   * The joined rows that the only condition of WHERE drops, picked out before they are joined;
   * empty where all joined rows are looked at anyway, or it looks at rows outside.
   */
  public Optional<Relation> dropped() {
    Expression condition = block.filters().get(0).condition();
    if (block.filters().size() > 1 || outer.isMentioned(condition) || !runs.lastIsCountedApart()) {
      return Optional.empty();
    }
    Expression where = fails(tree.names().of(condition));
    return Optional.of(runs.joined(where).orElseGet(() -> relation(tree.of(from()), where)));
  }

  private static Expression fails(Expression condition) {
    return Sql.equal(Sql.choose(condition, Sql.number(1), Sql.number(0)), Sql.number(0));
  }

  /**
   * The joined rows that meet the conditions of WHERE before one, and for which that one is false;
   * where it is known that joins change nothing, they are left out. It is a cheaper way to such
   * rows than {@link #all} with {@link #failsFirst}.
   *
   * @param unknown whether the rows are meant for which it is unknown
   * @return empty if a condition looks at rows outside
   */
  public Optional<Relation> failing(int filter, boolean unknown) {
    List<Expression> conditions = new ArrayList<>();
    for (int i = 0; i <= filter; i++) {
      Expression condition = block.filters().get(i).condition();
      if (outer.isMentioned(condition)) {
        return Optional.empty();
      }
      Expression own = tree.names().of(condition);
      if (i < filter) {
        conditions.add(own);
      } else if (unknown) {
        conditions.add(isNeither(own));
      } else {
        conditions.add(Sql.not(own));
      }
    }
    Expression where = Sql.all(conditions);
    return Optional.of(runs.joined(where).orElseGet(() -> relation(tree.of(from()), where)));
  }

  private static Expression isNeither(Expression condition) {
    Expression known =
        Sql.choose(
            condition, Sql.number(1), Sql.choose(Sql.not(condition), Sql.number(1), Sql.number(0)));
    return Sql.equal(known, Sql.number(0));
  }

  /** In {@link #all}: whether it is a joined row, and not one that a join loses. */
  public Expression isJoined() {
    return runs.isJoined();
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
    return keptBut(null, use);
  }

  /**
   * The rows that meet WHERE without one of its conditions.
   *
   * @param without the condition that need not hold; null for none
   */
  public Kept keptBut(@Nullable Conjunct without, TableUse use) {
    FromTree own = tree.anew();
    List<Expression> identity = identity(use, own);
    List<Expression> conditions = filtersBut(without);
    Relation relation = relation(own.of(from()), conditions.isEmpty() ? null : Sql.all(conditions));
    return new Kept(relation, identity.stream().map(relation::named).toList());
  }

  private Optional<Key> key(TableUse use) {
    return use.keys().stream()
        .filter(key -> promises.hold(use) && isNeverEmpty(use, key))
        .filter(key -> !key.columns().isEmpty())
        .findFirst();
  }

  /** The columns of a key; if there is none that holds, or but one row, a number. */
  private List<Expression> identity(TableUse use, FromTree own) {
    return key(use)
        .map(
            key ->
                key.columns().stream()
                    .flatMap(column -> use.column(column).stream())
                    .map(tree.names()::of)
                    .toList())
        .orElseGet(() -> List.of(own.number(use)));
  }

  /**
   * The joined rows without some of the table uses.
   *
   * @param gone not all of them
   * @param filters the conditions of WHERE that still hold
   */
  public Relation without(Set<TableUse> gone, List<Conjunct> filters) {
    List<Expression> conditions =
        filters.stream().map(each -> tree.names().of(each.condition())).toList();
    FromItem left = Objects.requireNonNull(tree.anew().without(gone, from()));
    return relation(left, conditions.isEmpty() ? null : Sql.all(conditions));
  }

  /**
   * The conditions of WHERE in the names of the rows. Those that look at rows outside are one: that
   * there is such a row.
   */
  private List<Expression> filtersBut(@Nullable Conjunct without) {
    List<Expression> conditions = new ArrayList<>();
    List<Expression> outside = new ArrayList<>();
    for (Conjunct filter : block.filters()) {
      if (!filter.equals(without)) {
        (outer.isMentioned(filter.condition()) ? outside : conditions)
            .add(tree.names().of(filter.condition()));
      }
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
    return runs.comesOnce(relation, use);
  }

  /**
   * The table uses that tell joined rows from each other: the first, and those of which a row can
   * have several.
   *
   * @param step the rows that come to it; null for all
   */
  List<TableUse> tellingUses(@Nullable JoinStep step) {
    List<TableUse> telling = new ArrayList<>();
    telling.add(step == null ? block.uses().get(0) : step.left().get(0));
    for (JoinStep earlier : block.steps()) {
      boolean before = step == null || step.left().containsAll(earlier.right());
      if (before && !runs.isSingle(earlier) && !telling.containsAll(earlier.right())) {
        if (!earlier.kind().isOuter() && hasOneOnTheLeft(earlier)) {
          telling.clear();
        }
        telling.addAll(earlier.right());
      }
    }
    return telling;
  }

  /** Whether what is joined tells the row that it is joined to as well. */
  private boolean hasOneOnTheLeft(JoinStep step) {
    return block.partnersOnTheLeft(step).isSingle()
        && step.left().stream().allMatch(promises::hold);
  }

  /** The key of a table use's rows, if it has one that can be relied on. */
  Optional<Key> keyOf(TableUse use) {
    return promises.hold(use) ? use.table().flatMap(Table::key) : Optional.empty();
  }

  /** Whether the rows of a relation of one table come at most once. */
  boolean isOfOneTable(Relation relation, TableUse use) {
    return relation == sides.get(use.item())
        || lonely.entrySet().stream()
            .anyMatch(
                each -> each.getValue() == relation && each.getKey().join().right() == use.item());
  }

  // ---- values ----

  /** In {@link #all}: whether this condition of WHERE is the first that does not hold. */
  public Expression failsFirst(int filter) {
    if (failing == null) {
      List<Value.When> whens = new ArrayList<>();
      for (Conjunct each : block.filters()) {
        Expression fails = fails(condition(each.condition()));
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

  /** What the rows of a group have in common; of no groups nothing. */
  public List<Expression> groups(Relation relation) {
    return block.groupedBy().stream().map(each -> value(relation, each)).toList();
  }

  /** Whether a condition of the block holds in a row of a relation. */
  public Expression holds(Relation relation, Expression condition) {
    return relation.holds(condition(condition));
  }

  /** One that looks at rows outside asks whether there is such a row. */
  private Expression condition(Expression condition) {
    Expression own = tree.names().of(condition);
    return outer.isMentioned(condition) ? outer.meet(List.of(own)) : own;
  }

  /** In {@link #all}: whether a row meets WHERE, and these conditions as well. */
  public Expression isKept(Expression... more) {
    return isKeptBut(null, more);
  }

  /**
   * The same without one of the conditions of WHERE.
   *
   * @param without the condition that need not hold; null for none
   */
  public Expression isKeptBut(@Nullable Conjunct without, Expression... more) {
    List<Expression> conditions = new ArrayList<>(List.of(isJoined()));
    conditions.addAll(List.of(more));
    for (Conjunct filter : block.filters()) {
      if (!filter.equals(without)) {
        conditions.add(holds(all(), filter.condition()));
      }
    }
    return Sql.all(conditions);
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

  /**
   * In the rows of one table use: whether its value of a column is among those of another. By IN,
   * not by EXISTS: the values are gathered once, also by an engine that has no index of them and
   * would look through all of them for each row.
   */
  public Expression isAmong(Relation relation, UseColumn column, UseColumn other) {
    Expression value = tree.names().of(other);
    Query values =
        Query.of(
            Sql.select(
                List.of(Sql.as(value, "v")), tree.of(other.use().item()), Sql.isNotNull(value)));
    Expression sought = tree.names().of(column);
    return relation.holds(
        Sql.all(
            List.of(
                Sql.isNotNull(sought),
                new Condition.InQuery(Span.NOWHERE, sought, values, false))));
  }

  /**
   * The rows of one side of a step that have no partner, but would have one (or would not) if only
   * some of the conditions of the step were there, or others in their place.
   */
  public Relation almostMet(JoinStep step, boolean left, List<Expression> instead, boolean met) {
    FromItem side = tree.of(left ? step.join().left() : step.join().right());
    FromItem other = tree.of(left ? step.join().right() : step.join().left());
    Expression almost = Sql.exists(other, Sql.all(instead.stream().map(tree.names()::of).toList()));
    Expression none = Sql.not(Sql.exists(other, tree.conditionOrTrue(step)));
    // Who meets not even some of the conditions does not meet all of them.
    boolean some = step.conjuncts().stream().map(Conjunct::condition).toList().containsAll(instead);
    if (!met && some) {
      return relation(side, Sql.not(almost));
    }
    return relation(side, Sql.all(List.of(none, met ? almost : Sql.not(almost))));
  }
}
