package io.lantrel.resolve;

import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * The items of a comma list in an order in which each is connected with those before it, as far as
 * the conditions of WHERE connect them. The order of a comma list says nothing about the order of
 * joins; taken as it is written, two tables that only a later one connects would be a product.
 */
final class CommaOrder {

  private final List<FromItem> items = new ArrayList<>();
  private final List<FromItem.Join> commas = new ArrayList<>();
  private final Map<TableUse, Integer> itemOf = new IdentityHashMap<>();

  private CommaOrder(QueryBlock block, FromItem from) {
    FromItem next = from;
    while (next instanceof FromItem.Join join && join.kind() == JoinKind.COMMA) {
      commas.add(join);
      items.add(join.right());
      next = join.left();
    }
    items.add(next);
    Collections.reverse(items);
    Collections.reverse(commas);
    for (int i = 0; i < items.size(); i++) {
      for (FromItem leaf : JoinResolver.leaves(items.get(i))) {
        itemOf.put(block.use(leaf).orElseThrow(), i);
      }
    }
  }

  /** The same item, if the order as it is written will do. */
  static FromItem of(QueryBlock block, FromItem from, List<Conjunct> filters) {
    boolean marked =
        filters.stream()
            .flatMap(each -> each.condition().preorder())
            .anyMatch(Value.OuterMark.class::isInstance);
    if (marked || block.uses().stream().anyMatch(TableUse::isDependent)) {
      return from;
    }
    return new CommaOrder(block, from).ordered(from, filters);
  }

  private FromItem ordered(FromItem from, List<Conjunct> filters) {
    List<Integer> order = order(filters);
    FromItem tree = items.get(0);
    boolean changed = false;
    for (int i = 1; i < order.size(); i++) {
      changed |= order.get(i) != i;
      FromItem.Join comma = commas.get(order.get(i) - 1);
      tree =
          new FromItem.Join(
              from.span(),
              tree,
              JoinKind.COMMA,
              false,
              comma.right(),
              null,
              comma.keyword(),
              false);
    }
    return changed ? tree : from;
  }

  private List<Integer> order(List<Conjunct> filters) {
    Map<Integer, List<Set<Integer>>> linksOf = new HashMap<>();
    for (Conjunct filter : filters) {
      Set<Integer> linked = new HashSet<>();
      filter.uses().forEach(use -> Optional.ofNullable(itemOf.get(use)).ifPresent(linked::add));
      if (linked.size() > 1) {
        List.copyOf(linked)
            .forEach(item -> linksOf.computeIfAbsent(item, key -> new ArrayList<>()).add(linked));
      }
    }
    TreeSet<Integer> left = new TreeSet<>();
    for (int i = 1; i < items.size(); i++) {
      left.add(i);
    }
    TreeSet<Integer> connected = new TreeSet<>();
    List<Integer> order = new ArrayList<>(List.of(0));
    place(0, linksOf, connected);
    while (!left.isEmpty()) {
      int next = connected.isEmpty() ? left.first() : connected.first();
      order.add(next);
      left.remove(next);
      connected.remove(next);
      place(next, linksOf, connected);
    }
    return order;
  }

  /** An item that is placed connects those of which a condition mentions no other any more. */
  private static void place(
      int item, Map<Integer, List<Set<Integer>>> linksOf, Set<Integer> connected) {
    for (Set<Integer> link : linksOf.getOrDefault(item, List.of())) {
      link.remove(item);
      if (link.size() == 1) {
        connected.addAll(link);
      }
    }
  }
}
