package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A column of texts compared with a number, by the schema alone. */
public class TextsBesideNumbersTest {

  private static final String SCHEMA =
      "CREATE TABLE flag (code VARCHAR(9) PRIMARY KEY, height INTEGER, hoisted DATE)";

  /** A condition, and what it is repaired to; the same where it is right. */
  @DataProvider
  static Object[][] conditions() {
    return new Object[][] {
      {"f.code = 7", "f.code = '7'"},
      {"7 = f.code", "'7' = f.code"},
      {"f.code > 70 AND f.height > 3", "f.code > '70' AND f.height > 3"},
      {"f.code IN (7, 8)", "f.code IN ('7', '8')"},
      {"f.height = 1 OR f.code BETWEEN 7 AND 9", "f.height = 1 OR f.code BETWEEN '7' AND '9'"},
      {"f.code = '7'", "f.code = '7'"},
      {"f.height = '7'", "f.height = '7'"},
      {"CAST(f.code AS INTEGER) = 7", "CAST(f.code AS INTEGER) = 7"},
      {"f.height IN (7, 8)", "f.height IN (7, 8)"},
    };
  }

  @Test(dataProvider = "conditions")
  public void areTold(String condition, String right) throws IOException {
    Path file = Scratch.folder("flags").resolve("schema.sql");
    Files.writeString(file, SCHEMA);
    for (Dialect dialect : Dialect.values()) {
      try (Lantrel lantrel = Lantrel.openSchema(file, dialect)) {
        String select = "SELECT f.hoisted FROM flag f WHERE ";
        List<Finding> found =
            lantrel.study(select + condition).findings().stream()
                .filter(each -> each.kind() == Kind.TYPE_MISMATCH)
                .toList();
        boolean told = !condition.equals(right) && dialect != Dialect.SQLITE;
        assertThat(found).as(condition + " on " + dialect).hasSize(told ? 1 : 0);
        found.forEach(
            each -> assertThat(each.repair().orElseThrow().sql()).isEqualTo(select + right));
      }
    }
  }
}
