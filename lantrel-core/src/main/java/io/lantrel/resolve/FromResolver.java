package io.lantrel.resolve;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Expression.Comparison;
import io.lantrel.sql.tree.Expression.ComparisonOperator;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Understands the FROM of one block: first its table uses, so that a condition can tell a table
 * that comes later from one that does not come at all; then the joins with what is visible behind
 * each.
 */
final class FromResolver {

  private final Resolver resolver;
  private final QueryBlock block;
  private final @Nullable Scope outer;
  private final IdentityHashMap<FromItem.Join, List<Conjunct>> conditions = new IdentityHashMap<>();

  FromResolver(Resolver resolver, QueryBlock block, @Nullable Scope outer) {
    this.resolver = resolver;
    this.block = block;
    this.outer = outer;
  }

  /** The columns that the rest of the block can name, in the order of {@code *}. */
  List<Scope.Visible> resolve(@Nullable FromItem from) {
    if (from == null) {
      return List.of();
    }
    addUses(from);
    return visible(from);
  }

  // ---- table uses ----

  private void addUses(FromItem item) {
    if (item instanceof FromItem.Join join) {
      addUses(join.left());
      addUses(join.right());
      return;
    }
    TableUse use =
        item instanceof FromItem.TableName table
            ? tableUse(table)
            : queryUse((FromItem.DerivedTable) item);
    block.uses().stream()
        .filter(each -> Identifier.key(each.name()).equals(Identifier.key(use.name())))
        .findFirst()
        .ifPresent(first -> resolver.report(new NameProblem.RepeatedAlias(block, first, use)));
    block.add(use);
  }

  private TableUse tableUse(FromItem.TableName item) {
    Identifier last = item.last();
    Alias alias = item.alias();
    Identifier name = alias == null ? last : alias.name();
    Optional<Table> table = resolver.catalog().table(last.text());
    int index = block.uses().size();
    if (table.isEmpty()) {
      resolver.report(new NameProblem.UnknownTable(block, item));
      return new TableUse(index, name.text(), item, name.span(), null, null, List.of());
    }
    List<Identifier> renamed = alias == null ? List.of() : alias.columns();
    List<Column> columns = table.get().columns();
    List<Key> keys = renamed.isEmpty() ? table.get().keys() : List.of();
    TableUse use = new TableUse(index, name.text(), item, name.span(), table.get(), null, keys);
    for (int i = 0; i < columns.size(); i++) {
      Column column = columns.get(i);
      String shown = i < renamed.size() ? renamed.get(i).text() : column.name();
      use.add(new UseColumn(use, i, shown, column.type(), column.nullable()));
    }
    return use;
  }

  private TableUse queryUse(FromItem.DerivedTable item) {
    QueryBlock inner = resolver.block(item.query(), outer);
    Alias alias = item.alias();
    int index = block.uses().size();
    String name = alias == null ? "query " + (index + 1) : alias.name().text();
    Span nameSpan = alias == null ? item.span() : alias.name().span();
    List<Identifier> renamed = alias == null ? List.of() : alias.columns();
    List<Key> keys = renamed.isEmpty() ? inner.keys() : List.of();
    TableUse use = new TableUse(index, name, item, nameSpan, null, inner, keys);
    for (OutputColumn output : inner.outputs()) {
      String shown =
          output.position() < renamed.size()
              ? renamed.get(output.position()).text()
              : output.name();
      use.add(
          new UseColumn(use, output.position(), shown, output.type(), inner.isNullable(output)));
    }
    return use;
  }

  private List<TableUse> uses(FromItem item) {
    return item instanceof FromItem.Join join
        ? Stream.of(uses(join.left()), uses(join.right())).flatMap(List::stream).toList()
        : block.use(item).stream().toList();
  }

  // ---- what is visible ----

  private List<Scope.Visible> visible(FromItem item) {
    if (item instanceof FromItem.Join join) {
      return join(join, visible(join.left()), visible(join.right()));
    }
    TableUse use = block.use(item).orElseThrow();
    return use.columns().stream()
        .map(
            column ->
                new Scope.Visible(column.name(), new Binding.ToColumn(column), List.of(column)))
        .toList();
  }

  private List<Scope.Visible> join(
      FromItem.Join join, List<Scope.Visible> left, List<Scope.Visible> right) {
    List<Scope.Visible> both = Stream.concat(left.stream(), right.stream()).toList();
    if (join.natural()) {
      List<Identifier> common =
          left.stream()
              .filter(one -> right.stream().anyMatch(other -> same(one, other)))
              .map(one -> new Identifier(join.keyword(), one.name(), true))
              .toList();
      return merge(join, common, left, right, Origin.NATURAL);
    }
    if (join.condition() instanceof JoinCondition.Using using) {
      return merge(join, using.columns(), left, right, Origin.USING);
    }
    List<Conjunct> conjuncts = new ArrayList<>();
    if (join.condition() instanceof JoinCondition.On on) {
      resolver.names(on.condition(), new Scope(block, both, uses(join), false, false, outer));
      conjuncts.addAll(conjuncts(on.condition(), Origin.ON));
    }
    conditions.put(join, conjuncts);
    return both;
  }

  private static boolean same(Scope.Visible one, Scope.Visible other) {
    return Identifier.key(one.name()).equals(Identifier.key(other.name()));
  }

