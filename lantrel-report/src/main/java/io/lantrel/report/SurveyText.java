package io.lantrel.report;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.engine.NamedRow;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.survey.Survey.Shape;
import io.lantrel.survey.Survey.TableSurvey;
import io.lantrel.survey.Survey.Violation;
import io.lantrel.survey.Survey.ViolationKind;
import io.lantrel.survey.ViewSurvey;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** The tables, their references, and what violates them. */
final class SurveyText {

  private final Style style;

  SurveyText(Style style) {
    this.style = style;
  }

  String write(Survey survey) {
    List<String> lines = new ArrayList<>();
    int all = survey.tables().size() + survey.notShown();
    lines.add(
        style.strong("Tables")
            + (survey.notShown() == 0
                ? ""
                : style.faint("  " + survey.tables().size() + " of " + all)));
    lines.addAll(tables(survey));
    if (!survey.views().isEmpty()) {
      lines.add("");
      lines.add(style.strong("Views") + style.faint("  their rows are not looked at"));
      lines.addAll(views(survey));
    }
    references(survey, lines);
    if (!survey.references().isEmpty() && survey.tables().size() <= TablePicture.MOST) {
      lines.add("");
      lines.add(style.strong("Picture") + style.faint("  below each table those that refer to it"));
      lines.addAll(new TablePicture(survey, style).lines());
    }
    lines.add("");
    lines.addAll(violations(survey));
    return String.join("\n", lines) + "\n";
  }

  /** Each table with its columns and some of its rows. */
  String rows(Survey survey) {
    List<String> lines = new ArrayList<>();
    for (TableSurvey table : survey.tables()) {
      lines.add("");
      lines.addAll(new TableText(style).write(table, survey));
    }
    return String.join("\n", lines) + "\n";
  }

  private List<String> tables(Survey survey) {
    List<List<String>> rows = new ArrayList<>();
    rows.add(head("table", "rows", "key", "what it is", "refers to"));
    for (TableSurvey table : survey.tables()) {
      rows.add(
          List.of(
              table.table().name(),
              String.format(Locale.ROOT, "%,d", table.rows()),
              key(table),
              shapes(table),
              targets(survey, table)));
    }
    return Layout.table(rows, List.of(false, true, false, false, false), 2);
  }

  private List<String> views(Survey survey) {
    List<List<String>> rows = new ArrayList<>();
    rows.add(head("view", "over the tables", "by way of"));
    for (ViewSurvey each : survey.views()) {
      rows.add(
          List.of(
              each.view().name(),
              each.isRead()
                  ? each.tables().stream().map(Table::name).collect(Collectors.joining(", "))
                  : "not known: its query was not read",
              each.views().stream().map(View::name).collect(Collectors.joining(", "))));
    }
    return Layout.table(rows, List.of(false, false, false), 2);
  }

  static String key(TableSurvey table) {
    return table
        .key()
        .map(each -> columns(each) + (table.isKeyDeclared() ? "" : " (observed)"))
        .orElse("none");
  }

  private static String shapes(TableSurvey table) {
    return Stream.of(Shape.values())
        .filter(table.shapes()::contains)
        .map(
            shape ->
                shape == Shape.HIERARCHY
                    ? table.hierarchies().stream()
                        .map(each -> shape.id() + ", " + Words.count(each.levels(), "level"))
                        .collect(Collectors.joining("; "))
                    : shape.id())
        .collect(Collectors.joining("; "));
  }

  private List<String> head(String... names) {
    return List.of(names).stream().map(style::faint).toList();
  }

  private static String columns(Key key) {
    return String.join(", ", key.columns());
  }

  private static String targets(Survey survey, TableSurvey table) {
    return survey.references().stream()
        .map(ReferenceSurvey::reference)
        .filter(reference -> reference.basis() != Basis.POSSIBLE)
        .filter(reference -> reference.from().name().equals(table.table().name()))
        .map(reference -> reference.isSelfReference() ? "itself" : reference.to().name())
        .distinct()
        .collect(Collectors.joining(", "));
  }

