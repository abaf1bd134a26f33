package io.lantrel.cli;

import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Naming;
import io.lantrel.ledger.RowShare;
import io.lantrel.sql.tree.JoinKind;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** What of the account is wanted: all of it, rows of one figure, or what would be otherwise. */
final class LedgerQuestion {

  private static final Pattern AT = Pattern.compile("([a-z]+)(?:@([0-9]{1,6}))?");
  private static final List<JoinKind> KINDS =
      List.of(JoinKind.INNER, JoinKind.LEFT, JoinKind.RIGHT, JoinKind.FULL);

  @Spec(Spec.Target.MIXEE)
  private CommandSpec spec = CommandSpec.create();

  @Option(
      names = "--rows",
      defaultValue = "3",
      paramLabel = "N|all|FIGURE@STEP",
      description =
          "How many rows are named for each reason, or all; or all rows of one figure, as"
              + " dropped@3; default: ${DEFAULT-VALUE}.")
  private String rows = "3";

  @ArgGroup private @Nullable Otherwise otherwise;

  private static final class Otherwise {
    @Option(
        names = "--against",
        paramLabel = "KIND[@STEP]",
        description =
            "What each join, or that at a step, would give as inner, left, right or full join.")
    private @Nullable String against;

    @Option(
        names = "--without",
        paramLabel = "STEP",
        description = "What the joins would give without the join at a step.")
    private @Nullable Integer without;

    @Option(
        names = "--about",
        paramLabel = "ROWS|PERCENT%",
        description =
            "A quick look at so many rows of the first table, or at such a part of them, as 1%%;"
                + " every figure is then an estimate.")
    private @Nullable String about;
  }

  /** A part of the rows, if only that is looked at. */
  Optional<RowShare> share() {
    if (otherwise == null || otherwise.about == null) {
      return Optional.empty();
    }
    return Optional.of(ShareText.read(otherwise.about, spec));
  }

  /** Joins of another kind. */
  record Against(JoinKind kind, int step) {}

  Optional<Against> against() {
    if (otherwise == null || otherwise.against == null) {
      return Optional.empty();
    }
    Matcher parts = AT.matcher(otherwise.against.toLowerCase(Locale.ROOT));
    Optional<JoinKind> kind =
        parts.matches()
            ? KINDS.stream()
                .filter(each -> each.name().equalsIgnoreCase(parts.group(1)))
                .findFirst()
            : Optional.empty();
    if (kind.isEmpty()) {
      throw wrong(
          "--against takes inner, left, right or full, and a step if wanted, as left@2; not "
              + otherwise.against);
    }
    String step = parts.group(2);
    return Optional.of(new Against(kind.get(), step == null ? 0 : Integer.parseInt(step)));
  }

  OptionalInt without() {
    return otherwise == null || otherwise.without == null
        ? OptionalInt.empty()
        : OptionalInt.of(otherwise.without);
  }

  Naming naming() {
    if (rows.equals("all")) {
      return Naming.some(Naming.ALL);
    }
    if (rows.matches("[0-9]{1,9}")) {
      return Naming.some(Integer.parseInt(rows));
    }
    Matcher parts = AT.matcher(rows);
    if (parts.matches() && parts.group(2) != null) {
      String figure = parts.group(1);
      Optional<Figure> named =
          Arrays.stream(Figure.values()).filter(each -> word(each).equals(figure)).findFirst();
      if (named.isPresent() && Integer.parseInt(parts.group(2)) > 0) {
        return Naming.of(named.get(), Integer.parseInt(parts.group(2)));
      }
    }
    throw wrong(
        "--rows takes a whole number from 0 on, all, or a figure at a step, as dropped@3; not "
            + rows
            + "; figures are "
            + Arrays.stream(Figure.values())
                .map(LedgerQuestion::word)
                .collect(Collectors.joining(", ")));
  }

  private static String word(Figure figure) {
    return figure.name().toLowerCase(Locale.ROOT);
  }

  private ParameterException wrong(String message) {
    return new ParameterException(spec.commandLine(), message);
  }
}
