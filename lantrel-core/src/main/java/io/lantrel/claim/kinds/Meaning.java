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
}
