package io.lantrel.survey;

import io.lantrel.catalog.Key;
import io.lantrel.engine.Database;
import io.lantrel.survey.Survey.Violation;
import io.lantrel.survey.Survey.ViolationKind;
import io.lantrel.survey.TableFigures.ColumnFigures;
import java.util.ArrayList;
import java.util.List;

/** The rows of one table that violate its declared keys, or are NULL where they must not be. */
final class Violations {

  private final TableFigures figures;
  private final TableQuestions questions;
  private final Database database;

  Violations(TableFigures figures, TableQuestions questions, Database database) {
    this.figures = figures;
    this.questions = questions;
    this.database = database;
  }

  List<Violation> all() {
    List<Violation> violations = new ArrayList<>();
    for (ColumnFigures column : figures.columns()) {
      long empty = figures.rows() - column.filled();
      if (empty > 0 && !column.column().nullable()) {
        violations.add(empty(column, empty));
      }
    }
    for (Key key : figures.table().keys()) {
      long rows = mayRepeat(key) ? database.ask(questions.repeats(key)).figure(0) : 0;
      if (rows > 0) {
        violations.add(
            new Violation(
                ViolationKind.REPEATED_KEY,
                key.columns(),
                rows,
                questions.named(database, List.of(), questions.isRepeated(key))));
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
        questions.named(database, List.of(), questions.isNull(name)));
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
