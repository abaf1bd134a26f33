package io.lantrel.survey;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.regex.Pattern;

/** A name as words: {@code homeStationId} and {@code HOME_STATIONS_ID} are home, station, id. */
record NameParts(List<String> words) {

  /** Words that say that a column holds a key, and not whose. */
  private static final Set<String> KEY_WORDS =
      Set.of(
          "id", "no", "nr", "nbr", "num", "number", "code", "key", "ref", "fk", "pk", "sk", "uuid",
          "guid", "uid", "oid");

  /** Those of them that stand in front as well: {@code id_station}. */
  private static final Set<String> IN_FRONT = Set.of("id", "fk", "pk", "ref", "key", "no", "nr");

  /** Key words that are written together with what they belong to, in so many letters or more. */
  private static final List<String> WRITTEN_TOGETHER = List.of("key", "id", "nr", "fk", "sk");

  /** Words that a column of any table may be called by. */
  private static final Set<String> COMMON =
      Set.of("name", "label", "title", "description", "type", "kind");

  /** Words behind which somebody else is named. */
  private static final Set<String> PREPOSITIONS =
      Set.of("into", "of", "to", "from", "within", "under", "above", "below", "by", "in", "at");

  private static final Set<String> TABLE_MARKS = Set.of("tbl", "tab", "dim", "fact");

  /** Columns that measure, rank or count: their values are numbers, and name nothing. */
  private static final Set<String> MEASURES =
      Set.of(
          "amount",
          "qty",
          "quantity",
          "count",
          "size",
          "age",
          "year",
          "month",
          "day",
          "hour",
          "minute",
          "second",
          "week",
          "quarter",
          "number",
          "price",
          "cost",
          "total",
          "sum",
          "level",
          "rank",
          "grade",
          "score",
          "point",
          "star",
          "position",
          "pos",
          "order",
          "sort",
          "sequence",
          "seq",
          "index",
          "line",
          "min",
          "max",
          "percent",
          "pct",
          "rate",
          "depth",
          "height",
          "width",
          "length",
          "weight",
          "cm",
          "mm",
          "km",
          "kg",
          "version",
          "capacity",
          "limit",
          "flag",
          "status",
          "balance",
          "volume",
          "distance",
          "duration",
          "priority",
          "people",
          "head");

  /** Where a word begins in {@code homeStationId}. */
  private static final Pattern HUMP = Pattern.compile("([\\p{Ll}\\p{N}])(\\p{Lu})");

  private static final Pattern BETWEEN_WORDS = Pattern.compile("[^\\p{L}\\p{N}]+");
  private static final Pattern HISSES = Pattern.compile(".*(?:s|x|ch|sh)es");
  private static final Pattern ENDS_WITH_ITS_OWN_S = Pattern.compile(".*(?:ss|us|is)");

  static final NameParts NONE = new NameParts(List.of());

  NameParts {
    words = List.copyOf(words);
  }

  static NameParts of(String name) {
    List<String> words = new ArrayList<>();
    String spaced = BETWEEN_WORDS.matcher(HUMP.matcher(name).replaceAll("$1 $2")).replaceAll(" ");
    for (String word : spaced.strip().toLowerCase(Locale.ROOT).split(" ", -1)) {
      if (!word.isEmpty()) {
        words.add(singular(word));
      }
    }
    return new NameParts(words);
  }

  static NameParts ofTable(String name) {
    NameParts all = of(name);
    if (all.words.size() > 1 && TABLE_MARKS.contains(all.words.get(0))) {
      return all.without(1);
    }
    boolean marked = all.words.size() > 1 && TABLE_MARKS.contains(all.last());
    return marked ? new NameParts(all.words.subList(0, all.words.size() - 1)) : all;
  }

  /** Good enough to compare names with; it is never shown. */
  private static String singular(String word) {
    if (word.length() > 3 && word.endsWith("ies")) {
      return word.substring(0, word.length() - 3) + "y";
    }
    if (HISSES.matcher(word).matches()) {
      return word.substring(0, word.length() - 2);
    }
    boolean plural =
        word.length() > 3 && word.endsWith("s") && !ENDS_WITH_ITS_OWN_S.matcher(word).matches();
    return plural ? word.substring(0, word.length() - 1) : word;
  }

