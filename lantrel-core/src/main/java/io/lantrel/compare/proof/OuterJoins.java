package io.lantrel.compare.proof;

import io.lantrel.compare.proof.Joined.Branch;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** Outer joins that are none, and their order. */
final class OuterJoins {

  private OuterJoins() {}

  /** A branch whose row is needed by a condition is a member. */
  static void innerFromOuter(Joined rows, List<Term> further) {
    boolean changed = true;
    while (changed) {
      changed = false;
      for (Branch branch : List.copyOf(rows.branches)) {
        Set<Integer> filled = branch.rows().uses();
        Predicate<Term> isFilled = column -> filled.contains(column.use());
        boolean needed =
            Stream.concat(rows.conditions.stream(), further.stream())
                .anyMatch(term -> Nulls.rejects(term, isFilled));
        if (needed) {
          rows.branches.remove(branch);
          rows.add(branch.found());
          changed = true;
        }
      }
    }
    for (Branch branch : List.copyOf(rows.branches)) {
      innerFromOuter(branch.rows(), branch.conditions());
      flatten(rows, branch);
    }
  }

  /**
   * A branch of a branch that only needs the latter's members is a branch beside it; and conditions
   * of a branch without branches are all conditions of its join.
   */
  private static void flatten(Joined rows, Branch branch) {
    Joined inner = branch.rows();
    List<Branch> beside = new ArrayList<>();
    Set<Integer> members = new HashSet<>();
    inner.members.forEach(member -> members.add(member.id()));
    for (Branch each : inner.branches) {
      Set<Integer> uses = each.rows().uses();
      boolean needsMembers =
          each.conditions().stream()
              .anyMatch(term -> Nulls.rejects(term, column -> members.contains(column.use())));
      boolean named =
          Stream.of(
                  branch.conditions().stream(),
                  inner.conditions.stream(),
                  inner.branches.stream()
                      .filter(other -> !other.isSame(each))
                      .flatMap(other -> other.conditions().stream()))
              .flatMap(terms -> terms)
              .anyMatch(term -> term.mentions(uses));
      if (needsMembers && !named) {
        beside.add(each);
      }
    }
    List<Term> conditions = new ArrayList<>(branch.conditions());
    inner.branches.removeAll(beside);
    if (inner.branches.isEmpty()) {
      conditions.addAll(inner.conditions);
      inner.conditions.clear();
    }
    rows.branches.remove(branch);
    rows.branches.add(new Branch(inner, conditions));
    rows.branches.addAll(beside);
  }
}
