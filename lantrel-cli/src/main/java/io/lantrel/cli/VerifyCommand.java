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
import io.lantrel.report.JsonReport;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.VerifiedQuery;
import io.lantrel.report.VerifiedQuery.State;
import io.lantrel.report.VerifyMarkdown;
import io.lantrel.report.VerifyText;
import io.lantrel.report.VerifyXml;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Verifies what is claimed of queries. */
@Command(
    name = "verify",
    description = {
      "Verifies what is claimed of queries, in comments as",
      "  -- claim: one row per station",
      "and that they give the tables that are expected of them.",
    },
    footer = {
      "",
      "Of a folder every .sql file is looked at but schema.sql. Where neither --data nor",
      "--db says where the tables are, the sample data in the folder of a query, or nearest",
      "around it, are taken. name.expected.csv beside name.sql is the table that is expected.",
      "At several places (--engine a,b or --data and --db) claims are verified at the first,",
      "and the rows of the others are compared with those there.",
      "",
      "Exit codes: 0 all claims are met; 1 some are broken or misspelt, or check finds",
      "something; 2 called wrongly; 3 something could not be looked at."
    })
final class VerifyCommand implements Callable<Integer> {

  /** The forms of output; the names are those that a user types. */
  enum Form {
    text,
    json,
    junit,
    markdown
  }

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private ValuesOption values = new ValuesOption();

  @Option(
      names = "--fail-on",
      paramLabel = "SEVERITY",
      description =
          "From which severity on findings of check fail a query: ${COMPLETION-CANDIDATES};"
              + " default: warning. With none they are not looked for.")
  private @Nullable FailOn failOn;

  @Option(names = "--all", description = "Tells every claim, and not only those that are not met.")
  private boolean all;

  @Option(
      names = "--rows",
      defaultValue = "5",
      paramLabel = "N",
      description = "How many rows are shown that break a claim; default: ${DEFAULT-VALUE}.")
  private int rows;

  @Option(
      names = "--since",
      paramLabel = "REVISION",
      description =
          "Only queries that changed in git since then, themselves or their data, their expected"
              + " tables, the files that their claims name.")
  private @Nullable String since;

  @Option(
      names = "--accept",
      description =
          "Writes the expected table of each file that is named, from the rows that its query gives"
              + " now; how it differs from the one there is shown before.")
  private boolean accept;

  @Option(
      names = "--format",
      defaultValue = "text",
      paramLabel = "FORMAT",
      description = "${COMPLETION-CANDIDATES}; default: ${DEFAULT-VALUE}.")
  private Form format = Form.text;

  @Parameters(
      arity = "1..*",
      paramLabel = "FOLDER|FILE.sql",
      description = "Folders and files with queries.")
  private List<String> names = List.of();

  private final Map<String, List<TablesOption.Opened>> opened = new LinkedHashMap<>();
  private final Map<String, DataException> closed = new LinkedHashMap<>();
  private final List<StudiedFile> studied = new ArrayList<>();
  private final List<VerifiedQuery> done = new ArrayList<>();

  @Override
  public Integer call() {
    if (rows < 0) {
      throw wrong("--rows takes a whole number from 0 on, not " + rows);
    }
    List<Path> files = QueryFolder.files(names);
    try {
      if (accept) {
        return accepted(files);
      }
      files = since == null ? files : changed(files, since);
      try (StatusLine status = StatusLine.onTerminal(spec.commandLine().getErr())) {
        for (int i = 0; i < files.size(); i++) {
          status.show("verifying " + (i + 1) + " of " + files.size() + ": " + files.get(i));
          verify(files.get(i));
        }
      }
      if (!studied.isEmpty()) {
        values.checkUse(studied);
      }
      print(told());
      AllowHint.after(
          done.stream()
              .flatMap(query -> query.verification().claims().stream())
              .filter(claim -> claim.verdict() == Verdict.UNDECIDED)
              .map(CheckedClaim::reason)
              .reduce("", (one, other) -> one + "\n" + other),
          spec.commandLine().getErr());
      return exit();
    } finally {
      opened.values().forEach(places -> places.forEach(each -> each.lantrel().close()));
    }
  }

  private String told() {
    return switch (format) {
      case text -> new VerifyText(Output.style(), all).write(done);
      case json -> new JsonReport().verified(done);
      case junit -> VerifyXml.write(done);
      case markdown -> VerifyMarkdown.write(done);
    };
  }

  private int exit() {
    if (done.stream().anyMatch(each -> each.state() == State.FAILS)) {
      return ExitCode.FINDINGS;
    }
    return done.stream().anyMatch(each -> each.state() == State.OPEN)
        ? ExitCode.COULD_NOT_RUN
        : ExitCode.FINE;
  }

  // ---- where and what ----

