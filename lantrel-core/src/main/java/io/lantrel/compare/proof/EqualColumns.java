package io.lantrel.compare.proof;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.IntUnaryOperator;

/** Columns that are equal in all joined rows, since conditions say so. */
final class EqualColumns {

  private final Map<String, Term> parents = new HashMap<>();
  private final Comparator<Term> order;

  private EqualColumns(IntUnaryOperator names) {
    this.order =
        Comparator.<Term>comparingInt(column -> names.applyAsInt(column.use()))
            .thenComparingInt(Term::position);
  }

  /**
   * @param names by which the first of several is chosen
   */
  static EqualColumns of(List<Term> conditions, IntUnaryOperator names) {
    EqualColumns equal = new EqualColumns(names);
    conditions.stream()
        .filter(EqualColumns::isOne)
        .forEach(term -> equal.join(term.parts().get(0), term.parts().get(1)));
    return equal;
  }

  private static boolean isOne(Term condition) {
    return condition.is(Term.EQUAL) && condition.parts().stream().allMatch(Term::isExactColumn);
  }

  private static String key(Term column) {
    return column.text(use -> use);
  }

  private void join(Term one, Term other) {
    parents.putIfAbsent(key(one), one);
    parents.putIfAbsent(key(other), other);
    Term first = first(one);
    Term second = first(other);
    if (order.compare(first, second) <= 0) {
      parents.put(key(second), first);
    } else {
      parents.put(key(first), second);
    }
  }

  /** The column that stands for it; itself if it is equal to none. */
  Term first(Term column) {
    Term at = column;
    Term next = parents.getOrDefault(key(at), at);
    while (!next.isSame(at)) {
      at = next;
      next = parents.getOrDefault(key(at), at);
    }
    return at;
  }

  /** A condition for each set of equal columns. */
  List<Term> conditions() {
    Map<String, List<Term>> sets = new TreeMap<>();
    for (String key : parents.keySet()) {
      Term own = member(key);
      sets.computeIfAbsent(key(first(own)), any -> new ArrayList<>()).add(own);
    }
    List<Term> all = new ArrayList<>();
    sets.values()
        .forEach(
            set -> {
              set.sort(order);
              all.add(Term.of("all equal", set));
            });
    return all;
  }

  private Term member(String key) {
    String[] parts = key.split("\\.", -1);
    return Term.column(Integer.parseInt(parts[0]), Integer.parseInt(parts[1]), true);
  }
}
