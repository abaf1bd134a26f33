package io.lantrel.survey;

import io.lantrel.catalog.Basis;
import io.lantrel.engine.Rows;
import io.lantrel.survey.TableFigures.ColumnFigures;
import io.lantrel.survey.walk.HierarchyWalk;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * What values say where names leave open which table is meant. If all values of a column are found
 * among the keys of several tables, the table with the fewest keys explains them best, since n
 * values drawn from N keys come with a likelihood of N to the power of -n (J. B. Tenenbaum and T.
 * L. Griffiths, Generalization, similarity, and Bayesian inference, 2001: the size principle). A
 * column that makes a hierarchy of its own table without a circle is likelier to do so on purpose,
 * the fewer roots it has: among random mappings with k roots of n rows, one in n/k has no circle.
 *
 * <p>Values that merely fit make nothing observed: the name must say that there is a reference, or
 * they must be texts that are keys of one table only, or a hierarchy.
 */
final class ByValues {

  /** Of the tables that a column may refer to so many are looked up. */
  static final int TRIED = 5;

  /** How likely the best explanation must be, beside all others, to be called observed. */
  private static final double CLEAR = 2.0 / 3;

  /** Of the keys of a table so many must be used, if only values tell that it is meant. */
  private static final double MOST = 0.7;

  /** A column that names no table rather refers to its own than to any other one. */
  private static final double OWN_TABLE = Math.log(4);

  private final ValueLookup values;
  private final HierarchyWalks walks;

  ByValues(ValueLookup values, HierarchyWalks walks) {
    this.values = values;
    this.walks = walks;
  }

  /** One of several explanations that all hold. */
  private record Explanation(Candidate candidate, Rows rows, double likelihood, String reason) {}

  List<Found> found(List<Candidate> candidates) {
    List<Candidate> fitting = byLikelihood(candidates);
    if (fitting.isEmpty() || isByChance(fitting)) {
      return List.of();
    }
    List<Explanation> explanations = new ArrayList<>();
    // Its own table with circles: a fault of the rows maybe, and no reason against another table.
    List<Explanation> tangled = new ArrayList<>();
    List<Candidate> tried =
        fitting.stream()
            .limit(TRIED)
            .filter(each -> each.isSelf() ? mayBeHierarchy(each) : saysEnough(each))
            .toList();
    values
        .of(tried)
        .forEach(
            (candidate, rows) -> {
              if (ValueLookup.share(rows) < 1) {
                return;
              }
              if (candidate.isSelf()) {
                HierarchyWalk.Levels levels = walks.levels(candidate.reference(Basis.OBSERVED));
                (reachesAll(candidate, levels) ? explanations : tangled)
                    .add(ownTable(candidate, rows, levels));
              } else {
                explanations.add(new Explanation(candidate, rows, likelihood(candidate), ""));
              }
            });
    explanations.sort(Comparator.comparingDouble((Explanation each) -> -each.likelihood()));
    List<Found> found = new ArrayList<>(concluded(explanations));
    if (found.stream().allMatch(each -> each.reference().basis() == Basis.POSSIBLE)) {
      tangled.stream()
          .filter(each -> each.candidate().match() == NameMatch.RELATION)
          .forEach(each -> found.add(0, found(each, Basis.POSSIBLE, List.of())));
    }
    return found;
  }

  private List<Found> concluded(List<Explanation> explanations) {
    if (explanations.isEmpty()) {
      return List.of();
    }
    Explanation best = explanations.get(0);
    boolean told = best.candidate().match() != NameMatch.NONE;
    if (!told && best.reason().isEmpty() && explanations.size() > 1) {
      return List.of();
    }
    if (isObserved(best, explanations)) {
      return List.of(found(best, Basis.OBSERVED, List.of()));
    }
    List<Found> found = new ArrayList<>();
    for (Explanation each : explanations.stream().limit(2).toList()) {
      List<String> others =
          explanations.stream()
              .filter(other -> !other.equals(each))
              .map(other -> other.candidate().to().table().name())
              .toList();
      found.add(
          found(
              each,
              Basis.POSSIBLE,
              others.isEmpty()
                  ? List.of()
                  : List.of("all found in " + Words.list(others) + " as well")));
    }
    return found;
  }

