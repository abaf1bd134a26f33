package io.lantrel.survey;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.survey.Survey.HierarchySurvey;
import io.lantrel.survey.Survey.Violation;
import io.lantrel.survey.Survey.ViolationKind;
import io.lantrel.survey.walk.HierarchyWalk;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A table seen as a hierarchy over one of its references to itself. */
final class Hierarchies {

  /** So many rows that no root reaches are looked at to find a circle among them. */
  private static final int LOOKED_AT = 1_000;

  private final Reference reference;
  private final Table table;
  private final HierarchyWalks walks;

  Hierarchies(Reference reference, Catalog catalog, HierarchyWalks walks) {
    this.reference = reference;
    this.table = reference.from();
    this.walks = walks;
  }

  HierarchySurvey survey(long rows) {
    HierarchyWalk.Levels levels = walks.levels(reference);
    long inCycles = Math.max(0, rows - levels.reached() - levels.hanging());
    List<NamedRow> cycle =
        inCycles == 0 ? List.of() : cycle(walks.along(reference).unreached(LOOKED_AT));
    return new HierarchySurvey(
        reference, levels.roots(), levels.levels(), inCycles, levels.hanging(), cycle);
  }

  /** From any of these rows upwards: what comes twice closes a circle. */
  private List<NamedRow> cycle(Rows unreached) {
    int width = reference.toColumns().size();
    Map<List<@Nullable String>, List<@Nullable String>> above = new HashMap<>();
    List<List<@Nullable String>> keys = new ArrayList<>();
    for (List<@Nullable Object> row : unreached.rows()) {
      List<@Nullable String> key = texts(row.subList(0, width));
      keys.add(key);
      above.put(key, texts(row.subList(width, 2 * width)));
    }
    for (List<@Nullable String> start : keys) {
      Set<List<@Nullable String>> path = new LinkedHashSet<>();
      List<@Nullable String> at = start;
      while (at != null && above.containsKey(at) && path.add(at)) {
        at = above.get(at);
      }
      if (at != null && path.contains(at)) {
        List<List<@Nullable String>> all = new ArrayList<>(path);
        return all.subList(all.indexOf(at), all.size()).stream()
            .map(key -> new NamedRow(table.name(), reference.toColumns(), key))
            .toList();
      }
    }
    return List.of();
  }

  private static List<@Nullable String> texts(List<@Nullable Object> values) {
    List<@Nullable String> texts = new ArrayList<>();
    for (Object value : values) {
      texts.add(value == null ? null : ValueText.of(value));
    }
    return texts;
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
