package io.lantrel.survey;

import io.lantrel.catalog.Key;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import io.lantrel.survey.Survey.Violation;
import io.lantrel.survey.Survey.ViolationKind;
import io.lantrel.survey.TableFigures.ColumnFigures;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The rows of one table that violate its declared keys, or are NULL where they must not be. */
final class Violations {

  private final TableFigures figures;
  private final TableQuestions questions;
  private final Asker asker;

  Violations(TableFigures figures, TableQuestions questions, Asker asker) {
    this.figures = figures;
    this.questions = questions;
    this.asker = asker;
  }

  List<Violation> all() {
    List<Violation> violations = new ArrayList<>();
    for (ColumnFigures column : figures.columns()) {
      long empty = figures.rows() - column.filled();
      if (empty > 0 && !column.column().nullable()) {
        violations.add(empty(column, empty));
      }
    }
    Map<Key, Question<Long>> repeats = new LinkedHashMap<>();
    figures.table().keys().stream()
        .filter(this::mayRepeat)
        .forEach(key -> repeats.put(key, questions.repeats(key)));
    Answers answers = asker.ask(repeats.values());
    for (Map.Entry<Key, Question<Long>> each : repeats.entrySet()) {
      Key key = each.getKey();
      long rows = answers.to(each.getValue());
      if (rows > 0) {
        violations.add(
            new Violation(
                ViolationKind.REPEATED_KEY,
                key.columns(),
                rows,
                questions.named(asker, List.of(), questions.isRepeated(key))));
      }
    }
    return violations;
  }

  private Violation empty(ColumnFigures column, long rows) {
    String name = column.column().name();
    boolean inKey =
        figures.table().keys().stream()
            .anyMatch(key -> key.primary() && key.columns().contains(name));
    return new Violation(
        inKey ? ViolationKind.NULL_IN_KEY : ViolationKind.NULL_IN_COLUMN,
        List.of(name),
        rows,
        questions.named(asker, List.of(), questions.isNull(name)));
  }

  /** A key of one column that has as many values as rows is not looked at again. */
  private boolean mayRepeat(Key key) {
    if (key.columns().isEmpty()) {
      return false;
    }
    if (key.columns().size() > 1) {
      return true;
    }
    ColumnFigures column = figures.column(key.columns().get(0));
    return column.different().isEmpty() || column.values() < column.filled();
  }
}
