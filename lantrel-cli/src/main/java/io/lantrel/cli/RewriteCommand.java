package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Rewriting;
import io.lantrel.Study;
import io.lantrel.engine.Engine;
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
import java.util.function.Function;
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
      "Forms:",
      "  joins       JOIN in place of commas and of (+)",
      "  on          ON in place of USING and NATURAL",
      "  left        LEFT JOIN in place of RIGHT JOIN",
      "  flat        one chain of joins, none within another",
      "  union       LEFT JOIN and UNION ALL in place of FULL JOIN",
      "  qualified   every column with its table",
      "  columns     the columns in place of *",
      "  short       short aliases",
      "  roles       aliases that say what a row is to the one that refers to it",
      "  not-exists, not-in, is-null",
      "              rows without a partner by NOT EXISTS, by NOT IN, or by LEFT",
      "              JOIN and IS NULL",
      "  join-once   JOIN with single rows in place of IN and EXISTS",
      "  scalar      scalar subqueries in SELECT in place of LEFT JOIN",
      "  no-scalar   LEFT JOIN in place of scalar subqueries in SELECT",
      "  with        WITH in place of queries in FROM and in conditions",
      "  derived     queries in FROM in place of WITH",
      "  filter-where, filter-on",
      "              conditions on one table in WHERE, or in the ON of its join",
      "  in-list     IN in place of equalities connected with OR",
      "  coalesce    COALESCE around what may be missing in a text"
    })
final class RewriteCommand implements Callable<Integer> {

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private Output output = new Output();

  @Option(names = "--form", paramLabel = "FORM", description = "One of the forms below.")
  private @Nullable String form;

  @Option(
      names = "--to",
      paramLabel = "ENGINE",
      completionCandidates = EngineNames.class,
      description =
          "In place of a form: the SQL of another engine, ${COMPLETION-CANDIDATES}. With --data"
              + " both are run, if the other one runs within Lantrel.")
  private @Nullable String target;

  @Parameters(
      paramLabel = "QUERY.sql",
      arity = "1..*",
      description = "Files with queries; - for standard input.")
  private List<String> files = List.of();

  @Override
  public Integer call() {
    if ((form == null) == (target == null)) {
      throw wrong("say what to bring the query into: --form FORM or --to ENGINE, one of them");
    }
    try (Lantrel lantrel = tables.open()) {
      if (target == null) {
        Form wanted = form(String.valueOf(form));
        return all(lantrel, sql -> lantrel.rewrite(sql, wanted));
      }
      Engine engine = EngineNames.engine(target, spec);
      try (Lantrel other = tables.openIn(engine, lantrel)) {
        return all(lantrel, sql -> lantrel.translate(sql, other));
      }
    }
  }

  private Form form(String name) {
    String names = String.join(", ", Arrays.stream(Form.values()).map(Form::id).toList());
    return Form.of(name)
        .orElseThrow(() -> wrong("there is no form " + name + "; there are " + names));
  }

  private int all(Lantrel lantrel, Function<String, Rewriting> rewriter) {
    int exit = ExitCode.FINE;
    PrintWriter out = spec.commandLine().getOut();
    RewriteText text = new RewriteText(Output.style());
    List<Object> json = new ArrayList<>();
    for (StudiedFile file : QueryFiles.open(files, lantrel)) {
      for (Study study : file.studies()) {
        @Nullable Rewriting rewriting = null;
        String refusal = "";
        try {
          rewriting = rewriter.apply(study.sql());
        } catch (RewriteException unfit) {
          refusal = String.valueOf(unfit.getMessage());
          AllowHint.after(refusal, spec.commandLine().getErr());
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
    if (output.format == Format.json) {
      out.print(new JsonReport().rewritings(json));
    }
    out.flush();
    return exit;
  }

  private ParameterException wrong(String message) {
    return new ParameterException(spec.commandLine(), message);
  }
}
