package io.lantrel.rows;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.rows.ShownRows.Cell;
import io.lantrel.rows.ShownRows.Heading;
import io.lantrel.world.World;
import io.lantrel.world.WorldGenerator;
import io.lantrel.world.WorldQueries;
import io.lantrel.world.WorldQuery;
import java.util.List;
import org.testng.annotations.Test;

/** The rows after each join: as many as the account says, and filled where it says so. */
public class StepRowsTest {

  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 15);

  @Test
  public void agreeWithTheAccount() {
    int looked = 0;
    for (int seed = 0; seed < WORLDS; seed++) {
      World world = new WorldGenerator(500 + seed, true, seed % 2 == 0).world();
      try (Lantrel lantrel = Lantrel.open(world.folder())) {
        WorldQueries queries = new WorldQueries(world, seed, lantrel.catalog().dialect());
        for (int i = 0; i < 6; i++) {
          WorldQuery query = queries.query();
          if (query.wraps().isEmpty()) {
            check(lantrel.study(query.sql(), WorldQuery.values()), query);
            looked++;
          }
        }
      }
    }
    assertThat(looked).isGreaterThan(WORLDS * 2);
  }

  private static void check(Study study, WorldQuery query) {
    List<StepRows> steps = study.steps(100_000);
    assertThat(steps).as(query.sql()).hasSize(query.steps().size() + 1);
    for (StepRows step : steps) {
      ShownRows rows = step.rows();
      assertThat(rows.rows()).as(query.sql()).hasSize((int) step.entry().after());
      assertThat(rows.count()).isEqualTo(step.entry().after());
      assertThat(rows.headings().stream().anyMatch(Heading::added)).isEqualTo(step.number() > 1);
      assertThat(rows.labels()).doesNotHaveDuplicates();
      for (List<Cell> row : rows.rows()) {
        assertThat(row).hasSameSizeAs(rows.headings());
        assertThat(row).allMatch(cell -> !cell.filled() || cell.value() == null);
      }
    }
    ShownRows result = study.rows(3);
    assertThat(result.count()).as(query.sql()).isEqualTo(study.result(1_000_000).size());
    assertThat(result.rows()).hasSizeLessThanOrEqualTo(3);
  }

  /** A cell that is empty in the data is no filled one. */
  @Test
  public void tellsFilledFromEmpty() {
    World world = new WorldGenerator(3, true, true).world();
    World.Reference reference = world.references().get(0);
    String sql =
        "SELECT c."
            + reference.columns().get(0)
            + " FROM "
            + reference.from()
            + " c LEFT JOIN "
            + reference.target()
            + " p ON "
            + reference.condition("c", "p")
            + " AND 1 = 0";
    try (Lantrel lantrel = Lantrel.open(world.folder())) {
      ShownRows rows = lantrel.study(sql).steps(100).get(1).rows();
      assertThat(rows.rows()).isNotEmpty();
      for (List<Cell> row : rows.rows()) {
        for (int i = 0; i < row.size(); i++) {
          assertThat(row.get(i).filled()).isEqualTo(rows.headings().get(i).added());
        }
      }
    }
  }
}
