package io.lantrel.check.kinds;

import io.lantrel.check.kinds.conditions.*;
import io.lantrel.check.kinds.hierarchies.*;
import io.lantrel.check.kinds.joins.*;
import io.lantrel.check.kinds.names.*;
import io.lantrel.check.kinds.order.*;
import io.lantrel.check.kinds.outer.*;
import io.lantrel.check.kinds.subqueries.*;
import io.lantrel.check.kinds.totals.*;
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
          new PickedColumn(),
          new NullComparison(),
          new WildcardOutsideLike(),
          new SameForEveryRow(),
          new LooseOr(),
          new MixedAndOr(),
          new NaturalSurprise(),
          new ConditionMissesTable(),
          new CrossProduct(),
          new AccidentalOuterColumn(),
          new SelfMatch(),
          new NotAReference(),
          new PartialKey(),
          new TypeMismatch(),
          new ReversedSelfJoin(),
          new MirroredPairs(),
          new OuterJoinCancelled(),
          new CancelledInside(),
          new OuterChainBroken(),
          new FilterOnKeptSide(),
          new PartnerTestOnNullable(),
          new NeedlessOuterJoin(),
          new NullSwallows(),
          new SameJoinTwice(),
          new RowsWithoutPartner(),
          new RepeatedInTotal(),
          new RepeatedInWindow(),
          new CrossedBranches(),
          new CountOfMissing(),
          new NullTotal(),
          new GroupedByName(),
          new HavingWithoutAggregate(),
          new UncorrelatedExists(),
          new NotInNull(),
          new SubqueryManyRows(),
          new UnionRemovesRows(),
          new UnorderedLimit(),
          new UnstableOrder(),
          new IdleTable(),
          new RowsRepeated(),
          new ReversedRecursion(),
          new HierarchyCutShort(),
          new RepeatedLabel(),
          new AliasOfOtherTable(),
          new VagueAlias(),
          new UnqualifiedColumn(),
          new NeverARow());

  /** What must be known before a query is run, since it might not end. */
  public static final List<Check> BEFORE_RUNNING = List.of(new EndlessRecursion());
}
