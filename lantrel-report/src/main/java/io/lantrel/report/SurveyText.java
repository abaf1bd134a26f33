package io.lantrel.report;

import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.probe.NamedRow;
import io.lantrel.probe.Words;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.survey.Survey.TableSurvey;
import io.lantrel.survey.Survey.Violation;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/** The tables, their references, and what violates them. */
final class SurveyText {

  private final Style style;

  SurveyText(Style style) {
    this.style = style;
  }

  static String count(long count, String noun) {
    return Words.count(count, noun);
  }

  String write(Survey survey) {
    List<String> lines = new ArrayList<>();
    lines.add(style.strong("Tables"));
    lines.addAll(tables(survey));
    if (!survey.references().isEmpty()) {
      lines.add("");
      lines.add(
          style.strong("References")
              + style.faint("  rows of the left that name one of the right"));
      lines.addAll(references(survey));
    }
    lines.add("");
    lines.addAll(violations(survey));
    return String.join("\n", lines) + "\n";
  }

  private List<String> tables(Survey survey) {
    List<List<String>> rows = new ArrayList<>();
    rows.add(head("table", "rows", "key", "refers to"));
    for (TableSurvey table : survey.tables()) {
      rows.add(
          List.of(
              table.table().name(),
              String.valueOf(table.rows()),
              table.table().key().map(SurveyText::columns).orElse("none"),
              targets(survey, table)));
    }
    return Layout.table(rows, List.of(false, true, false, false), 2);
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
        .filter(reference -> reference.fromTable().equals(table.table().name()))
        .map(reference -> reference.isSelfReference() ? "itself" : reference.toTable())
        .distinct()
        .collect(Collectors.joining(", "));
  }

  private List<String> references(Survey survey) {
    List<List<String>> rows = new ArrayList<>();
    rows.add(head("reference", "found", "empty", "to nothing"));
    for (ReferenceSurvey each : survey.references()) {
      Reference reference = each.reference();
      rows.add(
          List.of(
              reference.words(),
              String.valueOf(each.found()),
              each.empty() == 0 ? "" : String.valueOf(each.empty()),
              each.toNothing() == 0 ? "" : style.gone(String.valueOf(each.toNothing()))));
    }
    return Layout.table(rows, List.of(false, true, true, true), 2);
  }

  private List<String> violations(Survey survey) {
    List<String> lines = new ArrayList<>();
    for (TableSurvey table : survey.tables()) {
      for (Violation violation : table.violations()) {
        lines.addAll(
            violation(
                violation.kind().id(),
                table.table().name()
                    + " ("
                    + String.join(", ", violation.columns())
                    + "): "
                    + count(violation.rows(), "row"),
                names(violation.examples())));
      }
    }
    for (ReferenceSurvey reference : survey.references()) {
      if (reference.toNothing() > 0) {
        lines.addAll(
            violation(
                "broken-reference",
                reference.reference().words() + ": " + count(reference.toNothing(), "row"),
                names(reference)));
      }
    }
    if (lines.isEmpty()) {
      return List.of("The rows keep every key and reference that the schema declares.");
    }
    lines.add(0, style.strong("Rows against the schema"));
    return lines;
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
    return Layout.labelled(style.gone(kind), what + ": " + rows, 2, 18, style.width());
  }
}