  private void references(Survey survey, List<String> lines) {
    Map<Basis, String> titles = new EnumMap<>(Basis.class);
    titles.put(Basis.DECLARED, "rows of the left that name one of the right");
    titles.put(Basis.OBSERVED, "not in the schema; the rows and the names show them");
    titles.put(Basis.POSSIBLE, "the values would fit, and little else speaks for them");
    for (Basis basis : Basis.values()) {
      List<ReferenceSurvey> some =
          survey.references().stream().filter(each -> each.reference().basis() == basis).toList();
      if (!some.isEmpty()) {
        lines.add("");
        String word = basis.name().toLowerCase(Locale.ROOT);
        lines.add(style.strong("References, " + word) + style.faint("  " + titles.get(basis)));
        lines.addAll(references(some, basis));
      }
    }
  }

  private List<String> references(List<ReferenceSurvey> some, Basis basis) {
    List<List<String>> rows = new ArrayList<>();
    String last = basis == Basis.DECLARED ? "" : "why";
    rows.add(head("reference", "found", "empty", "to nothing", last));
    for (ReferenceSurvey each : some) {
      rows.add(
          List.of(
              each.reference().words(),
              String.format(Locale.ROOT, "%,d", each.found()),
              each.empty() == 0 ? "" : String.format(Locale.ROOT, "%,d", each.empty()),
              each.toNothing() == 0
                  ? ""
                  : style.gone(String.format(Locale.ROOT, "%,d", each.toNothing())),
              String.join("; ", each.reasons())));
    }
    return Layout.table(rows, List.of(false, true, true, true, false), 2);
  }

  private List<String> violations(Survey survey) {
    List<String> lines = new ArrayList<>();
    for (TableSurvey table : survey.tables()) {
      for (Violation violation : table.violations()) {
        String what =
            table.table().name()
                + " ("
                + String.join(", ", violation.columns())
                + "): "
                + words(violation);
        lines.addAll(violation(violation.kind().id(), what, names(violation.examples())));
      }
    }
    for (ReferenceSurvey reference : survey.references()) {
      if (reference.toNothing() > 0 && reference.reference().basis() != Basis.POSSIBLE) {
        lines.addAll(
            violation(
                "broken-reference",
                reference.reference().words() + ": " + Words.count(reference.toNothing(), "row"),
                names(reference)));
      }
    }
    if (lines.isEmpty()) {
      return List.of(
          "The rows keep every key and reference"
              + (survey.notShown() == 0 ? "." : " of these tables."));
    }
    lines.add(0, style.strong("What to know of the rows"));
    return lines;
  }

  private static String words(Violation violation) {
    String rows = Words.count(violation.rows(), "row");
    return switch (violation.kind()) {
      case REPEATED_KEY, NULL_IN_KEY, NULL_IN_COLUMN -> rows;
      case HIERARCHY_CYCLE -> rows + " in a circle, or below one";
      case SEVERAL_ROOTS -> violation.rows() + " rows are at the top";
      case NO_ROOT -> "no row is at the top";
    };
  }

  private static String names(List<NamedRow> rows) {
    return rows.stream().map(NamedRow::words).collect(Collectors.joining(", "));
  }

  /** The referring rows, each with the value that is nobody's key. */
  private static String names(ReferenceSurvey reference) {
    List<String> from = reference.reference().fromColumns();
    List<String> names = new ArrayList<>();
    for (NamedRow row : reference.examples()) {
      int own = row.columns().size() - from.size();
      List<String> values = new ArrayList<>();
      for (int i = own; i < row.columns().size(); i++) {
        values.add(row.columns().get(i) + " " + row.values().get(i));
      }
      NamedRow name =
          new NamedRow(row.table(), row.columns().subList(0, own), row.values().subList(0, own));
      names.add(name.words() + " has " + String.join(", ", values));
    }
    return String.join(", ", names);
  }

  private List<String> violation(String kind, String what, String rows) {
    String all = rows.isEmpty() ? what : what + ": " + rows;
    boolean plain = kind.equals(ViolationKind.SEVERAL_ROOTS.id());
    return Layout.labelled(plain ? kind : style.gone(kind), all, 2, 18, style.width());
  }
}
