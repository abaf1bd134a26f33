package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.SampleDifference;
import io.lantrel.Study;
import io.lantrel.report.SampleJson;
import io.lantrel.report.SampleText;
import io.lantrel.report.StudiedFile;
import io.lantrel.sample.Sample;
import io.lantrel.sample.SampleWish;
import io.lantrel.sample.SampleWish.Likeness;
import io.lantrel.sample.SeenQuery;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.Iterator;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Draws a sample. */
@Command(
    name = "sample",
    description = {
      "Draws a small folder of sample data from a database: rows in which mistakes show, with all"
          + " that they refer to."
    },
    footer = {"", "The folder is taken by every command: lantrel check --data DIR QUERY.sql"})
final class SampleCommand implements Callable<Integer> {

  /** A sample is to be looked at; more rows are a copy. */
  private static final int MOST_ROWS = 100_000;

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();

  @Option(
      names = "--to",
      required = true,
      paramLabel = "DIR",
      description = "The folder to be written: an empty one, or one that is not there yet.")
  private Path folder = Path.of("");

  @Option(
      names = "--rows",
      defaultValue = "" + SampleWish.ROWS,
      paramLabel = "N",
      description = "How many rows in all at most; default: ${DEFAULT-VALUE}.")
  private int rows = SampleWish.ROWS;

  @Option(
      names = "--seed",
      defaultValue = "1",
      paramLabel = "N",
      description =
          "Takes other rows where any would do; the same number takes the same. Default:"
              + " ${DEFAULT-VALUE}.")
  private long seed = 1;

  @Option(
      names = "--mask",
      split = ",",
      paramLabel = "COLUMNS",
      description =
          "Replaces the values of these columns, as station.name or warden.*, equal ones by equal"
              + " ones; columns that refer to each other go together.")
  private List<String> masked = List.of();

  @Option(
      names = "--mask-keeps",
      split = ",",
      paramLabel = "WHAT",
      description = "What masked values keep: order, length, or both.")
  private List<String> kept = List.of();

  @Mixin private ValuesOption values = new ValuesOption();

  @Option(
      names = "--format",
      defaultValue = "text",
      paramLabel = "FORMAT",
      description = "${COMPLETION-CANDIDATES}; default: ${DEFAULT-VALUE}.")
  private Format format = Format.text;

  @Parameters(
      paramLabel = "QUERY.sql",
      arity = "0..*",
      description =
          "Files with queries, whose lost, repeated and shown rows are taken; - is standard input.")
  private List<String> files = List.of();

  @Override
  public Integer call() {
    if (rows < 1 || rows > MOST_ROWS) {
      throw wrong("--rows is " + rows + "; it can be 1 to " + MOST_ROWS);
    }
    if (!kept.isEmpty() && masked.isEmpty()) {
      throw wrong("--mask-keeps goes with --mask");
    }
    SampleWish wish = SampleWish.usual().ofRows(rows).seeded(seed).masking(masked, likeness());
    try (Lantrel lantrel = tables.openWithRows()) {
      List<StudiedFile> studied = QueryFiles.open(files, lantrel, values);
      List<Study> queries =
          studied.stream().map(StudiedFile::studies).flatMap(List::stream).toList();
      Sample sample;
      try (StatusLine status = StatusLine.onTerminal(spec.commandLine().getErr())) {
        sample = lantrel.sample(wish, queries, status::show);
      }
      sample.writeTo(folder);
      List<SampleDifference> differences =
          queries.isEmpty() ? List.of() : differences(studied, sample, lantrel);
      PrintWriter out = spec.commandLine().getOut();
      out.print(
          format == Format.json
              ? SampleJson.sample(sample, differences)
              : new SampleText(Output.style()).write(sample, folder.toString(), differences));
      out.flush();
      return ExitCode.FINE;
    }
  }

  /** What the queries show otherwise on what was written. */
  private List<SampleDifference> differences(
      List<StudiedFile> files, Sample sample, Lantrel lantrel) {
    Iterator<SeenQuery> there = sample.queries().iterator();
    List<SampleDifference> differences = new ArrayList<>();
    try (Lantrel here = tables.openLike(lantrel, folder)) {
      for (StudiedFile file : files) {
        if (file.studies().isEmpty()) {
          continue;
        }
        String text = file.studies().get(0).source().text();
        for (Study each : here.studies(text, values.values())) {
          differences.addAll(SampleDifference.between(file.name(), there.next(), each));
        }
      }
    }
    return differences;
  }

  private Set<Likeness> likeness() {
    Set<Likeness> likeness = EnumSet.noneOf(Likeness.class);
    for (String each : kept) {
      switch (each.strip()) {
        case "order" -> likeness.add(Likeness.ORDER);
        case "length" -> likeness.add(Likeness.LENGTH);
        default -> throw wrong("--mask-keeps takes order, length, or both; not " + each);
      }
    }
    return likeness;
  }

  private ParameterException wrong(String message) {
    return new ParameterException(spec.commandLine(), message);
  }
}
