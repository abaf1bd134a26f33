package io.lantrel.resolve;

import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jgrapht.alg.util.UnionFind;
import org.jspecify.annotations.Nullable;

/**
 * What is known of the rows of a block that meet all its conditions, before anything is put
 * together. Worked out when it is first asked for; every set is as small as needed to be true
 * whatever the data, as long as they keep the schema's promises.
 */
final class Facts {

  private final QueryBlock block;
  private @Nullable Map<TableUse, List<JoinStep>> fills;
  private @Nullable List<Conjunct> lasting;
  private @Nullable Set<UseColumn> rejecting;
  private @Nullable Set<TableUse> present;
  private @Nullable Map<UseColumn, Set<UseColumn>> equal;
  private @Nullable Dependencies dependencies;

  Facts(QueryBlock block) {
    this.block = block;
  }

  List<JoinStep> stepsThatFill(TableUse use) {
    if (fills == null) {
      fills = new IdentityHashMap<>();
      for (JoinStep step : block.steps()) {
        for (TableUse optional : step.optional()) {
          fills.computeIfAbsent(optional, key -> new ArrayList<>()).add(step);
        }
      }
    }
    return fills.getOrDefault(use, List.of());
  }

  /**
   * The conditions that every row meets in the end: those of WHERE, and those of inner joins unless
   * a later outer join fills up what they demanded (C. Galindo-Legaria, A. Rosenthal: Outerjoin
   * Simplification and Reordering for Query Optimization, 1997, section 2).
   */
  List<Conjunct> lasting() {
    if (lasting == null) {
      List<Conjunct> found = new ArrayList<>(block.filters());
      for (JoinStep step : block.steps()) {
        if (!step.kind().isOuter() && isLasting(step)) {
          found.addAll(step.conjuncts());
        }
      }
      lasting = List.copyOf(found);
    }
    return lasting;
  }

  /** Whether no later outer join fills the table uses of this step. */
  boolean isLasting(JoinStep step) {
    return stepsThatFill(step.right().get(0)).stream()
        .noneMatch(later -> later.number() > step.number());
  }

  /**
   * A column is never NULL if a lasting condition rejects NULL there; then its table use was not
   * filled, and what its table never holds NULL in is not NULL either.
   */
  boolean isNeverNull(UseColumn column) {
    if (rejecting == null || present == null) {
      findRejecting();
    }
    return (rejecting != null && rejecting.contains(column))
        || (!column.nullable()
            && (stepsThatFill(column.use()).isEmpty()
                || (present != null && present.contains(column.use()))));
  }

  private void findRejecting() {
    Set<UseColumn> found = new HashSet<>();
    Set<TableUse> real = new HashSet<>();
    for (Conjunct conjunct : lasting()) {
      for (UseColumn column : block.columnsIn(conjunct.condition())) {
        if (block.isNullable(column)
            && NullRejection.rejects(conjunct.condition(), block, column)) {
          found.add(column);
          real.add(column.use());
        }
      }
    }
    rejecting = found;
    present = real;
  }

  /** Whether the value can be NULL in the result. */
  boolean isNullable(Expression value) {
    return NullRejection.canBeNull(value, block);
  }

  // ---- equal columns ----

  Set<UseColumn> equalTo(UseColumn column) {
    if (equal == null) {
      equal = classes();
    }
    return equal.getOrDefault(column, Set.of(column));
  }

  private Map<UseColumn, Set<UseColumn>> classes() {
    List<Conjunct.Equated> pairs =
        lasting().stream().flatMap(conjunct -> conjunct.equality().stream()).toList();
    Set<UseColumn> columns = new LinkedHashSet<>();
    pairs.forEach(pair -> columns.addAll(List.of(pair.left(), pair.right())));
    UnionFind<UseColumn> united = new UnionFind<>(columns);
    pairs.forEach(pair -> united.union(pair.left(), pair.right()));
    Map<UseColumn, Set<UseColumn>> byRoot = new HashMap<>();
    columns.forEach(
        column ->
            byRoot.computeIfAbsent(united.find(column), root -> new LinkedHashSet<>()).add(column));
    Map<UseColumn, Set<UseColumn>> classes = new HashMap<>();
    byRoot.values().forEach(same -> same.forEach(column -> classes.put(column, same)));
    return classes;
  }

  // ---- functional dependencies ----

  Set<TableUse> determinedBy(Set<UseColumn> columns) {
    return dependencies().uses(columns);
  }

  boolean determines(Set<UseColumn> columns, UseColumn column) {
    return dependencies().determines(columns, column);
  }

  private Dependencies dependencies() {
    if (dependencies == null) {
      dependencies = new Dependencies(block, this);
    }
    return dependencies;
  }

  /** The columns that a lasting condition sets equal to something that is the same for all rows. */
  Set<UseColumn> constants() {
    Set<UseColumn> found = new LinkedHashSet<>();
    lasting().forEach(conjunct -> constant(block, conjunct).ifPresent(found::add));
    return found;
  }

  /** The column that a condition sets equal to a constant, a parameter or an outer column. */
  static Optional<UseColumn> constant(QueryBlock block, Conjunct conjunct) {
    if (conjunct.condition() instanceof Condition.Comparison comparison
        && comparison.operator() == Condition.ComparisonOperator.EQUAL) {
      if (isFixed(block, comparison.right())) {
        return block.kept(comparison.left()).filter(block::isOwn);
      }
      if (isFixed(block, comparison.left())) {
        return block.kept(comparison.right()).filter(block::isOwn);
      }
    }
    return Optional.empty();
  }

  private static boolean isFixed(QueryBlock block, Expression value) {
    return value instanceof Value.Literal
        || value instanceof Value.Parameter
        || block.kept(value).filter(column -> !block.isOwn(column)).isPresent();
  }
}
