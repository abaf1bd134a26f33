package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Comparison;
import io.lantrel.compare.ExpectedTable;
import io.lantrel.compare.Verdict;
import io.lantrel.report.CompareText;
import io.lantrel.report.ComparedPair;
import io.lantrel.report.JsonReport;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.TableFile;
import java.io.PrintWriter;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Compares results. */
@Command(
    name = "compare",
    description = {
      "Compares results side by side: of two queries or several, of a query and a table that is"
          + " expected, of one query at two databases.",
    },
    footer = {
      "",
      "At two places, by --data and --db, one query is run at both; of two queries",
      "the first at the first place (--data before --db), the second at the other.",
      "",
      "Exit codes: 0 all are the same here; 1 some differ; 2 called wrongly; 3 something",
      "could not be compared."
    })
final class CompareCommand implements Callable<Integer> {

  @Spec private CommandSpec spec = CommandSpec.create();
  @Mixin private TablesOption tables = new TablesOption();
  @Mixin private ValuesOption values = new ValuesOption();
  @Mixin private Output output = new Output();

  @Option(
      names = "--key",
      split = ",",
      paramLabel = "COLUMN",
      description =
          "Columns by which a row is known again in the other result, with commas between them;"
              + " default: a key of the queries, or columns that do not repeat.")
  private List<String> key = List.of();

  @Option(
      names = "--tolerance",
      defaultValue = "0",
      paramLabel = "NUMBER",
      description = "So much may two numbers differ and yet be the same; default: not at all.")
  private BigDecimal tolerance = BigDecimal.ZERO;

  @Option(
      names = "--any-order",
      description = "The order of the rows does not count, also where both results have one.")
  private boolean anyOrder;

  @Option(
      names = "--rows",
      defaultValue = "20",
      paramLabel = "N",
      description =
          "How many rows are shown that only one of the two has, of each, and how many that have"
              + " other values; default: ${DEFAULT-VALUE}.")
  private int rows;

  @Parameters(
      arity = "1..*",
      paramLabel = "FILE",
      description =
          "Files with queries; .csv and .json files are expected tables. - is standard input.")
  private List<String> files = List.of();

  private final List<String> names = new ArrayList<>();

  /** A result that is compared. */
  private record Result(String name, @Nullable Study study, @Nullable ExpectedTable table) {}

  @Override
  public Integer call() {
    CompareOptions options = options();
    List<Lantrel> places = tables.openUpToTwo();
    try {
      List<Result> results = places.size() == 1 ? atOne(places.get(0)) : atTwo(places);
      results.forEach(result -> names.add(result.name()));
      List<ComparedPair> pairs = pairs(results, options);
      String open =
          pairs.stream()
              .map(ComparedPair::comparison)
              .filter(each -> each.verdict() == Verdict.UNDECIDED)
              .map(Comparison::reason)
              .collect(Collectors.joining("\n"));
      AllowHint.after(open, spec.commandLine().getErr());
      if (output.format == Format.json) {
        print(new JsonReport().comparisons(pairs));
      } else {
        text(results, pairs);
      }
      return exit(pairs);
    } finally {
      places.forEach(Lantrel::close);
    }
  }

  private CompareOptions options() {
    try {
      return anyOrder(CompareOptions.USUAL.by(key).within(tolerance).showing(rows));
    } catch (IllegalArgumentException unfit) {
      throw wrong(String.valueOf(unfit.getMessage()));
    }
  }

  private CompareOptions anyOrder(CompareOptions options) {
    return anyOrder ? options.inAnyOrder() : options;
  }

  // ---- what is compared ----

  private List<Result> atOne(Lantrel lantrel) {
    List<Result> results = new ArrayList<>();
    List<StudiedFile> studied =
        QueryFiles.open(
            files.stream().filter(name -> !TableFile.isOne(name)).toList(), lantrel, values);
    int next = 0;
    for (String file : files) {
      if (TableFile.isOne(file)) {
        ExpectedTable table = TableFile.read(Path.of(file));
        results.add(new Result(file, null, table));
      } else {
        StudiedFile queries = studied.get(next++);
        queries.studies().forEach(study -> results.add(of(queries, study)));
      }
    }
    if (results.stream().noneMatch(result -> result.study() != null)) {
      throw wrong("two tables are no matter for Lantrel; give at least one query");
    }
    if (results.size() < 2) {
      throw wrong(
          "two results are wanted: give a second query or an expected table, or a second place by"
              + " --data or --db");
    }
    // A table takes its types from a query.
    results.sort(Comparator.comparing(result -> result.table() != null));
    return distinct(results);
  }

  private static Result of(StudiedFile file, Study study) {
    String name =
        file.studies().size() == 1 ? file.name() : file.name() + ":" + study.place().line();
    return new Result(name, study, null);
  }

  private List<Result> atTwo(List<Lantrel> places) {
    if (files.size() > 2 || files.stream().anyMatch(TableFile::isOne)) {
      throw wrong(
          "at two places one query is run, or the first at the one, the second at the other");
    }
    List<String> names = tables.placeNames();
    List<Result> results = new ArrayList<>();
    for (int i = 0; i < 2; i++) {
      String file = files.get(Math.min(i, files.size() - 1));
      StudiedFile queries = QueryFiles.open(List.of(file), places.get(i), values).get(0);
      if (queries.studies().size() != 1) {
        throw wrong(
            "at two places one query is run; " + file + " holds " + queries.studies().size());
      }
      String name = files.size() == 1 ? names.get(i) : queries.name() + " at " + names.get(i);
      results.add(new Result(name, queries.studies().get(0), null));
    }
    return distinct(results);
  }

