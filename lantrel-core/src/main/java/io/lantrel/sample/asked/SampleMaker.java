package io.lantrel.sample.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.NamedRow;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Sql;
import io.lantrel.sample.Sample;
import io.lantrel.sample.SampleWish;
import io.lantrel.sample.SampledTable;
import io.lantrel.sample.Trait;
import io.lantrel.sample.Trait.Outcome;
import io.lantrel.sample.Trait.Sort;
import io.lantrel.sample.mask.Masking;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.HierarchySurvey;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.survey.Survey.TableSurvey;
import io.lantrel.survey.SurveyWish;
import io.lantrel.survey.Surveyor;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.Supplier;

/**
 * Draws a sample: what shows mistakes first, then what keeps rows from looking alone, then others,
 * as far as there is room; after each of these with all that is referred to.
 */
public final class SampleMaker {

  /** A table with no more rows is taken whole, if there is room. */
  private static final int SMALL = 12;

  /** So many rows are taken where several are to be seen. */
  private static final int SOME = 3;

  /** So often a row that was taken for another one is given company of its own. */
  private static final int GENERATIONS = 3;

  private final Catalog catalog;
  private final Asker asker;
  private final SampleWish wish;
  private final Consumer<String> progress;
  private final List<String> remarks = new ArrayList<>();
  private final List<Trait> traits = new ArrayList<>();
  private final Map<Table, TableRows> tables = new LinkedHashMap<>();
  private KeptRows kept = new KeptRows();

  /**
   * @param progress is told what is looked at next, in a few words
   */
  public SampleMaker(
      Catalog catalog, Database database, SampleWish wish, Consumer<String> progress) {
    this.catalog = catalog;
    this.asker = new Asker(database);
    this.wish = wish;
    this.progress = progress;
  }

  /**
   * Draws it.
   *
   * @param queries what shall show on it
   * @throws DatabaseException if the database fails
   * @throws io.lantrel.sample.SampleException if what shall be masked is not there, or cannot be
   */
  public Sample make(RowsOfQueries queries) {
    remarks.addAll(queries.remarks());
    Survey survey =
        new Surveyor(catalog, asker.database(), SurveyWish.all().showing(0), progress).survey();
    for (TableSurvey each : survey.tables()) {
      tables.put(
          each.table(), new TableRows(each.table(), each.key().orElse(null), catalog.dialect()));
    }
    List<Reference> followed = survey.reliable();
    Masking masking = Masking.of(wish, survey.tables(), followed);
    ReferredRows referred = new ReferredRows(followed, tables, asker);
    take(ofQueries(queries, survey.reliable()), referred);
    take(ofReferences(survey), referred);
    take(ofHierarchies(survey), referred);
    take(whole(survey), referred);
    take(ofColumns(survey), referred);
    Families families = new Families(followed, tables, asker);
    for (int i = 0; i < GENERATIONS && kept.size() < wish.rows(); i++) {
      progress.accept("rows that others refer to");
      take(families.missing(kept), referred);
    }
    take(others(survey), referred);
    long childless = families.missing(kept).size();
    return new Sample(
        catalog,
        masking.masked(sampled(survey)),
        followed,
        traits,
        childless,
        masking.columns(),
        remarks);
  }

  // ---- what is taken ----

  /** Takes as much of it as there is room for, with all that it refers to. */
  private void take(List<Pick> picks, ReferredRows referred) {
    int from = 0;
    int to = picks.size();
    while (from < picks.size() && kept.size() < wish.rows()) {
      KeptRows more = kept.copy();
      picks.subList(from, to).forEach(each -> each.addTo(more));
      referred.addTo(more);
      boolean room = more.size() <= wish.rows();
      if (!room && to - from > 1) {
        to = from + (to - from) / 2;
        continue;
      }
      if (room) {
        kept = more;
      }
      picks.subList(from, to).forEach(each -> note(each, room));
      from = to;
      to = picks.size();
    }
    picks.subList(from, picks.size()).forEach(each -> note(each, each.isIn(kept)));
  }

