package io.lantrel.check.kinds;

import io.lantrel.check.kinds.conditions.ConditionMissesTable;
import io.lantrel.check.kinds.conditions.DayOfMoment;
import io.lantrel.check.kinds.conditions.LooseOr;
import io.lantrel.check.kinds.conditions.MirroredPairs;
import io.lantrel.check.kinds.conditions.MixedAndOr;
import io.lantrel.check.kinds.conditions.NaturalSurprise;
import io.lantrel.check.kinds.conditions.NotAReference;
import io.lantrel.check.kinds.conditions.NullComparison;
import io.lantrel.check.kinds.conditions.OpenEnd;
import io.lantrel.check.kinds.conditions.OtherRole;
import io.lantrel.check.kinds.conditions.PartOfGroup;
import io.lantrel.check.kinds.conditions.PartialKey;
import io.lantrel.check.kinds.conditions.ReferenceBySign;
import io.lantrel.check.kinds.conditions.ReferenceOrElse;
import io.lantrel.check.kinds.conditions.ReversedSelfJoin;
import io.lantrel.check.kinds.conditions.SameForEveryRow;
import io.lantrel.check.kinds.conditions.SelfMatch;
import io.lantrel.check.kinds.conditions.TotalAsKey;
import io.lantrel.check.kinds.conditions.TypeMismatch;
import io.lantrel.check.kinds.conditions.UnequalToSome;
import io.lantrel.check.kinds.conditions.WildcardOutsideLike;
import io.lantrel.check.kinds.hierarchies.EndlessRecursion;
import io.lantrel.check.kinds.hierarchies.HierarchyCutShort;
import io.lantrel.check.kinds.hierarchies.ReversedRecursion;
import io.lantrel.check.kinds.joins.CrossProduct;
import io.lantrel.check.kinds.joins.CrossedBranches;
import io.lantrel.check.kinds.joins.IdleTable;
import io.lantrel.check.kinds.joins.LateralAlone;
import io.lantrel.check.kinds.joins.LateralLosesRows;
import io.lantrel.check.kinds.joins.NeverAPartner;
import io.lantrel.check.kinds.joins.NeverARow;
import io.lantrel.check.kinds.joins.RowsRepeated;
import io.lantrel.check.kinds.joins.RowsWithoutPartner;
import io.lantrel.check.kinds.joins.SameJoinTwice;
import io.lantrel.check.kinds.names.AliasOfOtherTable;
import io.lantrel.check.kinds.names.AmbiguousColumn;
import io.lantrel.check.kinds.names.HiddenByAlias;
import io.lantrel.check.kinds.names.NotVisibleYet;
import io.lantrel.check.kinds.names.RepeatedAlias;
import io.lantrel.check.kinds.names.RepeatedLabel;
import io.lantrel.check.kinds.names.UnknownColumn;
import io.lantrel.check.kinds.names.UnknownTable;
import io.lantrel.check.kinds.names.UnqualifiedColumn;
import io.lantrel.check.kinds.names.VagueAlias;
import io.lantrel.check.kinds.order.UnorderedDistinctOn;
import io.lantrel.check.kinds.order.UnorderedLimit;
import io.lantrel.check.kinds.order.UnorderedWindow;
import io.lantrel.check.kinds.order.UnstableFirst;
import io.lantrel.check.kinds.order.UnstableNumber;
import io.lantrel.check.kinds.order.UnstableOrder;
import io.lantrel.check.kinds.outer.CancelledByHaving;
import io.lantrel.check.kinds.outer.CancelledForSome;
import io.lantrel.check.kinds.outer.CancelledInside;
import io.lantrel.check.kinds.outer.FilterOnKeptSide;
import io.lantrel.check.kinds.outer.NeedlessOuterJoin;
import io.lantrel.check.kinds.outer.NullSwallows;
import io.lantrel.check.kinds.outer.OuterChainBroken;
import io.lantrel.check.kinds.outer.OuterJoinCancelled;
import io.lantrel.check.kinds.outer.PartnerTestOnNullable;
import io.lantrel.check.kinds.subqueries.AccidentalOuterColumn;
import io.lantrel.check.kinds.subqueries.ExistsOfTotal;
import io.lantrel.check.kinds.subqueries.NotInNull;
import io.lantrel.check.kinds.subqueries.SubqueryManyRows;
import io.lantrel.check.kinds.subqueries.SwappedColumns;
import io.lantrel.check.kinds.subqueries.UncorrelatedExists;
import io.lantrel.check.kinds.subqueries.UnionRemovesRows;
import io.lantrel.check.kinds.totals.AggregateInWhere;
import io.lantrel.check.kinds.totals.CountIgnoresCondition;
import io.lantrel.check.kinds.totals.CountOfMissing;
import io.lantrel.check.kinds.totals.GroupedByName;
import io.lantrel.check.kinds.totals.GroupsOfOne;
import io.lantrel.check.kinds.totals.HavingWithoutAggregate;
import io.lantrel.check.kinds.totals.MissingMeetsCondition;
import io.lantrel.check.kinds.totals.NullTotal;
import io.lantrel.check.kinds.totals.PickedColumn;
import io.lantrel.check.kinds.totals.RepeatedInTotal;
import io.lantrel.check.kinds.totals.RepeatedInWindow;
import io.lantrel.check.kinds.totals.RepeatedWithin;
import io.lantrel.check.kinds.totals.SizeOfGroup;
import io.lantrel.check.kinds.totals.UngroupedColumn;
import io.lantrel.check.kinds.totals.WholeDivision;
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
          new OpenEnd(),
          new WildcardOutsideLike(),
          new SameForEveryRow(),
          new UnequalToSome(),
          new LooseOr(),
          new ReferenceOrElse(),
          new MixedAndOr(),
          new NaturalSurprise(),
          new ConditionMissesTable(),
          new CrossProduct(),
          new LateralAlone(),
          new AccidentalOuterColumn(),
          new SelfMatch(),
          new NotAReference(),
          new TotalAsKey(),
          new ReferenceBySign(),
          new PartialKey(),
          new PartOfGroup(),
          new TypeMismatch(),
          new DayOfMoment(),
          new ReversedSelfJoin(),
          new OtherRole(),
          new MirroredPairs(),
          new OuterJoinCancelled(),
          new CancelledInside(),
          new CancelledByHaving(),
          new CancelledForSome(),
          new OuterChainBroken(),
          new FilterOnKeptSide(),
          new PartnerTestOnNullable(),
          new NeedlessOuterJoin(),
          new NullSwallows(),
          new SameJoinTwice(),
          new RowsWithoutPartner(),
          new LateralLosesRows(),
          new RepeatedInTotal(),
          new RepeatedWithin(),
          new RepeatedInWindow(),
          new CrossedBranches(),
          new CountOfMissing(),
          new MissingMeetsCondition(),
          new CountIgnoresCondition(),
          new GroupsOfOne(),
          new NullTotal(),
          new GroupedByName(),
          new HavingWithoutAggregate(),
          new SizeOfGroup(),
          new WholeDivision(),
          new UncorrelatedExists(),
          new NotInNull(),
          new ExistsOfTotal(),
          new SubqueryManyRows(),
          new SwappedColumns(),
          new UnionRemovesRows(),
          new UnorderedDistinctOn(),
          new UnorderedLimit(),
          new UnorderedWindow(),
          new UnstableFirst(),
          new UnstableNumber(),
          new UnstableOrder(),
          new IdleTable(),
          new RowsRepeated(),
          new ReversedRecursion(),
          new HierarchyCutShort(),
          new RepeatedLabel(),
          new AliasOfOtherTable(),
          new VagueAlias(),
          new UnqualifiedColumn(),
          new NeverAPartner(),
          new NeverARow());

  /** What must be known before a query is run, since it might not end. */
  public static final List<Check> BEFORE_RUNNING = List.of(new EndlessRecursion());
}
