package io.lantrel.compare.asked;

import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.ResultColumn;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.IntStream;

/**
 * The columns of two results, paired: by their headings if both have the same ones in another
 * order, else by their places.
 *
 * @param first those of the first
 * @param second those of the second
 * @param place for each column of the first, where its partner stands in the second, from 0
 */
record Columns(List<ResultColumn> first, List<ResultColumn> second, List<Integer> place) {

  static Columns of(List<ResultColumn> first, List<ResultColumn> second) {
    List<String> here = headings(first);
    List<String> there = headings(second);
    boolean permuted =
        here.size() == there.size()
            && new HashSet<>(here).equals(new HashSet<>(there))
            && new HashSet<>(here).size() == here.size();
    List<Integer> place =
        permuted
            ? here.stream().map(there::indexOf).toList()
            : IntStream.range(0, here.size()).boxed().toList();
    return new Columns(first, second, place);
  }

  private static List<String> headings(List<ResultColumn> columns) {
    return columns.stream().map(column -> key(column.heading())).toList();
  }

  /** SQLite numbers headings that come twice; exact names have quotes where others are folded. */
  private static String key(String heading) {
    return Identifier.key(heading.replaceFirst(":\\d+$", "").replaceFirst("^\"(.+)\"$", "$1"));
  }

  /** How the values of each column of the first are compared. */
  List<Likeness> likeness() {
    return IntStream.range(0, first.size())
        .mapToObj(i -> Likeness.of(first.get(i).type(), partner(i).type()))
        .toList();
  }

  private ResultColumn partner(int position) {
    return second.get(place.get(position));
  }

  boolean isPermuted() {
    return !place.equals(IntStream.range(0, first.size()).boxed().toList());
  }

  /** Whether the types of every pair are the same, and ones whose values can be put together. */
  boolean areOfOneType() {
    return IntStream.range(0, first.size())
        .allMatch(
            i ->
                first.get(i).type().family() == partner(i).type().family()
                    && (first.get(i).type().family() != TypeFamily.OTHER
                        || (isUnknown(first.get(i)) && isUnknown(partner(i))))
                    && isChar(first.get(i).type()) == isChar(partner(i).type()));
  }

  /**
   * Whether every pair has one and the same type. Values of two types can be different and have one
   * checksum, as 1.5 and 0.15 in some products, which keep both as 15.
   */
  boolean areOfEqualTypes() {
    return IntStream.range(0, first.size())
        .allMatch(i -> first.get(i).type().equals(partner(i).type()));
  }

  /** Of a product that knows the types of values alone, and puts values of any together. */
  private static boolean isUnknown(ResultColumn column) {
    return column.type().equals(ColumnType.UNKNOWN);
  }

  private static boolean isChar(ColumnType type) {
    return type.word().equals("CHAR");
  }

  List<Boolean> texts() {
    return first.stream().map(column -> column.type().family() == TypeFamily.TEXT).toList();
  }

  /** The position of a heading in the first. */
  Optional<Integer> position(String heading) {
    List<String> headings = headings(first);
    int at = headings.indexOf(Identifier.key(heading));
    return at < 0 ? Optional.empty() : Optional.of(at);
  }

  /** The position in the first of a column of the second. */
  int partnerOf(int positionInSecond) {
    return place.indexOf(positionInSecond);
  }

  /** Which headings only one of them has, in a sentence; empty if they have equally many. */
  Optional<String> difference(String one, String other) {
    if (first.size() == second.size()) {
      return Optional.empty();
    }
    return Optional.of(
        one
            + " has "
            + Words.count(first.size(), "column")
            + ", "
            + other
            + " has "
            + second.size()
            + only(one, first, second)
            + only(other, second, first));
  }

  private static String only(String name, List<ResultColumn> these, List<ResultColumn> those) {
    List<String> known = headings(those);
    List<String> alone =
        these.stream()
            .filter(column -> !known.contains(key(column.heading())))
            .map(ResultColumn::heading)
            .toList();
    return alone.isEmpty() ? "" : "; only " + name + " has " + Words.list(alone);
  }

  /** Headings that differ where both were given, in sentences. */
  List<String> otherHeadings(String one, String other) {
    List<String> found = new ArrayList<>();
    for (int i = 0; i < first.size(); i++) {
      String here = key(first.get(i).heading());
      String there = key(partner(i).heading());
      if (!here.equals(there) && ResultColumn.isGiven(here) && ResultColumn.isGiven(there)) {
        found.add(
            "column "
                + (i + 1)
                + " is "
                + first.get(i).heading()
                + " in "
                + one
                + " and "
                + partner(i).heading()
                + " in "
                + other);
      }
    }
    return found;
  }

  /** Types that differ so much that their values cannot be the same by chance, in sentences. */
  List<String> otherTypes(String one, String other) {
    List<String> found = new ArrayList<>();
    for (int i = 0; i < first.size(); i++) {
      ColumnType here = first.get(i).type();
      ColumnType there = partner(i).type();
      boolean known = here.family() != TypeFamily.OTHER && there.family() != TypeFamily.OTHER;
      if (known && !kind(here).equals(kind(there))) {
        found.add(
            first.get(i).heading()
                + " is "
                + here.text().toLowerCase(Locale.ROOT)
                + " in "
                + one
                + " and "
                + there.text().toLowerCase(Locale.ROOT)
                + " in "
                + other);
      }
    }
    return found;
  }

  private static String kind(ColumnType type) {
    return switch (type.family()) {
      case INTEGER, DECIMAL, FLOAT -> "number";
      default -> type.family().name();
    };
  }
}
