package io.lantrel.draft;

import io.lantrel.catalog.Table;
import io.lantrel.draft.Drafter.Tree;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** A draft of columns and figures, from one table outwards. */
final class SelectDraft {

  private final Tree tree;
  private final Uses uses;
  private final Wish wish;
  private final DraftBuilder builder;
  private final List<String> lead;
  private final boolean onlyWithRows;
  private final boolean isList;
  private String words = "";
  private Optional<WalkedRows> walked = Optional.empty();
  private Optional<Conditions.Written> narrowed = Optional.empty();

  SelectDraft(Tree tree, Wish wish) {
    this(tree, wish, List.of(), false, false);
  }

  /**
   * One of several lists that stand one behind the other.
   *
   * @param lead the table to begin with; none for the first that is kept or shown
   * @param onlyWithRows whether what has no rows in a table further down is left out
   */
  static SelectDraft list(Tree tree, Wish wish, List<String> lead, boolean onlyWithRows) {
    return new SelectDraft(tree, wish, lead, onlyWithRows, true);
  }

  private SelectDraft(
      Tree tree, Wish wish, List<String> lead, boolean onlyWithRows, boolean isList) {
    this.isList = isList;
    this.tree = tree;
    this.uses = tree.uses();
    this.wish = wish;
    this.lead = List.copyOf(lead);
    this.onlyWithRows = onlyWithRows;
    this.builder = new DraftBuilder(tree, wish);
  }

  /** For what the draft has a row, once it is made. */
  String words() {
    return words;
  }

  /** The draft in its parts, once it is made. */
  ClauseLayout layout() {
    return builder.layout;
  }

  Draft draft() {
    Set<Use> plain = new LinkedHashSet<>();
    lead.forEach(name -> plain.add(uses.named(name)));
    wish.kept().forEach(name -> plain.add(uses.named(name)));
    builder.items.stream()
        .filter(item -> !item.isAggregate())
        .forEach(item -> plain.add(uses.named(item.use())));
    Set<Use> counted = new LinkedHashSet<>();
    builder.items.stream()
        .filter(Item::isAggregate)
        .forEach(item -> counted.add(uses.named(item.use())));
    // A role stands beside the rows that have it, if these are named anywhere in the wish.
    wish.walk().ifPresent(walk -> uses.named(walk.table()));
    List<Conditions.Written> conditions =
        wish.conditions().stream()
            .map(each -> builder.conditions.write(each, List.copyOf(plain)))
            .toList();
    List<Use> tops = tops(List.copyOf(plain), counted.isEmpty());
    for (String name : wish.kept()) {
      if (!tops.contains(uses.named(name))) {
        throw new WishException(
            "every "
                + name
                + " cannot be kept beside every "
                + DraftBuilder.names(tops, " and ")
                + "; keep one of them, or count something for each pair");
      }
    }
    return tops.size() > 1
        ? new GridDraft(builder, tops, List.copyOf(plain), List.copyOf(counted)).draft()
        : outwards(
            tops.isEmpty() ? counted.iterator().next() : tops.get(0),
            List.copyOf(plain),
            List.copyOf(counted),
            conditions);
  }

