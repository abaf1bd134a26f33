package io.lantrel.write;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.testng.annotations.Test;

/** Drafts over tables that hang together in other ways than those of the river watch. */
public class DrafterTest {

  private static Path folder() throws IOException {
    Path folder = Files.createTempDirectory("odd");
    Files.writeString(
        folder.resolve("schema.sql"),
        """
        CREATE TABLE "order" (id INTEGER PRIMARY KEY, "select" VARCHAR(10));
        CREATE TABLE "Odd Table" ("Key No" INTEGER PRIMARY KEY,
          "order" INTEGER REFERENCES "order" (id), other INTEGER REFERENCES "order" (id));
        CREATE TABLE reach (a INTEGER, b INTEGER, PRIMARY KEY (a, b));
        CREATE TABLE weir (id INTEGER PRIMARY KEY, a INTEGER, b INTEGER,
          FOREIGN KEY (a, b) REFERENCES reach (a, b));
        """);
    Files.writeString(folder.resolve("order.csv"), "id,select\n1,x\n2,y\n");
    Files.writeString(folder.resolve("Odd Table.csv"), "Key No,order,other\n5,1,2\n6,2,\n");
    Files.writeString(folder.resolve("reach.csv"), "a,b\n1,1\n1,2\n");
    Files.writeString(folder.resolve("weir.csv"), "id,a,b\n7,1,2\n8,1,\n");
    return folder;
  }

  @Test
  public void writesEveryWayAndQuotesOddNames() throws IOException {
    try (Lantrel lantrel = Lantrel.open(folder())) {
      List<Draft> drafts = lantrel.drafts(Wish.show("\"Odd Table\".\"Key No\"", "order.select"));
      assertThat(drafts).hasSize(2);
      assertThat(drafts.get(0).sql()).contains("ON o.id = ot.\"order\"", "o.\"select\"");
      assertThat(drafts.get(1).sql()).contains("ON o.id = ot.other");
      for (Draft draft : drafts) {
        assertThat(lantrel.study(draft.sql()).findings()).as(draft.sql()).isEmpty();
        assertThat(lantrel.study(draft.sql()).result().size()).isEqualTo(2);
      }
    }
  }

  @Test
  public void joinsAlongAllColumnsOfAKey() throws IOException {
    try (Lantrel lantrel = Lantrel.open(folder())) {
      List<Draft> drafts = lantrel.drafts(Wish.show("reach.a", "reach.b", "count of weir"));
      assertThat(drafts).hasSize(1);
      assertThat(drafts.get(0).sql())
          .contains("ON w.a = r.a AND w.b = r.b", "COUNT(w.id)", "GROUP BY r.a, r.b");
      assertThat(lantrel.study(drafts.get(0).sql()).result().rows().toString())
          .contains("[1, 1, 0]", "[1, 2, 1]");
    }
  }
}
