package io.lantrel.cli;

import io.lantrel.Study;
import io.lantrel.catalog.Table;
import io.lantrel.report.Visible;
import io.lantrel.words.Words;
import java.io.PrintWriter;
import java.util.List;

/** Says how references come to be known where none is declared. */
final class ReferenceHint {

  private ReferenceHint() {}

  /** Says it once, if studies join tables of which no reference is known. */
  static void after(List<Study> studies, PrintWriter err) {
    List<String> tables =
        studies.stream()
            .flatMap(study -> study.inspection().unrelated().stream())
            .map(Table::name)
            .distinct()
            .toList();
    if (!tables.isEmpty()) {
      err.println(
          "lantrel: note: no reference of "
              + Visible.line(Words.list(tables))
              + " is known, so that a join by a wrong column is not seen; lantrel survey --format"
              + " sql writes those that the rows show, and --references FILE.sql gives them");
    }
  }
}
