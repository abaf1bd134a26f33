package io.lantrel.resolve;

/** How many partners a row can have at a join step, by keys and references. */
public enum Multiplicity {
  EXACTLY_ONE("exactly one"),
  AT_MOST_ONE("at most one"),
  ANY_NUMBER("any number");

  private final String words;

  Multiplicity(String words) {
    this.words = words;
  }

  /** In words. */
  public String words() {
    return words;
  }

  /** Whether a row can never come more than once. */
  public boolean isSingle() {
    return this != ANY_NUMBER;
  }
}
