package io.lantrel.compare.asked;

import io.lantrel.compare.CompareException;
import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Comparison;
import io.lantrel.compare.Differences;
import io.lantrel.compare.Verdict;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.ResultColumn;
import io.lantrel.sql.NearNames;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** Compares two results. */
public final class Comparer {

  private final Side first;
  private final Side second;
  private final CompareOptions options;
  private final List<String> headings = new ArrayList<>();
  private final List<String> remarks = new ArrayList<>();

  public Comparer(Side first, Side second, CompareOptions options) {
    this.first = first;
    this.second = second;
    this.options = options;
  }

  /**
   * Runs what must be run.
   *
   * @throws CompareException if a column of the key is not there
   * @throws DatabaseException if a database is lost
   */
  public Comparison compared() {
    return inSnapshots(
        () -> {
          try {
            return compared(Columns.of(first.columns(), second.columns()));
          } catch (SideFailure open) {
            return undecided(String.valueOf(open.getMessage()));
          }
        });
  }

  private Comparison inSnapshots(Supplier<Comparison> work) {
    Supplier<Comparison> inner =
        second.query().isPresent() ? () -> second.query().get().database().inSnapshot(work) : work;
    return first.query().isPresent()
        ? first.query().get().database().inSnapshot(inner)
        : inner.get();
  }

  private Comparison compared(Columns columns) {
    Optional<String> difference = columns.difference(first.name(), second.name());
    if (difference.isPresent()) {
      return comparison(Verdict.DIFFERENT, difference.get(), null, null);
    }
    headings.addAll(columns.otherHeadings(first.name(), second.name()));
    boolean expected = first.query().isEmpty() || second.query().isEmpty();
    if (expected && !headings.isEmpty()) {
      return comparison(
          Verdict.DIFFERENT, "the headings differ: " + Words.list(headings), null, null);
    }
    remarks.addAll(columns.otherTypes(first.name(), second.name()));
    if (columns.isPermuted()) {
      remarks.add("the columns stand in another order; they are compared by their headings");
    }
    List<Integer> key = key(columns);
    Optional<Comparison> proven = proven(columns);
    if (proven.isPresent()) {
      return proven.get();
    }
    Bags bags = bags(columns, key);
    if (bags.areEqual()) {
      return inOrder(columns, bags);
    }
    return differing(columns, bags, key);
  }

  // ---- rows ----

  private Bags bags(Columns columns, List<Integer> key) {
    Optional<List<Side.OfQuery>> both = ofOneDatabase();
    if (both.isPresent() && columns.areOfOneType() && !columns.isPermuted()) {
      Side.OfQuery one = both.get().get(0);
      try {
        Bags bags =
            new InOneDatabase(one.database(), one.tree(), both.get().get(1).tree(), columns)
                .compared(key);
        // Rounded values may differ in far more rows than come out.
        if (bags.isWhole() || columns.likeness().stream().noneMatch(Likeness::isRounded)) {
          return bags;
        }
      } catch (DatabaseException refused) {
        if (refused.isFatal() || refused.tookTooLong()) {
          throw SideFailure.of(first.name() + " and " + second.name() + " together", refused);
        }
        // Some products cannot put the two together; then they are read one after the other.
      }
    }
    return rowByRow(columns);
  }

  private Bags rowByRow(Columns columns) {
    List<Integer> place = columns.place();
    Side aligned = columns.isPermuted() ? new Side.Arranged(second, place) : second;
    return new RowByRow(first, aligned, columns.likeness()).compared();
  }

  private Comparison inOrder(Columns columns, Bags bags) {
    boolean ordered = isOrdered();
    if (ordered && bags.first() > OrderOfRows.MOST) {
      remarks.add(
          "the order of more than " + Words.number(OrderOfRows.MOST) + " rows is not compared");
    } else if (ordered) {
      Optional<String> other = new OrderOfRows(first, second, columns).difference();
      if (other.isPresent()) {
        return comparison(
            Verdict.DIFFERENT,
            "the same " + Words.count(bags.first(), "row") + " in another order: " + other.get(),
            bags,
            null);
      }
    }
    return comparison(Verdict.SAME_HERE, same(bags.first(), ordered), bags, null);
  }

  /** What needs no look at the rows: they are only counted. */
  private Optional<Comparison> proven(Columns columns) {
    boolean ordered = isOrdered();
    if (options.rowsAlone()
        || columns.isPermuted()
        || (ordered && !new OrderOfRows(first, second, columns).isOfOneOrder())) {
      return Optional.empty();
    }
    Optional<ProofHere> proof =
        ofOneDatabase().flatMap(sides -> ProofHere.of(sides.get(0), sides.get(1)));
    if (proof.isEmpty()) {
      return Optional.empty();
    }
    if (!proof.get().broken().isEmpty()) {
      remarks.add(
          "they would be the same for "
              + proof.get().data()
              + ", but here it does not hold that "
              + proof.get().brokenWords());
      return Optional.empty();
    }
    long count = first.query().orElseThrow().count();
    return Optional.of(
        comparison(
            Verdict.SAME,
            same(count, ordered) + ", and the same for " + proof.get().data(),
            new Bags(count, count, 0, 0, List.of()),
            null));
  }

