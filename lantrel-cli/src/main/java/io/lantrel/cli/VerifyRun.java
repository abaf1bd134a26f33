package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.Claim;
import io.lantrel.claim.ClaimFiles;
import io.lantrel.claim.Verdict;
import io.lantrel.claim.Verification;
import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Comparison;
import io.lantrel.engine.DataException;
import io.lantrel.engine.Engine;
import io.lantrel.failure.LantrelException;
import io.lantrel.ledger.RowShare;
import io.lantrel.report.VerifiedQuery;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.jspecify.annotations.Nullable;

/**
 * Verifies the queries of files, each at the place where its tables are. Whatever is wrong with one
 * of them, the others are looked at.
 */
final class VerifyRun implements AutoCloseable {

  private final TablesOption tables;
  private final ValuesOption values;
  private final @Nullable FailOn failOn;
  private final int rows;
  private final @Nullable RowShare share;
  private final Map<String, List<TablesOption.Opened>> opened = new LinkedHashMap<>();
  private final Map<String, DataException> closed = new LinkedHashMap<>();

  /**
   * @param failOn from which severity on findings fail a query; null if the settings say so
   * @param rows how many rows are shown that break a claim
   * @param share how many rows are looked at; null for all
   */
  VerifyRun(
      TablesOption tables,
      ValuesOption values,
      @Nullable FailOn failOn,
      int rows,
      @Nullable RowShare share) {
    this.tables = tables;
    this.values = values;
    this.failOn = failOn;
    this.rows = rows;
    this.share = share;
  }

  @Override
  public void close() {
    opened.values().forEach(places -> places.forEach(each -> each.lantrel().close()));
  }

  /** Several files at a time; they are told in their order. */
  List<VerifiedQuery> verify(List<Path> files, StatusLine status) {
    int threads = Math.min(Math.max(1, files.size()), Runtime.getRuntime().availableProcessors());
    ExecutorService pool = Executors.newFixedThreadPool(threads);
    try {
      List<Future<List<VerifiedQuery>>> all = new ArrayList<>();
      files.forEach(file -> all.add(pool.submit(() -> verified(file))));
      List<VerifiedQuery> queries = new ArrayList<>();
      for (int i = 0; i < all.size(); i++) {
        status.show("verifying " + (i + 1) + " of " + files.size() + ": " + files.get(i));
        queries.addAll(result(all.get(i)));
      }
      return queries;
    } finally {
      pool.shutdownNow();
    }
  }

  private static List<VerifiedQuery> result(Future<List<VerifiedQuery>> file) {
    try {
      return file.get();
    } catch (ExecutionException failure) {
      if (failure.getCause() instanceof RuntimeException told) {
        throw told;
      }
      throw new IllegalStateException(failure.getCause());
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException("stopped while queries were verified", stopped);
    }
  }

  /** The tables that a query is first verified on. */
  Lantrel firstPlace(Path file) {
    return places(file, VerifySettings.around(file)).get(0).lantrel();
  }

  /** The places for a query; opened once for all that share them. */
  private synchronized List<TablesOption.Opened> places(Path file, VerifySettings settings) {
    @Nullable Path folder =
        tables.isGiven() ? null : settings.data(file).or(() -> QueryFolder.data(file)).orElse(null);
    List<String> engines = settings.engines(file).orElse(List.of(Engine.DUCKDB.id()));
    String key = tables.isGiven() ? "" : folder + " " + engines;
    DataException before = closed.get(key);
    if (before != null) {
      throw before;
    }
    List<TablesOption.Opened> known = opened.get(key);
    if (known != null) {
      return known;
    }
    try {
      List<TablesOption.Opened> places = tables.openAll(folder, engines);
      opened.put(key, places);
      return places;
    } catch (DataException unusable) {
      closed.put(key, unusable);
      throw unusable;
    }
  }

  private synchronized boolean hasNoPlace() {
    return tables.isGiven() && opened.isEmpty();
  }

  // ---- files ----

  private List<VerifiedQuery> verified(Path file) {
    List<VerifiedQuery> queries = new ArrayList<>();
    try {
      VerifySettings settings = VerifySettings.around(file);
      List<TablesOption.Opened> places = places(file, settings);
      List<List<String>> sets = settings.sets(file);
      for (List<String> set : sets.isEmpty() ? List.<List<String>>of(List.of()) : sets) {
        queries.addAll(verified(file, settings, set, places));
      }
    } catch (LantrelException unread) {
      if (hasNoPlace()) {
        throw unread;
      }
      queries.add(VerifiedQuery.unread(file.toString(), String.valueOf(unread.getMessage())));
    }
    return queries;
  }

  private List<VerifiedQuery> verified(
      Path file, VerifySettings settings, List<String> set, List<TablesOption.Opened> places) {
    String text = QueryFiles.text(file.toString());
    Map<String, @Nullable Object> given = values.valuesWith(set, settings.file());
    List<List<Study>> studies = new ArrayList<>();
    places.forEach(place -> studies.add(place.lantrel().studies(text, given)));
    FailOn failing =
        share != null
            ? FailOn.none
            : failOn != null ? failOn : settings.failOn(file).orElse(FailOn.warning);
    List<VerifiedQuery> queries = new ArrayList<>();
    for (int i = 0; i < studies.get(0).size(); i++) {
      int number = i;
      Study study = studies.get(0).get(i);
      if (study.isQuery()) {
        queries.add(
            verified(
                file,
                study,
                String.join(", ", set),
                failing,
                others(places, studies.stream().map(each -> each.get(number)).toList())));
      }
    }
    if (studies.get(0).isEmpty()) {
      queries.add(VerifiedQuery.unread(file.toString(), "there is no statement in it"));
    }
    return queries;
  }

  /** The same query at the other places. */
  private static Map<String, Study> others(List<TablesOption.Opened> places, List<Study> studies) {
    Map<String, Study> others = new LinkedHashMap<>();
    for (int i = 1; i < places.size(); i++) {
      others.put(places.get(i).name(), studies.get(i));
    }
    return others;
  }

  // ---- one query ----

  private VerifiedQuery verified(
      Path file, Study study, String set, FailOn failing, Map<String, Study> others) {
    try {
      ClaimFiles beside = new ClaimFiles(QueryFolder.of(file));
      Verification found =
          share == null
              ? study.verify(beside, rows, expected(file, study))
              : study.verifyAbout(share, beside, rows, expected(file, study));
      List<CheckedClaim> claims = new ArrayList<>(found.claims());
      if (share == null) {
        others.forEach((place, other) -> claims.add(same(study, place, other)));
      }
      VerifiedQuery query =
          new VerifiedQuery(
              file.toString(),
              study,
              set,
              new Verification(claims, found.problems(), found.rows()),
              failing.least(),
              Optional.empty());
      query.findings(); // asked for here, where a lost database is told of this query
      return query;
    } catch (LantrelException lost) {
      return VerifiedQuery.unread(file.toString(), String.valueOf(lost.getMessage()));
    }
  }

  private static String[] expected(Path file, Study study) {
    Path table = QueryFolder.expected(file, study.number());
    return Files.isRegularFile(table)
        ? new String[] {"rows of '" + table.getFileName() + "'"}
        : new String[0];
  }

  private CheckedClaim same(Study study, String place, Study other) {
    Comparison comparison =
        study.compare(other, CompareOptions.USUAL.called("here", place).showing(rows));
    return new CheckedClaim(
        Claim.of("the same rows in " + place),
        Verdict.of(comparison.verdict()),
        comparison.reason(),
        List.of(),
        Optional.empty(),
        Optional.of(comparison));
  }
}
