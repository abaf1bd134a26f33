package io.lantrel.claim;

/** What is known of a claim, the strongest first. */
public enum Verdict {
  /** It follows from the query for all data that keep some constraints, which hold here. */
  PROVEN("proven"),
  /** It is so for the rows at hand, and not proven. */
  HOLDS("holds"),
  /** There are rows that break it. */
  BROKEN("broken"),
  /** It could not be found out. */
  UNDECIDED("undecided");

  private final String word;

  Verdict(String word) {
    this.word = word;
  }

  /** What a claim is that two results are the same, by their comparison. */
  public static Verdict of(io.lantrel.compare.Verdict comparison) {
    return switch (comparison) {
      case SAME -> PROVEN;
      case SAME_HERE -> HOLDS;
      case DIFFERENT -> BROKEN;
      case UNDECIDED -> UNDECIDED;
    };
  }

  /** In a word. */
  public String word() {
    return word;
  }

  /** Whether the claim is met. */
  public boolean isMet() {
    return this == PROVEN || this == HOLDS;
  }
}
