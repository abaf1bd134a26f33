package io.lantrel.check.kinds;

import io.lantrel.check.suspicion.Check;
import java.util.List;

/** The checks in the order in which they are asked: what comes first takes the blame. */
public final class AllChecks {

  private AllChecks() {}

  /** Those of names, which need no rows. Behind an error of one nothing else is looked at. */
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

  /** Those of joins and totals, which ask for rows; some of them can do without. */
  public static final List<Check> OF_JOINS =
      List.of(
          new CrossProduct(),
          new NotAReference(),
          new OuterJoinCancelled(),
          new RowsWithoutPartner(),
          new RepeatedInTotal());
}
