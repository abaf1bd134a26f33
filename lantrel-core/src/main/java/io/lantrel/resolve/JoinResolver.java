package io.lantrel.resolve;

import io.lantrel.resolve.Columns.Visible;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
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
  private final TreeMap<Integer, List<Conjunct>> filtersByLastUse = new TreeMap<>();

  JoinResolver(Resolver resolver, QueryBlock block, @Nullable Scope outer, CommonTables tables) {
    this.resolver = resolver;
    this.block = block;
    this.outer = outer;
    this.tables = tables;
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
  private static List<FromItem.Join> leftSpine(FromItem item) {
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

  private Columns columns(FromItem item) {
    return Optional.ofNullable(columns.get(item)).orElseThrow();
  }

  private Columns join(FromItem.Join join, Columns left, Columns right) {
    Columns both = joined(join, left, right);
    return join.alias() == null ? both : both.renamed(join.alias().name(), join.alias().columns());
  }

  private Columns joined(FromItem.Join join, Columns left, Columns right) {
    if (join.natural()) {
      Set<String> names = new HashSet<>();
      right.all().forEach(each -> names.add(resolver.dialect().key(each.name())));
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
      if (filters(join)) {
        conditions.put(join, new ArrayList<>());
        return left.hiding(right);
      }
      return using.alias() == null ? both : both.named(using.alias(), merged);
    }
    Columns both = left.and(right);
    List<Conjunct> conjuncts = new ArrayList<>();
    if (join.condition() instanceof JoinCondition.On on) {
      Scope scope = new Scope(block, both, tables, Scope.Labels.NONE, outer);
      new BlockResolver(resolver).names(on.condition(), scope);
      conjuncts.addAll(conjuncts(on.condition(), Origin.ON));
    }
    conditions.put(join, join.way() == FromItem.Way.ANTI ? new ArrayList<>() : conjuncts);
    return filters(join) ? left.hiding(right) : both;
  }

  /** Whether a join only picks rows of its left side. */
  private static boolean filters(FromItem.Join join) {
    return join.way() == FromItem.Way.SEMI || join.way() == FromItem.Way.ANTI;
  }

  private List<Visible> merge(
      FromItem.Join join, List<Identifier> names, Columns left, Columns right, Origin origin) {
    List<Conjunct> conjuncts = new ArrayList<>();
    List<Visible> merged = new ArrayList<>();
    for (Identifier name : names) {
      Optional<Visible> one = find(left, name);
      Optional<Visible> other = find(right, name);
      if (one.isPresent() && other.isPresent()) {
        conjuncts.add(equality(name, one.get(), other.get(), origin));
        Visible shown = merged(join.kind(), one.get(), other.get());
        merged.add(isNamedByTable(join.kind()) ? apart(shown, one.get(), other.get()) : shown);
      }
    }
    conditions.put(join, conjuncts);
    return merged;
  }

  private boolean isNamedByTable(JoinKind kind) {
    return kind.isOuter() && resolver.dialect().has(Rule.OUTER_JOINS_MERGE_NO_NAMES);
  }

  private static Visible apart(Visible shown, Visible one, Visible other) {
    List<UseColumn> both = Stream.concat(one.columns().stream(), other.columns().stream()).toList();
    return new Visible(shown.name(), shown.binding(), both);
  }

  private Optional<Visible> find(Columns side, Identifier name) {
    List<Visible> found = side.find(name);
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
    return conjunct(condition, origin);
  }

  /** Which side's value the merged column shows: the one that cannot be filled (7.10). */
  private static Visible merged(JoinKind kind, Visible left, Visible right) {
    return switch (kind) {
      case RIGHT -> right;
      case FULL -> {
        List<UseColumn> both =
            Stream.concat(left.columns().stream(), right.columns().stream()).toList();
        yield new Visible(left.name(), new Binding.ToMerged(both), both);
      }
      case INNER, LEFT, CROSS, COMMA -> left;
    };
  }

  // ---- join steps ----

  void finish(@Nullable Expression where) {
    List<Conjunct> filters =
        where == null ? new ArrayList<>() : new ArrayList<>(conjuncts(where, Origin.WHERE));
    FromItem from = block.select().from();
    if (from != null) {
      for (Conjunct filter : filters) {
        int last = filter.uses().stream().mapToInt(TableUse::index).max().orElse(-1);
        filtersByLastUse.computeIfAbsent(last, key -> new ArrayList<>()).add(filter);
      }
      steps(from, true);
      Set<Conjunct> left = Collections.newSetFromMap(new IdentityHashMap<>());
      filtersByLastUse.values().forEach(left::addAll);
      filters.removeIf(filter -> !left.contains(filter));
    }
    block.addFilters(filters);
  }

  /**
   * A condition of WHERE that connects the two sides of a comma is what joins them. Taking it over
   * is right as long as every join above keeps no row without a partner.
   */
  private void steps(FromItem item, boolean reachable) {
    List<FromItem.Join> spine = leftSpine(item);
    List<Boolean> inner = new ArrayList<>();
    boolean still = reachable;
    for (int i = spine.size() - 1; i >= 0; i--) {
      still &= !spine.get(i).kind().isOuter();
      inner.add(0, still);
    }
    for (int i = 0; i < spine.size(); i++) {
      FromItem.Join join = spine.get(i);
      if (i == 0) {
        steps(join.left(), inner.get(0));
      }
      steps(join.right(), inner.get(i));
      step(join, inner.get(i));
    }
  }

  private void step(FromItem.Join join, boolean inner) {
    Columns left = columns(join.left());
    Columns right = columns(join.right());
    List<Conjunct> conjuncts = new ArrayList<>(conditions.getOrDefault(join, List.of()));
    JoinKind kind = join.kind();
    if (inner && (kind == JoinKind.COMMA || kind == JoinKind.CROSS || join.isBare())) {
      List<Conjunct> connecting = takeConnecting(left, right);
      kind = marked(connecting, left, right).orElse(kind);
      conjuncts.addAll(connecting);
    }
    block.add(
        new JoinStep(
            block.steps().size() + 1,
            join,
            kind,
            Collections.unmodifiableList(left.uses()),
            Collections.unmodifiableList(right.uses()),
            List.copyOf(conjuncts)));
  }

  private List<Conjunct> takeConnecting(Columns left, Columns right) {
    int first = right.uses().get(0).index();
    int behind = first + right.uses().size();
    List<Conjunct> taken = new ArrayList<>();
    for (List<Conjunct> candidates : filtersByLastUse.subMap(first, behind).values()) {
      List<Conjunct> connecting =
          candidates.stream().filter(each -> connects(each, left, right)).toList();
      taken.addAll(connecting);
      Set<Conjunct> gone = Collections.newSetFromMap(new IdentityHashMap<>());
      gone.addAll(connecting);
      candidates.removeIf(gone::contains);
    }
    return taken;
  }

  private static boolean connects(Conjunct conjunct, Columns left, Columns right) {
    Set<TableUse> uses = conjunct.uses();
    boolean ofBoth = uses.stream().anyMatch(left::has) && uses.stream().anyMatch(right::has);
    boolean marked = hasMark(conjunct) && uses.stream().anyMatch(right::has);
    return uses.stream().allMatch(use -> left.has(use) || right.has(use)) && (ofBoth || marked);
  }

  private static boolean hasMark(Conjunct conjunct) {
    return conjunct.condition().preorder().anyMatch(Value.OuterMark.class::isInstance);
  }

  /** The old mark makes an outer join of a comma; its side is the optional one. */
  private Optional<JoinKind> marked(List<Conjunct> conjuncts, Columns left, Columns right) {
    Set<TableUse> optional = new HashSet<>();
    conjuncts.forEach(
        conjunct ->
            conjunct
                .condition()
                .preorder()
                .filter(Value.OuterMark.class::isInstance)
                .forEach(mark -> optional.addAll(block.mentioned(mark))));
    if (optional.isEmpty()) {
      return Optional.empty();
    }
    if (optional.stream().allMatch(right::has)) {
      return Optional.of(JoinKind.LEFT);
    }
    return optional.stream().allMatch(left::has) ? Optional.of(JoinKind.RIGHT) : Optional.empty();
  }

  private List<Conjunct> conjuncts(Expression condition, Origin origin) {
    return condition instanceof Condition.And and
        ? and.terms().stream().flatMap(term -> conjuncts(term, origin).stream()).toList()
        : List.of(conjunct(condition, origin));
  }

  private Conjunct conjunct(Expression condition, Origin origin) {
    return new Conjunct(condition, origin, block.mentioned(condition), equated(condition));
  }

  private @Nullable Equated equated(Expression condition) {
    if (condition instanceof Comparison comparison
        && comparison.operator() == ComparisonOperator.EQUAL) {
      Optional<UseColumn> left = block.column(comparison.left()).filter(block::isOwn);
      Optional<UseColumn> right = block.column(comparison.right()).filter(block::isOwn);
      if (left.isPresent() && right.isPresent() && left.get().use() != right.get().use()) {
        return new Equated(left.get(), right.get());
      }
    }
    return null;
  }
}