  /** Without the word that says that it is a key, also if it is written together. */
  NameParts withoutKeyWord() {
    if (words.isEmpty()) {
      return this;
    }
    String last = last();
    List<String> rest = new ArrayList<>(words.subList(0, words.size() - 1));
    if (KEY_WORDS.contains(last)) {
      return new NameParts(rest);
    }
    if (words.size() > 1 && IN_FRONT.contains(words.get(0))) {
      return without(1);
    }
    for (String word : WRITTEN_TOGETHER) {
      if (last.length() > word.length() + 2 && last.endsWith(word)) {
        rest.add(singular(last.substring(0, last.length() - word.length())));
        return new NameParts(rest);
      }
    }
    return this;
  }

  /** Whether the word that says that it is a key stands in front, and a role may stand behind. */
  boolean keyWordIsInFront() {
    return words.size() > 1 && !KEY_WORDS.contains(last()) && IN_FRONT.contains(words.get(0));
  }

  /** Without so many words in front. */
  NameParts without(int front) {
    return new NameParts(words.subList(Math.min(front, words.size()), words.size()));
  }

  private String last() {
    return words.isEmpty() ? "" : words.get(words.size() - 1);
  }

  /** Whether it says that its values are measured, counted or ranked. */
  boolean isMeasure() {
    return words.stream().anyMatch(MEASURES::contains);
  }

  boolean endsWithId() {
    String last = words.size() < 2 ? "" : last();
    return keyWordIsInFront()
        || last.equals("id")
        || last.equals("uuid")
        || last.equals("fk")
        || last.equals("ref");
  }

  boolean saysKey() {
    return !withoutKeyWord().equals(this);
  }

  boolean namesARelation() {
    return words.contains("parent") || (words.size() > 1 && PREPOSITIONS.contains(last()));
  }

  /** Whether it could be the name of a column of any table. */
  boolean isCommon() {
    return words.stream().allMatch(word -> KEY_WORDS.contains(word) || COMMON.contains(word));
  }

  boolean isEmpty() {
    return words.isEmpty();
  }

  String joined() {
    return String.join("", words);
  }

  NameParts and(NameParts other) {
    List<String> all = new ArrayList<>(words);
    all.addAll(other.words);
    return new NameParts(all);
  }

  boolean isSame(NameParts other) {
    return joined().equals(other.joined());
  }

  boolean beginsWith(NameParts other) {
    int size = other.words.size();
    return size <= words.size() && !other.isEmpty() && words.subList(0, size).equals(other.words);
  }

  /** What stands in front of the other's words at its end; empty if it does not end with them. */
  Optional<NameParts> before(NameParts other) {
    for (int i = words.size() - 1; i >= 0 && !other.isEmpty(); i--) {
      if (without(i).isSame(other)) {
        return Optional.of(new NameParts(words.subList(0, i)));
      }
    }
    return Optional.empty();
  }

  boolean endsWith(NameParts other) {
    return before(other).isPresent();
  }

  /**
   * How well it is short for another name, or its end is, behind a role: {@code dept} for a
   * department, {@code stn} for a station, {@code gt} for a gauge type, {@code home_gt}. The
   * greatest is the best; empty if it is not.
   */
  OptionalInt isShortFor(NameParts full) {
    int best = 0;
    int size = full.words.size();
    if (words.size() >= size && size > 0) {
      NameParts end = without(words.size() - size);
      int worst = Abbreviation.BEGINNING;
      boolean shorter = false;
      for (int i = 0; i < size; i++) {
        String word = end.words.get(i);
        shorter |= !word.equals(full.words.get(i));
        worst = Math.min(worst, Abbreviation.quality(word, full.words.get(i)));
      }
      best = shorter ? worst : 0;
    }
    if (size > 1 && !isEmpty()) {
      best = Math.max(best, Abbreviation.ofSeveral(last(), full.words));
    }
    return best == 0 ? OptionalInt.empty() : OptionalInt.of(best);
  }

  /** Whether some word of it is one of the other's, or the beginning of one. */
  boolean sharesWordWith(NameParts other) {
    return words.stream().anyMatch(word -> other.words.stream().anyMatch(o -> isAlike(word, o)));
  }

  /** {@code emp} for employee, {@code dept} for department. */
  private static boolean isAlike(String one, String two) {
    String shorter = one.length() < two.length() ? one : two;
    String longer = shorter.equals(one) ? two : one;
    return shorter.equals(longer)
        || (shorter.length() >= 3
            && (longer.startsWith(shorter)
                || (shorter.length() >= 4
                    && Abbreviation.quality(shorter, longer) >= Abbreviation.BOTH_ENDS)));
  }
}
