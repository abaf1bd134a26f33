package io.lantrel.draft;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Reference;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;

/**
 * One step from a table of a draft to the next one.
 *
 * @param from where it starts
 * @param to where it leads
 * @param reference along which reference
 * @param up whether it leads to the table referred to; else to the one that refers
 */
record JoinAlongReference(Use from, Use to, Reference reference, boolean up) {

  String condition() {
    List<String> parts = new ArrayList<>();
    for (int i = 0; i < reference.fromColumns().size(); i++) {
      String referring = (up ? from : to).column(reference.fromColumns().get(i));
      String key = (up ? to : from).column(reference.toColumns().get(i));
      parts.add(up ? key + " = " + referring : referring + " = " + key);
    }
    return String.join(" AND ", parts);
  }

  /** Whether the schema promises that every row has one partner. */
  boolean isPromised() {
    return up && isPromised(reference);
  }

  /** Whether the schema promises that every row that refers has one. */
  static boolean isPromised(Reference reference) {
    return reference.basis() == Basis.DECLARED
        && reference.fromColumns().stream()
            .allMatch(
                name -> reference.from().column(name).filter(each -> !each.nullable()).isPresent());
  }

  /** The join as a line of FROM. */
  String joined(String word) {
    return word + " " + to.inFrom() + " ON " + condition();
  }

  /** Why the join is there. */
  String reason(String join) {
    String how =
        up
            ? "the " + to.table().name() + " that " + Words.one(from.name()) + " names" + role()
            : "every " + to.name() + " that names the " + from.name();
    return join + " " + to.name() + ": " + how + " (" + reference.words() + basis() + ")";
  }

  /** How the reference is known, if no schema declares it. */
  private String basis() {
    return switch (reference.basis()) {
      case DECLARED -> "";
      case OBSERVED -> ", as the rows show";
      case POSSIBLE -> ", which is only possible: the values would fit";
    };
  }

  private String role() {
    return to.name().equalsIgnoreCase(to.table().name()) ? "" : " as " + to.name();
  }
}
