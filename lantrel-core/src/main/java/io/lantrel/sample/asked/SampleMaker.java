package io.lantrel.sample.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.Database;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Sql;
import io.lantrel.sample.Sample;
import io.lantrel.sample.SampleWish;
import io.lantrel.sample.SampledTable;
import io.lantrel.sample.Trait;
import io.lantrel.sample.Trait.Outcome;
import io.lantrel.sample.asked.Searches.Search;
import io.lantrel.sample.mask.Masking;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.survey.Survey.TableSurvey;
import io.lantrel.survey.SurveyWish;
import io.lantrel.survey.Surveyor;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;

/**
 * Draws a sample: what shows mistakes first, then what keeps rows from looking alone, then others,
 * as far as there is room; after each of these with all that is referred to.
 */
public final class SampleMaker {

  /** A table with no more rows is taken whole, if there is room. */
  private static final int SMALL = 12;

  /** So often a row that was taken for another one is given company of its own. */
  private static final int GENERATIONS = 3;

  private final Catalog catalog;
  private final Asker asker;
  private final SampleWish wish;
  private final Consumer<String> progress;
  private final Searches searches;
  private final List<Trait> traits = new ArrayList<>();
  private KeptRows kept = new KeptRows();

  /**
   * @param progress is told what is looked at next, in a few words
   */
  public SampleMaker(
      Catalog catalog, Database database, SampleWish wish, Consumer<String> progress) {
    this.catalog = catalog;
    this.asker = new Asker(database);
    this.searches = new Searches(asker);
    this.wish = wish;
    this.progress = progress;
  }

  /**
   * Draws it.
   *
   * @param queries what shall show on it
   * @throws io.lantrel.engine.DatabaseException if the database fails
   * @throws io.lantrel.sample.SampleException if what shall be masked is not there, or cannot be
   */
  public Sample make(RowsOfQueries queries) {
    Survey survey =
        new Surveyor(catalog, asker.database(), SurveyWish.all().showing(0), progress).survey();
    List<Reference> followed = survey.reliable();
    Masking masking = Masking.of(wish, survey.tables(), followed);
    AllRows tables = new AllRows(survey, catalog.dialect());
    ReferredRows referred = new ReferredRows(followed, tables, asker);
    RowsByName byName = new RowsByName(catalog, tables);
    take(searches.picks(byName.ofQueries(queries, followed)), referred);
    take(ofReferences(survey, followed, tables), referred);
    take(searches.picks(byName.ofCircles(survey)), referred);
    take(searches.picks(whole(survey, tables)), referred);
    take(ofColumns(survey, followed, tables), referred);
    Families families = new Families(followed, tables, asker);
    for (int i = 0; i < GENERATIONS && kept.size() < wish.rows(); i++) {
      progress.accept("rows that others refer to");
      take(families.missing(kept), referred);
    }
    take(others(survey, tables), referred);
    List<String> remarks = new ArrayList<>(queries.remarks());
    remarks.addAll(searches.failures());
    return new Sample(
        catalog,
        masking.masked(sampled(survey, tables)),
        followed,
        traits,
        families.count(kept),
        masking.columns(),
        queries.seen(),
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

  private List<Search> whole(Survey survey, AllRows tables) {
    return survey.tables().stream()
        .filter(each -> each.rows() > 0 && each.rows() <= Math.min(SMALL, wish.rows() / 4))
        .map(
            each -> {
              TableRows of = tables.of(each.table());
              return new Search(
                  each.table(),
                  Round.of(of.where(null, SMALL), rows -> List.of(Pick.of(null, of, rows))));
            })
        .toList();
  }

  /** The references of one table go together. */
  private List<Pick> ofReferences(Survey survey, List<Reference> followed, AllRows tables) {
    Map<Table, List<Search>> byTable = new LinkedHashMap<>();
    for (ReferenceSurvey each : survey.references()) {
      Reference reference = each.reference();
      if (followed.contains(reference)) {
        long between =
            followed.stream()
                .filter(other -> other.from().equals(reference.from()))
                .filter(other -> other.to().equals(reference.to()))
                .count();
        PartnerTraits partners =
            new PartnerTraits(
                each, tables.of(reference.from()), tables.of(reference.to()), between == 1);
        byTable
            .computeIfAbsent(reference.from(), key -> new ArrayList<>())
            .add(new Search(reference.from(), partners.begin()));
      }
    }
    return together(byTable, "partners");
  }

  private List<Pick> ofColumns(Survey survey, List<Reference> followed, AllRows tables) {
    Map<Table, List<Search>> byTable = new LinkedHashMap<>();
    for (TableSurvey each : survey.tables()) {
      if (each.rows() > 0) {
        Set<String> referring = new HashSet<>();
        for (Reference reference : followed) {
          if (reference.from().equals(each.table())) {
            referring.addAll(reference.fromColumns());
          }
          if (reference.to().equals(each.table())) {
            referring.addAll(reference.toColumns());
          }
        }
        ColumnTraits columns = new ColumnTraits(each, tables.of(each.table()), referring);
        List<Search> of = new ArrayList<>();
        columns.alike().ifPresent(alike -> of.add(new Search(each.table(), alike)));
        of.add(new Search(each.table(), columns.begin()));
        byTable.put(each.table(), of);
      }
    }
    return together(byTable, "values");
  }

  private List<Pick> together(Map<Table, List<Search>> byTable, String what) {
    List<Pick> picks = new ArrayList<>();
    byTable.forEach(
        (table, all) -> {
          progress.accept(table.name() + ": " + what);
          picks.addAll(searches.picks(all));
        });
    return picks;
  }

  /** Others of each table, as evenly as its keys are: as many as there is room for. */
  private List<Pick> others(Survey survey, AllRows tables) {
    int room = wish.rows() - kept.size();
    List<TableSurvey> more =
        survey.tables().stream().filter(each -> each.rows() > kept.size(each.table())).toList();
    progress.accept("further rows");
    List<Search> all = new ArrayList<>();
    for (TableSurvey each : more) {
      int wanted = Math.max(1, room / more.size()) + kept.size(each.table());
      TableRows of = tables.of(each.table());
      all.add(
          new Search(
              each.table(),
              Round.of(
                  of.where(evenly(of, each.rows(), wanted), wanted),
                  rows -> rows.stream().map(row -> Pick.of(null, of, List.of(row))).toList())));
    }
    return searches.picks(all);
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

  private List<SampledTable> sampled(Survey survey, AllRows tables) {
    Map<Table, Long> there = new LinkedHashMap<>();
    survey.tables().forEach(each -> there.put(each.table(), each.rows()));
    return catalog.tables().stream()
        .map(
            each ->
                new SampledTable(
                    each,
                    Objects.requireNonNull(there.get(each)),
                    KeyOrder.of(tables.of(each), kept.all(each))))
        .toList();
  }
}