  /**
   * The tables from which the others shown can be reached by going up only: one, if each row of it
   * has one value of everything shown. Without figures the first table leads, whatever follows.
   */
  private List<Use> tops(List<Use> plain, boolean withoutFigures) {
    if (withoutFigures || plain.size() < 2) {
      return plain.stream().limit(1).map(use -> tree.leading(use, plain)).toList();
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
    return tops.isEmpty() ? List.of(tree.leading(plain.get(0), plain)) : tops;
  }

  private boolean leadsUp(Use from, Use to) {
    return leadsUp(from.table(), to.table(), new LinkedHashSet<>());
  }

  private boolean leadsUp(Table from, Table to, Set<Table> seen) {
    if (!seen.add(from)) {
      return false;
    }
    return tree.catalog().references().stream()
        .filter(each -> each.from().equals(from) && !each.isSelfReference())
        .map(each -> each.to())
        .anyMatch(next -> next.equals(to) || leadsUp(next, to, seen));
  }

  private Draft outwards(
      Use main, List<Use> plain, List<Use> counted, List<Conditions.Written> conditions) {
    tree.begin(main);
    plain.forEach(tree::connect);
    boolean grouped = !counted.isEmpty();
    if (grouped) {
      refuseSeveral(main, plain);
    }
    List<Conditions.Written> written = new ArrayList<>();
    Set<Table> onTheWay = grouped ? onTheWay(main, plain, counted) : Set.of();
    for (Conditions.Written each : conditions) {
      if (each.uses().stream()
          .allMatch(use -> !tree.leadsDown(use) || onTheWay.contains(use.table()))) {
        written.add(each);
      } else {
        builder.with(each.wished(), each, plain);
      }
    }
    Optional<Branches> branches = Branches.of(builder, main, grouped && !plain.isEmpty());
    boolean apart =
        grouped && (counted.size() > 1 || branches.isPresent() || !isAlongOneLine(main, counted));
    walked = WalkedRows.of(builder);
    narrowed =
        walked.filter(each -> walkedFrom(main).isEmpty()).map(each -> each.condition(builder));
    if (grouped) {
      narrowed.ifPresent(each -> refuseWalkThatRepeats(main, onTheWay, each));
    }
    narrowed.ifPresent(written::add);
    written.stream()
        .flatMap(each -> each.uses().stream())
        .filter(use -> !apart || !counted.contains(use))
        .forEach(tree::connect);
    if (grouped && !apart) {
      counted.forEach(tree::connect);
    }
    boolean keeps = grouped || !wish.kept().isEmpty();
    if (!wish.kept().isEmpty()) {
      refuseIdle(main, written, plain, counted);
    }
    if (apart) {
      refuseWhatWouldRepeat(main, counted, written);
    }
    Set<Use> optional = joins(main, written, keeps);
    Map<Item, String> figures =
        apart ? new FiguresApart(builder, main, branches, wished(written)).of(counted) : Map.of();
    for (Item item : builder.items) {
      builder.layout.items.add(
          !item.isAggregate()
              ? builder.column(item)
              : apart ? figures.get(item) : builder.figure(item));
    }
    if (grouped && !apart && !plain.isEmpty()) {
      Set<String> grouping = new LinkedHashSet<>(main.key());
      builder.items.stream()
          .filter(item -> !item.isAggregate())
          .forEach(item -> grouping.add(uses.named(item.use()).column(item.column())));
      builder.layout.groupBy.addAll(grouping);
    }
    wish.absent().forEach(each -> builder.without(main, each));
    walkedFrom(main)
        .filter(each -> !grouped || !plain.isEmpty())
        .ifPresent(each -> showLevel(each, grouped && !apart));
    builder.order(grouped ? knownOnce(main, plain) : tree.reached());
    String fitting = fitting(main);
    if (!grouped) {
      RowsOfDraft rows = new RowsOfDraft(tree, main, optional, fitting, builder.wish);
      words = rows.words() + walkedFrom(main).map(WalkedRows::ofLevels).orElse("");
      return builder.draft(words + by(), rows.claims());
    }
    if (plain.isEmpty()) {
      return builder.draft("one row for all" + by(), List.of("1 row"));
    }
    String kept = fitting.isEmpty() ? "; every " + main.name() + " is kept" : fitting;
    return builder.draft(
        "one row for each " + main.name() + kept + branches.map(Branches::words).orElse("") + by(),
        RowsOfDraft.claims(
            Optional.of(main),
            fitting.isEmpty() ? Optional.of(main) : Optional.empty(),
            builder.wish));
  }

  /** Beside figures nothing is joined that a row has several of, and that is not counted. */
  private void refuseWalkThatRepeats(Use main, Set<Table> onTheWay, Conditions.Written walk) {
    for (Use use : walk.uses()) {
      if (tree.leadsDown(use) && !onTheWay.contains(use.table())) {
        throw new WishException(
            Words.one(main.name())
                + " may have several rows of "
                + use.name()
                + ", so figures for each "
                + main.name()
                + " would count by what the walk meets; show or count "
                + use.name()
                + ", or leave the figures out");
      }
    }
  }

  /** The walk that the rows of the leading table come from, with their level. */
  private Optional<WalkedRows> walkedFrom(Use main) {
    return walked.filter(each -> !isList && each.use().equals(main));
  }

  private void showLevel(WalkedRows rows, boolean grouped) {
    builder.layout.items.add(rows.level());
    if (grouped) {
      builder.layout.groupBy.add(rows.level());
    }
    if (wish.order().isEmpty()) {
      builder.layout.orderBy.add(rows.level());
    }
  }

  /** Which rows conditions leave; empty if all. */
  private String fitting(Use main) {
    String onWalk = walkedFrom(main).map(WalkedRows::words).orElse("");
    if (builder.layout.where.size() > wish.absent().size()) {
      return onWalk + " that fits";
    }
    return onWalk + withoutWhat();
  }

  private String withoutWhat() {
    return wish.absent().stream()
        .map(
            each ->
                " without "
                    + Words.one(each.table())
                    + (each.condition().isEmpty() ? "" : " with " + each.condition()))
        .collect(Collectors.joining(" and"));
  }

  /** Beside figures stands only what there is one of for each row. */
  private void refuseSeveral(Use main, List<Use> plain) {
    for (Use use : plain) {
      if (tree.from(main, use).stream().anyMatch(join -> !join.up())) {
        throw new WishException(
            Words.one(main.name())
                + " may have several rows of "
                + use.name()
                + ", so a column of it has no place beside figures for each "
                + main.name()
                + "; leave it out, or leave the figures out");
      }
    }
  }

  /** What a group has one row of at most; a query over all rows has none. */
  private List<Use> knownOnce(Use main, List<Use> plain) {
    return plain.isEmpty()
        ? List.of()
        : tree.reached().stream()
            .filter(use -> tree.from(main, use).stream().allMatch(JoinAlongReference::up))
            .toList();
  }

  private String by() {
    return tree.route().isEmpty() ? "" : ", by way of " + DraftBuilder.words(tree.route());
  }

  /** The tables that are there anyway, those that lead to what is counted among them. */
  private Set<Table> onTheWay(Use main, List<Use> plain, List<Use> counted) {
    Tree trial = tree.onTrial();
    trial.begin(trial.uses().of(main.table()));
    Stream.concat(plain.stream(), counted.stream())
        .forEach(use -> trial.connect(trial.uses().named(use.name())));
    return trial.reached().stream().map(Use::table).collect(Collectors.toSet());
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
    boolean down = trial.from(start, end).stream().noneMatch(JoinAlongReference::up);
    return down && tree.route().stream().allMatch(JoinAlongReference::up);
  }

  /**
   * Figures of several tables stand beside rows that nothing may repeat, and no condition drops.
   */
  private void refuseWhatWouldRepeat(
      Use main, List<Use> counted, List<Conditions.Written> written) {
    boolean repeated = tree.route().stream().anyMatch(join -> !join.up());
    boolean mixed =
        written.stream()
            .map(Conditions.Written::uses)
            .anyMatch(uses -> uses.size() > 1 && uses.stream().anyMatch(counted::contains));
    boolean walked =
        narrowed.filter(each -> each.uses().stream().anyMatch(counted::contains)).isPresent();
    if (repeated || mixed || walked) {
      throw new WishException(
          "figures of "
              + DraftBuilder.names(counted, " and ")
              + " are worked out apart for each "
              + main.name()
              + "; a condition or a column that leads through other rows has no place there; ask for"
              + " one figure at a time");
    }
  }

  /** Beside rows that are all kept a condition on what is not shown would change nothing. */
  private void refuseIdle(
      Use main, List<Conditions.Written> written, List<Use> plain, List<Use> counted) {
    for (Conditions.Written each : written) {
      boolean seen =
          each.uses().stream()
              .anyMatch(use -> use.equals(main) || plain.contains(use) || counted.contains(use));
      if (!seen && !each.uses().isEmpty()) {
        throw builder.idle(each.wished(), List.copyOf(each.uses()));
      }
    }
  }

  /** The conditions that were wished for in SQL. */
  private List<Conditions.Written> wished(List<Conditions.Written> written) {
    return written.stream().filter(each -> !isOfWalk(each)).toList();
  }

  private boolean isOfWalk(Conditions.Written each) {
    return narrowed.equals(Optional.of(each));
  }

  /**
   * Whether a condition says which rows there are, although figures stand beside them: it asks of
   * the leading table or of what its rows refer to, and nobody wants every row kept.
   */
  private boolean narrows(Use main, Conditions.Written each) {
    return wish.kept().isEmpty()
        && each.uses().stream()
            .allMatch(
                use ->
                    tree.has(use)
                        && tree.from(main, use).stream().allMatch(JoinAlongReference::up));
  }

  /** The tables without which a row is left out. */
  private Set<Use> required(Use main, List<Conditions.Written> written, boolean keeps) {
    List<JoinAlongReference> route = tree.route();
    List<Conditions.Written> decisive =
        written.stream().filter(each -> !keeps || narrows(main, each)).toList();
    Set<Use> required =
        new LinkedHashSet<>(
            RequiredTables.by(wished(decisive), builder.layout.from, route, tree.catalog()));
    decisive.stream().filter(this::isOfWalk).forEach(each -> required.addAll(each.uses()));
    if (onlyWithRows) {
      route.stream().filter(join -> !join.up()).forEach(join -> required.add(join.to()));
    }
    return RequiredTables.withTheWay(required, route);
  }

  /** Whether a list hangs on it: with that it is one optional whole. */
  private boolean hasList(Use use) {
    return tree.route().stream().anyMatch(join -> join.from().equals(use) && !join.up());
  }

  /** The tables that are joined so that nothing is lost without them. */
  private Set<Use> joins(Use main, List<Conditions.Written> written, boolean keeps) {
    builder.layout.from.add(main.inFrom());
    Set<Use> required = required(main, written, keeps);
    walkedFrom(main).ifPresent(each -> each.begin(builder));
    Set<Use> optional = new LinkedHashSet<>();
    Set<Conditions.Written> placed = Collections.newSetFromMap(new IdentityHashMap<>());
    Set<Use> joined = new LinkedHashSet<>(List.of(main));
    Set<JoinAlongReference> sure = tree.sure();
    for (JoinAlongReference join : tree.route()) {
      joined.add(join.to());
      StringBuilder further = new StringBuilder();
      if (keeps) {
        written.stream()
            .filter(each -> !narrows(main, each))
            .filter(each -> each.uses().contains(join.to()) && joined.containsAll(each.uses()))
            .filter(placed::add)
            .forEach(each -> further.append(" AND ").append(each.text()));
      }
      if (required.contains(join.to())) {
        builder.join(join, "JOIN", further.toString());
      } else if (sure.contains(join)
          && !optional.contains(join.from())
          && further.isEmpty()
          && !hasList(join.to())) {
        builder.joinSurely(join);
      } else {
        optional.add(join.to());
        builder.join(join, "LEFT JOIN", further.toString());
      }
    }
    written.stream()
        .filter(each -> !placed.contains(each) && joined.containsAll(each.uses()))
        .forEach(each -> builder.layout.where.add(each.text()));
    return optional;
  }
}
