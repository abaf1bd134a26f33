package io.lantrel.draft;

import java.util.List;
import java.util.Optional;

/** Figures for each row of a hierarchy that are worked out over all rows below it too. */
final class Branches {

  private final DraftBuilder builder;
  private final Use main;
  private final WalkClause clause;

  private Branches(DraftBuilder builder, Use main) {
    this.builder = builder;
    this.main = main;
    this.clause =
        new WalkClause(
            builder.uses.freeName("branch"),
            builder.uses.inner(main.table()),
            WalkClause.reference(builder.tree.catalog(), main));
  }

  /**
   * Those of a wish; they come into the draft's WITH.
   *
   * @param main for whose rows the draft has a row
   * @param grouped whether it has figures
   */
  static Optional<Branches> of(DraftBuilder builder, Use main, boolean grouped) {
    if (builder.wish.branches().isEmpty()) {
      return Optional.empty();
    }
    Use wanted = builder.uses.named(builder.wish.branches().get());
    if (!grouped || !wanted.equals(main)) {
      throw new WishException(
          "branches of "
              + wanted.name()
              + " are for figures beside its columns, as "
              + wanted.name()
              + "."
              + wanted.table().columns().get(0).name()
              + " and count of something that belongs to it");
    }
    Branches branches = new Branches(builder, main);
    builder.layout.with.add(branches.clause.branches());
    return Optional.of(branches);
  }

  /**
   * A query with a group for each top, without its figures.
   *
   * @param start the hierarchy's table within it
   * @param route from there to what is counted; empty for the rows of the branch themselves
   */
  ClauseLayout figures(
      Use start, List<JoinAlongReference> route, List<Conditions.Written> conditions) {
    ClauseLayout inner = new ClauseLayout();
    String top = clause.column(WalkClause.TOP);
    inner.items.add(top);
    inner.groupBy.add(top);
    String join =
        "JOIN "
            + clause.name()
            + " ON "
            + clause.column(clause.key())
            + " = "
            + start.column(clause.key());
    builder.fill(inner, start, List.of(join), route, conditions);
    return inner;
  }

  /** How it is joined to the row that is the top. */
  List<String> on(String derived) {
    return List.of(derived + "." + WalkClause.TOP + " = " + main.column(clause.key()));
  }

  /** What the figures are of. */
  String words() {
    return "; figures are of the " + main.name() + " and of all below it";
  }

  String reason(Use counted) {
    return "LEFT JOIN of_"
        + counted.name()
        + ": over each "
        + main.name()
        + " and all below it, level by level along "
        + clause.reference().words();
  }
}
