package io.lantrel.sample.mask;

import io.lantrel.sample.SampleWish.Likeness;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;

/** Texts of small letters that stand for others; blanks at the ends stay. */
final class OtherTexts {

  private static final int LETTERS = 26;

  private final Replacements wish;
  private final Set<String> taken = new HashSet<>();

  OtherTexts(Replacements wish) {
    this.wish = wish;
  }

  Map<String, String> of(Set<String> values) {
    Set<String> cores = new TreeSet<>();
    for (String each : values) {
      if (!each.isBlank()) {
        cores.add(each.strip());
        taken.add(each.strip().toLowerCase(Locale.ROOT));
      }
    }
    int width = Math.min(mostLetters(), width(cores.size()));
    Map<String, String> replaced = new HashMap<>();
    Map<Integer, Long> next = new HashMap<>();
    for (String each : wish.inTurn(new ArrayList<>(cores))) {
      boolean asLong = wish.keeps(Likeness.LENGTH);
      replaced.put(each, asLong ? ofLength(each, next, width) : code(next, width));
    }
    Map<String, String> others = new HashMap<>();
    for (String each : values) {
      String core = each.strip();
      int start = each.indexOf(core);
      String other = each.isBlank() ? core : Objects.requireNonNull(replaced.get(core));
      others.put(each, each.substring(0, start) + other + each.substring(start + core.length()));
    }
    return others;
  }

  /** How many letters are enough for so many texts, with some to spare for those that are taken. */
  private static int width(int number) {
    int width = 1;
    for (long room = LETTERS; room < 2L * number + LETTERS; room *= LETTERS) {
      width++;
    }
    return width;
  }

  /** In an order, the first letters count and the others fill up; else each length is by itself. */
  private String ofLength(String text, Map<Integer, Long> next, int width) {
    int length = text.codePointCount(0, text.length());
    if (!wish.keeps(Likeness.ORDER)) {
      return code(next, length);
    }
    if (length < width) {
      throw wish.tooFew("texts of " + length + (length == 1 ? " letter" : " letters"));
    }
    return code(next, width) + "a".repeat(length - width);
  }

  /** The next text of so many letters that is not taken. */
  private String code(Map<Integer, Long> next, int width) {
    while (true) {
      long number = next.merge(width, 1L, Long::sum) - 1;
      String text = letters(number, width);
      if (text.length() > width) {
        throw wish.tooFew("texts of " + width + (width == 1 ? " letter" : " letters"));
      }
      if (taken.add(text)) {
        return text;
      }
    }
  }

  private static String letters(long number, int width) {
    StringBuilder text = new StringBuilder();
    long left = number;
    while (left > 0 || text.length() < width) {
      text.insert(0, (char) ('a' + left % LETTERS));
      left /= LETTERS;
    }
    return text.toString();
  }

  private int mostLetters() {
    return wish.columns().stream()
        .filter(each -> !each.type().numbers().isEmpty())
        .mapToInt(each -> each.type().numbers().get(0))
        .min()
        .orElse(Integer.MAX_VALUE);
  }
}
