package io.lantrel.check.kinds;

import io.lantrel.check.Check;
import java.util.List;

/** The checks in the order in which they are asked: what comes first takes the blame. */
public final class AllChecks {

  private AllChecks() {}

  /** Those that need no rows. If one of them finds something, the rest is not looked at. */
  public static final List<Check> OF_NAMES =
      List.of(
          new UnknownTable(),
          new UnknownColumn(),
          new AmbiguousColumn(),
          new HiddenByAlias(),
          new RepeatedAlias(),
          new NotVisibleYet(),
          new UngroupedColumn(),
          new AggregateInWhere());

  /** Those that ask the database, and never more than for the rows of one side of a join. */
  public static final List<Check> OF_SLOW_QUERIES = List.of(new CrossProduct());

  /** Those that ask the database. */
  public static final List<Check> OF_ROWS =
      List.of(
          new CrossProduct(),
          new NotAReference(),
          new OuterJoinCancelled(),
          new RowsWithoutPartner(),
          new RepeatedInTotal());
}
