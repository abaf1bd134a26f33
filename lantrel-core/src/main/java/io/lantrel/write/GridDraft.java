package io.lantrel.write;

import io.lantrel.probe.Words;
import io.lantrel.write.Drafter.Tree;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** A row for every pair of rows of several tables, with what was counted for it, or 0. */
final class GridDraft {

  private final Sheet sheet;
  private final Tree tree;
  private final List<Use> tops;
  private final List<Use> plain;
  private final List<Use> counted;

  GridDraft(Sheet sheet, List<Use> tops, List<Use> plain, List<Use> counted) {
    this.sheet = sheet;
    this.tree = sheet.tree;
    this.tops = tops;
    this.plain = plain;
    this.counted = counted;
  }

  Draft draft() {
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
    List<String> inside = outside();
    for (Use fact : counted) {
      Inner inner = new Inner(fact, of(fact, inside));
      String alias = sheet.derived(fact);
      sheet.joinDerived(inner.layout, alias, inner.on(alias));
      sheet.reasons.add(
          "LEFT JOIN "
              + alias
              + ": worked out before joining, one row for each "
              + Sheet.names(tops, " and ")
              + " that has any");
    }
    for (Item item : sheet.items) {
      sheet.layout.items.add(
          item.isFigure()
              ? sheet.figureOf(sheet.derived(sheet.uses.named(item.use())), item)
              : sheet.column(item));
    }
    sheet.wish.absent().forEach(each -> sheet.without(tops.get(0), each));
    sheet.order(tree.reached());
    return sheet.draft(
        "one row for each "
            + Sheet.names(tops, " and each ")
            + ", also where there is nothing to count");
  }

  /** Conditions on what leads say which rows there are; left are those on what is counted. */
  private List<String> outside() {
    List<String> inside = new ArrayList<>();
    for (String condition : sheet.wish.conditions()) {
      Conditions.Written written = sheet.conditions.write(condition, plain);
      if (tree.reached().containsAll(written.uses())) {
        sheet.layout.where.add(written.text());
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
      Set<Use> uses = new LinkedHashSet<>(sheet.conditions.write(condition, plain).uses());
      uses.retainAll(counted);
      if (uses.size() != 1) {
        throw new WishException(
            "\""
                + condition
                + "\" does not say of one of "
                + Sheet.names(counted, " and ")
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
    private final Layout layout = new Layout();
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
            .forEach(leg -> needed.add(leg.to()));
        within.add(written);
      }
      List<Leg> legs = way.legs().stream().filter(leg -> needed.contains(leg.to())).toList();
      sheet.fill(layout, start, legs, within);
      sheet.items.stream()
          .filter(item -> item.isFigure() && sheet.uses.named(item.use()).equals(fact))
          .forEach(
              item ->
                  layout.items.add(
                      Sheet.call(item, start) + " AS " + sheet.name(Sheet.heading(item))));
    }

    private void group(Use top, Set<Use> needed) {
      List<Leg> legs = upTo(top);
      Leg last = legs.get(legs.size() - 1);
      for (int i = 0; i < last.reference().fromColumns().size(); i++) {
        String column = last.from().column(last.reference().fromColumns().get(i));
        String key = last.reference().toColumns().get(i);
        String label = sheet.name(top.name() + "_" + key);
        layout.groupBy.add(column);
        layout.items.add(column + " AS " + label);
        keys.put(label, top.column(key));
      }
      // The leading table itself is outside; its key is known from what refers to it.
      legs.subList(0, legs.size() - 1).forEach(leg -> needed.add(leg.to()));
    }

    private List<Leg> upTo(Use top) {
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

    List<String> on(String alias) {
      return keys.entrySet().stream()
          .map(each -> alias + "." + each.getKey() + " = " + each.getValue())
          .toList();
    }
  }
}
