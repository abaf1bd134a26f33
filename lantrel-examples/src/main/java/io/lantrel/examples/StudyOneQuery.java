package io.lantrel.examples;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.check.Finding;
import io.lantrel.report.Style;
import io.lantrel.report.TextReport;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** What the command line does, in a program: open sample data, study a query, read the answers. */
public final class StudyOneQuery {

  private StudyOneQuery() {}

  /** Runs the example; it takes no arguments. */
  public static void main(String[] args) throws IOException {
    Path folder = RiverWatch.copyTo(Files.createTempDirectory("river-watch"));
    TextReport text = new TextReport(Style.plain());
    try (Lantrel lantrel = Lantrel.open(folder)) {
      Study study =
          lantrel.study(
              """
              SELECT s.name, k.family_name AS keeper
              FROM station s
              LEFT JOIN warden k ON k.id = s.keeper_id
              WHERE k.family_name <> 'Harrow'
              """);

      for (Finding finding : study.findings()) {
        System.out.println(finding.kind().id() + ": " + finding.message());
        finding.repair().ifPresent(repair -> System.out.println("Write:\n" + repair.sql()));
      }
      System.out.println(text.ledger(study.ledger()));
      System.out.println(text.rows(study.rows(5)));
    }
  }
}
