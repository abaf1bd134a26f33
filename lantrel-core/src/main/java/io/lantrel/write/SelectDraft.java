package io.lantrel.write;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.probe.Words;
import io.lantrel.write.Drafter.Tree;
import io.lantrel.write.Item.Figure;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Stream;

/** A draft of columns and figures: from one table outwards, or over all pairs of several. */
final class SelectDraft {

  private final Tree tree;
  private final Uses uses;
  private final Wish wish;
  private final Conditions conditions;
  private final List<Item> items;
  private final Layout layout = new Layout();
  private final List<String> reasons = new ArrayList<>();

  SelectDraft(Tree tree, Wish wish) {
    this.tree = tree;
    this.uses = tree.uses();
    this.wish = wish;
    this.conditions = new Conditions(uses);
    this.items = wish.shown().stream().map(Item::of).toList();
  }

  Draft draft() {
    List<Use> plain = new ArrayList<>();
    wish.kept().forEach(name -> addOnce(plain, uses.named(name)));
    items.stream()
        .filter(item -> !item.isFigure())
        .forEach(item -> addOnce(plain, uses.named(item.use())));
    List<Use> counted = new ArrayList<>();
    items.stream().filter(Item::isFigure).forEach(item -> addOnce(counted, uses.named(item.use())));
    List<Use> tops = tops(plain, counted);
    if (tops.size() > 1) {
      return overAllPairs(tops, plain, counted);
    }
    return outwards(tops.isEmpty() ? counted.get(0) : tops.get(0), plain, counted);
  }

  private static void addOnce(List<Use> uses, Use use) {
    if (!uses.contains(use)) {
      uses.add(use);
    }
  }

  /**
   * The tables from which the others shown can be reached by going up only: one, if each row of it
   * has one value of everything shown. Without figures the first table leads, whatever follows.
   */
  private List<Use> tops(List<Use> plain, List<Use> counted) {
    if (counted.isEmpty() || plain.size() < 2) {
      return plain.stream().limit(1).toList();
    }
    List<Use> tops = new ArrayList<>();
    for (Use use : plain) {
      boolean below =
          uses.role(use).isPresent()
              || plain.stream().anyMatch(each -> !each.equals(use) && leadsUp(each, use));
      if (!below) {
        tops.add(use);
      }
    }
    return tops.isEmpty() ? plain.subList(0, 1) : tops;
  }

  private boolean leadsUp(Use from, Use to) {
    return leadsUp(from.table(), to.table(), new LinkedHashSet<>());
  }

  private boolean leadsUp(Table from, Table to, Set<Table> seen) {
    if (!seen.add(from)) {
      return false;
    }
    return tree.catalog().references().stream()
        .filter(each -> each.fromTable().equals(from.name()) && !each.isSelfReference())
        .map(each -> tree.catalog().table(each.toTable()).orElseThrow())
        .anyMatch(next -> next.equals(to) || leadsUp(next, to, seen));
  }

  // ---- one table leads ----

  private Draft outwards(Use main, List<Use> plain, List<Use> counted) {
    tree.begin(main);
    plain.forEach(tree::connect);
    List<Conditions.Written> written =
        wish.conditions().stream().map(each -> conditions.write(each, plain)).toList();
    boolean grouped = !counted.isEmpty();
    boolean apart = grouped && (counted.size() > 1 || !isAlongOneLine(main, counted));
    written.stream()
        .flatMap(each -> each.uses().stream())
        .filter(use -> !apart || !counted.contains(use))
        .forEach(tree::connect);
    if (grouped && !apart) {
      counted.forEach(tree::connect);
    }
    boolean keeps = grouped || !wish.kept().isEmpty();
    joins(main, written, keeps);
    if (apart) {
      counted.forEach(use -> takenBefore(main, use, written));
    }
    for (Item item : items) {
      layout.items.add(item.isFigure() ? figure(item, apart) : column(item));
    }
    if (grouped && !apart && !plain.isEmpty()) {
      Set<String> grouping = new LinkedHashSet<>(main.key());
      items.stream()
          .filter(item -> !item.isFigure())
          .forEach(item -> grouping.add(uses.named(item.use()).column(item.column())));
      layout.groupBy.addAll(grouping);
    }
    wish.absent().forEach(each -> without(main, each));
    order();
    String each =
        grouped && plain.isEmpty()
            ? "one row for all"
            : "one row for each " + lowest(main, grouped).name();
    String kept = keeps && !plain.isEmpty() ? "; every " + main.name() + " is kept" : "";
    return new Draft(layout.text(), each + kept + by(), reasons);
  }

