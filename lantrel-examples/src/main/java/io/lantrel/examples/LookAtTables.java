package io.lantrel.examples;

import io.lantrel.Lantrel;
import io.lantrel.report.DiagramText;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.survey.Survey.TableSurvey;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Before there is a query: what is in the tables, and what refers to what. */
public final class LookAtTables {

  private LookAtTables() {}

  /** Runs the example; it takes no arguments. */
  public static void main(String[] args) throws IOException {
    Path folder = RiverWatch.copyTo(Files.createTempDirectory("river-watch"));
    try (Lantrel lantrel = Lantrel.open(folder)) {
      Survey survey = lantrel.survey();

      for (TableSurvey table : survey.tables()) {
        System.out.println(table.table().name() + ": " + table.rows() + " rows " + table.shapes());
      }
      for (ReferenceSurvey each : survey.references()) {
        System.out.printf(
            "%s (%s): %d of %d values found%n",
            each.reference().words(), each.reference().basis(), each.valuesFound(), each.values());
      }
      System.out.println(new DiagramText().mermaid(survey));
    }
  }
}