  private void note(Pick pick, boolean room) {
    Trait trait = pick.trait();
    if (trait != null) {
      traits.add(room ? trait : trait.as(Outcome.NO_ROOM));
    }
  }

  private List<Pick> whole(Survey survey) {
    List<Pick> picks = new ArrayList<>();
    for (TableSurvey each : survey.tables()) {
      if (each.rows() > 0 && each.rows() <= Math.min(SMALL, wish.rows() / 4)) {
        TableRows of = rows(each.table());
        picks.addAll(
            tried(
                each.table(), () -> List.of(Pick.of(null, of, asker.ask(of.where(null, SMALL))))));
      }
    }
    return picks;
  }

  private List<Pick> ofReferences(Survey survey) {
    List<Pick> picks = new ArrayList<>();
    for (ReferenceSurvey each : survey.references()) {
      Reference reference = each.reference();
      if (survey.reliable().contains(reference)) {
        long between =
            survey.reliable().stream()
                .filter(other -> other.from().equals(reference.from()))
                .filter(other -> other.to().equals(reference.to()))
                .count();
        progress.accept(reference.words());
        PartnerTraits partners =
            new PartnerTraits(each, rows(reference.from()), rows(reference.to()), between == 1);
        picks.addAll(tried(reference.from(), () -> partners.picks(asker)));
      }
    }
    return picks;
  }

  /** The rows that they tell of, those that are repeated with partners, and some of each table. */
  private List<Pick> ofQueries(RowsOfQueries queries, List<Reference> references) {
    List<Pick> picks = new ArrayList<>();
    each(queries.rows(), (table, row) -> picks.addAll(named(table, row)));
    each(
        queries.repeated(),
        (table, row) -> {
          for (Pick found : named(table, row)) {
            picks.add(found);
            references.stream()
                .filter(each -> each.to().equals(table) && queries.tables().contains(each.from()))
                .forEach(each -> picks.addAll(partners(each, found)));
          }
        });
    for (Table table : catalog.tables()) {
      if (queries.tables().contains(table)) {
        TableRows of = rows(table);
        picks.addAll(
            tried(table, () -> List.of(Pick.of(null, of, asker.ask(of.where(null, SOME))))));
      }
    }
    return picks;
  }

  private void each(List<NamedRow> rows, BiConsumer<Table, NamedRow> work) {
    Set<NamedRow> all = new LinkedHashSet<>();
    rows.forEach(
        row -> {
          all.add(row);
          all.addAll(row.with());
        });
    for (NamedRow row : all) {
      catalog
          .table(row.table())
          .ifPresent(
              table ->
                  tried(
                      table,
                      () -> {
                        work.accept(table, row);
                        return List.of();
                      }));
    }
  }

  /** Some rows that refer to one. */
  private List<Pick> partners(Reference reference, Pick one) {
    TableRows from = rows(reference.from());
    List<Pick> picks = new ArrayList<>();
    for (Pick.Row row : one.rows()) {
      List<String> values = row.of().values(row.values(), reference.toColumns());
      if (values != null) {
        Expression own = from.equal(reference.fromColumns(), values);
        picks.add(Pick.of(null, from, asker.ask(from.where(own, SOME))));
      }
    }
    return picks;
  }

  /** The row of that name: by its key, if that is among its columns. */
  private List<Pick> named(Table table, NamedRow row) {
    TableRows of = rows(table);
    List<String> columns = new ArrayList<>();
    List<String> values = new ArrayList<>();
    for (int i = 0; i < row.columns().size(); i++) {
      String column = row.columns().get(i);
      String value = row.values().get(i);
      boolean wanted = !row.columns().containsAll(of.identity()) || of.identity().contains(column);
      if (value != null && wanted && table.column(column).isPresent()) {
        columns.add(table.column(column).orElseThrow().name());
        values.add(value);
      }
    }
    return columns.isEmpty()
        ? List.of()
        : List.of(Pick.of(null, of, asker.ask(of.where(of.equal(columns, values), 1))));
  }

