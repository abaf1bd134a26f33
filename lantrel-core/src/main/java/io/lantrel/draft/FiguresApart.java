package io.lantrel.draft;

import io.lantrel.catalog.Reference;
import io.lantrel.draft.Drafter.Tree;
import io.lantrel.draft.Item.Aggregate;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Figures that stand beside rows which joining what they are of would repeat. */
final class FiguresApart {

  private final DraftBuilder builder;
  private final Use main;
  private final Optional<Branches> branches;
  private final List<Conditions.Written> conditions;

  /**
   * @param main for whose rows they are
   * @param branches whether they are of the rows below as well
   * @param conditions of the wish; those on what is counted say what is
   */
  FiguresApart(
      DraftBuilder builder,
      Use main,
      Optional<Branches> branches,
      List<Conditions.Written> conditions) {
    this.builder = builder;
    this.main = main;
    this.branches = branches;
    this.conditions = List.copyOf(conditions);
  }

  /** The figures of these tables as the draft shows them; what they need is joined to it. */
  Map<Item, String> of(List<Use> counted) {
    Map<Item, String> figures = new HashMap<>();
    counted.forEach(use -> workOut(use, figures));
    return figures;
  }

  /** Figures worked out in a query of their own, since joining would repeat what they are of. */
  private void workOut(Use use, Map<Item, String> figures) {
    Tree way = builder.tree.apart();
    Use start = way.uses().of(main.table());
    way.begin(start);
    Use end = way.uses().of(use.table());
    way.connect(end);
    List<JoinAlongReference> route = way.from(start, end);
    boolean ofItself = route.isEmpty() && branches.isPresent();
    if (!ofItself && (route.isEmpty() || route.get(0).up())) {
      throw WishException.ofReferences(
          Words.one(main.name())
              + " has one "
              + use.name()
              + " at most; show columns of a table that several "
              + Words.plural(use.name())
              + " belong to");
    }
    Conditions own = new Conditions(way.uses());
    List<Conditions.Written> within = new ArrayList<>();
    for (Conditions.Written each : conditions) {
      if (each.uses().contains(use)) {
        within.add(own.write(each.wished(), List.of()));
      }
    }
    List<Item> joined = new ArrayList<>();
    for (Item item : builder.items) {
      if (item.isAggregate() && builder.uses.named(item.use()).equals(use)) {
        boolean once = AggregateQuery.mayRepeat(route) && once(item, end).isEmpty();
        if (once && branches.isPresent()) {
          throw new WishException(
              item.text()
                  + " would count a row several times over a branch, since "
                  + DraftBuilder.words(route)
                  + " leads to it in several ways; ask for least, greatest, or a count of"
                  + " different values");
        }
        if (once) {
          figures.put(item, inItsOwnQuery(item, route, within));
        } else {
          joined.add(item);
          figures.put(item, builder.figureOf(builder.derived(use), item));
        }
      }
    }
    if (!joined.isEmpty() && branches.isPresent()) {
      ClauseLayout inner = branches.get().figures(start, route, within);
      addFigures(inner, route, end, joined);
      builder.joinDerived(inner, builder.derived(use), branches.get().on(builder.derived(use)));
      builder.reasons.add(branches.get().reason(use));
    } else if (!joined.isEmpty()) {
      joinFigures(use, route, within, joined);
    }
  }

  /** Where a row comes over several others, and the figure is of each row once. */
  private String inItsOwnQuery(
      Item item, List<JoinAlongReference> route, List<Conditions.Written> within) {
    List<JoinAlongReference> fromMain = new ArrayList<>(route);
    JoinAlongReference first = route.get(0);
    fromMain.set(0, new JoinAlongReference(main, first.to(), first.reference(), first.up()));
    builder.reasons.add(
        item.text()
            + ": in a query of its own for each "
            + main.name()
            + ", by EXISTS, so that each "
            + item.use()
            + " counts once ("
            + DraftBuilder.words(route)
            + ")");
    String query = new AggregateQuery(item, fromMain, within, builder).text();
    return query + " AS " + builder.name(DraftBuilder.heading(item));
  }

  private void joinFigures(
      Use use, List<JoinAlongReference> route, List<Conditions.Written> within, List<Item> items) {
    ClauseLayout inner = new ClauseLayout();
    Use end = route.get(route.size() - 1).to();
    Reference link = route.get(0).reference();
    Use first = route.get(0).to();
    List<String> on = new ArrayList<>();
    for (int i = 0; i < link.fromColumns().size(); i++) {
      String column = link.fromColumns().get(i);
      inner.items.add(first.column(column));
      inner.groupBy.add(first.column(column));
      String here = builder.derived(use) + "." + builder.name(column);
      on.add(here + " = " + main.column(link.toColumns().get(i)));
    }
    addFigures(inner, route, end, items);
    builder.fill(inner, first, List.of(), route.subList(1, route.size()), within);
    builder.joinDerived(inner, builder.derived(use), on);
    builder.reasons.add(
        "LEFT JOIN of_"
            + use.name()
            + ": worked out for each "
            + main.name()
            + " before joining, so that nothing is counted twice ("
            + DraftBuilder.words(route)
            + ")");
  }

  private void addFigures(
      ClauseLayout inner, List<JoinAlongReference> route, Use end, List<Item> items) {
    boolean repeated = AggregateQuery.mayRepeat(route);
    for (Item item : items) {
      String figure = repeated ? once(item, end).orElseThrow() : DraftBuilder.call(item, end);
      inner.items.add(figure + " AS " + builder.name(DraftBuilder.heading(item)));
    }
  }

  /** A figure of rows that come several times; empty if it cannot bear that. */
  private static Optional<String> once(Item item, Use use) {
    boolean rows = item.aggregate() == Aggregate.COUNT && item.column().isEmpty();
    if (rows && use.key().size() == 1) {
      return Optional.of("COUNT(DISTINCT " + use.key().get(0) + ")");
    }
    return AggregateQuery.bearsRepeats(item)
        ? Optional.of(DraftBuilder.call(item, use))
        : Optional.empty();
  }
}
