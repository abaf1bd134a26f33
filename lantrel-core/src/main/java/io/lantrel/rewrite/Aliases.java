package io.lantrel.rewrite;

import io.lantrel.resolve.TableUse;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;

/** Aliases that nothing in a query goes by yet; each is given once. */
final class Aliases {

  private final Reading reading;
  private final Set<String> given = new HashSet<>();

  Aliases(Reading reading) {
    this.reading = reading;
  }

  /** This one, or with a number behind it; without signs that would need quotes. */
  String free(String wanted) {
    String plain = wanted.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{N}_]", "");
    String name = plain.matches("[a-z].*") ? plain : "t" + plain.replaceAll("[^a-z0-9_]", "");
    if (isFree(name)) {
      return given(name);
    }
    int number = 2;
    while (!isFree(name + number)) {
      number++;
    }
    return given(name + number);
  }

  /** One for a use whose own name is also taken outside: {@code other_river}. */
  String apart(TableUse use) {
    return free("other_" + use.name());
  }

  /** The first letters of the words of a name, or as many letters as are needed. */
  String initials(String name) {
    String lower = name.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9_ ]", "");
    String initials = lower.replaceAll("(?<=[\\p{L}\\p{N}])[\\p{L}\\p{N}]+|[^\\p{L}\\p{N}]", "");
    if (!initials.isEmpty() && isFree(initials)) {
      return given(initials);
    }
    String letters = lower.replaceAll("[^\\p{L}\\p{N}]", "");
    for (int length = 1; length <= Math.min(3, letters.length()); length++) {
      if (isFree(letters.substring(0, length))) {
        return given(letters.substring(0, length));
      }
    }
    return free(initials.isEmpty() ? "t" : initials);
  }

  private String given(String alias) {
    given.add(alias);
    return alias;
  }

  private boolean isFree(String alias) {
    return !given.contains(alias)
        && !reading.isTaken(alias)
        && reading.dialect().write(alias).equals(alias);
  }
}
