package io.lantrel.hierarchy;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Scratch;
import io.lantrel.engine.Database;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Limits;
import io.lantrel.engine.SampleData;
import io.lantrel.hierarchy.asked.HierarchyMaker;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Tables of which not all is walked at first: the trees are the same as those of small ones. */
public class LargeHierarchiesTest {

  private static final int ROWS = 11_000;

  /** Those that are quick at it; the others walk the same way in small worlds. */
  private static final List<Engine> ENGINES = List.of(Engine.DUCKDB, Engine.SQLITE);

  /**
   * What rows refer to: the number of the row above, 0 for none, more than there are for nothing.
   */
  private interface Shape {
    int above(int row, Random random);
  }

  private static final Map<String, Shape> SHAPES =
      Map.of(
          "a few trees", (row, random) -> row < 4 ? 0 : 1 + random.nextInt(row - 1),
          "nearly all are roots", (row, random) -> row % 9 == 0 ? row - 5 : 0,
          "a circle and what refers to nothing",
              (row, random) ->
                  row <= 3
                      ? row % 3 + 1
                      : row % 700 == 5 ? ROWS + row : row < 9 ? 0 : 4 + random.nextInt(row - 4),
          "many circles", (row, random) -> row > 3_000 ? 0 : row % 2 == 0 ? row - 1 : row + 1,
          "deep and thin", (row, random) -> row % 240 == 1 ? 0 : row - 1);

  @DataProvider
  static Object[][] shapes() {
    List<Object[]> all = new ArrayList<>();
    for (String shape : SHAPES.keySet().stream().sorted().toList()) {
      for (int[] most : new int[][] {{0, 25}, {2, 40}, {1, 3}}) {
        all.add(new Object[] {shape, most[0], most[1], all.size()});
      }
    }
    return all.toArray(Object[][]::new);
  }

  @Test(dataProvider = "shapes")
  public void treesAreWhatTheRowsSay(String shape, int levels, int rows, int number)
      throws IOException {
    Shape made = Objects.requireNonNull(SHAPES.get(shape));
    boolean text = number % 2 == 1;
    Engine engine = ENGINES.get(number % ENGINES.size());
    Map<String, @Nullable String> above = new LinkedHashMap<>();
    Map<String, Long> amounts = new LinkedHashMap<>();
    StringBuilder csv = new StringBuilder("id,above,amount\n");
    Random random = new Random(number);
    for (int row = 1; row <= ROWS; row++) {
      int next = made.above(row, random);
      String key = text ? "weir " + row : String.valueOf(row);
      String refers = next == 0 ? null : text ? "weir " + next : String.valueOf(next);
      above.put(key, refers);
      amounts.put(key, (long) row % 7);
      csv.append(key).append(',').append(refers == null ? "" : refers);
      csv.append(',').append(row % 7).append('\n');
    }
    Path folder = Scratch.folder("large");
    String type = text ? "VARCHAR(12)" : "INTEGER";
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE weir (id %s PRIMARY KEY, above %s REFERENCES weir (id), amount INTEGER);"
            .formatted(type, type));
    Files.writeString(folder.resolve("weir.csv"), csv);
    SampleData data = SampleData.load(folder, engine, Limits.usual());
    try (Database database = data.database()) {
      long before = database.statementsSent();
      Hierarchy found =
          HierarchyMaker.make(
              database,
              data.catalog(),
              HierarchyWish.of("weir").summing("amount").showing(levels, rows));
      assertThat(database.statementsSent() - before).as(shape).isBetween(3L, 10L);
      new TreesByHand(above, amounts, shape + " on " + engine.title()).compare(found);
      assertThat(found.trees()).hasSizeLessThanOrEqualTo(rows);
    }
  }
}
