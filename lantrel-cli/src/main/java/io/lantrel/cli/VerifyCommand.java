package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.Verdict;
import io.lantrel.ledger.RowShare;
import io.lantrel.report.ClaimJson;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.VerifiedQuery;
import io.lantrel.report.VerifiedQuery.State;
import io.lantrel.report.VerifyMarkdown;
import io.lantrel.report.VerifyText;
import io.lantrel.report.VerifyXml;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
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
    description =
        "Verifies what is claimed of queries in their comments, and that they give the tables that"
            + " are expected of them.",
    footer = {
      "",
      "A claim is a comment as -- claim: one row per station; lantrel suggest offers",
      "some. Of a folder every .sql file is looked at but schema.sql. Where neither",
      "--data nor --db says where the tables are, the sample data are taken in whose",
      "folder the query stands, or nearest around it. name.expected.csv beside",
      "name.sql is the table that is expected. At several places (--engine a,b, or",
      "--data and --db) claims are verified at the first, and the rows of the others",
      "are compared with those there.",
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
      names = "--about",
      paramLabel = "ROWS|PERCENT%",
      description =
          "A quick look at so many rows of the first table of each query, or at such a part of them,"
              + " as 1%%: what these rows break is broken, what is proven is proven, and the rest"
              + " stays undecided. Findings of check need all rows, and are not looked for.")
  private @Nullable String about;

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

  private List<VerifiedQuery> done = List.of();

  @Override
  public Integer call() {
    if (rows < 0) {
      throw wrong("--rows takes a whole number from 0 on, not " + rows);
    }
    @Nullable RowShare share = about == null ? null : ShareText.read(about, spec);
    if (share != null && (accept || (failOn != null && failOn != FailOn.none))) {
      throw wrong(
          (accept ? "--accept" : "--fail-on") + " needs all rows, and --about looks at a part");
    }
    List<Path> files = QueryFolder.files(names);
    try (VerifyRun run = new VerifyRun(tables, values, failOn, rows, share)) {
      if (accept) {
        return accepted(files, run);
      }
      done = verified(since == null ? files : changed(files, since), run);
      List<StudiedFile> studied =
          done.stream()
              .filter(query -> query.study() != null)
              .map(
                  query ->
                      new StudiedFile(query.file(), List.of(Objects.requireNonNull(query.study()))))
              .toList();
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
    }
  }

  private List<VerifiedQuery> verified(List<Path> files, VerifyRun run) {
    try (StatusLine status = StatusLine.onTerminal(spec.commandLine().getErr())) {
      return run.verify(files, status);
    }
  }

  private String told() {
    return switch (format) {
      case text -> new VerifyText(Output.style(), all).write(done);
      case json -> ClaimJson.verified(done);
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

  // ---- what changed ----

  private static List<Path> changed(List<Path> files, String revision) {
    Map<Path, List<Path>> data = new LinkedHashMap<>();
    Set<Path> folders = new LinkedHashSet<>();
    for (Path file : files) {
      VerifySettings settings = VerifySettings.around(file);
      data.put(file, settings.data(file).or(() -> QueryFolder.data(file)).stream().toList());
      folders.add(QueryFolder.of(file));
      folders.addAll(data.getOrDefault(file, List.of()));
    }
    ChangedFiles changes = new ChangedFiles(folders, revision);
    return files.stream()
        .filter(
            file ->
                changes.concerns(
                    file, QueryFiles.text(file.toString()), data.getOrDefault(file, List.of())))
        .toList();
  }

  // ---- accepting ----

  private int accepted(List<Path> files, VerifyRun run) {
    for (String name : names) {
      if (Files.isDirectory(Path.of(name))) {
        throw wrong("--accept writes only for files that are named, not for a folder: " + name);
      }
    }
    int exit = ExitCode.FINE;
    for (Path file : files) {
      Lantrel lantrel = run.firstPlace(file);
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
