package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.Study;
import io.lantrel.check.FaultsInWorldsTest.Fault;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Limits;
import io.lantrel.sample.Sample;
import io.lantrel.sample.SampleWish;
import io.lantrel.sample.SampledTable;
import io.lantrel.world.World;
import io.lantrel.world.World.Reference;
import io.lantrel.world.WorldGenerator;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.function.BiFunction;
import org.jspecify.annotations.Nullable;
import org.testng.Reporter;
import org.testng.annotations.Test;

/**
 * What is found in a database is found on a sample of it: faulty queries over worlds made at
 * random. At full size, over 300 databases: {@code -Dlantrel.worlds=13 -Dlantrel.rows=600}.
 */
public class FaultsOnSamplesTest {

  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 1);

  /** How many rows a table has at most; a sample has half as many in all, for several tables. */
  private static final int ROWS = Integer.getInteger("lantrel.rows", 60);

  @Test
  @SuppressWarnings("unchecked")
  public void areFoundThereToo() throws IOException {
    int found = 0;
    int onSample = 0;
    int byLot = 0;
    List<String> missed = new ArrayList<>();
    int seed = 0;
    for (Object[] row : FaultsInWorldsTest.faults()) {
      for (int i = 0; i < WORLDS; i++) {
        World world = new WorldGenerator(8_000 + seed, true, seed % 2 == 0, ROWS).world();
        Fault fault = fault(world, (BiFunction<World, Reference, Fault>) row[1], new Random(seed));
        seed++;
        if (fault == null) {
          continue;
        }
        try (Lantrel lantrel = Lantrel.open(world.folder())) {
          Study study = lantrel.study(fault.faulty());
          if (!has(study, fault)) {
            continue;
          }
          found++;
          Sample sample =
              lantrel.sample(SampleWish.usual().ofRows(ROWS / 2), List.of(study), doing -> {});
          assertThat(sample.size()).isLessThanOrEqualTo(ROWS / 2);
          if (isFound(sample, fault)) {
            onSample++;
          } else {
            missed.add(row[0] + ": " + fault.faulty());
          }
          byLot += isFound(drawn(sample, world, new Random(seed)), fault) ? 1 : 0;
        }
      }
    }
    Reporter.log(
        found + " found, " + onSample + " on samples, " + byLot + " on rows drawn by lot", true);
    assertThat(found).isGreaterThan(WORLDS * 10);
    assertThat(onSample * 100).as("%s", missed).isGreaterThanOrEqualTo(found * 95);
  }

  private static @Nullable Fault fault(
      World world, BiFunction<World, Reference, Fault> maker, Random lot) {
    List<Reference> references =
        new ArrayList<>(world.references().stream().filter(each -> !each.isOwn()).toList());
    Collections.shuffle(references, lot);
    return references.stream()
        .map(each -> maker.apply(world, each))
        .filter(each -> !each.faulty().isEmpty())
        .findFirst()
        .orElse(null);
  }

  private static boolean has(Study study, Fault fault) {
    return study.findings().stream().anyMatch(each -> each.kind().id().equals(fault.kind()));
  }

  private static boolean isFound(Sample sample, Fault fault) throws IOException {
    Path folder = Scratch.folder("sample").resolve("rows");
    sample.writeTo(folder);
    try (Lantrel lantrel = Lantrel.openFor(Engine.DUCKDB, folder, Limits.usual())) {
      return has(lantrel.study(fault.faulty()), fault);
    }
  }

  /** As many rows as the sample has, whichever come. */
  private static Sample drawn(Sample sample, World world, Random lot) {
    List<String> all = new ArrayList<>();
    world.rows().forEach((table, rows) -> rows.forEach(each -> all.add(table)));
    Collections.shuffle(all, lot);
    Map<String, Integer> counts = new TreeMap<>();
    all.stream().limit(sample.size()).forEach(each -> counts.merge(each, 1, Integer::sum));
    List<SampledTable> tables = new ArrayList<>();
    for (SampledTable each : sample.tables()) {
      List<List<@Nullable String>> rows =
          new ArrayList<>(world.rows().getOrDefault(each.table().name(), List.of()));
      Collections.shuffle(rows, lot);
      int count = counts.getOrDefault(each.table().name(), 0);
      tables.add(new SampledTable(each.table(), each.there(), rows.subList(0, count)));
    }
    return new Sample(
        sample.catalog(), tables, sample.followed(), List.of(), 0, List.of(), List.of(), List.of());
  }
}
