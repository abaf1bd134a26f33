package io.lantrel.words;

import java.util.List;
import java.util.Optional;

/** The end of an order that a name speaks of, as {@code last_seen} and {@code first_depot} do. */
public enum WhichEnd {
  /** The first of its rows. */
  FIRST,
  /** The last of its rows. */
  LAST;

  /** The end that a word of a name says, or empty if it says none. */
  public static Optional<WhichEnd> ofWord(String word) {
    return switch (word) {
      case "first", "earliest", "oldest" -> Optional.of(FIRST);
      case "last", "latest", "newest", "recent", "youngest" -> Optional.of(LAST);
      default -> Optional.empty();
    };
  }

  /** The words of a name that say an end, each once. */
  public static List<String> wordsIn(String name) {
    return Words.ofName(name).stream().filter(each -> ofWord(each).isPresent()).distinct().toList();
  }

  /** The first end that a name says, or empty if it says none. */
  public static Optional<WhichEnd> in(String name) {
    return wordsIn(name).stream().findFirst().flatMap(WhichEnd::ofWord);
  }
}
