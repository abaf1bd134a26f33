package io.lantrel.report;

import io.lantrel.survey.ColumnValues;
import io.lantrel.survey.ColumnValues.Counted;
import io.lantrel.survey.Survey.ColumnSurvey;
import io.lantrel.survey.Survey.TableSurvey;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/** The values of a table's columns that are worth seeing, a row for each column. */
final class ValuesText {

  private static final int WIDEST_VALUE = 20;

  private final Style style;

  ValuesText(Style style) {
    this.style = style;
  }

  /** With a head; empty if values were not asked for. */
  List<List<String>> rows(TableSurvey table) {
    List<List<String>> rows = new ArrayList<>();
    for (ColumnSurvey column : table.columns()) {
      column.values().ifPresent(values -> rows.add(row(column, values)));
    }
    if (!rows.isEmpty()) {
      rows.add(
          0,
          List.of("values", "most frequent", "rarest", "from … to", "to know").stream()
              .map(style::faint)
              .toList());
    }
    return rows;
  }

  private List<String> row(ColumnSurvey column, ColumnValues values) {
    return List.of(
        column.column().name(),
        values.frequent().isEmpty() ? "no value comes twice" : counted(values.frequent()),
        counted(values.rare()),
        values.least().isEmpty() ? "" : shown(values.least()) + " … " + shown(values.greatest()),
        remarks(values));
  }

  private static String counted(List<Counted> values) {
    return values.stream()
        .map(each -> shown(each.value()) + " (" + Words.number(each.rows()) + ")")
        .collect(Collectors.joining(", "));
  }

  /** Blanks at the ends would not be seen without quotes. */
  private static String shown(String value) {
    String text = value.replaceAll("\\s+", " ");
    String cut = text.length() <= WIDEST_VALUE ? text : text.substring(0, WIDEST_VALUE - 1) + "…";
    return cut.isEmpty() || !cut.equals(cut.strip()) ? "'" + cut + "'" : cut;
  }

  private String remarks(ColumnValues values) {
    List<String> remarks = new ArrayList<>();
    if (values.emptyTexts() > 0) {
      remarks.add(Words.count(values.emptyTexts(), "empty text"));
    }
    if (values.blanksAtEnds() > 0) {
      remarks.add("blanks at the ends in " + Words.count(values.blanksAtEnds(), "row"));
    }
    if (values.sameButForCase() > 0) {
      remarks.add(
          Words.count(values.sameButForCase(), "value")
              + (values.sameButForCase() == 1 ? " is" : " are")
              + " another one in other case");
    }
    return remarks.isEmpty() ? "" : style.gone(String.join("; ", remarks));
  }
}
