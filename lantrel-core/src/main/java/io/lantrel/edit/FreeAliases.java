package io.lantrel.edit;

import io.lantrel.sql.Dialect;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import java.util.function.Predicate;

/** Aliases that nothing goes by yet, and that need no quotes; each is given once. */
public final class FreeAliases {

  /** So many first letters still say which table is meant; more are a name and no alias. */
  private static final int LETTERS = 3;

  private final Dialect dialect;
  private final Predicate<String> taken;
  private final Set<String> given = new HashSet<>();

  /**
   * @param taken whether something goes by a name, in small letters
   */
  public FreeAliases(Dialect dialect, Predicate<String> taken) {
    this.dialect = dialect;
    this.taken = taken;
  }

  /** The initials of a name of several words, else as few first letters as are free. */
  public String shortFor(String name) {
    String lower = name.toLowerCase(Locale.ROOT);
    String initials = lower.replaceAll("(?<=[\\p{L}\\p{N}])[\\p{L}\\p{N}]+|[^\\p{L}\\p{N}]", "");
    if (initials.length() > 1 && isFree(initials)) {
      return give(initials);
    }
    String letters = lower.replaceAll("[^\\p{L}\\p{N}]", "");
    for (int length = 1; length <= Math.min(LETTERS, letters.length()); length++) {
      if (isFree(letters.substring(0, length))) {
        return give(letters.substring(0, length));
      }
    }
    return like(initials);
  }

  /** This one, or with a number behind it; without signs that would need quotes. */
  public String like(String wanted) {
    String plain = wanted.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{N}_]", "");
    String name =
        plain.matches("[a-z].*") || isFree(plain)
            ? plain
            : "t" + plain.replaceAll("[^a-z0-9_]", "");
    if (isFree(name)) {
      return give(name);
    }
    int number = 2;
    while (!isFree(name + number)) {
      number++;
    }
    return give(name + number);
  }

  /** Whether it can be given: nothing goes by it, and it needs no quotes. */
  public boolean isFree(String alias) {
    return !alias.isEmpty()
        && !given.contains(alias)
        && dialect.write(alias).equals(alias)
        && !taken.test(alias);
  }

  /** Whether it was given already. */
  public boolean isGiven(String alias) {
    return given.contains(alias);
  }

  /** Gives this one. */
  public String give(String alias) {
    given.add(alias);
    return alias;
  }
}