  /** Merged columns come first, then the rest of the left side, then of the right (7.10). */
  private List<Scope.Visible> merge(
      FromItem.Join join,
      List<Identifier> names,
      List<Scope.Visible> left,
      List<Scope.Visible> right,
      Origin origin) {
    List<Conjunct> conjuncts = new ArrayList<>();
    List<Scope.Visible> merged = new ArrayList<>();
    for (Identifier name : names) {
      Optional<Scope.Visible> one = find(left, name, join.left());
      Optional<Scope.Visible> other = find(right, name, join.right());
      if (one.isPresent() && other.isPresent()) {
        conjuncts.add(equality(name, one.get(), other.get(), origin));
        merged.add(merged(join.kind(), one.get(), other.get()));
      }
    }
    conditions.put(join, conjuncts);
    Stream<Scope.Visible> rest =
        Stream.concat(left.stream(), right.stream())
            .filter(each -> merged.stream().noneMatch(column -> same(column, each)));
    return Stream.concat(merged.stream(), rest).toList();
  }

  private Optional<Scope.Visible> find(
      List<Scope.Visible> visible, Identifier name, FromItem side) {
    List<Scope.Visible> found = visible.stream().filter(each -> each.isCalled(name)).toList();
    Expression.ColumnName column = new Expression.ColumnName(name.span(), List.of(), name);
    if (found.size() > 1) {
      List<UseColumn> candidates = found.stream().flatMap(each -> each.columns().stream()).toList();
      resolver.report(new NameProblem.AmbiguousColumn(block, column, candidates));
      return Optional.empty();
    }
    if (found.isEmpty() && uses(side).stream().allMatch(TableUse::isKnown)) {
      resolver.report(new NameProblem.UnknownColumn(block, column, uses(side)));
    }
    return found.stream().findFirst();
  }

  private Conjunct equality(
      Identifier name, Scope.Visible left, Scope.Visible right, Origin origin) {
    Expression condition =
        new Comparison(
            name.span(),
            ComparisonOperator.EQUAL,
            resolver.synthetic(name.span(), left.binding(), left.columns()),
            resolver.synthetic(name.span(), right.binding(), right.columns()));
    return conjunct(condition, origin);
  }

  /** Which side's value the merged column shows: the one that cannot be filled. */
  private static Scope.Visible merged(JoinKind kind, Scope.Visible left, Scope.Visible right) {
    return switch (kind) {
      case RIGHT -> right;
      case FULL -> {
        List<UseColumn> columns =
            Stream.concat(left.columns().stream(), right.columns().stream()).toList();
        yield new Scope.Visible(left.name(), new Binding.ToMerged(columns), columns);
      }
      case INNER, LEFT, CROSS, COMMA -> left;
    };
  }

  // ---- join steps ----

  /** Puts the steps together, now that the condition of WHERE is resolved. */
  void finish(@Nullable Expression where) {
    List<Conjunct> filters =
        where == null ? new ArrayList<>() : new ArrayList<>(conjuncts(where, Origin.WHERE));
    if (block.select().from() != null) {
      steps(block.select().from(), filters, true);
    }
    block.addFilters(filters);
  }

  /**
   * A condition of WHERE that connects the two sides of a comma is what joins them. Taking it over
   * is right as long as every join above keeps no row without a partner.
   */
  private void steps(FromItem item, List<Conjunct> filters, boolean reachable) {
    if (!(item instanceof FromItem.Join join)) {
      return;
    }
    boolean inner = reachable && !join.kind().isOuter();
    steps(join.left(), filters, inner);
    steps(join.right(), filters, inner);
    List<TableUse> left = uses(join.left());
    List<TableUse> right = uses(join.right());
    List<Conjunct> conjuncts = new ArrayList<>(conditions.getOrDefault(join, List.of()));
    boolean bare = join.kind() == JoinKind.COMMA || join.kind() == JoinKind.CROSS;
    if (bare && inner) {
      List<Conjunct> connecting =
          filters.stream().filter(each -> connects(each, left, right)).toList();
      conjuncts.addAll(connecting);
      filters.removeAll(connecting);
    }
    block.add(new JoinStep(block.steps().size() + 1, join, left, right, conjuncts));
  }

  private static boolean connects(Conjunct conjunct, List<TableUse> left, List<TableUse> right) {
    Set<TableUse> uses = conjunct.uses();
    return uses.stream().allMatch(use -> left.contains(use) || right.contains(use))
        && uses.stream().anyMatch(left::contains)
        && uses.stream().anyMatch(right::contains);
  }

  private List<Conjunct> conjuncts(Expression condition, Origin origin) {
    return condition instanceof Expression.And and
        ? and.terms().stream().flatMap(term -> conjuncts(term, origin).stream()).toList()
        : List.of(conjunct(condition, origin));
  }

  private Conjunct conjunct(Expression condition, Origin origin) {
    return new Conjunct(condition, origin, block.mentioned(condition), equated(condition));
  }

  private @Nullable Equated equated(Expression condition) {
    if (condition instanceof Comparison comparison
        && comparison.operator() == ComparisonOperator.EQUAL) {
      Optional<UseColumn> left = block.column(comparison.left()).filter(this::isOurs);
      Optional<UseColumn> right = block.column(comparison.right()).filter(this::isOurs);
      if (left.isPresent() && right.isPresent() && left.get().use() != right.get().use()) {
        return new Equated(left.get(), right.get());
      }
    }
    return null;
  }

  private boolean isOurs(UseColumn column) {
    return block.uses().contains(column.use());
  }
}
