package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.report.JsonReport;
import io.lantrel.report.TextReport;
import io.lantrel.survey.Survey;
import java.io.PrintWriter;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

/** Looks at the tables. */
@Command(
    name = "survey",
    description = "Shows the tables, what refers to what, and which rows violate the schema.")
final class SurveyCommand implements Callable<Integer> {

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private Output output = new Output();

  @Override
  public Integer call() {
    try (Lantrel lantrel = tables.openWithRows()) {
      Survey survey = lantrel.survey();
      PrintWriter out = spec.commandLine().getOut();
      out.print(
          output.format == Format.json
              ? new JsonReport().survey(survey)
              : new TextReport(Output.style()).survey(survey));
      out.flush();
      return ExitCode.FINE;
    }
  }
}
