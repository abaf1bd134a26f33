package io.lantrel.resolve;

import io.lantrel.catalog.Key;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
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
import java.util.TreeSet;

/**
 * The keys of a block's result, as positions of its columns. Groups are told apart by what they are
 * grouped by; DISTINCT leaves no two equal rows; an aggregate without GROUP BY gives one row
 * (ISO/IEC 9075-2, 4.26, known functional dependencies of a query). Joined rows are told apart by
 * the rows of those table uses that repeat: a table use whose row is found by its key adds none.
 */
final class BlockKeys {

  /** Keys of a table that are tried; more make no query clearer. */
  private static final int MOST = 4;

  /** Columns up to which keys are sought that need not all of them. */
  private static final int FEW = 32;

  private final QueryBlock block;

  private BlockKeys(QueryBlock block) {
    this.block = block;
  }

  static List<Set<Integer>> of(QueryBlock block) {
    if (!block.showsRowsOnce()) {
      return List.of();
    }
    BlockKeys keys = new BlockKeys(block);
    List<Set<Integer>> found = new ArrayList<>();
    if (block.isGrouped()) {
      keys.ofGroups().ifPresent(found::add);
    } else {
      found.addAll(keys.ofRows());
    }
    if (block.select().distinct() && block.select().distinctOn().isEmpty()) {
      found.add(keys.ofDistinct());
    }
    if (!block.select().distinctOn().isEmpty()) {
      keys.shown(block.select().distinctOn()).ifPresent(found::add);
    }
    return found.stream().distinct().toList();
  }

  // ---- groups ----

  private Optional<Set<Integer>> ofGroups() {
    if (block.select().groupBy().isEmpty()) {
      return Optional.of(Set.of());
    }
    List<Expression> grouping = block.grouping();
    boolean plain = grouping.stream().noneMatch(Call.Grouping.class::isInstance);
    return plain ? shown(needed(grouping)) : Optional.empty();
  }

  /** The grouping without columns that the others determine. */
  private List<Expression> needed(List<Expression> grouping) {
    List<Expression> left = new ArrayList<>(grouping);
    if (grouping.size() > FEW) {
      return left;
    }
    for (int i = grouping.size() - 1; i >= 0; i--) {
      Optional<UseColumn> column = block.kept(grouping.get(i)).filter(block::isOwn);
      Set<UseColumn> others = new HashSet<>();
      for (Expression each : left) {
        if (each != grouping.get(i)) {
          block.kept(each).filter(block::isOwn).ifPresent(others::add);
        }
      }
      if (column.isPresent() && block.determines(others, column.get())) {
        left.remove(i);
      }
    }
    return left;
  }

  private Optional<Set<Integer>> shown(List<Expression> expressions) {
    Set<Integer> positions = new TreeSet<>();
    for (Expression expression : expressions) {
      boolean constant = expression instanceof Value.Literal;
      Optional<OutputColumn> output =
          block.outputs().stream().filter(each -> isSame(each.value(), expression)).findFirst();
      if (output.isEmpty() && !constant) {
        return Optional.empty();
      }
      output.ifPresent(each -> positions.add(each.position()));
    }
    return Optional.of(positions);
  }

  private boolean isSame(Expression shown, Expression wanted) {
    Optional<UseColumn> column = block.kept(wanted);
    return shown == wanted || (column.isPresent() && column.equals(block.kept(shown)));
  }

  // ---- rows ----

  private List<Set<Integer>> ofRows() {
    FromItem from = block.select().from();
    if (from == null) {
      return List.of(Set.of());
    }
    Map<UseColumn, Integer> positions = positions();
    List<Set<Integer>> keys = new ArrayList<>(List.of(Set.of()));
    for (TableUse root : roots()) {
      List<Set<Integer>> longer = new ArrayList<>();
      for (Set<Integer> own : keysOf(root, positions)) {
        for (Set<Integer> key : keys) {
          Set<Integer> both = new TreeSet<>(key);
          both.addAll(own);
          longer.add(both);
        }
      }
      keys = longer.subList(0, Math.min(MOST, longer.size()));
    }
    return List.copyOf(keys);
  }

  /** The keys of a table use that the result shows and in which no two of its rows agree. */
  private List<Set<Integer>> keysOf(TableUse use, Map<UseColumn, Integer> positions) {
    List<Set<Integer>> found = new ArrayList<>();
    boolean filled = !block.stepsThatFill(use).isEmpty();
    for (Key key : use.isDependent() ? List.<Key>of() : use.keys()) {
      Set<UseColumn> columns = Dependencies.columns(use, key);
      boolean strict =
          use.table().isEmpty()
              || columns.stream().allMatch(each -> !each.nullable() || block.isNeverNull(each));
      boolean real = !filled || columns.stream().anyMatch(each -> !each.nullable());
      if (strict && real && positions.keySet().containsAll(columns)) {
        Set<Integer> at = new TreeSet<>();
        columns.forEach(column -> at.add(positions.getOrDefault(column, 0)));
        found.add(at);
      }
    }
    return found;
  }

  /** Where the result shows a column, or one that always equals it. */
  private Map<UseColumn, Integer> positions() {
    Map<UseColumn, Integer> positions = new HashMap<>();
    for (OutputColumn output : block.outputs()) {
      block
          .kept(output.value())
          .filter(block::isOwn)
          .ifPresent(
              column ->
                  block
                      .equalTo(column)
                      .forEach(same -> positions.putIfAbsent(same, output.position())));
    }
    return positions;
  }

  /** The table uses whose rows together tell the joined rows apart. */
  private Set<TableUse> roots() {
    Map<FromItem, Set<TableUse>> roots = new IdentityHashMap<>();
    Set<TableUse> last = new LinkedHashSet<>(block.uses());
    for (JoinStep step : block.steps()) {
      last =
          rootsBehind(
              step, rootsOf(step.join().left(), roots), rootsOf(step.join().right(), roots));
      roots.put(step.join(), last);
    }
    return last;
  }

  private Set<TableUse> rootsOf(FromItem item, Map<FromItem, Set<TableUse>> known) {
    return known.containsKey(item)
        ? known.getOrDefault(item, Set.of())
        : new LinkedHashSet<>(block.use(item).stream().toList());
  }

  private Set<TableUse> rootsBehind(JoinStep step, Set<TableUse> left, Set<TableUse> right) {
    boolean keepsOnlyLeft = !step.kind().keepsRight();
    boolean keepsOnlyRight = !step.kind().keepsLeft();
    if (keepsOnlyLeft && block.partnersOnTheRight(step).isSingle()) {
      return left;
    }
    if (keepsOnlyRight && block.partnersOnTheLeft(step).isSingle()) {
      return right;
    }
    Set<TableUse> both = new LinkedHashSet<>(left);
    both.addAll(right);
    return both;
  }

  /** All columns that are not determined by the others. */
  private Set<Integer> ofDistinct() {
    Set<Integer> positions = new TreeSet<>();
    block.outputs().forEach(output -> positions.add(output.position()));
    return positions;
  }
}