  /** No two go by one name. */
  private static List<Result> distinct(List<Result> results) {
    List<Result> distinct = new ArrayList<>();
    HashSet<String> names = new HashSet<>();
    for (Result result : results) {
      String name = result.name();
      int number = 2;
      while (!names.add(name)) {
        name = result.name() + " (" + number++ + ")";
      }
      distinct.add(new Result(name, result.study(), result.table()));
    }
    return distinct;
  }

  // ---- comparing ----

  /** Every pair; what follows from others is not asked again. */
  private List<ComparedPair> pairs(List<Result> results, CompareOptions options) {
    List<ComparedPair> pairs = new ArrayList<>();
    boolean exact = tolerance.signum() == 0;
    for (int i = 0; i < results.size(); i++) {
      for (int j = i + 1; j < results.size(); j++) {
        Result first = results.get(i);
        Result second = results.get(j);
        if (first.study() == null) {
          break; // tables stand last, and two of them are nobody's question
        }
        @Nullable Comparison known = exact ? known(first.name(), second.name(), pairs) : null;
        pairs.add(
            new ComparedPair(
                first.name(),
                second.name(),
                known == null
                    ? compared(
                        first.study(),
                        second,
                        options.called(label(first.name()), label(second.name())))
                    : known));
      }
    }
    return pairs;
  }

  /** Two that are like a third are like each other. */
  private @Nullable Comparison known(String first, String second, List<ComparedPair> pairs) {
    for (ComparedPair one : pairs) {
      for (ComparedPair other : pairs) {
        boolean chain =
            one.first().equals(other.first())
                && one.second().equals(first)
                && other.second().equals(second);
        if (chain && one.comparison().verdict().isSame() && other.comparison().verdict().isSame()) {
          Verdict verdict =
              one.comparison().verdict() == Verdict.SAME
                      && other.comparison().verdict() == Verdict.SAME
                  ? Verdict.SAME
                  : Verdict.SAME_HERE;
          return new Comparison(
              verdict,
              "both give the rows of " + label(one.first()),
              one.comparison().second(),
              other.comparison().second(),
              Optional.empty(),
              List.of(),
              List.of());
        }
      }
    }
    return null;
  }

  private static Comparison compared(Study first, Result second, CompareOptions options) {
    if (second.study() != null) {
      return first.compare(second.study(), options);
    }
    ExpectedTable table = Objects.requireNonNull(second.table());
    return first.compare(table.called(options.second()), options);
  }

  /** The file without its folder, if that tells it from the others. */
  private String label(String name) {
    String label = last(name);
    long alike = names.stream().filter(each -> last(each).equals(label)).count();
    return alike == 1 ? label : name;
  }

  private static String last(String name) {
    return name.replaceFirst("^.*[/\\\\](?=.)", "");
  }

  private ComparedPair labelled(ComparedPair pair) {
    return new ComparedPair(label(pair.first()), label(pair.second()), pair.comparison());
  }

  private CompareText.Group labelled(List<String> group, List<ComparedPair> pairs) {
    boolean proven =
        pairs.stream()
            .filter(pair -> group.contains(pair.first()) && group.contains(pair.second()))
            .allMatch(pair -> pair.comparison().verdict() == Verdict.SAME);
    return new CompareText.Group(group.stream().map(this::label).toList(), proven);
  }

  // ---- answers ----

  private void text(List<Result> results, List<ComparedPair> pairs) {
    CompareText text = new CompareText(Output.style());
    if (results.size() > 2) {
      List<List<String>> groups = groups(results, pairs);
      print(text.groups(groups.stream().map(group -> labelled(group, pairs)).toList()) + "\n");
      List<String> firsts = groups.stream().map(group -> group.get(0)).toList();
      pairs.stream()
          .filter(pair -> !pair.comparison().verdict().isSame())
          .filter(pair -> firsts.contains(pair.first()) && firsts.contains(pair.second()))
          .forEach(pair -> print(text.pair(labelled(pair)) + "\n"));
    } else {
      pairs.forEach(pair -> print(text.pair(labelled(pair))));
    }
  }

  private static List<List<String>> groups(List<Result> results, List<ComparedPair> pairs) {
    List<List<String>> groups = new ArrayList<>();
    for (Result result : results) {
      List<String> home = new ArrayList<>();
      for (List<String> group : groups) {
        boolean same =
            pairs.stream()
                .filter(pair -> pair.first().equals(group.get(0)))
                .filter(pair -> pair.second().equals(result.name()))
                .anyMatch(pair -> pair.comparison().verdict().isSame());
        if (same) {
          home = group;
          break;
        }
      }
      if (home.isEmpty()) {
        groups.add(home);
      }
      home.add(result.name());
    }
    return groups;
  }

  private static int exit(List<ComparedPair> pairs) {
    if (pairs.stream().anyMatch(pair -> pair.comparison().verdict() == Verdict.UNDECIDED)) {
      return ExitCode.COULD_NOT_RUN;
    }
    return pairs.stream().allMatch(pair -> pair.comparison().verdict().isSame())
        ? ExitCode.FINE
        : ExitCode.FINDINGS;
  }

  private void print(String text) {
    PrintWriter out = spec.commandLine().getOut();
    out.print(text);
    out.flush();
  }

  private ParameterException wrong(String message) {
    return new ParameterException(spec.commandLine(), message);
  }
}
