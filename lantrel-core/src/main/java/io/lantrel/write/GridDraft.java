package io.lantrel.write;

import io.lantrel.probe.Words;
import io.lantrel.write.Drafter.Tree;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** A row for every pair of rows of several tables, with what was counted for it, or 0. */
final class GridDraft {

  private final Sheet sheet;
  private final Tree tree;
  private final List<Use> tops;
  private final List<Use> plain;
  private final Use fact;
  private final Layout inner = new Layout();
  private final List<String> on = new ArrayList<>();

  GridDraft(Sheet sheet, List<Use> tops, List<Use> plain, List<Use> counted) {
    if (counted.size() > 1) {
      throw new WishException(
          "figures of several tables, "
              + Sheet.names(counted, " and ")
              + ", cannot be put beside "
              + Sheet.names(tops, " and ")
              + " in one query that is still clear; ask for one of them at a time");
    }
    this.sheet = sheet;
    this.tree = sheet.tree;
    this.tops = tops;
    this.plain = plain;
    this.fact = counted.get(0);
  }

  Draft draft() {
    String alias = sheet.derived(fact);
    sheet.layout.from.add(tops.get(0).inFrom());
    tree.begin(tops.get(0));
    for (Use top : tops.subList(1, tops.size())) {
      tree.begin(top);
      sheet.layout.from.add("CROSS JOIN " + top.inFrom());
      sheet.reasons.add(
          "CROSS JOIN "
              + top.name()
              + ": every "
              + top.name()
              + " beside every "
              + tops.get(0).name()
              + ", so that no pair is missing");
    }
    plain.forEach(tree::connect);
    tree.legs().forEach(leg -> sheet.join(leg, "LEFT JOIN", ""));
    count(alias);
    sheet.joinDerived(inner, alias, on);
    sheet.reasons.add(
        "LEFT JOIN "
            + alias
            + ": worked out before joining, one row for each "
            + Sheet.names(tops, " and ")
            + " that has any");
    for (Item item : sheet.items) {
      sheet.layout.items.add(item.isFigure() ? sheet.figureOf(alias, item) : sheet.column(item));
    }
    sheet.wish.absent().forEach(each -> sheet.without(tops.get(0), each));
    sheet.order(tree.reached());
    return sheet.draft(
        "one row for each "
            + Sheet.names(tops, " and each ")
            + ", also where there is nothing to count");
  }

  /** The figures for each pair that has any, by the keys of the leading tables. */
  private void count(String alias) {
    Tree way = tree.apart();
    Use start = way.uses().of(fact.table());
    way.begin(start);
    Set<Use> needed = new LinkedHashSet<>();
    for (Use top : tops) {
      List<Leg> legs = upTo(way, start, top);
      Leg last = legs.get(legs.size() - 1);
      for (int i = 0; i < last.reference().fromColumns().size(); i++) {
        String column = last.from().column(last.reference().fromColumns().get(i));
        String key = last.reference().toColumns().get(i);
        String label = sheet.name(top.name() + "_" + key);
        inner.groupBy.add(column);
        inner.items.add(column + " AS " + label);
        on.add(alias + "." + label + " = " + top.column(key));
      }
      // The leading table itself is outside; its key is known from what refers to it.
      legs.subList(0, legs.size() - 1).forEach(leg -> needed.add(leg.to()));
    }
    List<Conditions.Written> within = new ArrayList<>();
    for (String condition : sheet.wish.conditions()) {
      place(condition, way, start, needed, within);
    }
    List<Leg> legs = way.legs().stream().filter(leg -> needed.contains(leg.to())).toList();
    sheet.fill(inner, start, legs, within);
    sheet.items.stream()
        .filter(Item::isFigure)
        .forEach(
            item ->
                inner.items.add(
                    Sheet.call(item, start) + " AS " + sheet.name(Sheet.heading(item))));
  }

  private List<Leg> upTo(Tree way, Use start, Use top) {
    Use end = way.uses().of(top.table());
    way.connect(end);
    List<Leg> legs = way.from(start, end);
    if (legs.isEmpty() || legs.stream().anyMatch(leg -> !leg.up())) {
      throw new WishException(
          Words.one(fact.name())
              + " does not belong to one "
              + top.name()
              + ", so it cannot be counted for it");
    }
    return legs;
  }

  /** A condition on what leads says which rows there are; any other one, what is counted. */
  private void place(
      String condition, Tree way, Use start, Set<Use> needed, List<Conditions.Written> counted) {
    Conditions.Written outside = sheet.conditions.write(condition, plain);
    if (tree.reached().containsAll(outside.uses())) {
      sheet.layout.where.add(outside.text());
      return;
    }
    Conditions.Written within = new Conditions(way.uses()).write(condition, List.of());
    within.uses().forEach(way::connect);
    within.uses().stream()
        .flatMap(use -> way.from(start, use).stream())
        .forEach(leg -> needed.add(leg.to()));
    counted.add(within);
  }
}
