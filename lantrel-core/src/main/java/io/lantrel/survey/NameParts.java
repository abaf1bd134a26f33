package io.lantrel.survey;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** A name as words: {@code homeStationId} and {@code HOME_STATIONS_ID} are home, station, id. */
record NameParts(List<String> words) {

  /** Words that say that a column holds a key, and not whose. */
  private static final Set<String> KEY_WORDS =
      Set.of("id", "no", "nr", "num", "number", "code", "key", "ref", "fk", "pk", "uuid", "guid");

  /** Words that a column of any table may be called by. */
  private static final Set<String> COMMON =
      Set.of("name", "label", "title", "description", "type", "kind");

  /** Words behind which somebody else is named. */
  private static final Set<String> PREPOSITIONS =
      Set.of("into", "of", "to", "from", "within", "under", "above", "below", "by", "in", "at");

  private static final Set<String> TABLE_PREFIXES = Set.of("tbl", "tab", "dim", "fact");

  NameParts {
    words = List.copyOf(words);
  }

  static NameParts of(String name) {
    List<String> words = new ArrayList<>();
    String spaced =
        name.replaceAll("([\\p{Ll}\\p{N}])(\\p{Lu})", "$1 $2").replaceAll("[^\\p{L}\\p{N}]+", " ");
    for (String word : spaced.strip().toLowerCase(Locale.ROOT).split(" ", -1)) {
      if (!word.isEmpty()) {
        words.add(singular(word));
      }
    }
    return new NameParts(words);
  }

  static NameParts ofTable(String name) {
    NameParts all = of(name);
    boolean prefixed = all.words.size() > 1 && TABLE_PREFIXES.contains(all.words.get(0));
    return prefixed ? new NameParts(all.words.subList(1, all.words.size())) : all;
  }

  /** Good enough to compare names with; it is never shown. */
  private static String singular(String word) {
    if (word.length() > 3 && word.endsWith("ies")) {
      return word.substring(0, word.length() - 3) + "y";
    }
    if (word.matches(".*(?:s|x|ch|sh)es")) {
      return word.substring(0, word.length() - 2);
    }
    boolean plural = word.length() > 2 && word.endsWith("s") && !word.matches(".*(?:ss|us|is)");
    return plural ? word.substring(0, word.length() - 1) : word;
  }

  /** Without the word at the end that says that it is a key, also if it is written together. */
  NameParts withoutKeyWord() {
    if (words.isEmpty()) {
      return this;
    }
    String last = words.get(words.size() - 1);
    List<String> rest = new ArrayList<>(words.subList(0, words.size() - 1));
    if (KEY_WORDS.contains(last)) {
      return new NameParts(rest);
    }
    if (last.length() > 4 && last.endsWith("id")) {
      rest.add(singular(last.substring(0, last.length() - 2)));
      return new NameParts(rest);
    }
    return this;
  }

  boolean endsWithId() {
    String last = words.size() < 2 ? "" : words.get(words.size() - 1);
    return last.equals("id") || last.equals("uuid") || last.equals("fk") || last.equals("ref");
  }

  boolean saysKey() {
    return !withoutKeyWord().equals(this);
  }

  boolean namesARelation() {
    return words.contains("parent")
        || (words.size() > 1 && PREPOSITIONS.contains(words.get(words.size() - 1)));
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

  boolean endsWith(NameParts other) {
    int more = words.size() - other.words.size();
    return more >= 0 && !other.isEmpty() && words.subList(more, words.size()).equals(other.words);
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
                || (shorter.length() >= 4 && isAbbreviation(shorter, longer))));
  }

  private static boolean isAbbreviation(String shorter, String longer) {
    int at = 0;
    for (int i = 0; i < longer.length() && at < shorter.length(); i++) {
      if (longer.charAt(i) == shorter.charAt(at)) {
        at++;
      }
    }
    return at == shorter.length()
        && shorter.charAt(0) == longer.charAt(0)
        && shorter.charAt(shorter.length() - 1) == longer.charAt(longer.length() - 1);
  }
}
