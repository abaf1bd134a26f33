package io.lantrel.survey;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import io.lantrel.survey.Survey.ColumnSurvey;
import io.lantrel.survey.Survey.HierarchySurvey;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.survey.Survey.TableSurvey;
import io.lantrel.survey.Survey.Violation;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;

/**
 * Looks at every table: one pass for its figures, one for each reference that is declared or
 * likely, one for each hierarchy, and one more for each violation.
 */
public final class Surveyor {

  private final Catalog catalog;
  private final Asker asker;
  private final Consumer<String> progress;
  private final Map<Table, TableFigures> figures = new LinkedHashMap<>();
  private final TableNames names;
  private final Keys keys;
  private final SurveyWish wish;
  private final HierarchyWalks walks;

  /**
   * @param catalog the tables, and the references between them
   * @param wish which tables are shown, and how much of each
   * @param progress is told what is looked at next, in a few words
   */
  public Surveyor(Catalog catalog, Database database, SurveyWish wish, Consumer<String> progress) {
    this.catalog = catalog;
    this.wish = wish;
    this.asker = new Asker(database);
    this.progress = progress;
    this.names = new TableNames(catalog.tables());
    this.keys = new Keys(asker, names);
    this.walks = new HierarchyWalks(asker);
  }

  /**
   * The survey: all tables are looked at, since their references are what a table is known by.
   *
   * @throws io.lantrel.engine.DatabaseException if the database fails
   */
  public Survey survey() {
    ReadingOrder order = new ReadingOrder(catalog);
    List<Table> tables = order.tables();
    for (Table table : tables) {
      step("rows and columns", table, () -> figures.put(table, figures(table)));
    }
    List<ReferenceSurvey> references = new ArrayList<>();
    Map<Table, List<Reference>> declared = new LinkedHashMap<>();
    order
        .references()
        .forEach(each -> declared.computeIfAbsent(each.from(), key -> new ArrayList<>()).add(each));
    declared.forEach((from, all) -> references.addAll(declared(from, all)));
    references.addAll(found(tables));
    Catalog known =
        catalog.with(
            references.stream()
                .map(ReferenceSurvey::reference)
                .filter(each -> each.basis() != Basis.POSSIBLE)
                .toList());
    List<TableSurvey> surveys = new ArrayList<>();
    List<Table> shown = new ReadingOrder(known).tables().stream().filter(this::isShown).toList();
    for (Table table : shown) {
      step("keys and hierarchies", table, () -> surveys.add(table(table, known)));
    }
    return new Survey(
        surveys,
        tables.size() - surveys.size(),
        references.stream()
            .filter(each -> isShown(each.reference().from()) || isShown(each.reference().to()))
            .toList(),
        catalog.views().stream()
            .map(each -> ViewSurvey.of(each, catalog))
            .filter(
                each -> each.tables().isEmpty() || each.tables().stream().anyMatch(this::isShown))
            .toList());
  }

  private boolean isShown(Table table) {
    return wish.tables().test(table);
  }

  /** A failure says where it came. */
  private <T> T step(String what, Table table, Supplier<T> work) {
    progress.accept(table.name() + ": " + what);
    try {
      return work.get();
    } catch (DatabaseException failure) {
      throw new DatabaseException(
          failure.reason(),
          failure.getMessage() + "; this was at the table " + table.name() + ", at " + what,
          failure);
    }
  }

  private TableFigures figures(Table table) {
    TableQuestions questions = new TableQuestions(table, catalog);
    TableFigures told = questions.read(asker.rows(questions.figures()));
    keys.look(told, questions);
    return told;
  }

  private TableSurvey table(Table table, Catalog known) {
    TableFigures told = figureOf(table);
    TableQuestions questions = new TableQuestions(table, catalog);
    List<HierarchySurvey> hierarchies =
        known.references().stream()
            .filter(each -> each.isSelfReference() && each.from().equals(table))
            .map(each -> new Hierarchies(each, known, walks).survey(told.rows()))
            .toList();
    List<Key> tableKeys = keys.of(table);
    List<Violation> violations = new ArrayList<>();
    violations.addAll(new Violations(told, questions, asker).all());
    hierarchies.forEach(each -> violations.addAll(Hierarchies.violations(each, told.rows())));
    List<String> order = tableKeys.isEmpty() ? List.of() : tableKeys.get(0).columns();
    Rows first = asker.rows(questions.firstRows(order, wish.rows()));
    Map<Column, ColumnValues> values =
        wish.values() ? new ValueQuestions(told, catalog.dialect()).ask(asker) : Map.of();
    return new TableSurvey(
        table,
        told.rows(),
        tableKeys.stream().findFirst(),
        told.columns().stream()
            .map(
                each ->
                    new ColumnSurvey(
                        each.column(),
                        told.rows() - each.filled(),
                        each.different(),
                        Optional.ofNullable(values.get(each.column()))))
            .toList(),
        first,
        Shapes.of(table, told, tableKeys, known),
        hierarchies,
        violations);
  }

  private TableFigures figureOf(Table table) {
    TableFigures told = figures.get(table);
    if (told == null) {
      throw new IllegalStateException(table.name() + " was not looked at");
    }
    return told;
  }

  /** All references of a table in one statement. */
  private List<ReferenceSurvey> declared(Table from, List<Reference> references) {
    return step(
        "references",
        from,
        () -> {
          TableQuestions questions = new TableQuestions(from, catalog);
          Map<Reference, Question<Rows>> asked = new LinkedHashMap<>();
          references.forEach(each -> asked.put(each, questions.figures(each)));
          Answers answers = asker.ask(asked.values());
          List<ReferenceSurvey> surveys = new ArrayList<>();
          asked.forEach(
              (reference, question) ->
                  surveys.add(survey(reference, answers.to(question), List.of())));
          return surveys;
        });
  }

  private List<ReferenceSurvey> found(List<Table> tables) {
    ReferenceSearch search =
        new ReferenceSearch(catalog, new ValueLookup(catalog, asker), figures, keys, names, walks);
    List<Found> found = new ArrayList<>();
    for (Table table : tables) {
      step(
          "references that are not declared",
          table,
          () -> found.addAll(search.of(figureOf(table))));
    }
    return found.stream()
        .sorted(
            Comparator.comparing((Found each) -> each.reference().basis())
                .thenComparing(Comparator.comparingDouble(Found::score).reversed())
                .thenComparing(each -> each.reference().words()))
        .map(each -> survey(each.reference(), each.figures(), each.reasons()))
        .toList();
  }

  private ReferenceSurvey survey(Reference reference, Rows answer, List<String> reasons) {
    Table from = reference.from();
    long referring = answer.figure(0);
    long there = answer.figure(1);
    long toNothing = referring - there;
    List<NamedRow> examples = List.of();
    if (toNothing > 0) {
      TableQuestions questions = new TableQuestions(from, catalog);
      examples =
          questions.named(asker, reference.fromColumns(), questions.refersToNothing(reference));
    }
    return new ReferenceSurvey(
        reference,
        there,
        figureOf(from).rows() - referring,
        toNothing,
        answer.figure(2),
        answer.figure(3),
        reasons,
        examples);
  }
}
