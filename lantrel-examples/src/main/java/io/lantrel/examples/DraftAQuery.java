package io.lantrel.examples;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.draft.Draft;
import io.lantrel.draft.Wish;
import io.lantrel.report.Style;
import io.lantrel.report.TextReport;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Says what a result should show, and gets the query; it is then studied like any other. */
public final class DraftAQuery {

  private DraftAQuery() {}

  /** Runs the example; it takes no arguments. */
  public static void main(String[] args) throws IOException {
    Path folder = RiverWatch.copyTo(Files.createTempDirectory("river-watch"));
    Wish wish =
        Wish.show("river.name", "count of station", "average reading.temperature")
            .keepEvery("river")
            .orderBy("river.name");
    try (Lantrel lantrel = Lantrel.open(folder)) {
      for (Draft draft : lantrel.drafts(wish)) {
        System.out.println(draft.reading());
        System.out.println(draft.sql());
        draft.reasons().forEach(System.out::println);

        Study study = lantrel.study(draft.sql());
        System.out.println("Findings: " + study.findings().size());
        System.out.println(new TextReport(Style.plain()).rows(study.rows(5)));
      }

      // A query that is there goes on: nothing else in it is changed.
      String sql = "select s.name from station s where s.capacity > 2";
      for (Draft draft : lantrel.drafts(Wish.show("keeper.given_name").continuing(sql))) {
        System.out.println(draft.sql());
        draft.reasons().forEach(System.out::println);
      }
    }
  }
}
