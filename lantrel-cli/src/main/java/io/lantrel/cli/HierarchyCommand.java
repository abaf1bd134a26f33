package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.hierarchy.Hierarchy;
import io.lantrel.hierarchy.HierarchyWish;
import io.lantrel.hierarchy.RowsBetween;
import io.lantrel.report.HierarchyText;
import io.lantrel.report.JsonReport;
import io.lantrel.report.Visible;
import io.lantrel.words.Words;
import java.io.PrintWriter;
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

/** Shows a table that refers to itself as trees. */
@Command(
    name = "hierarchy",
    description =
        "Shows a table that refers to itself as trees, with circles and what refers to nothing; or"
            + " a table whose rows a junction table puts below each other, each way to a row; or"
            + " writes the query that walks it.")
final class HierarchyCommand implements Callable<Integer> {

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private Output output = new Output();

  @Option(
      names = "--by",
      paramLabel = "COLUMN",
      description =
          "The column that names the row above, if there are several; with --over one of the"
              + " junction table.")
  private @Nullable String by;

  @Option(
      names = "--over",
      paramLabel = "TABLE",
      description =
          "The junction table that puts rows below each other, if the table does not refer to"
              + " itself: a row can be below several then.")
  private @Nullable String over;

  @Option(
      names = "--sum",
      paramLabel = "COLUMN",
      description = "A column to be summed up the tree.")
  private @Nullable String sum;

  @Option(
      names = "--levels",
      paramLabel = "N",
      description = "How many levels are shown at most; all if the rows allow.")
  private int levels;

  @Option(
      names = "--rows",
      defaultValue = "100",
      paramLabel = "N",
      description = "How many rows are shown at most; default: ${DEFAULT-VALUE}.")
  private int rows;

  @Option(
      names = "--write",
      description =
          "Writes the query that walks it instead, with level, path, first row and leaf; with"
              + " --levels N a chain of N joins, which goes no deeper.")
  private boolean write;

  @Option(
      names = "--between",
      arity = "2",
      paramLabel = "KEY",
      description =
          "What lies between the rows of two keys instead: their nearest common row, and the steps"
              + " from one to the other; with --write the query that tells it.")
  private List<String> between = List.of();

  @Parameters(paramLabel = "TABLE", description = "The table.")
  private String table = "";

  @Override
  public Integer call() {
    if (between.size() > 2) {
      throw new ParameterException(spec.commandLine(), "--between takes two keys, once");
    }
    if (!between.isEmpty()) {
      refuseBesideBetween();
    }
    if (rows < 1 || levels < 0) {
      throw new ParameterException(
          spec.commandLine(), "--rows and --levels take whole numbers from 1 on");
    }
    HierarchyWish wish = HierarchyWish.of(table).showing(levels, rows);
    wish = by == null ? wish : wish.by(by);
    wish = over == null ? wish : wish.over(over);
    wish = sum == null ? wish : wish.summing(sum);
    try (Lantrel lantrel = tables.openWithRows()) {
      if (!between.isEmpty()) {
        print(between(lantrel, wish));
        return ExitCode.FINE;
      }
      if (write) {
        print(Visible.of(lantrel.hierarchyQuery(wish)) + "\n");
        if (levels > 0) {
          tellDeeper(lantrel.hierarchy(wish));
        }
        return ExitCode.FINE;
      }
      Hierarchy hierarchy = lantrel.hierarchy(wish);
      print(
          output.format == Format.json
              ? new JsonReport().hierarchy(hierarchy)
              : new HierarchyText(Output.style()).write(hierarchy));
      return ExitCode.FINE;
    }
  }

  /** What says how much is shown of trees means nothing where none are shown. */
  private void refuseBesideBetween() {
    for (String option : List.of("--sum", "--levels", "--rows")) {
      if (spec.commandLine().getParseResult().hasMatchedOption(option)) {
        throw new ParameterException(
            spec.commandLine(),
            option + " is about trees, and --between shows none; leave one of the two out");
      }
    }
  }

  private String between(Lantrel lantrel, HierarchyWish wish) {
    String first = between.get(0);
    String second = between.get(1);
    if (write) {
      return Visible.of(lantrel.betweenQuery(wish, first, second)) + "\n";
    }
    RowsBetween found = lantrel.between(wish, first, second);
    return output.format == Format.json
        ? new JsonReport().between(found)
        : new HierarchyText(Output.style()).between(found);
  }

  /** A chain of joins goes no deeper than it is long. */
  private void tellDeeper(Hierarchy hierarchy) {
    long deeper = hierarchy.levels().stream().skip(levels).mapToLong(each -> each).sum();
    if (deeper > 0) {
      spec.commandLine()
          .getErr()
          .println(
              "lantrel: note: "
                  + Words.rows(deeper)
                  + (deeper == 1 ? " lies" : " lie")
                  + " deeper than "
                  + Words.count(levels, "level")
                  + " and "
                  + (deeper == 1 ? "is" : "are")
                  + " not in its result");
    }
  }

  private void print(String text) {
    PrintWriter out = spec.commandLine().getOut();
    out.print(text);
    out.flush();
  }
}
