package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.Verdict;
import io.lantrel.report.ClaimJson;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.SuggestText;
import io.lantrel.report.SuggestedClaims;
import io.lantrel.report.TextReport;
import io.lantrel.report.Visible;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
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
    try (Lantrel lantrel = tables.open()) {
      return suggested(QueryFiles.open(files.stream().distinct().toList(), lantrel, values));
    }
  }

  private int suggested(List<StudiedFile> studied) {
    List<SuggestedClaims> all = new ArrayList<>();
    EachStatement run =
        EachStatement.through(
            studied,
            spec.commandLine().getErr(),
            "looked at",
            (file, study) ->
                all.add(new SuggestedClaims(file.name(), study, study.suggestedClaims())));
    if (output.format == Format.json) {
      print(ClaimJson.suggested(all, run.failed()));
    } else {
      all.forEach(this::print);
    }
    if (write != null && !run.lost()) {
      Which which = write;
      Map<String, List<SuggestedClaims>> byFile = new LinkedHashMap<>();
      all.forEach(each -> byFile.computeIfAbsent(each.file(), file -> new ArrayList<>()).add(each));
      byFile.forEach((file, claims) -> write(file, claims, which));
    }
    return run.exit();
  }

  private void print(SuggestedClaims suggested) {
    StudiedFile file = new StudiedFile(suggested.file(), List.of(suggested.study()));
    print(new TextReport(Output.style()).heading(file.name(), suggested.study()));
    print(new SuggestText(Output.style()).write(suggested.claims()) + "\n");
  }

  /** Before each statement its claims, and nothing else changed; from the last one on. */
  private void write(String file, List<SuggestedClaims> suggested, Which which) {
    String before = suggested.get(0).study().source().text();
    StringBuilder text = new StringBuilder(before);
    String end = text.indexOf("\r\n") >= 0 ? "\r\n" : "\n";
    int written = 0;
    for (int i = suggested.size() - 1; i >= 0; i--) {
      List<CheckedClaim> chosen =
          suggested.get(i).claims().stream()
              .filter(each -> which == Which.all || each.verdict() == Verdict.PROVEN)
              .toList();
      int start = suggested.get(i).study().place().offset();
      int line = Math.max(text.lastIndexOf("\n", Math.max(0, start - 1)) + 1, 0);
      String indent = start == 0 ? "" : text.substring(line, start);
      StringBuilder lines = new StringBuilder(indent.isBlank() ? "" : end);
      for (CheckedClaim claim : chosen) {
        lines.append(indent.isBlank() ? indent : "").append(SuggestText.comment(claim)).append(end);
      }
      if (!chosen.isEmpty()) {
        text.insert(indent.isBlank() ? start - indent.length() : start, lines);
      }
      written += chosen.size();
    }
    WholeFile.replace(file, before, text.toString());
    spec.commandLine()
        .getErr()
        .println(
            "lantrel: "
                + written
                + (written == 1 ? " claim" : " claims")
                + " written into "
                + Visible.line(file));
  }

  private void print(String text) {
    PrintWriter out = spec.commandLine().getOut();
    out.print(text);
    out.flush();
  }
}
