package io.lantrel.resolve;

import io.lantrel.resolve.Columns.Visible;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Understands the joins of one FROM: what each makes visible, and what its two sides must meet. */
final class JoinResolver {

  private final Resolver resolver;
  private final QueryBlock block;
  private final @Nullable Scope outer;
  private final CommonTables tables;
  private final Map<FromItem, Columns> columns = new IdentityHashMap<>();
  private final Map<FromItem, List<Conjunct>> conditions = new IdentityHashMap<>();
  private final Conjuncts conjuncts;

  JoinResolver(Resolver resolver, QueryBlock block, @Nullable Scope outer, CommonTables tables) {
    this.resolver = resolver;
    this.block = block;
    this.outer = outer;
    this.tables = tables;
    this.conjuncts = new Conjuncts(block);
  }

  /** The tables of an item, from left to right. */
  static List<FromItem> leaves(FromItem item) {
    List<FromItem> found = new ArrayList<>();
    for (FromItem.Join join : leftSpine(item)) {
      if (found.isEmpty()) {
        found.addAll(leaves(join.left()));
      }
      found.addAll(leaves(join.right()));
    }
    return found.isEmpty() ? List.of(item) : found;
  }

  /** The joins of a chain, the innermost first. */
  static List<FromItem.Join> leftSpine(FromItem item) {
    List<FromItem.Join> joins = new ArrayList<>();
    FromItem next = item;
    while (next instanceof FromItem.Join join) {
      joins.add(join);
      next = join.left();
    }
    Collections.reverse(joins);
    return joins;
  }

  // ---- what is visible ----

  Columns visible(FromItem item) {
    List<FromItem.Join> spine = leftSpine(item);
    if (spine.isEmpty()) {
      int index = block.use(item).orElseThrow().index();
      return keep(item, Columns.of(block, index, index + 1));
    }
    Columns left = visible(spine.get(0).left());
    for (FromItem.Join join : spine) {
      left = keep(join, join(join, left, visible(join.right())));
    }
    return left;
  }

  private Columns keep(FromItem item, Columns visible) {
    columns.put(item, visible);
    return visible;
  }

  private Columns join(FromItem.Join join, Columns left, Columns right) {
    Columns both = joined(join, left, right);
    return join.alias() == null ? both : both.renamed(join.alias().name(), join.alias().columns());
  }

  private Columns joined(FromItem.Join join, Columns left, Columns right) {
    if (join.natural()) {
      Set<String> names = new HashSet<>();
      right.all().forEach(each -> names.add(resolver.dialect().key(each.name())));
      if (resolver.dialect().has(Rule.NATURAL_WITH_LAST_TABLE)) {
        names.retainAll(namesOfLast(left));
      }
      List<Identifier> common =
          left.all().stream()
              .filter(one -> names.contains(resolver.dialect().key(one.name())))
              .map(one -> resolver.dialect().exact(one.name(), join.keyword()))
              .toList();
      return left.merged(right, merge(join, common, left, right, Origin.NATURAL));
    }
    if (join.condition() instanceof JoinCondition.Using using) {
      List<Visible> merged = merge(join, using.columns(), left, right, Origin.USING);
      Columns both = left.merged(right, merged);
      if (FilterJoins.isOne(join)) {
        conditions.put(join, new ArrayList<>());
        return left.hiding(right);
      }
      return using.alias() == null ? both : both.named(using.alias(), merged);
    }
    Columns both = left.and(right);
    List<Conjunct> found = new ArrayList<>();
    if (join.condition() instanceof JoinCondition.On on) {
      Scope scope = new Scope(block, both, tables, Scope.Labels.NONE, outer);
      new BlockResolver(resolver).names(on.condition(), scope);
      seekInAllTables(on.condition(), both);
      Set<TableUse> whole = new HashSet<>();
      Stream.of(left, right)
          .filter(side -> side.uses().size() == 1)
          .forEach(side -> whole.addAll(side.uses()));
      found.addAll(conjuncts.ofJoin(on.condition(), whole));
    }
    conditions.put(join, join.way() == FromItem.Way.ANTI ? new ArrayList<>() : found);
    return FilterJoins.isOne(join) ? left.hiding(right) : both;
  }

  private Set<String> namesOfLast(Columns side) {
    Set<String> names = new HashSet<>();
    side.uses()
        .get(side.uses().size() - 1)
        .columns()
        .forEach(column -> names.add(resolver.dialect().key(column.name())));
    return names;
  }

  private List<Visible> merge(
      FromItem.Join join, List<Identifier> names, Columns left, Columns right, Origin origin) {
    List<Conjunct> equalities = new ArrayList<>();
    List<Visible> merged = new ArrayList<>();
    for (Identifier name : names) {
      Optional<Visible> one = find(seen(join.left(), left, origin), name, keepsRight());
      Optional<Visible> other = find(seen(join.right(), right, origin), name, false);
      if (one.isPresent() && other.isPresent()) {
        equalities.add(equality(name, one.get(), other.get(), origin));
        Visible shown = merged(join.kind(), one.get(), other.get());
        merged.add(isNamedByTable() ? apart(shown, one.get(), other.get()) : shown);
      }
    }
    conditions.put(join, equalities);
    return merged;
  }

