package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.check.Finding;
import io.lantrel.check.Repair;
import io.lantrel.examples.RiverWatch;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.Style;
import io.lantrel.report.TextReport;
import io.lantrel.report.TraceText;
import io.lantrel.report.VerifiedQuery;
import io.lantrel.report.VerifyText;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** A short guided walk over the river watch, in the order in which people work. */
@Command(
    name = "demo",
    description = "A guided walk in two minutes: a query with a trap, and how Lantrel shows it.")
final class DemoCommand implements Callable<Integer> {

  private static final String FILE = "keepers.sql";
  private static final int ROWS = 20;

  private static final String CLAIMS =
      "-- claim: one row per s\n-- claim: every station appears\n-- claim: no null in keeper\n";

  @Spec private CommandSpec spec = CommandSpec.create();

  @Option(
      names = "--engine",
      defaultValue = "duckdb",
      paramLabel = "NAME",
      completionCandidates = EngineNames.class,
      description =
          "The engine that runs the queries: ${COMPLETION-CANDIDATES}; default: ${DEFAULT-VALUE}.")
  private String engine = "duckdb";

  @Override
  public Integer call() throws IOException {
    Path folder = Files.createTempDirectory("river-watch");
    try (Lantrel lantrel =
        Lantrel.open(RiverWatch.copyTo(folder), EngineNames.engine(engine, spec))) {
      walk(lantrel);
      return ExitCode.FINE;
    } finally {
      remove(folder);
    }
  }

  private static void remove(Path folder) throws IOException {
    try (Stream<Path> files = Files.walk(folder)) {
      for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(file);
      }
    }
  }

  private void walk(Lantrel lantrel) {
    TextReport report = new TextReport(Output.style());
    say(
        "1  Look at the tables",
        "Volunteers watch the rivers of an invented basin.",
        "lantrel survey --data DIR");
    print(report.survey(lantrel.survey()));

    String sql = RiverWatch.query(FILE);
    Study study = lantrel.study(sql);
    say(
        "2  Write the join",
        "Wanted: every station, with its keeper unless that is a Harrow. It runs, and looks right:",
        null);
    print(report.sql(study));
    print(report.rows(study.rows(ROWS)));

    say("3  What did each step do to the rows?", null, "lantrel ledger --data DIR " + FILE);
    print(report.ledger(study.ledger()));

    String row = "station where name = 'Alder Bend'";
    say(
        "4  Where did Alder Bend go?",
        null,
        "lantrel trace --missing \"" + row + "\" --data DIR " + FILE);
    TraceText trace = new TraceText(Output.style());
    study.missing(row, 1).forEach(answer -> print(setOff(trace.answer(answer))));

    say("5  What is wrong with it?", null, "lantrel check --data DIR " + FILE);
    print(report.check(List.of(new StudiedFile(FILE, List.of(study)))));

    Optional<Repair> repair =
        study.findings().stream().map(Finding::repair).flatMap(Optional::stream).findFirst();
    if (repair.isPresent()) {
      Study repaired = lantrel.study(repair.get().sql());
      say("6  The repair, and the rows that it gives", null, null);
      print(report.sql(repaired));
      print(report.rows(repaired.rows(ROWS)));
      claim(lantrel, repair.get().sql());
    }
  }

  private void claim(Lantrel lantrel, String sql) {
    Study study = lantrel.study(CLAIMS + sql);
    say(
        "7  Say what must be so, and have it verified before every use",
        "Claims are comments in the query; lantrel suggest offers them.",
        "lantrel verify DIR");
    print(setOff(CLAIMS));
    VerifiedQuery verified =
        new VerifiedQuery(FILE, study, "", study.verify(), null, Optional.empty());
    print(new VerifyText(Output.style(), true).write(List.of(verified)));
  }

  private static String setOff(String text) {
    StringBuilder lines = new StringBuilder();
    text.lines().forEach(line -> lines.append("    ").append(line).append('\n'));
    return lines.append('\n').toString();
  }

  private void say(String title, @Nullable String text, @Nullable String command) {
    Style style = Output.style();
    print("\n" + new TextReport(style).title(title, text, command));
  }

  private void print(String text) {
    PrintWriter out = spec.commandLine().getOut();
    out.print(text);
    out.flush();
  }
}
