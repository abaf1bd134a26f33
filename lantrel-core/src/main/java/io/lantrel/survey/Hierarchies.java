package io.lantrel.survey;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.engine.NamedRow;
import io.lantrel.survey.Survey.HierarchySurvey;
import io.lantrel.survey.Survey.Violation;
import io.lantrel.survey.Survey.ViolationKind;
import io.lantrel.survey.walk.Circles;
import io.lantrel.survey.walk.HierarchyWalk;
import java.util.ArrayList;
import java.util.List;

/** A table seen as a hierarchy over one of its references to itself. */
final class Hierarchies {

  /** So many rows that no root reaches are looked at to find a circle among them. */
  private static final int LOOKED_AT = 1_000;

  private final Reference reference;
  private final HierarchyWalks walks;

  Hierarchies(Reference reference, Catalog catalog, HierarchyWalks walks) {
    this.reference = reference;
    this.walks = walks;
  }

  HierarchySurvey survey(long rows) {
    HierarchyWalk.Levels levels = walks.levels(reference);
    long inCycles = Math.max(0, rows - levels.reached() - levels.hanging());
    List<NamedRow> cycle =
        inCycles == 0
            ? List.of()
            : new Circles(walks.along(reference).unreached(LOOKED_AT), reference)
                .all().stream().findFirst().orElse(List.of());
    return new HierarchySurvey(
        reference, levels.roots(), levels.levels(), inCycles, levels.hanging(), cycle);
  }

  /** What no hierarchy should have, or what a query over one has to know. */
  static List<Violation> violations(HierarchySurvey hierarchy, long rows) {
    List<Violation> violations = new ArrayList<>();
    List<String> columns = hierarchy.reference().fromColumns();
    if (hierarchy.inCycles() > 0) {
      violations.add(
          new Violation(
              ViolationKind.HIERARCHY_CYCLE, columns, hierarchy.inCycles(), hierarchy.cycle()));
    }
    if (hierarchy.roots() > 1) {
      violations.add(
          new Violation(ViolationKind.SEVERAL_ROOTS, columns, hierarchy.roots(), List.of()));
    }
    if (hierarchy.roots() == 0 && rows > 0) {
      violations.add(new Violation(ViolationKind.NO_ROOT, columns, rows, List.of()));
    }
    return violations;
  }
}