  /** The table whose rows the result repeats the others for. */
  private Use lowest(Use main, boolean grouped) {
    Use lowest = main;
    if (!grouped) {
      for (Leg leg : tree.legs()) {
        lowest = leg.up() ? lowest : leg.to();
      }
    }
    return lowest;
  }

  private String by() {
    List<Leg> legs = tree.legs();
    return legs.isEmpty()
        ? ""
        : ", by way of "
            + String.join(", ", legs.stream().map(leg -> leg.reference().words()).toList());
  }

  /** Whether all that is counted hangs on one line of steps downwards, and nothing else repeats. */
  private boolean isAlongOneLine(Use main, List<Use> counted) {
    Tree trial = tree.onTrial();
    Use start = trial.uses().of(main.table());
    trial.begin(start);
    Use end = trial.uses().of(counted.get(0).table());
    if (start.equals(end)) {
      return true;
    }
    trial.connect(end);
    boolean down = trial.from(start, end).stream().noneMatch(Leg::up);
    return down && tree.legs().stream().allMatch(Leg::up);
  }

  private void joins(Use main, List<Conditions.Written> written, boolean keeps) {
    layout.from.add(main.inFrom());
    Set<Use> demanded = new LinkedHashSet<>();
    if (!keeps) {
      List<String> all = new ArrayList<>(layout.from);
      tree.legs()
          .forEach(leg -> all.add("LEFT JOIN " + leg.to().inFrom() + " ON " + leg.condition()));
      List<Use> optional = tree.legs().stream().map(Leg::to).toList();
      Demanded.by(written, all, optional, tree.catalog()).stream()
          .flatMap(use -> tree.from(main, use).stream())
          .forEach(leg -> demanded.add(leg.to()));
    }
    Set<Conditions.Written> placed = Collections.newSetFromMap(new java.util.IdentityHashMap<>());
    Set<Use> joined = new LinkedHashSet<>(List.of(main));
    for (Leg leg : tree.legs()) {
      joined.add(leg.to());
      String join = demanded.contains(leg.to()) ? "JOIN" : "LEFT JOIN";
      StringBuilder on = new StringBuilder(leg.condition());
      if (keeps) {
        written.stream()
            .filter(each -> each.uses().contains(leg.to()) && joined.containsAll(each.uses()))
            .filter(placed::add)
            .forEach(each -> on.append(" AND ").append(each.text()));
      }
      layout.from.add(join + " " + leg.to().inFrom() + " ON " + on);
      reasons.add(
          leg.reason(join)
              + (join.equals("JOIN")
                  ? ""
                  : "; " + Words.one(leg.from().name()) + " without one is kept"));
    }
    written.stream()
        .filter(each -> !placed.contains(each) && joined.containsAll(each.uses()))
        .forEach(each -> layout.where.add(each.text()));
  }

  private String column(Item item) {
    Use use = uses.named(item.use());
    return use.column(item.column()) + " AS " + uses.dialect().write(use.heading(item.column()));
  }

  private String figure(Item item, boolean apart) {
    Use use = uses.named(item.use());
    String heading = uses.dialect().write(heading(item));
    if (apart) {
      String value = derived(use) + "." + heading;
      return (item.figure() == Figure.COUNT ? "COALESCE(" + value + ", 0)" : value)
          + " AS "
          + heading;
    }
    return call(item, use) + " AS " + heading;
  }

  private static String call(Item item, Use use) {
    String of = item.column().isEmpty() ? use.key().get(0) : use.column(item.column());
    return item.figure().function() + "(" + (item.different() ? "DISTINCT " : "") + of + ")";
  }

  private static String heading(Item item) {
    if (item.figure() == Figure.COUNT && item.column().isEmpty()) {
      return item.use() + "_count";
    }
    String different = item.different() ? "different_" : "";
    return item.figure().word() + "_" + different + item.use() + "_" + item.column();
  }

  private static String derived(Use use) {
    return "of_" + use.name().toLowerCase(Locale.ROOT);
  }

