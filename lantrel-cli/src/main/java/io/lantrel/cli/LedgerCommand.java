package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.NoLedgerException;
import io.lantrel.Study;
import io.lantrel.engine.DatabaseException;
import io.lantrel.ledger.Ledger;
import io.lantrel.report.JsonReport;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.TextReport;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.atomic.AtomicInteger;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Accounts for the rows of queries. */
@Command(
    name = "ledger",
    description = "Shows what each join and each clause of a query did to the rows, and why.")
final class LedgerCommand implements Callable<Integer> {

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private ValuesOption values = new ValuesOption();
  @Mixin private Output output = new Output();

  @Option(
      names = "--rows",
      defaultValue = "3",
      paramLabel = "N",
      description = "How many rows are named for each reason; default: ${DEFAULT-VALUE}.")
  private int rows;

  @Parameters(
      arity = "1..*",
      paramLabel = "QUERY.sql",
      description = "Files with queries; - is standard input.")
  private List<String> files = List.of();

  @Override
  public Integer call() {
    if (rows < 0) {
      throw new ParameterException(
          spec.commandLine(), "--rows takes a whole number from 0 on, not " + rows);
    }
    try (Lantrel lantrel = tables.openWithRows()) {
      List<StudiedFile> studied = QueryFiles.open(files, lantrel, values);
      return output.format == Format.json ? json(studied) : text(studied);
    }
  }

  private int json(List<StudiedFile> studied) {
    JsonReport report = new JsonReport();
    List<Map<String, Object>> ledgers = new ArrayList<>();
    int exit =
        each(studied, (file, study, ledger) -> ledgers.add(report.ledger(file, study, ledger)));
    print(report.ledgers(ledgers));
    return exit;
  }

  private int text(List<StudiedFile> studied) {
    TextReport report = new TextReport(Output.style());
    return each(
        studied,
        (file, study, ledger) ->
            print(report.heading(file.name(), study) + report.ledger(ledger) + "\n"));
  }

  private interface Told {
    void ledger(StudiedFile file, Study study, Ledger ledger);
  }

  /** A statement without a ledger does not keep the others from theirs; a lost database does. */
  private int each(List<StudiedFile> studied, Told told) {
    AtomicInteger exit = new AtomicInteger(ExitCode.FINE);
    Progress progress =
        Progress.through(
            studied,
            (file, study) -> {
              try {
                told.ledger(file, study, study.ledger(rows));
              } catch (NoLedgerException | DatabaseException failure) {
                exit.set(Complaint.about(file, study, failure, spec.commandLine().getErr()));
              }
            });
    return progress.endedEarly(spec.commandLine().getErr(), "accounted for")
        ? ExitCode.COULD_NOT_RUN
        : exit.get();
  }

  private void print(String text) {
    PrintWriter out = spec.commandLine().getOut();
    out.print(text);
    out.flush();
  }
}
