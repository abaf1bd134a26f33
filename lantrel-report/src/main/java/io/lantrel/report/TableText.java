package io.lantrel.report;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.ValueText;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.ColumnSurvey;
import io.lantrel.survey.Survey.HierarchySurvey;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.survey.Survey.TableSurvey;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** One table: its columns, what is in them, and some rows. */
final class TableText {

  private static final int WIDEST_VALUE = 24;

  /** So many rows stand beside the columns; more stand below them. */
  private static final int BESIDE = 3;

  private final Style style;

  TableText(Style style) {
    this.style = style;
  }

  List<String> write(TableSurvey table, Survey survey) {
    List<String> lines = new ArrayList<>();
    lines.add(
        style.strong(table.table().name())
            + style.faint(
                "  " + Words.count(table.rows(), "row") + ", key " + SurveyText.key(table)));
    for (HierarchySurvey each : table.hierarchies()) {
      lines.add("  " + hierarchy(each));
    }
    lines.addAll(columns(table, survey));
    List<List<String>> values = new ValuesText(style).rows(table);
    if (!values.isEmpty()) {
      lines.add("");
      lines.addAll(Layout.table(values, List.of(false, false, false, false, false), 2));
    }
    if (table.first().size() > BESIDE) {
      lines.add("");
      lines.addAll(firstRows(table));
    }
    return lines;
  }

  private static String hierarchy(HierarchySurvey each) {
    return "hierarchy by "
        + String.join(", ", each.reference().fromColumns())
        + ": "
        + Words.count(each.roots(), "root")
        + ", "
        + Words.count(each.levels(), "level")
        + (each.inCycles() == 0
            ? ", no circle"
            : ", " + Words.count(each.inCycles(), "row") + " in a circle or below one")
        + (each.hanging() == 0
            ? ""
            : ", " + Words.count(each.hanging(), "row") + " hanging in the air");
  }

  private List<String> columns(TableSurvey table, Survey survey) {
    List<List<String>> cells = new ArrayList<>();
    int shown = table.first().size() > BESIDE ? 0 : table.first().size();
    List<String> head = new ArrayList<>(List.of("column", "type", "empty", "different"));
    for (int i = 0; i < shown; i++) {
      head.add(i == 0 ? "first rows" : "");
    }
    head.add("refers to");
    cells.add(head.stream().map(style::faint).toList());
    for (int at = 0; at < table.columns().size(); at++) {
      ColumnSurvey column = table.columns().get(at);
      List<String> row = new ArrayList<>();
      row.add(column.column().name());
      row.add(column.column().type().text().toLowerCase(Locale.ROOT));
      row.add(share(column.empty(), table.rows()));
      row.add(
          column.different().isPresent()
              ? String.format(Locale.ROOT, "%,d", column.different().getAsLong())
              : "");
      for (int i = 0; i < shown; i++) {
        row.add(value(table.first().rows().get(i).get(at), column.column().type()));
      }
      row.add(targets(table, column, survey));
      cells.add(row);
    }
    List<Boolean> numbers = new ArrayList<>();
    for (int i = 0; i < head.size(); i++) {
      numbers.add(i == 2 || i == 3);
    }
    return Layout.table(cells, numbers, 2);
  }

  private List<String> firstRows(TableSurvey table) {
    List<List<String>> cells = new ArrayList<>();
    List<ColumnType> types = table.columns().stream().map(each -> each.column().type()).toList();
    cells.add(table.columns().stream().map(each -> style.faint(each.column().name())).toList());
    for (List<@Nullable Object> row : table.first().rows()) {
      List<String> line = new ArrayList<>();
      for (int i = 0; i < row.size(); i++) {
        line.add(value(row.get(i), types.get(i)));
      }
      cells.add(line);
    }
    return Layout.table(
        cells,
        types.stream()
            .map(each -> each.family() == TypeFamily.INTEGER || each.family() == TypeFamily.DECIMAL)
            .toList(),
        2);
  }

  /** Only nothing is 0 %, and only everything is 100 %. */
  private static String share(long part, long all) {
    if (part == 0) {
      return "";
    }
    long percent = Math.max(1, Math.min(99, Math.round(100.0 * part / all)));
    return (part == all ? 100 : percent) + " %";
  }

  private String value(@Nullable Object value, ColumnType type) {
    String whole = ValueText.of(value, type);
    if (whole == null) {
      return style.faint("NULL");
    }
    String text = whole.replaceAll("\\s+", " ");
    return text.length() <= WIDEST_VALUE ? text : text.substring(0, WIDEST_VALUE - 1) + "…";
  }

  private static String targets(TableSurvey table, ColumnSurvey column, Survey survey) {
    return survey.references().stream()
        .map(ReferenceSurvey::reference)
        .filter(each -> each.basis() != Basis.POSSIBLE)
        .filter(each -> each.from().name().equals(table.table().name()))
        .filter(each -> each.fromColumns().contains(column.column().name()))
        .map(each -> each.to().name())
        .distinct()
        .collect(Collectors.joining(", "));
  }
}
