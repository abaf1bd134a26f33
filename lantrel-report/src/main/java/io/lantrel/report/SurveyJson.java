package io.lantrel.report;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.engine.ValueText;
import io.lantrel.survey.ColumnValues;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.ColumnSurvey;
import io.lantrel.survey.Survey.HierarchySurvey;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.survey.Survey.Shape;
import io.lantrel.survey.Survey.TableSurvey;
import io.lantrel.survey.Survey.Violation;
import io.lantrel.survey.ViewSurvey;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Surveys as JSON, as {@link JsonReport} writes other answers. */
public final class SurveyJson {

  private SurveyJson() {}

  /** What is in the tables. */
  public static String survey(Survey survey) {
    return JsonReport.write(
        JsonReport.object(
            "version", JsonReport.VERSION,
            "tables", survey.tables().stream().map(SurveyJson::table).toList(),
            "notShown", survey.notShown(),
            "references", survey.references().stream().map(SurveyJson::reference).toList(),
            "views", survey.views().stream().map(SurveyJson::view).toList()));
  }

  private static Map<String, Object> view(ViewSurvey view) {
    return JsonReport.object(
        "name", view.view().name(),
        "read", view.isRead(),
        "tables", view.tables().stream().map(Table::name).toList(),
        "views", view.views().stream().map(View::name).toList());
  }

  private static Map<String, Object> table(TableSurvey table) {
    return JsonReport.object(
        "name", table.table().name(),
        "rows", table.rows(),
        "columns", columns(table),
        "keys", table.table().keys().stream().map(SurveyJson::key).toList(),
        "observedKey",
            table.isKeyDeclared() ? null : table.key().map(key -> key.columns()).orElse(null),
        "shapes",
            Stream.of(Shape.values()).filter(table.shapes()::contains).map(Shape::id).toList(),
        "refersToItself", table.refersToItself(),
        "hierarchies", table.hierarchies().stream().map(SurveyJson::hierarchy).toList(),
        "firstRows", firstRows(table),
        "violations", table.violations().stream().map(SurveyJson::violation).toList());
  }

  private static List<Map<String, Object>> columns(TableSurvey table) {
    return table.columns().stream().map(SurveyJson::column).toList();
  }

  private static Map<String, Object> column(ColumnSurvey column) {
    return JsonReport.object(
        "name", column.column().name(),
        "type", column.column().type().text(),
        "nullable", column.column().nullable(),
        "empty", column.empty(),
        "different", column.different().isPresent() ? column.different().getAsLong() : null,
        "values", column.values().map(SurveyJson::values).orElse(null));
  }

  private static Map<String, Object> values(ColumnValues values) {
    return JsonReport.object(
        "frequent", values.frequent().stream().map(SurveyJson::counted).toList(),
        "rare", values.rare().stream().map(SurveyJson::counted).toList(),
        "least", values.least().isEmpty() ? null : values.least(),
        "greatest", values.greatest().isEmpty() ? null : values.greatest(),
        "emptyTexts", values.emptyTexts(),
        "blanksAtEnds", values.blanksAtEnds(),
        "sameButForCase", values.sameButForCase());
  }

  private static Map<String, Object> counted(ColumnValues.Counted each) {
    return JsonReport.object("value", each.value(), "rows", each.rows());
  }

  private static Map<String, Object> hierarchy(HierarchySurvey each) {
    return JsonReport.object(
        "columns", each.reference().fromColumns(),
        "roots", each.roots(),
        "levels", each.levels(),
        "inCycles", each.inCycles(),
        "hanging", each.hanging(),
        "cycle", JsonReport.rows(each.cycle()));
  }

  private static List<Map<String, @Nullable String>> firstRows(TableSurvey table) {
    List<Map<String, @Nullable String>> rows = new ArrayList<>();
    for (List<@Nullable Object> row : table.first().rows()) {
      Map<String, @Nullable String> values = new LinkedHashMap<>();
      for (int i = 0; i < row.size(); i++) {
        Column column = table.columns().get(i).column();
        values.put(column.name(), ValueText.of(row.get(i), column.type()));
      }
      rows.add(values);
    }
    return rows;
  }

  private static Map<String, Object> key(Key key) {
    return JsonReport.object("columns", key.columns(), "primary", key.primary());
  }

  private static Map<String, Object> violation(Violation violation) {
    return JsonReport.object(
        "kind", violation.kind().id(),
        "columns", violation.columns(),
        "rows", violation.rows(),
        "examples", JsonReport.rows(violation.examples()));
  }

  private static Map<String, Object> reference(ReferenceSurvey each) {
    return JsonReport.object(
        "from", end(each.reference().from().name(), each.reference().fromColumns()),
        "to", end(each.reference().to().name(), each.reference().toColumns()),
        "basis", JsonReport.lower(each.reference().basis()),
        "rows", each.found() + each.empty() + each.toNothing(),
        "found", each.found(),
        "empty", each.empty(),
        "toNothing", each.toNothing(),
        "values", each.values(),
        "valuesFound", each.valuesFound(),
        "reasons", each.reasons(),
        "examples", JsonReport.rows(each.examples()));
  }

  private static Map<String, Object> end(String table, List<String> columns) {
    return JsonReport.object("table", table, "columns", columns);
  }
}