  /** How many rows both have, in words. */
  private static String same(long rows, boolean ordered) {
    return rows == 0
        ? "both have no row here"
        : "the same " + Words.count(rows, "row") + (ordered ? ", in the same order" : "");
  }

  /** The two queries, if one database has the rows of both. */
  private Optional<List<Side.OfQuery>> ofOneDatabase() {
    return first
        .query()
        .flatMap(
            one ->
                second
                    .query()
                    .filter(other -> one.database().isSameAs(other.database()))
                    .map(other -> List.of(one, other)));
  }

  private boolean isOrdered() {
    return options.ordered() && first.isOrdered() && second.isOrdered();
  }

  private Comparison differing(Columns columns, Bags bags, List<Integer> key) {
    List<String> names = columns.first().stream().map(ResultColumn::heading).toList();
    Pairing pairing = new Pairing(names, columns.likeness(), options);
    // One to one they could all be nearly the same; where one has more, some are not.
    if (pairing.isLenient() && !bags.isWhole() && bags.onlyFirst() == bags.onlySecond()) {
      return comparison(
          Verdict.UNDECIDED,
          "more than "
              + Words.number(Bags.MOST)
              + " rows differ before numbers that are nearly the same are taken for one",
          bags,
          null);
    }
    Differences differences = pairing.paired(bags, key);
    if (differences.onlyFirst() + differences.onlySecond() + differences.changed() == 0) {
      remarks.add("some numbers differ by no more than they may");
      return inOrder(columns, bags);
    }
    return comparison(Verdict.DIFFERENT, words(differences), bags, differences);
  }

  private String words(Differences differences) {
    List<String> parts = new ArrayList<>();
    if (differences.changed() > 0) {
      List<String> names =
          differences.key().stream().map(position -> differences.headings().get(position)).toList();
      parts.add(
          Words.count(differences.changed(), "row")
              + (differences.changed() == 1 ? " agrees in " : " agree in ")
              + Words.list(names)
              + (differences.changed() == 1 ? " and differs elsewhere" : " and differ elsewhere"));
    }
    if (differences.onlyFirst() > 0) {
      parts.add(Words.count(differences.onlyFirst(), "row") + " only in " + first.name());
    }
    if (differences.onlySecond() > 0) {
      parts.add(Words.count(differences.onlySecond(), "row") + " only in " + second.name());
    }
    return Words.list(parts);
  }

  // ---- key ----

  private List<Integer> key(Columns columns) {
    List<Integer> positions = new ArrayList<>();
    for (String name : options.key()) {
      positions.add(columns.position(name).orElseThrow(() -> unknown(name, columns)));
    }
    return positions.isEmpty() ? keyOfQuery(columns) : positions;
  }

  private CompareException unknown(String name, Columns columns) {
    List<String> headings = columns.first().stream().map(ResultColumn::heading).toList();
    List<String> near = NearNames.of(name, headings);
    return new CompareException(
        first.name()
            + " has no column "
            + name
            + (near.isEmpty()
                ? "; its columns are " + Words.list(headings)
                : "; close to it: " + Words.list(near)));
  }

  /** The shortest key that one of the queries has. */
  private List<Integer> keyOfQuery(Columns columns) {
    return shortest(first, columns)
        .or(() -> shortest(second, columns).map(key -> inFirst(key, columns)))
        .orElse(List.of());
  }

  private static Optional<List<Integer>> shortest(Side side, Columns columns) {
    return side.query().stream()
        .flatMap(query -> query.resolution().result().keys().stream())
        .filter(key -> !key.isEmpty() && key.size() < columns.first().size())
        .min(Comparator.comparingInt(Set::size))
        .map(key -> key.stream().sorted().toList());
  }

  private static List<Integer> inFirst(List<Integer> key, Columns columns) {
    return key.stream().map(columns::partnerOf).sorted().toList();
  }

  // ---- answers ----

  private Comparison undecided(String reason) {
    return comparison(Verdict.UNDECIDED, reason, null, null);
  }

  private Comparison comparison(
      Verdict verdict, String reason, @Nullable Bags bags, @Nullable Differences differences) {
    return new Comparison(
        verdict,
        reason,
        bags == null ? OptionalLong.empty() : OptionalLong.of(bags.first()),
        bags == null ? OptionalLong.empty() : OptionalLong.of(bags.second()),
        Optional.ofNullable(differences),
        headings,
        remarks);
  }
}
