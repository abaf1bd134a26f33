package io.lantrel.draft;

import io.lantrel.draft.Drafter.Tree;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * For what a draft without figures has a row, in words that are true for the rows that come out,
 * and as claims that can be verified.
 */
final class RowsOfDraft {

  private final Use main;
  private final Lists lists;
  private final Set<Use> optional;
  private final String fitting;
  private final Wish wish;

  /**
   * @param optional tables that are joined so that nothing is lost without them
   * @param fitting which rows conditions leave, in words behind a blank; empty if all
   */
  RowsOfDraft(Tree tree, Use main, Set<Use> optional, String fitting, Wish wish) {
    this.main = main;
    this.lists = Lists.of(tree, main, tree.reached());
    this.optional = optional;
    this.fitting = fitting;
    this.wish = wish;
  }

  String words() {
    if (lists.isNone()) {
      return "one row for each " + main.name() + fitting;
    }
    if (lists.areSeveral()) {
      return "every pair: each "
          + String.join(" beside each ", lists.names())
          + " of the same "
          + lists.parent().name()
          + fitting;
    }
    String without =
        lists.downs().get(0).stream()
            .filter(join -> optional.contains(join.to()))
            .map(
                join ->
                    "one for each "
                        + join.from().name()
                        + " without "
                        + Words.one(join.to().name()))
            .collect(Collectors.joining(", and "));
    return (lists.isMetInSeveralWays(0) ? "one row for each way to a " : "one row for each ")
        + lists.lowest(0).name()
        + " of "
        + Words.one(main.name())
        + fitting
        + (without.isEmpty() ? "" : ", and " + without);
  }

  /** That no row of the lowest table comes twice, and that every row of the first one is there. */
  List<String> claims() {
    boolean all =
        fitting.isEmpty() && lists.downs().stream().flatMap(Set::stream).allMatch(this::isOptional);
    Use lowest = lists.isNone() ? main : lists.lowest(0);
    return claims(
        isEachOnce() ? Optional.of(lowest) : Optional.empty(),
        all ? Optional.of(main) : Optional.empty(),
        wish);
  }

  private boolean isEachOnce() {
    return !lists.areSeveral() && (lists.isNone() || !lists.isMetInSeveralWays(0));
  }

  /** As claims, where a table has a key by which its rows can be known. */
  static List<String> claims(Optional<Use> once, Optional<Use> whole, Wish wish) {
    List<String> claims = new ArrayList<>();
    once.filter(use -> canBeMeant(use, wish))
        .ifPresent(use -> claims.add("one row per " + use.alias()));
    whole
        .filter(use -> canBeMeant(use, wish))
        .ifPresent(use -> claims.add("every " + use.alias() + " appears"));
    return claims;
  }

  /** Its rows can be known, and no column is shown by the name of the role, as keeper.keeper. */
  private static boolean canBeMeant(Use use, Wish wish) {
    return use.table().key().isPresent()
        && wish.shown().stream()
            .noneMatch(shown -> Item.of(shown).column().equalsIgnoreCase(use.alias()));
  }

  private boolean isOptional(JoinAlongReference join) {
    return optional.contains(join.to());
  }
}
