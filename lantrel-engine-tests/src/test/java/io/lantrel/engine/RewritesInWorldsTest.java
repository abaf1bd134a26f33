package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Rewriting;
import io.lantrel.rewrite.Form;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.world.World;
import io.lantrel.world.WorldGenerator;
import io.lantrel.world.WorldQueries;
import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.testng.Reporter;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Queries made at random in every form, on every engine: the rows stay, or it is said on which data
 * they do not; what cannot be is refused in a sentence. At full size: {@code -Dlantrel.worlds=900
 * -Dlantrel.changes=300}, which leaves a form alone once it has changed so many.
 */
public class RewritesInWorldsTest {

  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 4);
  private static final int CHANGES = Integer.getInteger("lantrel.changes", Integer.MAX_VALUE);
  private static final int QUERIES = 8;
  private static final int SEED = 7_000;

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void keepTheirRows(Engine engine) throws IOException, SQLException {
    Map<Form, Integer> changed = new EnumMap<>(Form.class);
    List<String> faults = new ArrayList<>();
    List<Form> open = new ArrayList<>(List.of(Form.values()));
    for (int seed = SEED; seed < SEED + WORLDS && !open.isEmpty(); seed++) {
      boolean kept = seed % 2 == 0;
      World world = new WorldGenerator(seed, kept || !engine.isEmbedded(), kept).world();
      WorldQueries queries = new WorldQueries(world, seed, engine.dialect(), true);
      try (Lantrel lantrel = EngineLedgerTest.open(engine, world.folder(), kept)) {
        for (int i = 0; i < QUERIES; i++) {
          String sql = queries.query().sql().replace(":least", "2");
          if (lantrel.study(sql).inspection().refusal().isEmpty()) {
            for (Form form : open) {
              look(lantrel, sql, form, changed, faults);
            }
            open.removeIf(form -> changed.getOrDefault(form, 0) >= CHANGES);
          }
        }
      }
    }
    Reporter.log(engine + " " + WORLDS + " worlds, changed: " + changed, true);
    assertThat(faults).as(faults.size() + " in " + changed).isEmpty();
    assertThat(changed.values().stream().mapToInt(each -> each).sum())
        .isGreaterThan(CHANGES < Integer.MAX_VALUE ? CHANGES : WORLDS * 6);
  }

  private static void look(
      Lantrel lantrel, String sql, Form form, Map<Form, Integer> changed, List<String> faults) {
    String what = form + ": " + sql;
    try {
      Rewriting rewriting = lantrel.rewrite(sql, form);
      if (!rewriting.isChanged()) {
        return;
      }
      changed.merge(form, 1, Integer::sum);
      boolean told =
          form == Form.COALESCE
              || rewriting.remarks().stream()
                  .anyMatch(each -> each.contains("where NULL comes in"));
      if (rewriting.difference().isPresent() && !told) {
        faults.add(what + "\n -> " + rewriting.sql() + "\n: " + rewriting.difference().get());
      }
      // What was changed has the form now: nothing is left to change.
      if (lantrel.rewrite(rewriting.sql(), form).isChanged()) {
        faults.add(what + "\n -> " + rewriting.sql() + "\n: and can be changed again");
      }
    } catch (RewriteException refused) {
      String words = String.valueOf(refused.getMessage());
      if (words.contains("does not take") && !words.contains("did not as it was")) {
        faults.add(what + "\n: " + words);
      }
    } catch (RuntimeException failure) {
      faults.add(what + "\n: " + failure);
    }
  }
}
