package io.lantrel.probe;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.SampleData;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * The FROM of a block as probes write it: the same tables under the same names, every join with its
 * condition written out.
 */
final class FromTree {

  private static final String NUMBER = SampleData.RESERVED + "n";

  private final QueryBlock block;
  private final Names names;
  private final @Nullable Presence presence;
  private final Predicate<Conjunct> skipped;
  private final @Nullable RowPart part;
  private final Set<TableUse> numbered = Collections.newSetFromMap(new IdentityHashMap<>());
  private final Map<FromItem, FromItem> built = new IdentityHashMap<>();

  /**
   * @param presence which rows get a constant that tells whether they are there; null for none
   * @param skipped which conditions are left out
   * @param part of which table use only a part of the rows is there; null for none
   */
  FromTree(
      QueryBlock block,
      Names names,
      @Nullable Presence presence,
      Predicate<Conjunct> skipped,
      @Nullable RowPart part) {
    this.block = block;
    this.names = names;
    this.presence = presence;
    this.skipped = skipped;
    this.part = part;
  }

  /** The same once more, to which numbers can be added. */
  FromTree anew() {
    return new FromTree(block, names, presence, skipped, part);
  }

  /**
   * Gives the rows of a table use a number, by which they are told apart within one statement.
   *
   * @return the number in the names of the rows
   */
  Expression number(TableUse use) {
    numbered.add(use);
    return new ColumnName(Span.NOWHERE, List.of(names.name(use)), Identifier.of(NUMBER));
  }

  Names names() {
    return names;
  }

  /** The steps of the joins that lean to the left from an item, the innermost first. */
  static List<JoinStep> chain(QueryBlock block, FromItem item) {
    List<JoinStep> steps = new ArrayList<>();
    FromItem next = item;
    while (next instanceof FromItem.Join join) {
      steps.add(block.step(join).orElseThrow());
      next = join.left();
    }
    Collections.reverse(steps);
    return steps;
  }

  /** An item with all its joins. */
  FromItem of(FromItem item) {
    FromItem known = built.get(item);
    if (known != null) {
      return known;
    }
    List<JoinStep> chain = chain(block, item);
    if (chain.isEmpty()) {
      return keep(item, leaf(block.use(item).orElseThrow()));
    }
    FromItem tree = of(chain.get(0).join().left());
    for (JoinStep step : chain) {
      FromItem right = of(step.join().right());
      Expression condition = condition(step);
      tree =
          keep(
              step.join(),
              FromItem.Join.of(tree, kind(step, condition), right, conditionOf(step, condition)));
    }
    return tree;
  }

  /** An item with its joins, but for some table uses; null if nothing is left of it. */
  @Nullable FromItem without(Set<TableUse> gone, FromItem item) {
    if (!(item instanceof FromItem.Join join)) {
      TableUse use = block.use(item).orElseThrow();
      return gone.contains(use) ? null : leaf(use);
    }
    FromItem left = without(gone, join.left());
    FromItem right = without(gone, join.right());
    if (left == null || right == null) {
      return left == null ? right : left;
    }
    JoinStep step = block.step(join).orElseThrow();
    List<Expression> conditions =
        step.conjuncts().stream()
            .filter(each -> each.uses().stream().noneMatch(gone::contains))
            .map(Conjunct::condition)
            .map(names::of)
            .toList();
    Expression condition = conditions.isEmpty() ? null : Sql.all(conditions);
    return FromItem.Join.of(left, kind(step, condition), right, conditionOf(step, condition));
  }

  private FromItem keep(FromItem item, FromItem tree) {
    built.put(item, tree);
    return tree;
  }

  private static JoinKind kind(JoinStep step, @Nullable Expression condition) {
    if (step.kind().isOuter()) {
      return step.kind();
    }
    return condition == null ? JoinKind.CROSS : JoinKind.INNER;
  }

  private static @Nullable Expression conditionOf(JoinStep step, @Nullable Expression condition) {
    return condition == null && step.kind().isOuter() ? Sql.always() : condition;
  }

  private @Nullable Expression condition(JoinStep step) {
    return step.conjuncts().stream().allMatch(skipped) ? null : conditionOrTrue(step);
  }

  /** What a row and its partner must meet at a step. */
  Expression conditionOrTrue(JoinStep step) {
    return Sql.all(
        step.conjuncts().stream()
            .filter(skipped.negate())
            .map(Conjunct::condition)
            .map(names::of)
            .toList());
  }

  private FromItem leaf(TableUse use) {
    FromItem named = named(use);
    List<SelectItem> added = new ArrayList<>();
    if (presence != null && presence.needsMark(use)) {
      added.add(Sql.as(Sql.number(1), Presence.MARK));
    }
    if (numbered.contains(use)) {
      added.add(Sql.as(FunctionCall.rowNumber(order(use)), NUMBER));
    }
    Expression where = part != null && part.use().equals(use) ? part.condition(names::of) : null;
    return added.isEmpty() && where == null ? named : wrapped(use, named, added, where);
  }

  /** Any order will do, and none is cheapest; but some products want one. */
  private List<Expression> order(TableUse use) {
    return block.dialect().has(Rule.ROWS_NUMBERED_IN_ANY_ORDER)
        ? List.of()
        : use.columns().stream()
            .filter(column -> column.type().family() != TypeFamily.OTHER)
            .limit(1)
            .<Expression>map(names::of)
            .toList();
  }

  /** The item under the name of its use, which a query without an alias lacks. */
  private FromItem named(TableUse use) {
    FromItem item = names.within(use);
    if (item instanceof FromItem.DerivedTable derived && derived.alias() == null) {
      return new FromItem.DerivedTable(
          Span.NOWHERE, derived.lateral(), derived.query(), alias(use));
    }
    if (item instanceof FromItem.TableName table && names.isRenamed(use)) {
      return new FromItem.TableName(
          Span.NOWHERE, table.only(), table.name(), table.partition(), alias(use), null);
    }
    return item;
  }

  private Alias alias(TableUse use) {
    return new Alias(Span.NOWHERE, names.name(use), List.of());
  }

  /** The rows of an item, or some of them, with further columns in front. */
  private FromItem wrapped(
      TableUse use, FromItem item, List<SelectItem> added, @Nullable Expression where) {
    List<SelectItem> items = new ArrayList<>(added);
    if (use.isKnown()) {
      use.columns().stream()
          .filter(column -> isOnly(use, column))
          .forEach(
              column ->
                  items.add(
                      new SelectItem.Output(
                          Span.NOWHERE, names.of(column), block.dialect().exact(column.name()))));
    } else {
      items.add(new SelectItem.AllColumns(Span.NOWHERE, List.of(), List.of(), List.of()));
    }
    return new FromItem.DerivedTable(
        Span.NOWHERE, use.isDependent(), Query.of(Sql.select(items, item, where)), alias(use));
  }

  /** Several columns of one name cannot be named anyway. */
  private boolean isOnly(TableUse use, UseColumn column) {
    return use.columns().stream()
            .filter(
                each -> block.dialect().key(each.name()).equals(block.dialect().key(column.name())))
            .count()
        == 1;
  }
}
