package io.lantrel.examples;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Comparison;
import io.lantrel.compare.Differences;
import io.lantrel.compare.ExpectedTable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Compares a query with another way to write it, with a wrong one, and with an expected table. */
public final class CompareTwoQueries {

  private CompareTwoQueries() {}

  /** Runs the example; it takes no arguments. */
  public static void main(String[] args) throws IOException {
    Path folder = RiverWatch.copyTo(Files.createTempDirectory("river-watch"));
    try (Lantrel lantrel = Lantrel.open(folder)) {
      Study watched =
          lantrel.study(
              "SELECT name FROM river WHERE id IN (SELECT river_id FROM station) ORDER BY name");

      Study exists =
          lantrel.study(
              """
              SELECT r.name FROM river r
              WHERE EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id) ORDER BY r.name
              """);
      Comparison same = watched.compare(exists, CompareOptions.USUAL);
      System.out.println(same.verdict() + ": " + same.reason());

      Study joined =
          lantrel.study(
              "SELECT r.name FROM river r JOIN station s ON s.river_id = r.id ORDER BY r.name");
      Comparison repeated =
          watched.compare(joined, CompareOptions.USUAL.called("the rivers", "the join"));
      System.out.println(repeated.verdict() + ": " + repeated.reason());
      for (Differences.LoneRow row : repeated.differences().orElseThrow().lone()) {
        System.out.println(
            row.values().get(0) + ": " + row.first() + ", and joined " + row.second());
      }

      Path file = folder.resolve("watched.expected.csv");
      Files.writeString(file, "name\nDrayle\nHathe\nKeskel\n");
      Comparison expected = watched.compare(ExpectedTable.ofCsv(file), CompareOptions.USUAL);
      System.out.println(expected.verdict() + ": " + expected.reason());
    }
  }
}
