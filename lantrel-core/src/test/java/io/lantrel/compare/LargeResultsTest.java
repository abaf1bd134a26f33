package io.lantrel.compare;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.engine.Engine;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** More rows than are held at a time, at two places, so that they are read one by one. */
public class LargeResultsTest {

  /** 60 to the power of 3. */
  private static final long ROWS = 216_000;

  private static final String ALL =
      "SELECT a.i * 3600 + b.i * 60 + c.i AS k, b.i AS twice"
          + " FROM n a CROSS JOIN n b CROSS JOIN n c";

  private Path folder = Path.of("");

  @BeforeClass
  public void write() throws IOException {
    folder = Scratch.folder("many");
    Files.writeString(folder.resolve("schema.sql"), "CREATE TABLE n (i INTEGER PRIMARY KEY);");
    Files.writeString(
        folder.resolve("n.csv"),
        IntStream.range(0, 60).mapToObj(i -> i + "\n").collect(Collectors.joining("", "i\n", "")));
  }

  @DataProvider
  static Object[][] others() {
    return new Object[][] {
      {"the same", ALL, 0, 0, 0, 0},
      {"one less", ALL + " WHERE a.i * 3600 + b.i * 60 + c.i <> 77777", 216_000 - 1, 1, 0, 0},
      {
        "one changed",
        ALL.replace(
            "b.i AS twice",
            "CASE WHEN a.i = 59 AND b.i = 59 AND c.i = 59 THEN -1 ELSE b.i" + " END AS twice"),
        0,
        0,
        0,
        1
      },
      {"one twice", ALL + " UNION ALL SELECT 5, 0 FROM n WHERE i = 1", 0, 0, 1, 0},
      {"a third gone", ALL + " WHERE c.i >= 20", 144_000, 72_000, 0, 0},
    };
  }

  @Test(dataProvider = "others")
  public void areCountedOneByOne(
      String name, String other, long rows, long onlyFirst, long onlySecond, long changed) {
    try (Lantrel here = Lantrel.open(folder);
        Lantrel there = Lantrel.open(folder, Engine.SQLITE)) {
      Comparison comparison = here.study(ALL).compare(there.study(other), CompareOptions.USUAL);
      assertThat(comparison.first()).hasValue(ROWS);
      if (onlyFirst + onlySecond + changed == 0) {
        assertThat(comparison.verdict()).as(comparison + "").isEqualTo(Verdict.SAME_HERE);
        return;
      }
      assertThat(comparison.verdict()).isEqualTo(Verdict.DIFFERENT);
      if (rows > 0) {
        assertThat(comparison.second()).hasValue(rows);
      }
      Differences differences = comparison.differences().orElseThrow();
      assertThat(differences.onlyFirst()).isEqualTo(onlyFirst);
      assertThat(differences.onlySecond()).isEqualTo(onlySecond);
      assertThat(differences.changed()).isEqualTo(changed);
      assertThat(differences.counted()).isEqualTo(onlyFirst <= 10_000);
    }
  }
}
