package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.draft.Draft;
import io.lantrel.draft.Wish;
import io.lantrel.engine.DatabaseException;
import io.lantrel.report.DraftText;
import io.lantrel.report.JsonReport;
import io.lantrel.report.StudiedDraft;
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

/** Writes a query that shows what is wished for. */
@Command(
    name = "draft",
    description = "Writes the query that shows what you name, checks it, and shows its first rows.",
    footer = {
      "",
      "What is shown: columns, as station.name, and figures, as 'count of reading' or",
      "'average reading.temperature' (count, sum, average, least, greatest; 'count of",
      "different t.c'). In place of a table its role can stand: mentor.given_name, for",
      "what mentor_id refers to.",
      "",
      "  lantrel draft --data DIR station.name river.name --keep station",
      "  lantrel draft --data DIR river.name 'average reading.temperature'",
      "  lantrel draft --data DIR station.name --without \"reading where depth_cm > 9\"",
      "  lantrel draft --data DIR station.name other.name --pairs 'station at river'",
      "  lantrel draft --data DIR river.name --below \"river where name = 'Ombrel'\"",
      "  lantrel draft --data DIR river.name 'count of station' --branches river",
      "  lantrel draft --data DIR keeper.given_name --continue stations.sql"
    })
final class DraftCommand implements Callable<Integer> {

  /** How many rows of a result are shown. */
  private static final int ROWS = 5;

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private Output output = new Output();

  @Parameters(paramLabel = "ITEM", arity = "1..*", description = "A column or a figure.")
  private List<String> items = List.of();

  @Option(
      names = "--keep",
      paramLabel = "TABLE",
      description = "None of its rows may be missing. Can be given several times.")
  private List<String> keep = List.of();

  @Option(
      names = "--without",
      paramLabel = "'TABLE [where CONDITION]'",
      description = "Only what has none of these. Can be given several times.")
  private List<String> without = List.of();

  @Option(
      names = "--where",
      paramLabel = "CONDITION",
      description = "A condition in SQL. Can be given several times.")
  private List<String> where = List.of();

  @Option(
      names = "--order",
      paramLabel = "'ITEM [desc]'",
      description = "What the rows are put in order by. Can be given several times.")
  private List<String> order = List.of();

  @Option(
      names = "--pairs",
      paramLabel = "'TABLE at TABLE'",
      description = "Pairs of rows that refer to the same row; the second one is called other.")
  private @Nullable String pairs;

  @Option(
      names = "--every-pair",
      description =
          "Lists that have nothing to do with each other stand side by side, each row of one with"
              + " each of the other; else one list is put behind the other.")
  private boolean everyPair;

  @Option(
      names = "--below",
      paramLabel = "'TABLE [where CONDITION]'",
      description =
          "Everything that refers to these rows of a hierarchy, directly or over others; without a"
              + " condition whole trees, their roots included.")
  private @Nullable String below;

  @Option(
      names = "--above",
      paramLabel = "'TABLE where CONDITION'",
      description = "Everything that these rows of a hierarchy refer to, directly or over others.")
  private @Nullable String above;

  @Option(
      names = "--branches",
      paramLabel = "TABLE",
      description =
          "Figures for each row of this hierarchy are of all rows below it too, over any number of"
              + " levels.")
  private @Nullable String branches;

  @Option(
      names = "--continue",
      paramLabel = "QUERY.sql",
      description =
          "A query that goes on and shows the items besides; - for standard input. Nothing else in"
              + " it is changed.")
  private @Nullable String query;

  @Override
  public Integer call() {
    Wish wish = wish();
    try (Lantrel lantrel = tables.open()) {
      wish = query == null ? wish : wish.continuing(QueryFiles.text(query));
      List<StudiedDraft> drafts = studied(lantrel, wish);
      PrintWriter out = spec.commandLine().getOut();
      if (output.format == Format.json) {
        out.print(new JsonReport().drafts(drafts));
      } else {
        DraftText text = new DraftText(Output.style());
        for (int i = 0; i < drafts.size(); i++) {
          out.print(text.write(drafts.get(i), i + 1, drafts.size()));
        }
      }
      out.flush();
      return ExitCode.FINE;
    }
  }

  private static List<StudiedDraft> studied(Lantrel lantrel, Wish wish) {
    List<StudiedDraft> drafts = new ArrayList<>();
    for (Draft each : lantrel.drafts(wish)) {
      Study study = lantrel.study(each.sql());
      if (study.hasRows() && study.inspection().refusal().isPresent()) {
        throwIfOfACondition(lantrel, wish);
      }
      try {
        drafts.add(StudiedDraft.of(each, study, ROWS));
      } catch (DatabaseException failed) {
        throwIfOfACondition(lantrel, wish);
        throw failed;
      }
    }
    return drafts;
  }

  /** A condition that the database does not take is told in the words that it was given in. */
  private static void throwIfOfACondition(Lantrel lantrel, Wish wish) {
    lantrel
        .refusedCondition(wish)
        .ifPresent(
            refused -> {
              throw refused;
            });
  }

  private Wish wish() {
    Wish wish =
        Wish.show(items.toArray(String[]::new))
            .keepEvery(keep.toArray(String[]::new))
            .orderBy(order.toArray(String[]::new));
    for (String each : without) {
      List<String> parts = parts(each, "where");
      wish =
          parts.size() == 1 ? wish.without(each.strip()) : wish.without(parts.get(0), parts.get(1));
    }
    for (String each : where) {
      wish = wish.where(each);
    }
    wish = everyPair ? wish.withEveryPair() : wish;
    if (pairs != null) {
      List<String> parts = two("--pairs", pairs, "at", "'station at river'");
      wish = wish.pairsOf(parts.get(0), parts.get(1));
    }
    if (below != null) {
      List<String> parts = parts(below, "where");
      wish = parts.size() == 1 ? wish.below(below.strip()) : wish.below(parts.get(0), parts.get(1));
    }
    if (above != null) {
      List<String> parts = two("--above", above, "where", "\"river where name = 'Hathe'\"");
      wish = wish.above(parts.get(0), parts.get(1));
    }
    return branches == null ? wish : wish.overBranchesOf(branches);
  }

  private List<String> two(String option, String value, String word, String example) {
    List<String> parts = parts(value, word);
    if (parts.size() != 2) {
      throw new ParameterException(
          spec.commandLine(), option + " is written as " + example + ", not as '" + value + "'");
    }
    return parts;
  }

  /** What stands before and behind the first such word; only the value if it is not there. */
  private static List<String> parts(String value, String word) {
    List<String> parts = new ArrayList<>();
    for (String part : value.split("(?i)\\s+" + word + "\\s+", 2)) {
      parts.add(part.strip());
    }
    return parts;
  }
}
