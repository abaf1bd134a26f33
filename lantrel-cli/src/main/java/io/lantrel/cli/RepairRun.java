package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.check.Finding;
import io.lantrel.check.Kind;
import io.lantrel.check.Repair;
import io.lantrel.check.Severity;
import io.lantrel.sql.Edit;
import io.lantrel.sql.Place;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;

/**
 * Puts repairs into a file: of each statement one at a time, with a fresh look in between, so that
 * no repair is made of what an earlier one changed.
 */
final class RepairRun {

  /** Looks after which a file is left as it is by then. */
  private static final int MOST = 100;

  private final Chosen chosen;
  private final Lantrel lantrel;
  private final ValuesOption values;

  RepairRun(Chosen chosen, Lantrel lantrel, ValuesOption values) {
    this.chosen = chosen;
    this.lantrel = lantrel;
    this.values = values;
  }

  /**
   * Which findings are repaired.
   *
   * @param kind those of a kind; null for all warnings and errors
   * @param line those that begin in this line; null for all
   */
  record Chosen(@Nullable Kind kind, @Nullable Integer line) {

    static Chosen of(String text, CommandSpec spec) {
      if (text.equals("all")) {
        return new Chosen(null, null);
      }
      if (text.matches("[0-9]{1,9}")) {
        return new Chosen(null, Integer.valueOf(text));
      }
      try {
        return new Chosen(KindsCommand.kind(text, spec), null);
      } catch (ParameterException none) {
        throw new ParameterException(
            spec.commandLine(),
            "--repair takes all, a kind, or the number of a line: " + none.getMessage(),
            none);
      }
    }

    boolean takes(Finding finding, Place place) {
      return kind != null
          ? finding.kind() == kind
          : line != null ? place.line() == line : finding.severity() != Severity.NOTE;
    }
  }

  /**
   * What was repaired in a file.
   *
   * @param file its name
   * @param before its text
   * @param after its text repaired
   * @param made the repairs, a line each
   */
  record Repaired(String file, String before, String after, List<String> made) {
    Repaired {
      made = List.copyOf(made);
    }
  }

  Repaired repair(String file) {
    String before = QueryFiles.text(file);
    String text = before;
    List<String> made = new ArrayList<>();
    Set<String> seen = new HashSet<>();
    while (seen.add(text) && made.size() < MOST) {
      List<Edit> edits = new ArrayList<>();
      for (Study study : lantrel.studies(text, values.values())) {
        next(study)
            .ifPresent(
                finding -> {
                  made.add(words(file, study, finding));
                  edits.addAll(finding.repair().map(Repair::edits).orElseThrow());
                });
      }
      text = Edit.apply(text, edits);
    }
    return new Repaired(file, before, text, made);
  }

  /** The first finding of a statement that can be repaired; of one that was not read, none. */
  private Optional<Finding> next(Study study) {
    if (!study.inspection().understood() || !study.isQuery()) {
      return Optional.empty();
    }
    return study.findings().stream()
        .filter(each -> each.repair().isPresent())
        .filter(each -> chosen.takes(each, study.source().place(each.place())))
        .findFirst();
  }

  private static String words(String file, Study study, Finding finding) {
    Place place = study.source().place(finding.place());
    Repair repair = finding.repair().orElseThrow();
    String rows =
        repair.rowsBefore().isPresent() && repair.rowsAfter().isPresent()
            ? ": "
                + (repair.rowsBefore().equals(repair.rowsAfter())
                    ? "as many rows as before, " + repair.rowsAfter().getAsLong()
                    : repair.rowsBefore().getAsLong()
                        + " → "
                        + repair.rowsAfter().getAsLong()
                        + " rows")
            : "";
    return file + ":" + place.line() + ":" + place.column() + "  " + finding.kind().id() + rows;
  }
}
