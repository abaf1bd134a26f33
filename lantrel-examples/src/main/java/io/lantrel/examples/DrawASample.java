package io.lantrel.examples;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.sample.Sample;
import io.lantrel.sample.SampleWish;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;

/** Draws a small sample on which a query shows what it shows on all rows, without names. */
public final class DrawASample {

  private DrawASample() {}

  /** Runs the example; it takes no arguments. */
  public static void main(String[] args) throws IOException {
    Path work = Files.createTempDirectory("river-watch");
    try (Lantrel lantrel =
        Lantrel.open(RiverWatch.copyTo(Files.createDirectories(work.resolve("all"))))) {
      Study query =
          lantrel.study(
              "SELECT s.name, w.given_name FROM station s JOIN warden w ON w.id = s.keeper_id");
      SampleWish wish =
          SampleWish.usual().ofRows(40).masking(List.of("given_name", "family_name"), Set.of());
      Sample sample = lantrel.sample(wish, List.of(query), doing -> {});
      sample.writeTo(work.resolve("some"));
      System.out.println(sample.size() + " of " + sample.sizeThere() + " rows");
      System.out.println("masked: " + String.join(", ", sample.masked()));
      try (Lantrel some = Lantrel.open(work.resolve("some"))) {
        some.study(query.sql())
            .findings()
            .forEach(each -> System.out.println(each.kind().id() + ": " + each.message()));
      }
    }
  }
}
