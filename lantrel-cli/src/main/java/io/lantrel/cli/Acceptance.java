package io.lantrel.cli;

import io.lantrel.Study;
import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Comparison;
import io.lantrel.engine.DataException;
import io.lantrel.failure.LantrelException;
import io.lantrel.report.CompareText;
import io.lantrel.report.ComparedPair;
import io.lantrel.report.RowsFile;
import io.lantrel.report.StudiedFile;
import io.lantrel.report.TableFile;
import io.lantrel.report.TextReport;
import io.lantrel.report.Visible;
import io.lantrel.rows.ShownRows;
import io.lantrel.words.Words;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import picocli.CommandLine.Model.CommandSpec;

/** Writes what a query gives as the table that is expected of it, and shows first what changes. */
final class Acceptance {

  /** More rows are no table that somebody looks through. */
  private static final int MOST = 10_000;

  private final CommandSpec spec;
  private final int shown;

  Acceptance(CommandSpec spec, int shown) {
    this.spec = spec;
    this.shown = shown;
  }

  int accept(Path file, Study study) {
    Path table = QueryFolder.expected(file, study.number());
    ShownRows rows;
    try {
      rows = study.rows(MOST);
    } catch (LantrelException failure) {
      return Complaint.about(
          new StudiedFile(file.toString(), List.of(study)),
          study,
          failure,
          spec.commandLine().getErr());
    }
    if (rows.count() > MOST) {
      throw new DataException(
          file
              + " gives "
              + Words.rows(rows.count())
              + "; more than "
              + Words.number(MOST)
              + " are not written");
    }
    boolean known = Files.exists(table);
    if (known && isSame(study, table)) {
      return ExitCode.FINE;
    }
    if (!known) {
      print(new TextReport(Output.style()).rows(first(rows)));
    }
    WholeFile.write(table, RowsFile.csv(rows));
    print("written: " + Visible.line(table.toString()) + ", " + Words.rows(rows.count()) + "\n");
    return ExitCode.FINE;
  }

  /** So many of them as are shown. */
  private ShownRows first(ShownRows rows) {
    int most = Math.min(Math.max(shown, 1), rows.rows().size());
    return new ShownRows(rows.headings(), rows.rows().subList(0, most), rows.count());
  }

  /** Shows how the result differs from the table there. */
  private boolean isSame(Study study, Path table) {
    String name = String.valueOf(table.getFileName());
    Comparison comparison;
    try {
      comparison =
          study.compare(
              TableFile.read(table),
              CompareOptions.USUAL.called("the query", name).showing(Math.max(shown, 1)));
    } catch (DataException unreadable) {
      print(Visible.line(String.valueOf(unreadable.getMessage())) + "\n");
      return false;
    }
    print(new CompareText(Output.style()).pair(new ComparedPair("the query", name, comparison)));
    if (comparison.verdict().isSame()) {
      print("nothing is written: " + Visible.line(name) + " has these rows\n");
    }
    return comparison.verdict().isSame();
  }

  private void print(String text) {
    PrintWriter out = spec.commandLine().getOut();
    out.print(text);
    out.flush();
  }
}