  private List<Pick> ofHierarchies(Survey survey) {
    List<Pick> picks = new ArrayList<>();
    for (TableSurvey table : survey.tables()) {
      for (HierarchySurvey each : table.hierarchies()) {
        Trait trait =
            Trait.of(
                table.table().name(),
                Sort.REFERENCE,
                String.join(", ", each.reference().fromColumns()),
                "in a circle");
        List<Pick.Row> circle = new ArrayList<>();
        for (NamedRow row : each.cycle()) {
          tried(table.table(), () -> named(table.table(), row))
              .forEach(found -> circle.addAll(found.rows()));
        }
        picks.add(new Pick(circle.isEmpty() ? trait.as(Outcome.ABSENT) : trait, circle));
      }
    }
    return picks;
  }

  private List<Pick> ofColumns(Survey survey) {
    List<Pick> picks = new ArrayList<>();
    for (TableSurvey each : survey.tables()) {
      if (each.rows() == 0) {
        continue;
      }
      progress.accept(each.table().name() + ": values");
      Set<String> referring = new HashSet<>();
      for (Reference reference : survey.reliable()) {
        if (reference.from().equals(each.table())) {
          referring.addAll(reference.fromColumns());
        }
        if (reference.to().equals(each.table())) {
          referring.addAll(reference.toColumns());
        }
      }
      ColumnTraits columns = new ColumnTraits(each, rows(each.table()), referring);
      picks.addAll(tried(each.table(), () -> columns.alike(asker).stream().toList()));
      picks.addAll(tried(each.table(), () -> columns.picks(asker)));
    }
    return picks;
  }

  /** Others of each table, as evenly as its keys are: as many as there is room for. */
  private List<Pick> others(Survey survey) {
    List<Pick> picks = new ArrayList<>();
    int room = wish.rows() - kept.size();
    List<TableSurvey> more =
        survey.tables().stream().filter(each -> each.rows() > kept.size(each.table())).toList();
    for (TableSurvey each : more) {
      progress.accept(each.table().name() + ": further rows");
      int wanted = Math.max(1, room / more.size()) + kept.size(each.table());
      TableRows of = rows(each.table());
      tried(
              each.table(),
              () ->
                  List.of(
                      Pick.of(
                          null, of, asker.ask(of.where(evenly(of, each.rows(), wanted), wanted)))))
          .forEach(found -> found.rows().forEach(row -> picks.add(new Pick(null, List.of(row)))));
    }
    return picks;
  }

  /** Every so manieth number of the key; all, if it is no number. */
  private Expression evenly(TableRows of, long rows, int wanted) {
    long step = Math.max(1, rows / wanted);
    return of.leading()
        .filter(each -> each.type().family() == TypeFamily.INTEGER)
        .<Expression>map(
            each ->
                Sql.equal(
                    FunctionCall.of("MOD", of.column(each.name()), Sql.number(step)),
                    Sql.number(Math.floorMod(wish.seed(), step))))
        .orElseGet(Sql::always);
  }

  /** What the database does not answer is told, and the rest is drawn. */
  private List<Pick> tried(Table table, Supplier<List<Pick>> work) {
    try {
      return work.get();
    } catch (DatabaseException failure) {
      if (failure.isFatal()) {
        throw failure;
      }
      remarks.add("not all of " + table.name() + " was looked at: " + failure.getMessage());
      return List.of();
    }
  }

  private TableRows rows(Table table) {
    return Objects.requireNonNull(tables.get(table));
  }

  private List<SampledTable> sampled(Survey survey) {
    Map<Table, Long> there = new LinkedHashMap<>();
    survey.tables().forEach(each -> there.put(each.table(), each.rows()));
    return catalog.tables().stream()
        .map(
            each ->
                new SampledTable(
                    each,
                    Objects.requireNonNull(there.get(each)),
                    KeyOrder.of(rows(each), kept.all(each))))
        .toList();
  }
}
