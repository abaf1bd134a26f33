package io.lantrel.examples;

import io.lantrel.Lantrel;
import io.lantrel.Rewriting;
import io.lantrel.engine.Engine;
import io.lantrel.rewrite.Form;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Brings an old query into a form that is easier to read, and sees that the rows stay. */
public final class RewriteAQuery {

  private RewriteAQuery() {}

  /** Runs the example; it takes no arguments. */
  public static void main(String[] args) throws IOException {
    Path folder = RiverWatch.copyTo(Files.createTempDirectory("river-watch"));
    try (Lantrel lantrel = Lantrel.open(folder)) {
      String sql =
          """
          SELECT s.name, depth_cm
          FROM station s, reading d   -- one row for each reading
          WHERE s.id = d.station_id AND capacity > 5
          """;
      for (Form form : new Form[] {Form.JOINS, Form.QUALIFIED}) {
        Rewriting rewriting = lantrel.rewrite(sql, form);
        System.out.println(rewriting.sql());
        System.out.println(
            rewriting
                .difference()
                .orElse("The same " + rewriting.rows().orElse(0) + " rows before and after."));
        sql = rewriting.sql();
      }

      // In H2 the quotient of whole numbers is a whole number.
      try (Lantrel other = Lantrel.open(folder, Engine.H2)) {
        Rewriting rewriting =
            lantrel.translate("SELECT name, capacity / 2 AS half FROM station", other);
        System.out.println(rewriting.sql());
        System.out.println("The same " + rewriting.rows().orElse(0) + " rows there.");
      }
    }
  }
}
