package io.lantrel.sample.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.engine.NamedRow;
import io.lantrel.probe.Question;
import io.lantrel.sample.Trait;
import io.lantrel.sample.Trait.Sort;
import io.lantrel.sample.asked.Searches.Search;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.HierarchySurvey;
import io.lantrel.survey.Survey.TableSurvey;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Rows that something else has named: queries, and the survey. */
final class RowsByName {

  /** So many rows are taken where several are to be seen. */
  private static final int SOME = 3;

  private final Catalog catalog;
  private final AllRows tables;

  RowsByName(Catalog catalog, AllRows tables) {
    this.catalog = catalog;
    this.tables = tables;
  }

  /** The rows that they tell of, those that are repeated with partners, and some of each table. */
  List<Search> ofQueries(RowsOfQueries queries, List<Reference> references) {
    List<Search> searches = new ArrayList<>();
    for (NamedRow each : apart(queries.rows())) {
      catalog.table(each.table()).flatMap(table -> row(table, each)).ifPresent(searches::add);
    }
    for (NamedRow each : apart(queries.repeated())) {
      catalog
          .table(each.table())
          .flatMap(table -> withPartners(table, each, queries, references))
          .ifPresent(searches::add);
    }
    for (Table table : catalog.tables()) {
      if (queries.tables().contains(table)) {
        TableRows of = tables.of(table);
        searches.add(
            new Search(
                table, Round.of(of.where(null, SOME), rows -> List.of(Pick.of(null, of, rows)))));
      }
    }
    return searches;
  }

  private static Set<NamedRow> apart(List<NamedRow> rows) {
    Set<NamedRow> all = new LinkedHashSet<>();
    rows.forEach(
        row -> {
          all.add(row);
          all.addAll(row.with());
        });
    return all;
  }

  private Optional<Search> row(Table table, NamedRow row) {
    TableRows of = tables.of(table);
    return named(of, row)
        .map(
            question ->
                new Search(table, Round.of(question, rows -> List.of(Pick.of(null, of, rows)))));
  }

  /** The row of that name: by its key, if that is among its columns. */
  private static Optional<Question<List<List<@Nullable String>>>> named(
      TableRows of, NamedRow row) {
    boolean byKey = row.columns().containsAll(of.identity());
    List<String> columns = new ArrayList<>();
    List<String> values = new ArrayList<>();
    for (int i = 0; i < row.columns().size(); i++) {
      String column = row.columns().get(i);
      String value = row.values().get(i);
      if (value != null && (!byKey || of.identity().contains(column))) {
        of.table()
            .column(column)
            .ifPresent(
                known -> {
                  columns.add(known.name());
                  values.add(value);
                });
      }
    }
    return columns.isEmpty()
        ? Optional.empty()
        : Optional.of(of.where(of.equal(columns, values), 1));
  }

  /** The row, then some that refer to it. */
  private Optional<Search> withPartners(
      Table table, NamedRow row, RowsOfQueries queries, List<Reference> references) {
    TableRows of = tables.of(table);
    List<Reference> to =
        references.stream()
            .filter(each -> each.to().equals(table) && queries.tables().contains(each.from()))
            .toList();
    return named(of, row)
        .map(
            question ->
                new Search(
                    table,
                    new Round(
                        List.of(question),
                        answers -> {
                          List<List<@Nullable String>> found = answers.to(question);
                          return new Round.Found(
                              List.of(Pick.of(null, of, found)), partners(of, found, to));
                        })));
  }

  private @Nullable Round partners(
      TableRows of, List<List<@Nullable String>> rows, List<Reference> references) {
    Map<Question<List<List<@Nullable String>>>, TableRows> asked = new LinkedHashMap<>();
    for (List<@Nullable String> row : rows) {
      for (Reference each : references) {
        List<String> values = of.values(row, each.toColumns());
        if (values != null) {
          TableRows from = tables.of(each.from());
          asked.put(from.where(from.equal(each.fromColumns(), values), SOME), from);
        }
      }
    }
    return asked.isEmpty()
        ? null
        : new Round(
            List.copyOf(asked.keySet()),
            answers ->
                Round.Found.all(
                    asked.entrySet().stream()
                        .map(each -> Pick.of(null, each.getValue(), answers.to(each.getKey())))
                        .toList()));
  }

  /** The rows of a circle are taken together. */
  List<Search> ofCircles(Survey survey) {
    List<Search> searches = new ArrayList<>();
    for (TableSurvey table : survey.tables()) {
      TableRows of = tables.of(table.table());
      for (HierarchySurvey each : table.hierarchies()) {
        Trait trait =
            Trait.of(
                table.table().name(),
                Sort.REFERENCE,
                String.join(", ", each.reference().fromColumns()),
                "in a circle");
        List<Question<List<List<@Nullable String>>>> circle =
            each.cycle().stream().flatMap(row -> named(of, row).stream()).toList();
        searches.add(
            new Search(
                table.table(),
                new Round(
                    circle,
                    answers -> {
                      List<List<@Nullable String>> rows = new ArrayList<>();
                      circle.forEach(row -> rows.addAll(answers.to(row)));
                      return Round.Found.all(List.of(Pick.orAbsent(trait, of, rows)));
                    })));
      }
    }
    return searches;
  }
}
