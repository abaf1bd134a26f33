package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.report.DiagramText;
import io.lantrel.report.JsonReport;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.TextReport;
import io.lantrel.report.TraceText;
import io.lantrel.report.Visible;
import io.lantrel.sql.NearNames;
import io.lantrel.trace.Answer;
import io.lantrel.trace.ColumnOrigin;
import io.lantrel.trace.TraceException;
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

/** Says what became of rows. */
@Command(
    name = "trace",
    description = "Says why a row is in a result, why another is not, and where columns come from.")
final class TraceCommand implements Callable<Integer> {

  private static final String ALL = "all";

  /** The forms of output; the names are those that a user types. */
  enum Form {
    text,
    json,
    mermaid,
    dot
  }

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private ValuesOption values = new ValuesOption();

  @Option(
      names = "--row",
      paramLabel = "N",
      description = "Why the row of this number is in the result: the rows behind it.")
  private @Nullable Integer row;

  @Option(
      names = "--where",
      paramLabel = "CONDITION",
      description = "The same of the rows that meet a condition, as \"name = 'Mill Weir'\".")
  private @Nullable String where;

  @Option(
      names = "--missing",
      paramLabel = "ROWS",
      description =
          "What became of rows of a table, as \"station where id = 7\", or of values that the result"
              + " should show, as \"name = 'Mill Weir'\": the step at which one was lost, and what it"
              + " did not meet.")
  private @Nullable String missing;

  @Option(
      names = "--column",
      paramLabel = "NAME|all",
      description = "Where a column of the result comes from. Nothing is run.")
  private @Nullable String column;

  @Option(
      names = "--rows",
      defaultValue = "10",
      paramLabel = "N",
      description = "How many rows are told at most; default: ${DEFAULT-VALUE}.")
  private int rows;

  @Option(
      names = "--format",
      defaultValue = "text",
      paramLabel = "FORMAT",
      description =
          "${COMPLETION-CANDIDATES}; default: ${DEFAULT-VALUE}. The last two draw columns.")
  private Form format = Form.text;

  @Parameters(
      arity = "1..*",
      paramLabel = "QUERY.sql",
      description = "Files with queries; - is standard input.")
  private List<String> files = List.of();

  private final List<Object> told = new ArrayList<>();

  @Override
  public Integer call() {
    checkOptions();
    try (Lantrel lantrel = column == null ? tables.openWithRows() : tables.open()) {
      List<StudiedFile> studied = QueryFiles.open(files, lantrel, values);
      EachStatement run =
          EachStatement.through(studied, spec.commandLine().getErr(), "traced", this::tell);
      if (format == Form.json) {
        JsonReport report = new JsonReport();
        print(
            column == null
                ? report.answers(told, run.failed())
                : report.originsOfAll(told, run.failed()));
      }
      return run.exit();
    }
  }

  private void checkOptions() {
    long given = 0;
    for (Object each : new Object[] {row, where, missing, column}) {
      given += each == null ? 0 : 1;
    }
    if (given != 1) {
      throw wrong(
          "what is to be traced? Give one of --row N, --where CONDITION, --missing ROWS, --column NAME");
    }
    if (row != null && row < 1) {
      throw wrong("--row takes the number of a row, from 1 on, not " + row);
    }
    if (rows < 1) {
      throw wrong("--rows takes a whole number from 1 on, not " + rows);
    }
    if (column == null && (format == Form.mermaid || format == Form.dot)) {
      throw wrong("--format " + format + " draws columns; it goes with --column");
    }
  }

  private ParameterException wrong(String sentence) {
    return new ParameterException(spec.commandLine(), sentence);
  }

  private void tell(StudiedFile file, Study study) {
    if (column != null) {
      tell(file, study, chosen(study.origins(), column));
      return;
    }
    List<Answer> answers = answers(study);
    if (format == Form.json) {
      answers.forEach(each -> told.add(new JsonReport().answer(file, study, each)));
      return;
    }
    TraceText text = new TraceText(Output.style());
    print(heading(file, study));
    answers.forEach(each -> print(text.answer(each) + "\n"));
  }

  private List<Answer> answers(Study study) {
    if (missing != null) {
      return study.missing(missing, rows);
    }
    if (row != null) {
      return List.of(study.trace(row, rows));
    }
    List<Integer> numbers = study.rowsWhere(String.valueOf(where));
    if (numbers.isEmpty()) {
      throw new TraceException(
          "no row of the result meets " + where + "; --missing tells what became of a table's row");
    }
    if (numbers.size() > rows) {
      spec.commandLine()
          .getErr()
          .println(
              "lantrel: note: "
                  + numbers.size()
                  + " rows meet that; the first "
                  + rows
                  + " are told");
    }
    return numbers.stream().limit(rows).map(number -> study.trace(number, rows)).toList();
  }

  private void tell(StudiedFile file, Study study, List<ColumnOrigin> origins) {
    switch (format) {
      case text -> {
        print(heading(file, study));
        print(new TraceText(Output.style()).origins(origins) + "\n");
      }
      case json -> told.add(new JsonReport().origins(file, study, origins));
      case mermaid -> print(Visible.of(new DiagramText().mermaid(origins)));
      case dot -> print(Visible.of(new DiagramText().dot(origins)));
    }
  }

  private static List<ColumnOrigin> chosen(List<ColumnOrigin> origins, String name) {
    if (name.equals(ALL)) {
      return origins;
    }
    List<ColumnOrigin> chosen =
        origins.stream().filter(each -> each.heading().equalsIgnoreCase(name)).toList();
    if (chosen.isEmpty()) {
      List<String> headings = origins.stream().map(ColumnOrigin::heading).toList();
      throw new TraceException(
          "the result has no column " + name + NearNames.instead(name, headings, "it has"));
    }
    return chosen;
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
