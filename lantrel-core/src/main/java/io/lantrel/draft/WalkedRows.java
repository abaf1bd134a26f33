package io.lantrel.draft;

import io.lantrel.draft.Drafter.Tree;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** The rows that a walk finds, as what a draft of any other shape is narrowed to. */
final class WalkedRows {

  private final Wish.Walk walk;
  private final Use use;
  private final WalkClause clause;
  private final String member;
  private final String found;

  private WalkedRows(DraftBuilder builder, Wish.Walk walk) {
    Tree tree = builder.tree;
    this.walk = walk;
    this.use = builder.uses.named(walk.table());
    Use within = builder.uses.inner(use.table());
    this.clause =
        new WalkClause(
            builder.uses.freeName("walk"), within, WalkClause.reference(tree.catalog(), use));
    if (isWhole() && !walk.down()) {
      throw new WishException(
          "above which rows? Write " + walk.table() + ", the word where, and a condition");
    }
    String start =
        isWhole()
            ? clause.isRoot()
            : builder.conditions.write(walk.start(), List.of(within)).text();
    this.member = clause.from(start, walk.down(), List.of());
    this.found = builder.uses.freeName(walk.down() ? "below" : "above");
  }

  /** Those of a wish; they come into the draft's WITH. */
  static Optional<WalkedRows> of(DraftBuilder builder) {
    Optional<WalkedRows> walked = builder.wish.walk().map(walk -> new WalkedRows(builder, walk));
    walked.ifPresent(each -> builder.layout.with.add(each.member));
    return walked;
  }

  Use use() {
    return use;
  }

  /** Whether it starts at the roots, and so shows whole trees. */
  boolean isWhole() {
    return walk.start().isEmpty();
  }

  /** Which rows they are, in words behind the table's name; empty if all that a root leads to. */
  String words() {
    return isWhole() ? "" : walk.down() ? " below the start" : " above the start";
  }

  /** What a level counts from, in words. */
  String ofLevels() {
    return isWhole()
        ? ", with its level; level 0 refers to none"
        : ", with its level; level 1 is next to the start";
  }

  String level() {
    return found + "." + WalkClause.LEVEL;
  }

  /** Puts each row that was found before the table, once, with its least level. */
  void begin(DraftBuilder builder) {
    String key = clause.column(clause.key());
    ClauseLayout layout = new ClauseLayout();
    layout.items.add(key);
    layout.items.add("MIN(" + clause.column(WalkClause.LEVEL) + ") AS " + WalkClause.LEVEL);
    layout.from.add(clause.name());
    layout.where.addAll(beyondTheStart());
    layout.groupBy.add(key);
    String on = use.column(clause.key()) + " = " + found + "." + builder.name(clause.key());
    List<String> from = builder.layout.from;
    from.set(0, "JOIN " + use.inFrom() + " ON " + on);
    from.add(0, "(\n  " + ClauseLayout.indented(layout.text(), 2) + "\n) " + found);
    builder.reasons.add(
        found
            + ": each "
            + use.name()
            + " that the walk meets, once, with its least level"
            + reason());
  }

  /** That a row of the table is one of them. */
  Conditions.Written condition(DraftBuilder builder) {
    ClauseLayout layout = new ClauseLayout();
    layout.items.add(clause.column(clause.key()));
    layout.from.add(clause.name());
    layout.where.addAll(beyondTheStart());
    builder.reasons.add("IN: each " + use.name() + " that the walk meets" + reason());
    return new Conditions.Written(
        use.column(clause.key())
            + " IN (\n    "
            + ClauseLayout.indented(layout.text(), 4)
            + "\n  )",
        Set.of(use),
        "the walk");
  }

  private List<String> beyondTheStart() {
    return isWhole() ? List.of() : List.of(clause.column(WalkClause.LEVEL) + " > 0");
  }

  private String reason() {
    return "; level by level along "
        + clause.reference().words()
        + (isWhole() ? ", from those that refer to none" : "");
  }
}
