package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.engine.Engine;
import io.lantrel.report.JsonReport;
import io.lantrel.report.SarifReport;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.TextReport;
import io.lantrel.report.UnifiedDiff;
import io.lantrel.report.Visible;
import java.io.PrintWriter;
import java.util.EnumSet;
import java.util.List;
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

/** Says what is wrong or risky in queries. */
@Command(
    name = "check",
    description = "Says what is wrong or risky in queries, shows the rows, and offers repairs.")
final class CheckCommand implements Callable<Integer> {

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private ValuesOption values = new ValuesOption();

  /** The forms of the report; the names are those that a user types. */
  enum ReportFormat {
    text,
    json,
    sarif
  }

  @Option(
      names = "--format",
      defaultValue = "text",
      paramLabel = "FORMAT",
      description = "${COMPLETION-CANDIDATES}; default: ${DEFAULT-VALUE}.")
  private ReportFormat format = ReportFormat.text;

  @Option(
      names = "--fail-on",
      defaultValue = "warning",
      paramLabel = "SEVERITY",
      description =
          "Exit with 1 from this severity on: ${COMPLETION-CANDIDATES}; default: ${DEFAULT-VALUE}.")
  private FailOn failOn = FailOn.warning;

  @Option(
      names = "--allow-unchecked",
      description =
          "Exit with 0 although something was not checked: not read, refused, stopped, or a"
              + " parameter without a value.")
  private boolean allowUnchecked;

  @Option(
      names = "--also-on",
      paramLabel = "ENGINES",
      description =
          "Engines that the queries shall run on as well, with commas: what one of them lacks or"
              + " takes otherwise is told. Nothing is run there.")
  private @Nullable String alsoOn;

  @Option(
      names = "--repair",
      paramLabel = "WHICH",
      description =
          "Writes repairs into the files: all (of warnings and errors), those of a kind, or those in"
              + " the line of a number.")
  private @Nullable String repair;

  @Option(
      names = "--dry-run",
      description = "With --repair: shows what would change, and writes nothing.")
  private boolean dryRun;

  @Parameters(
      arity = "1..*",
      paramLabel = "QUERY.sql",
      description = "Files with queries; - is standard input.")
  private List<String> files = List.of();

  @Override
  public Integer call() {
    if (dryRun && repair == null) {
      throw new ParameterException(spec.commandLine(), "--dry-run goes with --repair");
    }
    if (repair != null && files.contains("-") && !dryRun) {
      throw new ParameterException(
          spec.commandLine(), "--repair needs a file; standard input cannot be written");
    }
    Set<Engine> others =
        alsoOn == null ? EnumSet.noneOf(Engine.class) : EngineNames.engines(alsoOn, spec);
    try (Lantrel lantrel = tables.open()) {
      if (!others.isEmpty()) {
        lantrel.alsoOn(others);
      }
      if (repair != null) {
        repair(lantrel, RepairRun.Chosen.of(repair, spec));
        if (dryRun) {
          return ExitCode.FINE;
        }
      }
      List<StudiedFile> all = QueryFiles.open(files, lantrel, values);
      Progress progress = Progress.through(all, (file, study) -> study.inspection());
      PrintWriter out = spec.commandLine().getOut();
      out.print(
          switch (format) {
            case json -> new JsonReport().check(progress.done());
            case sarif -> SarifReport.check(progress.done());
            case text -> new TextReport(Output.style()).check(progress.done());
          });
      out.flush();
      return progress.endedEarly(spec.commandLine().getErr(), "checked")
          ? ExitCode.COULD_NOT_RUN
          : exitCode(progress.done());
    }
  }

  /** Before the files are checked: what is told of them then is what is left. */
  private void repair(Lantrel lantrel, RepairRun.Chosen chosen) {
    RepairRun run = new RepairRun(chosen, lantrel, values);
    PrintWriter out = spec.commandLine().getOut();
    PrintWriter err = spec.commandLine().getErr();
    for (String file : files.stream().distinct().toList()) {
      RepairRun.Repaired repaired = run.repair(file);
      if (dryRun) {
        out.print(Visible.of(UnifiedDiff.between(file, repaired.before(), repaired.after())));
        out.flush();
      } else if (!repaired.made().isEmpty()) {
        WholeFile.replace(file, repaired.before(), repaired.after());
      }
      String did = dryRun ? "lantrel: would repair " : "lantrel: repaired ";
      repaired.made().forEach(line -> err.println(did + Visible.line(line)));
      if (repaired.made().isEmpty()) {
        err.println("lantrel: nothing to repair in " + Visible.line(file));
      }
    }
    err.flush();
  }

  private int exitCode(List<StudiedFile> studied) {
    List<Study> studies = studied.stream().flatMap(file -> file.studies().stream()).toList();
    boolean found =
        studies.stream()
            .flatMap(study -> study.findings().stream())
            .anyMatch(finding -> failOn.concerns(finding.severity()));
    boolean unchecked =
        studied.stream().anyMatch(file -> file.studies().isEmpty())
            || studies.stream().anyMatch(study -> !study.inspection().isComplete());
    AllowHint.after(studies, spec.commandLine().getErr());
    ReferenceHint.after(studies, spec.commandLine().getErr());
    if (found) {
      return ExitCode.FINDINGS;
    }
    return unchecked && !allowUnchecked ? ExitCode.COULD_NOT_RUN : ExitCode.FINE;
  }
}