  private boolean isObserved(Explanation best, List<Explanation> all) {
    double sum =
        all.stream().mapToDouble(each -> Math.exp(each.likelihood() - best.likelihood())).sum();
    if (1 / sum < CLEAR) {
      return false;
    }
    Candidate candidate = best.candidate();
    if (candidate.isSelf()) {
      return true;
    }
    long different = candidate.column().values();
    boolean text = ValueKind.of(candidate.column().column().type()) != ValueKind.NUMBER;
    boolean most = different >= MOST * candidate.key().values();
    boolean reason = candidate.match() == NameMatch.RELATION || text;
    return reason && different >= 3 && (most || (text && all.size() == 1));
  }

  private static Found found(Explanation each, Basis basis, List<String> further) {
    List<String> reasons = new ArrayList<>();
    if (!each.reason().isEmpty()) {
      reasons.add(each.reason());
    }
    reasons.addAll(further);
    return Found.of(each.candidate(), basis, each.rows(), 0, reasons);
  }

  static List<Candidate> byLikelihood(List<Candidate> candidates) {
    return candidates.stream()
        .filter(each -> each.column().isWithin(each.key()))
        .filter(each -> each.column().values() <= each.key().values())
        .sorted(Comparator.comparingDouble(each -> -likelihood(each)))
        .toList();
  }

  /** How likely a candidate is beside others, 0 to 1, if all values are found in each. */
  static double chance(Candidate candidate, List<Candidate> all) {
    double own = likelihood(candidate);
    return 1 / all.stream().mapToDouble(each -> Math.exp(likelihood(each) - own)).sum();
  }

  /** The logarithm of how likely the values are if they were drawn from the keys. */
  private static double likelihood(Candidate candidate) {
    return -(double) candidate.column().values() * Math.log((double) candidate.key().values())
        + (candidate.isSelf() ? OWN_TABLE : 0);
  }

  /** Numbers whose name says nothing, and that are keys of several tables without any doubt. */
  private static boolean isByChance(List<Candidate> fitting) {
    return fitting.stream()
                .filter(each -> each.match() == NameMatch.NONE && !each.isSelf())
                .filter(each -> ValueKind.of(each.key().column().type()) == ValueKind.NUMBER)
                .filter(each -> each.key().isWithoutGap())
                .limit(2)
                .count()
            > 1
        && fitting.stream().noneMatch(Candidate::isSelf);
  }

  /**
   * Whether a column that names no table can be believed to refer at all. Small numbers are found
   * among the keys of nearly every table, so nothing may say that they measure; a text that is a
   * key elsewhere seldom is so by chance, if it comes more than once.
   */
  private static boolean saysEnough(Candidate candidate) {
    ColumnFigures column = candidate.column();
    return switch (ValueKind.of(column.column().type())) {
      case NUMBER ->
          candidate.match() == NameMatch.RELATION
              || (column.values() >= 3 && !NameParts.of(column.column().name()).isMeasure());
      case TEXT, UUID -> column.values() >= 2 && column.values() < column.filled();
      case MEASURE, OPAQUE -> false;
    };
  }

  private static long roots(Candidate candidate) {
    return candidate.from().rows() - candidate.column().filled();
  }

  private static boolean isTold(Candidate candidate) {
    return candidate.match() != NameMatch.NONE;
  }

  /** Some rows are roots, and if no name tells of it, most are not. */
  private static boolean mayBeHierarchy(Candidate candidate) {
    long rows = candidate.from().rows();
    long roots = roots(candidate);
    boolean most = isTold(candidate) || (roots * 2 <= rows && rows >= 6);
    return roots > 0 && rows >= 3 && most;
  }

  /** Whether it is a hierarchy of the column's own table: every row is below a root. */
  private static boolean reachesAll(Candidate candidate, HierarchyWalk.Levels levels) {
    return levels.reached() == candidate.from().rows()
        && (isTold(candidate) || levels.levels() >= 3);
  }

  private static Explanation ownTable(
      Candidate candidate, Rows answer, HierarchyWalk.Levels levels) {
    long rows = candidate.from().rows();
    long reachNone = rows - levels.reached();
    return new Explanation(
        candidate,
        answer,
        likelihood(candidate) + Math.log((double) rows / roots(candidate)),
        "a hierarchy of "
            + Words.count(levels.levels(), "level")
            + (reachNone > 0 ? ", whose root " + Words.rows(reachNone) + " do not reach" : ""));
  }
}
