package io.lantrel.examples;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.hierarchy.Hierarchy;
import io.lantrel.hierarchy.Hierarchy.Node;
import io.lantrel.hierarchy.HierarchyWish;
import io.lantrel.trace.Answer;
import io.lantrel.trace.ColumnOrigin;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Follows a row that is missed, shows the rows behind one that is there, and draws a hierarchy. */
public final class FollowRows {

  private FollowRows() {}

  /** Runs the example; it takes no arguments. */
  public static void main(String[] args) throws IOException {
    Path folder = RiverWatch.copyTo(Files.createTempDirectory("river-watch"));
    try (Lantrel lantrel = Lantrel.open(folder)) {
      Study study =
          lantrel.study(
              """
              SELECT s.name, r.name AS river, COUNT(d.id) AS readings
              FROM station s
              JOIN river r ON r.id = s.river_id
              JOIN reading d ON d.station_id = s.id
              WHERE r.length_km > 20
              GROUP BY s.id, s.name, r.name
              ORDER BY s.name
              """);

      for (Answer answer : study.missing("station where id IN (7, 13, 14)", 10)) {
        System.out.println(answer.outcome() + ": " + String.join(" ", answer.sentences()));
      }

      Answer first = study.trace(1, 10);
      System.out.println(first.row() + ": " + first.values().get(0).words());
      for (Answer.Source source : first.sources()) {
        System.out.println("  " + source.use() + ": " + source.values().get(0).words());
      }

      for (ColumnOrigin origin : study.origins()) {
        System.out.println(
            origin.heading()
                + " comes from "
                + origin.from().stream().map(ColumnOrigin.OfTable::words).toList());
      }

      Hierarchy rivers = lantrel.hierarchy(HierarchyWish.of("river").summing("length_km"));
      rivers.trees().forEach(tree -> print(tree, ""));
    }
  }

  private static void print(Node node, String indent) {
    System.out.println(
        indent + node.row().values().get(1) + ": " + node.size() + " rivers, " + sum(node) + " km");
    node.below().forEach(each -> print(each, indent + "  "));
  }

  private static String sum(Node node) {
    return node.sum().map(Object::toString).orElse("no");
  }
}
