package io.lantrel.survey;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.NamedRow;
import io.lantrel.sql.tree.Expression;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.survey.Survey.TableSurvey;
import io.lantrel.survey.Survey.Violation;
import io.lantrel.survey.Survey.ViolationKind;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Looks at every table: one statement each for its figures, and one more for each violation. */
public final class Surveyor {

  private final Catalog catalog;
  private final Database database;

  public Surveyor(Catalog catalog, Database database) {
    this.catalog = catalog;
    this.database = database;
  }

  /**
   * The survey of all tables.
   *
   * @throws io.lantrel.engine.DatabaseException if the database fails
   */
  public Survey survey() {
    ReadingOrder order = new ReadingOrder(catalog);
    List<TableSurvey> tables = new ArrayList<>();
    for (Table table : order.tables()) {
      try {
        tables.add(table(table));
      } catch (DatabaseException failure) {
        throw new DatabaseException(
            failure.reason(),
            failure.getMessage()
                + "; this was at the table "
                + table.name()
                + ", after "
                + tables.size()
                + " of "
                + order.tables().size(),
            failure);
      }
    }
    return new Survey(tables, order.references().stream().map(this::reference).toList());
  }

  private TableSurvey table(Table table) {
    TableQuestions questions = new TableQuestions(table, catalog);
    Rows figures = database.ask(questions.figures());
    List<Violation> violations = new ArrayList<>();
    int at = 1;
    for (Column column : questions.neverNull()) {
      boolean inKey =
          table.keys().stream()
              .anyMatch(key -> key.primary() && key.columns().contains(column.name()));
      ViolationKind kind = inKey ? ViolationKind.NULL_IN_KEY : ViolationKind.NULL_IN_COLUMN;
      addIfAny(
          violations,
          questions,
          kind,
          List.of(column.name()),
          figures.figure(at++),
          questions.isNull(column.name()));
    }
    for (Key key : table.keys()) {
      addIfAny(
          violations,
          questions,
          ViolationKind.REPEATED_KEY,
          key.columns(),
          figures.figure(at++),
          questions.isRepeated(key));
    }
    boolean self =
        catalog.references().stream()
            .anyMatch(each -> each.isSelfReference() && each.fromTable().equals(table.name()));
    return new TableSurvey(table, figures.figure(0), self, violations);
  }

  private void addIfAny(
      List<Violation> violations,
      TableQuestions questions,
      ViolationKind kind,
      List<String> columns,
      long rows,
      Expression which) {
    if (rows > 0) {
      violations.add(new Violation(kind, columns, rows, named(questions, List.of(), which)));
    }
  }

  private List<NamedRow> named(TableQuestions questions, List<String> further, Expression which) {
    Rows rows = database.ask(questions.rows(further, which));
    return rows.rows().stream()
        .map(
            row ->
                new NamedRow(
                    questions.table().name(), rows.headings(), texts(row, rows, questions.table())))
        .toList();
  }

  private static List<@Nullable String> texts(List<@Nullable Object> row, Rows rows, Table table) {
    List<@Nullable String> texts = new ArrayList<>();
    for (Object value : row) {
      ColumnType type =
          table
              .column(rows.headings().get(texts.size()))
              .map(Column::type)
              .orElse(ColumnType.UNKNOWN);
      texts.add(ValueText.of(value, type));
    }
    return texts;
  }

  private ReferenceSurvey reference(Reference reference) {
    Table from = catalog.table(reference.fromTable()).orElseThrow();
    TableQuestions questions = new TableQuestions(from, catalog);
    Rows figures = database.ask(questions.figures(reference));
    long toNothing = figures.figure(2);
    List<NamedRow> examples =
        toNothing == 0
            ? List.of()
            : named(questions, reference.fromColumns(), questions.refersToNothing(reference));
    return new ReferenceSurvey(
        reference, figures.figure(0), figures.figure(1), toNothing, examples);
  }
}
