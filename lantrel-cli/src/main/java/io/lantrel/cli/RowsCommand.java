package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.report.JsonReport;
import io.lantrel.report.RowsFile;
import io.lantrel.report.RowsText;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.TextReport;
import io.lantrel.rows.StepRows;
import java.io.PrintWriter;
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

/** Shows the rows of queries. */
@Command(
    name = "rows",
    description = "Runs a query and shows its rows, or the rows as they stand after each join.")
final class RowsCommand implements Callable<Integer> {

  private static final String ALL = "all";

  /** The forms of output; the names are those that a user types. */
  enum Form {
    text,
    csv,
    json,
    markdown
  }

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private ValuesOption values = new ValuesOption();

  @Option(
      names = "--rows",
      defaultValue = "20",
      paramLabel = "N",
      description = "How many rows are shown; default: ${DEFAULT-VALUE}. All are counted.")
  private int rows;

  @Option(
      names = "--step",
      paramLabel = "N|all",
      description =
          "The rows after a step of FROM, 1 for its first table alone, 2 after the first join; or"
              + " after each. What a table is known by is shown of it, and what the query names.")
  private @Nullable String step;

  @Option(
      names = "--format",
      defaultValue = "text",
      paramLabel = "FORMAT",
      description = "${COMPLETION-CANDIDATES}; default: ${DEFAULT-VALUE}.")
  private Form format = Form.text;

  @Parameters(
      arity = "1..*",
      paramLabel = "QUERY.sql",
      description = "Files with queries; - is standard input.")
  private List<String> files = List.of();

  private final List<Object> told = new ArrayList<>();

  @Override
  public Integer call() {
    if (rows < 0) {
      throw wrong("--rows takes a whole number from 0 on, not " + rows);
    }
    if (step != null && !step.equals(ALL) && !step.matches("[1-9][0-9]{0,3}")) {
      throw wrong("--step takes the number of a step, from 1 on, or all, not " + step);
    }
    try (Lantrel lantrel = tables.openWithRows()) {
      List<StudiedFile> studied = QueryFiles.open(files, lantrel, values);
      int statements = studied.stream().mapToInt(file -> file.studies().size()).sum();
      if (format == Form.csv && (statements > 1 || ALL.equals(step))) {
        throw wrong("CSV holds one table: give one statement, and one step of it");
      }
      EachStatement run =
          EachStatement.through(studied, spec.commandLine().getErr(), "run", this::show);
      if (format == Form.json) {
        print(new JsonReport().rowsOfAll(told, run.failed()));
      }
      return run.exit();
    }
  }

  private ParameterException wrong(String sentence) {
    return new ParameterException(spec.commandLine(), sentence);
  }

  private void show(StudiedFile file, Study study) {
    if (step == null) {
      result(file, study);
      return;
    }
    if (step.equals(ALL)) {
      steps(file, study, study.steps(rows));
      return;
    }
    int number = Integer.parseInt(step);
    int there = study.stepCount();
    if (number > there) {
      throw wrong(
          "there is no step " + number + "; this FROM has " + there + ", the first table counted");
    }
    steps(file, study, List.of(study.step(number, rows)));
  }

  private void result(StudiedFile file, Study study) {
    switch (format) {
      case text ->
          print(
              heading(file, study) + new RowsText(Output.style()).result(study.rows(rows)) + "\n");
      case csv -> print(RowsFile.csv(study.rows(rows)));
      case markdown -> print(RowsFile.markdown(study.rows(rows)) + "\n");
      case json -> told.add(new JsonReport().rows(file, study, study.rows(rows)));
    }
  }

  private void steps(StudiedFile file, Study study, List<StepRows> steps) {
    RowsText text = new RowsText(Output.style());
    switch (format) {
      case text -> {
        print(heading(file, study));
        steps.forEach(each -> print(text.step(each) + "\n"));
      }
      case csv -> print(RowsFile.csv(steps.get(0).rows()));
      case markdown -> steps.forEach(each -> print(RowsFile.markdown(each) + "\n"));
      case json -> told.add(new JsonReport().rows(file, study, steps));
    }
  }

  private static String heading(StudiedFile file, Study study) {
    return new TextReport(Output.style()).heading(file.name(), study);
  }

  private void print(String text) {
    PrintWriter out = spec.commandLine().getOut();
    out.print(text);
    out.flush();
  }
}