  /** The places for a query; opened once for all that share them. */
  private List<TablesOption.Opened> places(Path file, VerifySettings settings) {
    Path folder =
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

  private void verify(Path file) {
    try {
      VerifySettings settings = VerifySettings.around(file);
      List<TablesOption.Opened> places = places(file, settings);
      List<List<String>> sets = settings.sets(file);
      for (List<String> set : sets.isEmpty() ? List.<List<String>>of(List.of()) : sets) {
        verify(file, settings, set, places);
      }
    } catch (LantrelException unread) {
      if (tables.isGiven() && opened.isEmpty()) {
        throw unread;
      }
      done.add(VerifiedQuery.unread(file.toString(), String.valueOf(unread.getMessage())));
    }
  }

  private void verify(
      Path file, VerifySettings settings, List<String> set, List<TablesOption.Opened> places) {
    String text = QueryFiles.text(file.toString());
    Map<String, @Nullable Object> given = values.valuesWith(set, settings.file());
    List<List<Study>> studies = new ArrayList<>();
    places.forEach(place -> studies.add(place.lantrel().studies(text, given)));
    studied.add(new StudiedFile(file.toString(), studies.get(0)));
    FailOn failing = failOn != null ? failOn : settings.failOn(file).orElse(FailOn.warning);
    int before = done.size();
    for (int i = 0; i < studies.get(0).size(); i++) {
      int number = i;
      Study study = studies.get(0).get(i);
      if (study.isQuery()) {
        done.add(
            verified(
                file,
                study,
                String.join(", ", set),
                failing,
                others(places, studies.stream().map(each -> each.get(number)).toList())));
      }
    }
    if (studies.get(0).isEmpty() && before == done.size()) {
      done.add(VerifiedQuery.unread(file.toString(), "there is no statement in it"));
    }
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
      Verification found = study.verify(new ClaimFiles(folder(file)), rows, expected(file, study));
      List<CheckedClaim> claims = new ArrayList<>(found.claims());
      others.forEach((place, other) -> claims.add(same(study, place, other)));
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

  private static Path folder(Path file) {
    Path parent = file.toAbsolutePath().normalize().getParent();
    return parent == null ? Path.of("").toAbsolutePath() : parent;
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
        switch (comparison.verdict()) {
          case SAME -> Verdict.PROVEN;
          case SAME_HERE -> Verdict.HOLDS;
          case DIFFERENT -> Verdict.BROKEN;
          case UNDECIDED -> Verdict.UNDECIDED;
        },
        comparison.reason(),
        List.of(),
        Optional.empty(),
        Optional.of(comparison));
  }

  // ---- what changed ----

  private List<Path> changed(List<Path> files, String revision) {
    ChangedFiles changes = new ChangedFiles(folder(files.get(0)), revision);
    List<Path> wanted = new ArrayList<>();
    for (Path file : files) {
      List<Path> own = new ArrayList<>(List.of(file));
      own.addAll(named(file));
      List<Path> folders = new ArrayList<>();
      VerifySettings.around(file)
          .data(file)
          .or(() -> QueryFolder.data(file))
          .ifPresent(folders::add);
      own.add(Path.of(VerifySettings.around(file).file()));
      if (changes.concerns(own, folders)) {
        wanted.add(file);
      }
    }
    return wanted;
  }

  /** The files that a query's claims name, and its expected tables: all that stand beside it. */
  private static List<Path> named(Path file) {
    String text = QueryFiles.text(file.toString());
    String name = String.valueOf(file.getFileName());
    String stem = name.replaceFirst("\\.sql$", "");
    List<Path> found = new ArrayList<>();
    for (Path other : QueryFolder.neighbours(file)) {
      String neighbour = folder(file).relativize(other.toAbsolutePath().normalize()).toString();
      boolean expected = neighbour.startsWith(stem + ".") && neighbour.endsWith(".expected.csv");
      if (expected || text.contains(neighbour)) {
        found.add(other);
      }
    }
    return found;
  }

  // ---- accepting ----

  private int accepted(List<Path> files) {
    for (String name : names) {
      if (Files.isDirectory(Path.of(name))) {
        throw wrong("--accept writes only for files that are named, not for a folder: " + name);
      }
    }
    int exit = ExitCode.FINE;
    for (Path file : files) {
      VerifySettings settings = VerifySettings.around(file);
      Lantrel lantrel = places(file, settings).get(0).lantrel();
      StudiedFile queries =
          new StudiedFile(
              file.toString(), lantrel.studies(QueryFiles.text(file.toString()), values.values()));
      for (Study study : queries.studies()) {
        exit = Math.max(exit, new Acceptance(spec, rows).accept(file, study));
      }
    }
    return exit;
  }

  private void print(String text) {
    PrintWriter out = spec.commandLine().getOut();
    out.print(text);
    out.flush();
  }

  private ParameterException wrong(String message) {
    return new ParameterException(spec.commandLine(), message);
  }
}
