package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Rewriting;
import io.lantrel.Study;
import io.lantrel.report.JsonReport;
import io.lantrel.report.RewriteText;
import io.lantrel.report.StudiedFile;
import io.lantrel.rewrite.Form;
import io.lantrel.rewrite.RewriteException;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.Arrays;
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

/** Brings queries into another form. */
@Command(
    name = "rewrite",
    description = {
      "Brings queries into another form by edits of their text, and runs them before and after."
    },
    footer = {
      "",
      "Forms: joins (JOIN in place of commas), on (ON in place of USING and NATURAL), left (LEFT",
      "JOIN in place of RIGHT JOIN), qualified (every column with its table), columns (* written",
      "out), not-exists (in place of NOT IN)."
    })
final class RewriteCommand implements Callable<Integer> {

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private Output output = new Output();

  @Option(
      names = "--form",
      required = true,
      paramLabel = "FORM",
      description = "joins, on, left, qualified, columns or not-exists.")
  private String form = "";

  @Parameters(
      paramLabel = "QUERY.sql",
      arity = "1..*",
      description = "Files with queries; - for standard input.")
  private List<String> files = List.of();

  @Override
  public Integer call() {
    Form wanted =
        Form.of(form)
            .orElseThrow(
                () ->
                    new ParameterException(
                        spec.commandLine(),
                        "there is no form "
                            + form
                            + "; there are "
                            + String.join(
                                ", ", Arrays.stream(Form.values()).map(Form::id).toList())));
    int exit = ExitCode.FINE;
    PrintWriter out = spec.commandLine().getOut();
    RewriteText text = new RewriteText(Output.style());
    List<Object> json = new ArrayList<>();
    try (Lantrel lantrel = tables.open()) {
      for (StudiedFile file : QueryFiles.open(files, lantrel)) {
        for (Study study : file.studies()) {
          @Nullable Rewriting rewriting = null;
          String refusal = "";
          try {
            rewriting = lantrel.rewrite(study.sql(), wanted);
          } catch (RewriteException unfit) {
            refusal = String.valueOf(unfit.getMessage());
          }
          boolean same = rewriting != null && rewriting.difference().isEmpty();
          exit = same ? exit : ExitCode.FINDINGS;
          if (output.format == Format.json) {
            json.add(new JsonReport().rewriting(file, study, rewriting, refusal));
          } else {
            out.print(text.write(file.name(), study, rewriting, refusal));
          }
        }
      }
    }
    if (output.format == Format.json) {
      out.print(new JsonReport().rewritings(json));
    }
    out.flush();
    return exit;
  }
}
