package io.lantrel.resolve;

import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;

/**
 * The steps of the joins in one FROM. A condition of WHERE that connects the two sides of a comma
 * is what joins them. Taking it over is right as long as every join above keeps no row without a
 * partner.
 */
final class JoinSteps {

  private final QueryBlock block;
  private final Map<FromItem, List<Conjunct>> conditions;
  private final Conjuncts conjuncts;
  private final List<TableUse> order = new ArrayList<>();
  private final int[] places;
  private final TreeMap<Integer, List<Conjunct>> filtersByLastUse = new TreeMap<>();
  private final List<JoinStep> steps = new ArrayList<>();
  private final List<Conjunct> rest;

  /**
   * @param from the joins, whose tables need not stand in the order of the text
   * @param conditions of ON, USING and NATURAL
   * @param filters of WHERE
   */
  JoinSteps(
      QueryBlock block,
      FromItem from,
      Map<FromItem, List<Conjunct>> conditions,
      List<Conjunct> filters) {
    this.block = block;
    this.conditions = conditions;
    this.conjuncts = new Conjuncts(block);
    this.places = new int[block.uses().size()];
    for (FromItem leaf : JoinResolver.leaves(from)) {
      TableUse use = block.use(leaf).orElseThrow();
      places[use.index()] = order.size();
      order.add(use);
    }
    List<Conjunct> all = new ArrayList<>();
    filters.forEach(filter -> all.addAll(implied(filter)));
    all.addAll(filters);
    for (Conjunct filter : all) {
      int last = filter.uses().stream().mapToInt(this::place).max().orElse(-1);
      filtersByLastUse.computeIfAbsent(last, key -> new ArrayList<>()).add(filter);
    }
    steps(from, 0, true);
    Set<Conjunct> left = Collections.newSetFromMap(new IdentityHashMap<>());
    filtersByLastUse.values().forEach(left::addAll);
    this.rest = filters.stream().filter(left::contains).toList();
  }

  /** The steps, in the order in which they are carried out. */
  List<JoinStep> steps() {
    return steps;
  }

  /** The conditions of WHERE that belong to no step. */
  List<Conjunct> rest() {
    return rest;
  }

  private int place(TableUse use) {
    return places[use.index()];
  }

  /**
   * The equalities that every arm of an OR demands: they are conditions of the whole. Without them
   * such a join would be one of every row with every row.
   */
  private List<Conjunct> implied(Conjunct filter) {
    if (!(filter.condition() instanceof Condition.Or or)) {
      return List.of();
    }
    List<List<Conjunct>> arms = new ArrayList<>();
    or.terms().forEach(arm -> arms.add(conjuncts.of(arm, filter.origin())));
    return arms.get(0).stream()
        .filter(each -> each.equality().isPresent())
        .filter(each -> arms.stream().allMatch(arm -> arm.stream().anyMatch(each::equatesTheSame)))
        .toList();
  }

  /** The place behind the last table of an item that begins at a place. */
  private int steps(FromItem item, int start, boolean reachable) {
    List<FromItem.Join> spine = JoinResolver.leftSpine(item);
    if (spine.isEmpty()) {
      return start + 1;
    }
    List<Boolean> inner = new ArrayList<>();
    boolean still = reachable;
    for (int i = spine.size() - 1; i >= 0; i--) {
      still &= !spine.get(i).kind().isOuter();
      inner.add(still);
    }
    Collections.reverse(inner);
    int middle = steps(spine.get(0).left(), start, inner.get(0));
    for (int i = 0; i < spine.size(); i++) {
      int end = steps(spine.get(i).right(), middle, inner.get(i));
      step(spine.get(i), start, middle, end, inner.get(i));
      middle = end;
    }
    return middle;
  }

  private void step(FromItem.Join join, int start, int middle, int end, boolean inner) {
    List<Conjunct> conjuncts = new ArrayList<>(conditions.getOrDefault(join, List.of()));
    JoinKind kind = join.kind();
    if (inner && (kind == JoinKind.COMMA || kind == JoinKind.CROSS || join.isBare())) {
      List<Conjunct> connecting = takeConnecting(start, middle, end);
      kind = marked(connecting, middle).orElse(kind);
      conjuncts.addAll(connecting);
    }
    steps.add(
        new JoinStep(
            steps.size() + 1,
            join,
            kind,
            Collections.unmodifiableList(order.subList(start, middle)),
            Collections.unmodifiableList(order.subList(middle, end)),
            conjuncts));
  }

  private List<Conjunct> takeConnecting(int start, int middle, int end) {
    List<Conjunct> taken = new ArrayList<>();
    for (List<Conjunct> candidates : filtersByLastUse.subMap(middle, end).values()) {
      List<Conjunct> connecting =
          candidates.stream().filter(each -> connects(each, start, middle)).toList();
      taken.addAll(connecting);
      Set<Conjunct> gone = Collections.newSetFromMap(new IdentityHashMap<>());
      gone.addAll(connecting);
      candidates.removeIf(gone::contains);
    }
    return taken;
  }

  /** The last of its tables is on the right; whether all are here, and one on the left. */
  private boolean connects(Conjunct conjunct, int start, int middle) {
    Set<TableUse> uses = conjunct.uses();
    boolean ofBoth = uses.stream().anyMatch(use -> place(use) < middle);
    return uses.stream().allMatch(use -> place(use) >= start) && (ofBoth || hasMark(conjunct));
  }

  private static boolean hasMark(Conjunct conjunct) {
    return conjunct.condition().preorder().anyMatch(Value.OuterMark.class::isInstance);
  }

  /** The old mark makes an outer join of a comma; its side is the optional one. */
  private Optional<JoinKind> marked(List<Conjunct> conjuncts, int middle) {
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
    if (optional.stream().allMatch(use -> place(use) >= middle)) {
      return Optional.of(JoinKind.LEFT);
    }
    return optional.stream().allMatch(use -> place(use) < middle)
        ? Optional.of(JoinKind.RIGHT)
        : Optional.empty();
  }
}
