package io.lantrel.report;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.survey.Survey.TableSurvey;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * The tables as a tree of lines: below each table those that refer to it, with the columns by which
 * they do. A table that refers to several stands below each; what is below it is drawn once.
 */
final class TablePicture {

  /** More tables than these make no picture that anybody can take in. */
  static final int MOST = 20;

  private final Survey survey;
  private final Style style;
  private final List<Reference> references;
  private final Set<String> drawn = new HashSet<>();
  private final List<String> lines = new ArrayList<>();

  TablePicture(Survey survey, Style style) {
    this.survey = survey;
    this.style = style;
    this.references =
        survey.references().stream()
            .map(ReferenceSurvey::reference)
            .filter(each -> each.basis() != Basis.POSSIBLE)
            .filter(each -> isShown(each.from()) && isShown(each.to()))
            .toList();
  }

  private boolean isShown(Table table) {
    return survey.tables().stream().anyMatch(each -> each.table().equals(table));
  }

  List<String> lines() {
    for (TableSurvey table : survey.tables()) {
      if (above(table.table().name()).isEmpty()) {
        draw(table.table().name(), "", "", "");
      }
    }
    // Tables that refer to each other in a circle stand below nobody.
    for (TableSurvey table : survey.tables()) {
      if (!drawn.contains(table.table().name())) {
        draw(table.table().name(), "", "", "");
      }
    }
    return lines;
  }

  private List<Reference> above(String table) {
    return references.stream()
        .filter(each -> each.from().name().equals(table) && !each.isSelfReference())
        .toList();
  }

  private void draw(String table, String columns, String first, String further) {
    boolean again = !drawn.add(table);
    String self =
        references.stream()
            .filter(each -> each.isSelfReference() && each.from().name().equals(table))
            .map(each -> String.join(", ", each.fromColumns()))
            .collect(Collectors.joining("; "));
    lines.add(
        "  "
            + style.faint(first)
            + (again ? table : style.strong(table))
            + (columns.isEmpty() ? "" : style.faint("  by " + columns))
            + (self.isEmpty() || again ? "" : style.faint("  refers to itself by " + self))
            + (again && !below(table).isEmpty() ? style.faint("  as above") : ""));
    if (again) {
      return;
    }
    List<String> children = below(table);
    for (int i = 0; i < children.size(); i++) {
      boolean last = i == children.size() - 1;
      String child = children.get(i);
      String by =
          references.stream()
              .filter(each -> each.from().name().equals(child) && each.to().name().equals(table))
              .map(each -> String.join(" + ", each.fromColumns()))
              .collect(Collectors.joining(", "));
      draw(child, by, further + (last ? "└─ " : "├─ "), further + (last ? "   " : "│  "));
    }
  }

  private List<String> below(String table) {
    return survey.tables().stream()
        .map(each -> each.table().name())
        .filter(
            name ->
                references.stream()
                    .anyMatch(
                        each ->
                            each.from().name().equals(name)
                                && each.to().name().equals(table)
                                && !each.isSelfReference()))
        .toList();
  }
}
