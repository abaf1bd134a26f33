package io.lantrel.resolve;

import io.lantrel.catalog.Key;
import io.lantrel.sql.tree.JoinKind;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Functional dependencies between the columns of a block's table uses (ISO/IEC 9075-2, 4.26; H.
 * Darwen: The Role of Functional Dependence in Query Decomposition, 1989). The row of a table use
 * counts as a column of its own: a key determines it, and it determines all columns. NULL is like
 * NULL. The closure of a set of columns is found in linear time (C. Beeri, P. Bernstein:
 * Computational Problems Related to the Design of Normal Form Relational Schemas, 1979).
 */
final class Dependencies {

  /** Columns that determine the row of a table use, or one column if there is one. */
  private record Dependency(Set<UseColumn> from, TableUse row, Optional<UseColumn> column) {}

  private final QueryBlock block;
  private final List<Dependency> all = new ArrayList<>();
  private final Map<UseColumn, List<Dependency>> byColumn = new HashMap<>();

  Dependencies(QueryBlock block, Facts facts) {
    this.block = block;
    block.uses().stream().filter(use -> !use.isDependent()).forEach(use -> keys(use));
    for (Conjunct conjunct : facts.lasting()) {
      conjunct.equality().ifPresent(this::equality);
    }
    facts.constants().forEach(column -> add(Set.of(), column));
    block.steps().stream().filter(facts::isLasting).forEach(this::partner);
  }

  private void add(Dependency dependency) {
    all.add(dependency);
    dependency
        .from()
        .forEach(
            column -> byColumn.computeIfAbsent(column, key -> new ArrayList<>()).add(dependency));
  }

  private void add(Set<UseColumn> from, UseColumn to) {
    add(new Dependency(from, to.use(), Optional.of(to)));
  }

  /** A key tells rows apart only where it is never NULL: UNIQUE lets NULL repeat (11.7). */
  private void keys(TableUse use) {
    for (Key key : use.keys()) {
      Set<UseColumn> columns = columns(use, key);
      boolean strict =
          use.table().isEmpty()
              || columns.stream()
                  .allMatch(column -> !column.nullable() || block.isNeverNull(column));
      // A row that an outer join fills must differ from every real one.
      boolean real = columns.stream().anyMatch(column -> !column.nullable());
      if (strict && (real || block.stepsThatFill(use).isEmpty())) {
        add(new Dependency(columns, use, Optional.empty()));
      }
    }
  }

  static Set<UseColumn> columns(TableUse use, Key key) {
    Set<UseColumn> columns = new HashSet<>();
    key.columns().forEach(name -> use.column(name).ifPresent(columns::add));
    return columns;
  }

  private void equality(Conjunct.Equated pair) {
    add(Set.of(pair.left()), pair.right());
    add(Set.of(pair.right()), pair.left());
  }

  /**
   * At an outer join, the columns that its condition mentions of the kept side fix the partner, or
   * that there is none, as long as there can be one at most.
   */
  private void partner(JoinStep step) {
    boolean left = step.kind() == JoinKind.LEFT;
    boolean right = step.kind() == JoinKind.RIGHT;
    List<TableUse> kept = left ? step.left() : step.right();
    List<TableUse> optional = left ? step.right() : step.left();
    boolean single =
        left
            ? block.partnersOnTheRight(step).isSingle()
            : right && block.partnersOnTheLeft(step).isSingle();
    if (!single || optional.size() != 1 || optional.get(0).isDependent()) {
      return;
    }
    Set<UseColumn> mentioned = new HashSet<>();
    for (Conjunct conjunct : step.conjuncts()) {
      if (Aggregates.hasQueryOrUnknownCall(conjunct.condition())) {
        return;
      }
      mentioned.addAll(block.columnsIn(conjunct.condition()));
    }
    mentioned.removeIf(column -> !kept.contains(column.use()));
    add(new Dependency(mentioned, optional.get(0), Optional.empty()));
  }

  // ---- closure ----

  Set<TableUse> uses(Set<UseColumn> columns) {
    return close(columns).uses;
  }

  boolean determines(Set<UseColumn> columns, UseColumn column) {
    Closure closure = close(columns);
    return closure.columns.contains(column) || closure.uses.contains(column.use());
  }

  private Closure close(Set<UseColumn> columns) {
    Closure closure = new Closure();
    columns.forEach(closure::reach);
    all.stream().filter(each -> each.from().isEmpty()).forEach(closure::fire);
    closure.run();
    return closure;
  }

  private final class Closure {
    private final Set<UseColumn> columns = new HashSet<>();
    private final Set<TableUse> uses = Collections.newSetFromMap(new IdentityHashMap<>());
    private final Deque<UseColumn> open = new ArrayDeque<>();
    private final Map<Dependency, Integer> missing = new IdentityHashMap<>();

    void reach(UseColumn column) {
      if (columns.add(column)) {
        open.add(column);
      }
    }

    void fire(Dependency dependency) {
      if (dependency.column().isPresent()) {
        reach(dependency.column().get());
      } else if (uses.add(dependency.row())) {
        dependency.row().columns().forEach(this::reach);
      }
    }

    void run() {
      while (!open.isEmpty()) {
        for (Dependency each : byColumn.getOrDefault(open.remove(), List.of())) {
          int left = missing.merge(each, each.from().size() - 1, (old, start) -> old - 1);
          if (left == 0) {
            fire(each);
          }
        }
      }
    }
  }
}
