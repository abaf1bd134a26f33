package io.lantrel.words;

import java.util.List;
import java.util.Locale;

/** How figures and lists are put into sentences. */
public final class Words {

  private Words() {}

  /** {@code 1 row}, {@code 14 rows}. */
  public static String rows(long count) {
    return count(count, "row");
  }

  /** {@code 1,400}. */
  public static String number(long number) {
    return String.format(Locale.ROOT, "%,d", number);
  }

  /** A number and its noun. */
  public static String count(long count, String noun) {
    return number(count) + " " + (count == 1 ? noun : plural(noun));
  }

  /** The words of a heading or another name, small: {@code last_on} and {@code lastOn} have two. */
  public static List<String> ofName(String name) {
    return List.of(
        name.replaceAll("(?<=\\p{Ll})(?=\\p{Lu})", "_")
            .toLowerCase(Locale.ROOT)
            .split("[^\\p{L}]+", -1));
  }

  /** {@code a station}, {@code an order}. */
  public static String one(String noun) {
    boolean vowel = !noun.isEmpty() && "aeiou".indexOf(Character.toLowerCase(noun.charAt(0))) >= 0;
    return (vowel ? "an " : "a ") + noun;
  }

  /** The plural of what a row is called, for sentences: {@code stations}, {@code rows of q}. */
  public static String plural(String noun) {
    if (noun.startsWith("row of ")) {
      return "rows" + noun.substring("row".length());
    }
    if (noun.endsWith("s")) {
      return noun;
    }
    if (noun.matches(".*(x|z|ch|sh)")) {
      return noun + "es";
    }
    boolean consonantY = noun.matches(".*[^aeiou]y");
    return consonantY ? noun.substring(0, noun.length() - 1) + "ies" : noun + "s";
  }

  /** {@code a, b and c}. */
  public static String list(List<String> items) {
    int last = items.size() - 1;
    return last < 1
        ? String.join("", items)
        : String.join(", ", items.subList(0, last)) + " and " + items.get(last);
  }

  /** A value among words: in quotes if it is empty, or has blanks at an end. */
  public static String shown(String value) {
    return value.isEmpty() || !value.equals(value.strip()) ? "'" + value + "'" : value;
  }

  /** A keyword in the user's way of writing keywords. */
  public static String like(String sample, String keyword) {
    return sample.equals(sample.toLowerCase(Locale.ROOT))
        ? keyword.toLowerCase(Locale.ROOT)
        : keyword;
  }
}
