package io.lantrel.survey;

import java.util.List;

/** How well a word is short for another one, or for several; 0 if it is not. */
final class Abbreviation {

  /** Some of its letters, the first among them: {@code lbr} for laboratory. */
  static final int LETTERS = 1;

  /** Some of its letters, the first and the last among them: {@code stn} for station. */
  static final int BOTH_ENDS = 2;

  /** Its first letter and all consonants; the first letter of each of several words. */
  static final int SKELETON = 3;

  /** What it begins with: {@code dept} for department. */
  static final int BEGINNING = 4;

  private Abbreviation() {}

  static int quality(String word, String full) {
    if (word.equals(full)) {
      return BEGINNING;
    }
    if (word.length() < 2 || word.length() >= full.length() || !isWithin(word, full)) {
      return 0;
    }
    if (full.startsWith(word)) {
      return BEGINNING;
    }
    if (word.equals(full.charAt(0) + full.substring(1).replaceAll("[aeiouy]", ""))) {
      return SKELETON;
    }
    return word.charAt(word.length() - 1) == full.charAt(full.length() - 1) ? BOTH_ENDS : LETTERS;
  }

  /** Of several words at once: {@code gt} or {@code gtyp} for a gauge type. */
  static int ofSeveral(String word, List<String> full) {
    StringBuilder initials = new StringBuilder();
    full.forEach(each -> initials.append(each.charAt(0)));
    if (word.contentEquals(initials)) {
      return SKELETON;
    }
    String joined = String.join("", full);
    boolean letters = word.length() < joined.length() && isWithin(word, joined);
    return letters && isWithin(initials.toString(), word) ? LETTERS : 0;
  }

  /** Whether its letters come in the other one in this order, the first one in front. */
  private static boolean isWithin(String word, String full) {
    int at = 0;
    for (int i = 0; i < full.length() && at < word.length(); i++) {
      if (full.charAt(i) == word.charAt(at)) {
        at++;
      }
    }
    return at == word.length() && word.charAt(0) == full.charAt(0);
  }
}
