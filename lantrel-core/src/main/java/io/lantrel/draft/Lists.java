package io.lantrel.draft;

import io.lantrel.draft.Drafter.Tree;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * The lists of rows that belong to a row of one table, as the readings and the sightings of a
 * station. Joined with each other, each row of one comes with each row of the other.
 *
 * @param first the table from which the others were reached
 * @param parent the table whose rows have the lists
 * @param downs for each list the steps down to it, where none leads over the other
 */
record Lists(Use first, Use parent, List<Set<JoinAlongReference>> downs) {

  /** The lists that are there if these tables are reached from the first one. */
  static Lists of(Tree tree, Use first, List<Use> uses) {
    List<Set<JoinAlongReference>> all = new ArrayList<>();
    Use peak = first;
    for (Use use : uses) {
      List<JoinAlongReference> way = tree.from(first, use);
      Set<JoinAlongReference> down = new LinkedHashSet<>(way);
      down.removeIf(JoinAlongReference::up);
      if (!down.isEmpty() && all.stream().noneMatch(each -> each.containsAll(down))) {
        all.removeIf(down::containsAll);
        all.add(down);
        if (way.get(0).up() && peak.equals(first)) {
          peak = down.iterator().next().from();
        }
      }
    }
    return new Lists(first, peak, all);
  }

  /** Whether the first table is a list itself, and the parent lies above it. */
  boolean isTurned() {
    return !parent.equals(first);
  }

  boolean isNone() {
    return downs.isEmpty();
  }

  boolean areSeveral() {
    return isTurned() || downs.size() > 1;
  }

  /**
   * Whether the way down goes up in between, so that a row at its end can be met in several ways.
   */
  boolean isMetInSeveralWays(int list) {
    Use end = first;
    boolean begun = false;
    for (JoinAlongReference down : downs.get(list)) {
      if (begun && !down.from().equals(end)) {
        return true;
      }
      end = down.to();
      begun = true;
    }
    return false;
  }

  /** The table at the lower end of a list. */
  Use lowest(int list) {
    JoinAlongReference last = List.copyOf(downs.get(list)).get(downs.get(list).size() - 1);
    return last.to();
  }

  List<String> names() {
    List<String> names = new ArrayList<>();
    if (isTurned()) {
      names.add(first.name());
    }
    for (int i = 0; i < downs.size(); i++) {
      names.add(lowest(i).name());
    }
    return names;
  }
}