  /** Figures worked out in a query of their own, since joining would repeat what they are of. */
  private void takenBefore(Use main, Use use, List<Conditions.Written> written) {
    Tree way = tree.apart();
    Use start = way.uses().of(main.table());
    way.begin(start);
    Use end = way.uses().of(use.table());
    way.connect(end);
    List<Leg> legs = way.from(start, end);
    if (legs.isEmpty() || legs.get(0).up()) {
      throw new WishException(
          "a "
              + main.name()
              + " has one "
              + use.name()
              + " at most; show columns of a table that several "
              + Words.plural(use.name())
              + " belong to");
    }
    Layout inner = new Layout();
    Reference link = legs.get(0).reference();
    Use first = legs.get(0).to();
    inner.from.add(first.inFrom());
    legs.stream()
        .skip(1)
        .forEach(
            leg -> inner.from.add("LEFT JOIN " + leg.to().inFrom() + " ON " + leg.condition()));
    List<String> on = new ArrayList<>();
    for (int i = 0; i < link.fromColumns().size(); i++) {
      String column = link.fromColumns().get(i);
      inner.items.add(first.column(column));
      inner.groupBy.add(first.column(column));
      on.add(
          derived(use)
              + "."
              + uses.dialect().write(column)
              + " = "
              + main.column(link.toColumns().get(i)));
    }
    boolean repeated = legs.stream().skip(1).anyMatch(Leg::up);
    for (Item item : items) {
      if (item.isFigure() && uses.named(item.use()).equals(use)) {
        if (repeated
            && item.figure() == Figure.COUNT
            && item.column().isEmpty()
            && end.key().size() == 1) {
          inner.items.add(
              "COUNT(DISTINCT " + end.key().get(0) + ") AS " + uses.dialect().write(heading(item)));
        } else if (repeated && (item.figure() == Figure.SUM || item.figure() == Figure.AVERAGE)) {
          throw new WishException(
              item.text()
                  + ": one "
                  + use.name()
                  + " belongs to a "
                  + main.name()
                  + " over several rows of "
                  + first.name()
                  + ", and would be counted several times");
        } else {
          inner.items.add(call(item, end) + " AS " + uses.dialect().write(heading(item)));
        }
      }
    }
    Conditions own = new Conditions(way.uses());
    for (int i = 0; i < written.size(); i++) {
      if (written.get(i).uses().stream().anyMatch(use::equals)) {
        inner.where.add(own.write(wish.conditions().get(i), List.of()).text());
      }
    }
    layout.from.add(
        "LEFT JOIN (\n  "
            + Layout.indented(inner.text(), 2)
            + "\n) "
            + derived(use)
            + " ON "
            + String.join(" AND ", on));
    reasons.add(
        "LEFT JOIN of_"
            + use.name()
            + ": worked out for each "
            + main.name()
            + " before joining, so that nothing is counted twice ("
            + String.join(", ", legs.stream().map(leg -> leg.reference().words()).toList())
            + ")");
  }

  // ---- several lead ----

  /** A row for every pair of rows of the leading tables, with what was counted for it, or 0. */
  private Draft overAllPairs(List<Use> tops, List<Use> plain, List<Use> counted) {
    if (counted.size() > 1) {
      throw new WishException(
          "figures of several tables, "
              + String.join(" and ", counted.stream().map(Use::name).toList())
              + ", cannot be put beside "
              + String.join(" and ", tops.stream().map(Use::name).toList())
              + " in one query that is still clear; ask for one of them at a time");
    }
    Use fact = counted.get(0);
    Tree way = tree.apart();
    Use start = way.uses().of(fact.table());
    way.begin(start);
    Layout inner = new Layout();
    List<String> on = new ArrayList<>();
    String alias = derived(fact);
    List<String> keys = new ArrayList<>();
    for (Use top : tops) {
      Use end = way.uses().of(top.table());
      way.connect(end);
      List<Leg> legs = way.from(start, end);
      if (legs.isEmpty() || legs.stream().anyMatch(leg -> !leg.up())) {
        throw new WishException(
            "a "
                + fact.name()
                + " does not belong to one "
                + top.name()
                + ", so it cannot be counted for it");
      }
      Leg last = legs.get(legs.size() - 1);
      for (int i = 0; i < last.reference().fromColumns().size(); i++) {
        String column = last.from().column(last.reference().fromColumns().get(i));
        String label = uses.dialect().write(top.name() + "_" + last.reference().toColumns().get(i));
        keys.add(column);
        inner.items.add(column + " AS " + label);
        on.add(alias + "." + label + " = " + top.column(last.reference().toColumns().get(i)));
      }
    }
    inner.from.add(start.inFrom());
    Set<Use> needed = new LinkedHashSet<>();
    for (Use top : tops) {
      List<Leg> legs = way.from(start, way.uses().of(top.table()));
      legs.stream().limit(legs.size() - 1L).forEach(leg -> needed.add(leg.to()));
    }
    Conditions own = new Conditions(way.uses());
    List<Conditions.Written> written =
        wish.conditions().stream().map(each -> own.write(each, List.of())).toList();
    written.stream().flatMap(each -> each.uses().stream()).forEach(way::connect);
    written.stream()
        .flatMap(each -> each.uses().stream())
        .flatMap(use -> way.from(start, use).stream())
        .forEach(leg -> needed.add(leg.to()));
    for (Leg leg : way.legs()) {
      if (needed.contains(leg.to())) {
        inner.from.add("LEFT JOIN " + leg.to().inFrom() + " ON " + leg.condition());
      }
    }
    written.forEach(each -> inner.where.add(each.text()));
    inner.groupBy.addAll(keys);
    items.stream()
        .filter(Item::isFigure)
        .forEach(
            item ->
                inner.items.add(call(item, start) + " AS " + uses.dialect().write(heading(item))));
    layout.from.add(tops.get(0).inFrom());
    tree.begin(tops.get(0));
    for (Use top : tops.subList(1, tops.size())) {
      layout.from.add("CROSS JOIN " + top.inFrom());
      tree.add(new Leg(tops.get(0), top, way.legs().get(0).reference(), true));
      reasons.add(
          "CROSS JOIN "
              + top.name()
              + ": every "
              + top.name()
              + " beside every "
              + tops.get(0).name()
              + ", so that no pair is missing");
    }
    plain.stream().filter(use -> !tops.contains(use)).forEach(tree::connect);
    tree.legs().stream()
        .filter(leg -> !tops.contains(leg.to()))
        .forEach(
            leg -> {
              layout.from.add("LEFT JOIN " + leg.to().inFrom() + " ON " + leg.condition());
              reasons.add(leg.reason("LEFT JOIN"));
            });
    layout.from.add(
        "LEFT JOIN (\n  "
            + Layout.indented(inner.text(), 2)
            + "\n) "
            + alias
            + " ON "
            + String.join(" AND ", on));
    reasons.add(
        "LEFT JOIN "
            + alias
            + ": worked out before joining, one row for each "
            + String.join(" and ", tops.stream().map(Use::name).toList())
            + " that has any");
    for (Item item : items) {
      layout.items.add(item.isFigure() ? figure(item, true) : column(item));
    }
    wish.absent().forEach(each -> without(tops.get(0), each));
    order();
    return new Draft(
        layout.text(),
        "one row for each "
            + String.join(" and each ", tops.stream().map(Use::name).toList())
            + ", also where there is nothing to count",
        reasons);
  }