  /** What USING looks at of one side. */
  private Columns seen(FromItem side, Columns columns, Origin origin) {
    if (origin != Origin.USING || !resolver.dialect().has(Rule.USING_LOOKS_AT_FIRST_TABLES)) {
      return columns;
    }
    FromItem first = side;
    while (first instanceof FromItem.Join join) {
      first = join.kind() == JoinKind.RIGHT ? join.right() : join.left();
    }
    int index = block.use(first).orElseThrow().index();
    return Columns.of(block, index, index + 1);
  }

  private boolean isNamedByTable() {
    return resolver.dialect().has(Rule.USING_MERGES_NO_NAMES);
  }

  private static Visible apart(Visible shown, Visible one, Visible other) {
    List<UseColumn> both = Stream.concat(one.columns().stream(), other.columns().stream()).toList();
    return new Visible(shown.name(), shown.binding(), both, true);
  }

  /**
   * Of several columns of one name some products take one for USING.
   *
   * @param unsure whether an outer join may have filled the first with NULL
   */
  private List<Visible> chosen(List<Visible> found, boolean unsure) {
    if (resolver.dialect().has(Rule.NATURAL_WITH_LAST_TABLE)) {
      return found.subList(found.size() - 1, found.size());
    }
    return resolver.dialect().has(Rule.USING_TAKES_THE_FIRST) && !unsure
        ? found.subList(0, 1)
        : found;
  }

  private boolean keepsRight() {
    return joinsOfFrom().anyMatch(join -> join.kind().keepsRight());
  }

  private Stream<FromItem.Join> joinsOfFrom() {
    return Stream.ofNullable(block.select().from())
        .flatMap(Aggregates::withoutQueries)
        .filter(FromItem.Join.class::isInstance)
        .map(FromItem.Join.class::cast);
  }

  private boolean merges() {
    return joinsOfFrom()
        .anyMatch(join -> join.natural() || join.condition() instanceof JoinCondition.Using);
  }

  /**
   * In some products a name without its table is sought in ON among all tables of FROM; in
   * parentheses only among those there.
   */
  private void seekInAllTables(Expression condition, Columns both) {
    boolean within = both.uses().get(0).index() > 0;
    boolean all =
        resolver.dialect().has(Rule.INNER_ON_SEES_ALL_TABLES)
            ? InnerConditions.hasOne(block.select().from(), condition.span())
            : resolver.dialect().has(Rule.ON_SEEKS_IN_ALL_TABLES) && !within && !merges();
    if (!all) {
      return;
    }
    Aggregates.withoutQueries(condition)
        .filter(node -> node instanceof ColumnName name && name.qualifier().isEmpty())
        .map(ColumnName.class::cast)
        .filter(name -> both.find(name.name()).size() == 1)
        .forEach(
            name -> {
              List<UseColumn> found = block.columnsNamed(resolver.dialect().key(name.name()));
              if (found.size() > 1) {
                resolver.report(new NameProblem.AmbiguousColumn(block, name, found));
              }
            });
  }

  private Optional<Visible> find(Columns side, Identifier name, boolean unsure) {
    List<Visible> all = side.find(name);
    List<Visible> found = all.size() > 1 ? chosen(all, unsure) : all;
    ColumnName column = new ColumnName(name.span(), List.of(), name);
    if (found.size() > 1) {
      List<UseColumn> candidates = found.stream().flatMap(each -> each.columns().stream()).toList();
      resolver.report(new NameProblem.AmbiguousColumn(block, column, candidates));
      return Optional.empty();
    }
    if (found.isEmpty() && side.uses().stream().allMatch(TableUse::isKnown)) {
      resolver.report(new NameProblem.UnknownColumn(block, column, side.uses()));
    }
    return found.stream().findFirst();
  }

  private Conjunct equality(Identifier name, Visible left, Visible right, Origin origin) {
    Expression condition =
        new Comparison(
            name.span(),
            ComparisonOperator.EQUAL,
            resolver.synthetic(name.span(), left.binding(), left.columns()),
            resolver.synthetic(name.span(), right.binding(), right.columns()));
    return conjuncts.one(condition, origin);
  }

  /** Which side's value the merged column shows: the one that cannot be filled (7.10). */
  private static Visible merged(JoinKind kind, Visible left, Visible right) {
    if (kind == JoinKind.FULL) {
      List<UseColumn> both =
          Stream.concat(left.columns().stream(), right.columns().stream()).toList();
      return new Visible(left.name(), new Binding.ToMerged(both), both, true);
    }
    Visible shown = kind == JoinKind.RIGHT ? right : left;
    return new Visible(shown.name(), shown.binding(), shown.columns(), true);
  }

  // ---- join steps ----

  void finish(@Nullable Expression where) {
    List<Conjunct> filters = where == null ? List.of() : conjuncts.of(where, Origin.WHERE);
    FromItem from = block.select().from();
    if (from == null) {
      block.addFilters(filters);
      return;
    }
    JoinSteps written = new JoinSteps(block, from, conditions, filters);
    FromItem ordered = CommaOrder.of(block, from, filters);
    JoinSteps joined =
        ordered == from ? written : new JoinSteps(block, ordered, conditions, filters);
    block.addSteps(joined.steps(), written.steps(), ordered);
    block.addFilters(joined.rest());
  }
}
