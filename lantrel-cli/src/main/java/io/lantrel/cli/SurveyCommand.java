package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.catalog.Table;
import io.lantrel.report.DiagramText;
import io.lantrel.report.ReferencesSql;
import io.lantrel.report.SurveyJson;
import io.lantrel.report.TextReport;
import io.lantrel.survey.Survey;
import io.lantrel.survey.SurveyWish;
import io.lantrel.words.Wildcard;
import java.io.PrintWriter;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** Looks at the tables. */
@Command(
    name = "survey",
    description = {
      "Shows the tables, what refers to what, declared or not, and what is wrong with the rows."
    })
final class SurveyCommand implements Callable<Integer> {

  private static final int MOST_ROWS = 1_000;

  /** How the answer is written. */
  enum Form {
    text,
    json,
    dot,
    mermaid,
    sql
  }

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();

  @Option(
      names = "--only",
      split = ",",
      paramLabel = "TABLES",
      description =
          "Shows only these tables, with commas between them; * stands for any characters, as in"
              + " st*. What is said of them is what all tables tell.")
  private List<String> only = List.of();

  @Option(
      names = "--rows",
      defaultValue = "" + SurveyWish.ROWS,
      paramLabel = "N",
      description = "How many rows of each table are shown; default: ${DEFAULT-VALUE}.")
  private int rows = SurveyWish.ROWS;

  @Option(
      names = "--values",
      description =
          "Also the values worth seeing in each column: the most frequent and the rarest, least and"
              + " greatest, empty texts, blanks at the ends, texts that differ in case alone.")
  private boolean values;

  @Option(names = "--brief", description = "Leaves out the columns and rows of each table.")
  private boolean brief;

  @Option(
      names = "--format",
      defaultValue = "text",
      paramLabel = "FORMAT",
      description =
          "${COMPLETION-CANDIDATES}; default: ${DEFAULT-VALUE}. dot is for Graphviz, mermaid for"
              + " documents that draw it, sql are the references that are not declared, for review.")
  private Form form = Form.text;

  @Override
  public Integer call() {
    if (rows < 0 || rows > MOST_ROWS) {
      throw new ParameterException(
          spec.commandLine(), "--rows is " + rows + "; it can be 0 to " + MOST_ROWS);
    }
    try (Lantrel lantrel = tables.openWithRows()) {
      Survey survey;
      try (StatusLine status = StatusLine.onTerminal(spec.commandLine().getErr())) {
        survey = lantrel.survey(wish(), status::show);
      }
      if (survey.tables().isEmpty() && !only.isEmpty()) {
        throw new ParameterException(
            spec.commandLine(),
            "there is no table called "
                + String.join(" or ", only)
                + "; there are "
                + String.join(
                    ", ", lantrel.catalog().tables().stream().map(each -> each.name()).toList()));
      }
      PrintWriter out = spec.commandLine().getOut();
      out.print(written(survey, lantrel));
      out.flush();
      return ExitCode.FINE;
    }
  }

  private String written(Survey survey, Lantrel lantrel) {
    TextReport text = new TextReport(Output.style());
    return switch (form) {
      case text -> text.survey(survey) + (brief ? "" : text.tables(survey));
      case json -> SurveyJson.survey(survey);
      case dot -> new DiagramText().dot(survey);
      case mermaid -> new DiagramText().mermaid(survey);
      case sql -> new ReferencesSql(lantrel.catalog().dialect()).write(survey);
    };
  }

  private SurveyWish wish() {
    SurveyWish wish = SurveyWish.all().only(wanted()).showing(rows);
    return values ? wish.withValues() : wish;
  }

  private Predicate<Table> wanted() {
    if (only.isEmpty()) {
      return table -> true;
    }
    List<Pattern> patterns = only.stream().map(Wildcard::of).toList();
    return table ->
        patterns.stream()
            .anyMatch(
                each ->
                    each.matcher(table.name()).matches()
                        || each.matcher(table.schema() + "." + table.name()).matches());
  }
}