  // ---- what every draft may have ----

  private void without(Use main, Wish.Absent absent) {
    Table table = tree.catalog().table(absent.table()).orElse(null);
    if (table == null) {
      uses.named(absent.table());
      throw new WishException("\"without " + absent.table() + "\" needs the name of a table");
    }
    List<Leg> legs = legsTo(main, table);
    Layout inner = new Layout();
    inner.items.add("1");
    Use first = legs.get(0).to();
    inner.from.add(first.inFrom());
    legs.stream()
        .skip(1)
        .forEach(leg -> inner.from.add("JOIN " + leg.to().inFrom() + " ON " + leg.condition()));
    inner.where.add(legs.get(0).condition());
    if (!absent.condition().isEmpty()) {
      List<Use> within = legs.stream().map(Leg::to).toList();
      inner.where.add(conditions.write(absent.condition(), within).text());
    }
    layout.where.add("NOT EXISTS (\n    " + Layout.indented(inner.text(), 4) + "\n  )");
    reasons.add(
        "NOT EXISTS: no "
            + table.name()
            + (absent.condition().isEmpty() ? "" : " with " + absent.condition())
            + " that belongs to the "
            + main.name()
            + " ("
            + String.join(", ", legs.stream().map(leg -> leg.reference().words()).toList())
            + ")");
  }

  /** The steps into a subquery: uses of its own, but for the first one's start. */
  private List<Leg> legsTo(Use main, Table table) {
    List<List<Paths.Hop>> ways = tree.paths().between(main.table(), table);
    if (ways.isEmpty()) {
      throw new WishException("no reference connects " + table.name() + " with " + main.name());
    }
    List<Leg> legs = new ArrayList<>();
    Use at = main;
    for (Paths.Hop hop : ways.get(0)) {
      String name = hop.up() ? hop.reference().toTable() : hop.reference().fromTable();
      Use next = uses.inner(tree.catalog().table(name).orElseThrow());
      legs.add(new Leg(at, next, hop.reference(), hop.up()));
      at = next;
    }
    return legs;
  }

  private void order() {
    for (String wanted : wish.order()) {
      boolean down = wanted.matches("(?i).*\\s+desc");
      String name = wanted.replaceFirst("(?i)\\s+(desc|asc)$", "");
      Item item = Item.of(name);
      String value =
          item.isFigure()
              ? Stream.of(item)
                  .map(SelectDraft::heading)
                  .map(uses.dialect()::write)
                  .findFirst()
                  .orElseThrow()
              : uses.named(item.use()).column(item.column());
      layout.orderBy.add(value + (down ? " DESC" : ""));
    }
  }
}
