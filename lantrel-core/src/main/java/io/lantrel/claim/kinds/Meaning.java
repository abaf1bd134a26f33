package io.lantrel.claim.kinds;

import io.lantrel.resolve.Resolution;

/** What a claim means for one query. */
public interface Meaning {

  /**
   * Whether it is so for all data that keep the constraints of the catalog that the query is
   * resolved against.
   *
   * @param resolution of the query with the columns that claims need besides
   */
  boolean follows(Resolution resolution);

  /** How it is looked at. */
  Inquiry inquiry(ResultRows rows);

  /** What a part of the rows can show of it. */
  default Shown shownByPart() {
    return Shown.NOTHING;
  }

  /** What a part of a query's rows can show. */
  enum Shown {
    /** Only all rows tell. */
    NOTHING,
    /** What breaks it there breaks it in the whole. */
    BREACH,
    /** If it is so there, it is so in the whole. */
    TRUTH
  }
}
