package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Values of results read alike, whichever engine gives them. */
public class ValuesTest {

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void areReadAlike(Engine engine) {
    try (Lantrel lantrel = RiverDatabases.open(engine)) {
      assertThat(
              texts(
                  lantrel,
                  "SELECT d.id, d.taken_at, d.temperature, d.depth_cm, g.seen_on FROM reading d"
                      + " LEFT JOIN sighting g ON g.station_id = d.station_id AND g.species_id = 1"
                      + " WHERE d.id IN (1, 7) ORDER BY d.id, g.seen_on"))
          .containsExactly(
              "1 2026-03-02 08:00:00 6.1 182 2026-03-02", "7 2026-03-03 16:00:00 NULL 119 NULL");
    }
  }

  private static List<String> texts(Lantrel lantrel, String sql) {
    return lantrel.study(sql).result().rows().stream()
        .map(
            row ->
                String.join(
                    " ",
                    row.stream().map(each -> each == null ? "NULL" : ValueText.of(each)).toList()))
        .toList();
  }
}
