package io.lantrel.compare.proof;

import io.lantrel.catalog.Constraint;
import io.lantrel.compare.proof.Joined.Member;
import io.lantrel.resolve.Resolution;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * That two queries give the same rows, in any order, for all data that keep some constraints.
 *
 * @param constraints what it rests on; empty if on nothing but the two texts
 */
public record Proof(List<Constraint> constraints) {

  /** So many ways to pair the tables of the two are tried at most. */
  private static final int WAYS = 5_000;

  /** With more tables than these the rules, each of which looks at pairs of them, take too long. */
  private static final int MOST_TABLES = 40;

  public Proof {
    constraints = List.copyOf(constraints);
  }

  /** For which data the rows are the same, in words. */
  public String data() {
    return constraints.isEmpty()
        ? "any data"
        : "any data in which " + Constraint.words(constraints);
  }

  /**
   * Looks for one.
   *
   * @param first resolved against the same catalog as the second
   * @return empty if none is found, which does not mean that the rows differ
   */
  public static Optional<Proof> of(Resolution first, Resolution second) {
    Set<Constraint> used = new LinkedHashSet<>();
    try {
      Shape one = ShapeReader.read(first, 0);
      int begin = 1 + one.everyMember().mapToInt(Member::id).max().orElse(0);
      Shape other = ShapeReader.read(second, begin);
      if (one.everyMember().count() > MOST_TABLES || other.everyMember().count() > MOST_TABLES) {
        return Optional.empty();
      }
      Rules rules = new Rules(first.root().catalog(), used);
      Shape normal = rules.normal(one);
      boolean firm =
          first.root().dialect().tellingApart(Value.Literal.nothing()).isEmpty()
              || isFirm(normal, false);
      return firm && areSame(normal, rules.normal(other))
          ? Optional.of(new Proof(List.copyOf(used)))
          : Optional.empty();
    } catch (NoProof unknown) {
      return Optional.empty();
    }
  }

  /**
   * Whether no value that is shown was chosen among several that the product takes for equal, as
   * texts that differ in case.
   */
  private static boolean isFirm(Shape shape, boolean asSet) {
    if (shape instanceof Shape.Together together) {
      boolean sets = asSet || together.isOfSets();
      return together.parts().stream().allMatch(part -> isFirm(part, sets));
    }
    Shape.Block block = (Shape.Block) shape;
    boolean chosen =
        block.made().anyMatch(Proof::isLooseExtreme)
            || block.groups().stream().anyMatch(Proof::isLoose)
            || ((asSet || block.distinct()) && block.outputs().stream().anyMatch(Proof::isLoose));
    return !chosen
        && block
            .rows()
            .everyMember()
            .allMatch(member -> member.query() == null || isFirm(member.query(), false))
        && Stream.concat(block.rows().terms(), block.made())
            .flatMap(Shape::askedBy)
            .allMatch(asked -> isFirm(asked, false));
  }

  private static boolean isLoose(Term term) {
    return term.columns().anyMatch(column -> !column.isExactColumn());
  }

  private static boolean isLooseExtreme(Term term) {
    boolean extreme = term.is("min") || term.is("max") || term.operation().endsWith("distinct");
    return (extreme && isLoose(term)) || term.parts().stream().anyMatch(Proof::isLooseExtreme);
  }

  /** Whether the two are one but for what their tables are called. */
  private static boolean areSame(Shape one, Shape other) {
    Map<String, List<Integer>> these = byTable(one);
    Map<String, List<Integer>> those = byTable(other);
    if (!these.keySet().equals(those.keySet())) {
      return false;
    }
    long ways = 1;
    List<Integer> numbers = new ArrayList<>();
    List<List<Integer>> choices = new ArrayList<>();
    for (Map.Entry<String, List<Integer>> each : those.entrySet()) {
      List<Integer> candidates = these.getOrDefault(each.getKey(), List.of());
      if (candidates.size() != each.getValue().size()) {
        return false;
      }
      for (int i = 0; i < candidates.size(); i++) {
        ways = Math.min(WAYS + 1L, ways * (i + 1));
        numbers.add(each.getValue().get(i));
        choices.add(candidates);
      }
    }
    return ways <= WAYS
        && matches(
            one.text(use -> use, true),
            other,
            numbers,
            choices,
            new HashMap<>(),
            new LinkedHashSet<>());
  }

  private static boolean matches(
      String wanted,
      Shape other,
      List<Integer> numbers,
      List<List<Integer>> choices,
      Map<Integer, Integer> names,
      Set<Integer> taken) {
    int at = names.size();
    if (at == numbers.size()) {
      return other.text(use -> names.getOrDefault(use, use), true).equals(wanted);
    }
    for (Integer choice : choices.get(at)) {
      if (taken.add(choice)) {
        names.put(numbers.get(at), choice);
        if (matches(wanted, other, numbers, choices, names, taken)) {
          return true;
        }
        names.remove(numbers.get(at));
        taken.remove(choice);
      }
    }
    return false;
  }

  private static Map<String, List<Integer>> byTable(Shape shape) {
    Map<String, List<Integer>> uses = new LinkedHashMap<>();
    shape
        .everyMember()
        .forEach(
            member ->
                uses.computeIfAbsent(
                        member
                            .ifTable()
                            .map(table -> table.schema() + "." + table.name())
                            .orElse("a query"),
                        any -> new ArrayList<>())
                    .add(member.id()));
    return uses;
  }
}
