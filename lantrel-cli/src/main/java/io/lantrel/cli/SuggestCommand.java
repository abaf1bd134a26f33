package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.Verdict;
import io.lantrel.engine.DatabaseException;
import io.lantrel.failure.LantrelException;
import io.lantrel.report.JsonReport;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.SuggestText;
import io.lantrel.report.SuggestedClaims;
import io.lantrel.report.TextReport;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Offers claims. */
@Command(
    name = "suggest",
    description =
        "Offers claims about queries that are proven, or hold on the rows at hand, as comments to be"
            + " kept with the query; lantrel verify looks at them again before every use.")
final class SuggestCommand implements Callable<Integer> {

  /** Which claims are written; the names are those that a user types. */
  enum Which {
    proven,
    all
  }

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private ValuesOption values = new ValuesOption();
  @Mixin private Output output = new Output();

  @Option(
      names = "--write",
      paramLabel = "WHICH",
      description = "Puts claims before their query in its file: ${COMPLETION-CANDIDATES}.")
  private @Nullable Which write;

  @Parameters(
      arity = "1..*",
      paramLabel = "QUERY.sql",
      description = "Files with queries; - is standard input.")
  private List<String> files = List.of();

  @Override
  public Integer call() {
    if (write != null && files.contains("-")) {
      throw new ParameterException(
          spec.commandLine(), "--write needs a file; standard input cannot be written");
    }
    int exit = ExitCode.FINE;
    List<SuggestedClaims> all = new ArrayList<>();
    try (Lantrel lantrel = tables.open()) {
      for (StudiedFile file : QueryFiles.open(files, lantrel, values)) {
        List<SuggestedClaims> own = new ArrayList<>();
        for (Study study : file.studies()) {
          try {
            own.add(new SuggestedClaims(file.name(), study, study.suggestedClaims()));
          } catch (DatabaseException failure) {
            if (failure.isFatal()) {
              throw failure;
            }
            exit = Complaint.about(file, study, failure, spec.commandLine().getErr());
          } catch (LantrelException failure) {
            exit = Complaint.about(file, study, failure, spec.commandLine().getErr());
          }
        }
        all.addAll(own);
        if (output.format == Format.text) {
          own.forEach(this::print);
        }
        if (write != null) {
          write(file, own, write);
        }
      }
    }
    if (output.format == Format.json) {
      print(new JsonReport().suggested(all));
    }
    return exit;
  }

  private void print(SuggestedClaims suggested) {
    StudiedFile file = new StudiedFile(suggested.file(), List.of(suggested.study()));
    print(new TextReport(Output.style()).heading(file.name(), suggested.study()));
    print(new SuggestText(Output.style()).write(suggested.claims()) + "\n");
  }

  /** Before each statement its claims, and nothing else changed; from the last one on. */
  private void write(StudiedFile file, List<SuggestedClaims> suggested, Which which) {
    StringBuilder text = new StringBuilder(QueryFiles.text(file.name()));
    String end = text.indexOf("\r\n") >= 0 ? "\r\n" : "\n";
    int written = 0;
    for (int i = suggested.size() - 1; i >= 0; i--) {
      List<CheckedClaim> chosen =
          suggested.get(i).claims().stream()
              .filter(each -> which == Which.all || each.verdict() == Verdict.PROVEN)
              .toList();
      int start = suggested.get(i).study().place().offset();
      int line = Math.max(text.lastIndexOf("\n", Math.max(0, start - 1)) + 1, 0);
      String before = start == 0 ? "" : text.substring(line, start);
      StringBuilder lines = new StringBuilder(before.isBlank() ? "" : end);
      for (CheckedClaim claim : chosen) {
        lines.append(before.isBlank() ? before : "").append(SuggestText.comment(claim)).append(end);
      }
      if (!chosen.isEmpty()) {
        text.insert(before.isBlank() ? start - before.length() : start, lines);
      }
      written += chosen.size();
    }
    if (written > 0) {
      WholeFile.write(Path.of(file.name()), text.toString());
    }
    spec.commandLine()
        .getErr()
        .println(
            "lantrel: "
                + written
                + (written == 1 ? " claim" : " claims")
                + " written into "
                + file.name());
  }

  private void print(String text) {
    PrintWriter out = spec.commandLine().getOut();
    out.print(text);
    out.flush();
  }
}
