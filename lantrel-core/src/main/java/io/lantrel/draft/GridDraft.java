package io.lantrel.draft;

import io.lantrel.draft.Drafter.Tree;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** A row for every pair of rows of several tables, with what was counted for it, or 0. */
final class GridDraft {

  private final DraftBuilder builder;
  private final Tree tree;
  private final List<Use> tops;
  private final List<Use> plain;
  private final List<Use> counted;

  GridDraft(DraftBuilder builder, List<Use> tops, List<Use> plain, List<Use> counted) {
    this.builder = builder;
    this.tree = builder.tree;
    this.tops = tops;
    this.plain = plain;
    this.counted = counted;
  }

  Draft draft() {
    if (builder.wish.walk().isPresent() || builder.wish.branches().isPresent()) {
      throw new WishException(
          "figures for each "
              + DraftBuilder.names(tops, " and each ")
              + " do not go along a hierarchy; show one of them");
    }
    builder.layout.from.add(tops.get(0).inFrom());
    tree.begin(tops.get(0));
    for (Use top : tops.subList(1, tops.size())) {
      tree.begin(top);
      builder.layout.from.add("CROSS JOIN " + top.inFrom());
      builder.reasons.add(
          "CROSS JOIN "
              + top.name()
              + ": every "
              + top.name()
              + " beside every "
              + tops.get(0).name()
              + ", so that no pair is missing");
    }
    plain.forEach(tree::connect);
    tree.route().forEach(join -> builder.join(join, "LEFT JOIN", ""));
    List<String> inside = outside();
    for (Use fact : counted) {
      Inner inner = new Inner(fact, of(fact, inside));
      String alias = builder.derived(fact);
      builder.joinDerived(inner.layout, alias, inner.on(alias));
      builder.reasons.add(
          "LEFT JOIN "
              + alias
              + ": worked out before joining, one row for each "
              + DraftBuilder.names(tops, " and ")
              + " that has any");
    }
    for (Item item : builder.items) {
      builder.layout.items.add(
          item.isAggregate()
              ? builder.figureOf(builder.derived(builder.uses.named(item.use())), item)
              : builder.column(item));
    }
    builder.wish.absent().forEach(each -> builder.without(tops.get(0), each));
    builder.order(tree.reached());
    return builder.draft(
        "one row for each "
            + DraftBuilder.names(tops, " and each ")
            + ", also where there is nothing to count",
        List.of());
  }

  /** Conditions on what leads say which rows there are; left are those on what is counted. */
  private List<String> outside() {
    List<String> inside = new ArrayList<>();
    for (String condition : builder.wish.conditions()) {
      Conditions.Written written = builder.conditions.write(condition, plain);
      if (tree.reached().containsAll(written.uses())) {
        builder.layout.where.add(written.text());
      } else {
        inside.add(condition);
      }
    }
    return inside;
  }

  /** The conditions on one of the tables that are counted. */
  private List<String> of(Use fact, List<String> inside) {
    if (counted.size() == 1) {
      return inside;
    }
    List<String> own = new ArrayList<>();
    for (String condition : inside) {
      Set<Use> uses = new LinkedHashSet<>(builder.conditions.write(condition, plain).uses());
      uses.retainAll(counted);
      if (uses.size() != 1) {
        throw new WishException(
            "\""
                + condition
                + "\" does not say of one of "
                + DraftBuilder.names(counted, " and ")
                + " alone which rows are counted; ask for one of them at a time");
      }
      if (uses.contains(fact)) {
        own.add(condition);
      }
    }
    return own;
  }

  /** The figures of one table for each pair that has any, by the keys of the leading tables. */
  private final class Inner {

    private final Use fact;
    private final Tree way = tree.apart();
    private final Use start;
    private final ClauseLayout layout = new ClauseLayout();
    private final Map<String, String> keys = new LinkedHashMap<>();

    Inner(Use fact, List<String> conditions) {
      this.fact = fact;
      this.start = way.uses().of(fact.table());
      way.begin(start);
      Set<Use> needed = new LinkedHashSet<>();
      tops.forEach(top -> group(top, needed));
      List<Conditions.Written> within = new ArrayList<>();
      for (String condition : conditions) {
        Conditions.Written written = new Conditions(way.uses()).write(condition, List.of());
        written.uses().forEach(way::connect);
        written.uses().stream()
            .flatMap(use -> way.from(start, use).stream())
            .forEach(join -> needed.add(join.to()));
        within.add(written);
      }
      List<JoinAlongReference> route =
          way.route().stream().filter(join -> needed.contains(join.to())).toList();
      builder.fill(layout, start, List.of(), route, within);
      builder.items.stream()
          .filter(item -> item.isAggregate() && builder.uses.named(item.use()).equals(fact))
          .forEach(
              item ->
                  layout.items.add(
                      DraftBuilder.call(item, start)
                          + " AS "
                          + builder.name(DraftBuilder.heading(item))));
    }

    private void group(Use top, Set<Use> needed) {
      List<JoinAlongReference> route = upTo(top);
      JoinAlongReference last = route.get(route.size() - 1);
      for (int i = 0; i < last.reference().fromColumns().size(); i++) {
        String column = last.from().column(last.reference().fromColumns().get(i));
        String key = last.reference().toColumns().get(i);
        String label = builder.name(top.name() + "_" + key);
        layout.groupBy.add(column);
        layout.items.add(column + " AS " + label);
        keys.put(label, top.column(key));
      }
      // The leading table itself is outside; its key is known from what refers to it.
      route.subList(0, route.size() - 1).forEach(join -> needed.add(join.to()));
    }

    private List<JoinAlongReference> upTo(Use top) {
      Use end = way.uses().of(top.table());
      way.connect(end);
      List<JoinAlongReference> route = way.from(start, end);
      if (route.isEmpty() || route.stream().anyMatch(join -> !join.up())) {
        throw WishException.ofReferences(
            Words.one(fact.name())
                + " does not belong to one "
                + top.name()
                + ", so it cannot be counted for it");
      }
      return route;
    }

    List<String> on(String alias) {
      return keys.entrySet().stream()
          .map(each -> alias + "." + each.getKey() + " = " + each.getValue())
          .toList();
    }
  }
}
