package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.NoLedgerException;
import io.lantrel.Study;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.SchemaFile;
import io.lantrel.catalog.Table;
import io.lantrel.check.Finding;
import io.lantrel.check.Severity;
import io.lantrel.failure.LantrelException;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Ledger;
import io.lantrel.sql.SourceText;
import io.lantrel.world.Smallest;
import io.lantrel.world.World;
import io.lantrel.world.WorldGenerator;
import io.lantrel.world.WorldQueries;
import io.lantrel.world.WorldQuery;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Worlds and queries made at random, on every engine: what runs is understood, has no errors, is
 * looked at whole, and its account is what the engine itself counts at each step. What fails is
 * made small before it is told. At full size: {@code -Dlantrel.worlds=400}.
 */
public class GeneratedWorldsTest {

  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 12);
  private static final int QUERIES = 8;

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void areUnderstoodAndAccountedFor(Engine engine) throws IOException, SQLException {
    int looked = 0;
    int refused = 0;
    List<String> faults = new ArrayList<>();
    for (int seed = 0; seed < WORLDS; seed++) {
      boolean kept = !engine.isEmbedded() || seed % 3 > 0;
      World world = new WorldGenerator(seed, kept, seed % 2 == 0).world();
      WorldQueries queries = new WorldQueries(world, seed, engine.dialect());
      try (Lantrel lantrel = open(engine, world)) {
        for (int i = 0; i < QUERIES; i++) {
          WorldQuery query = queries.query();
          if (lantrel.study(query.sql(), WorldQuery.values()).inspection().refusal().isPresent()) {
            refused++;
            continue;
          }
          looked++;
          fault(lantrel, query).ifPresent(fault -> faults.add(told(engine, world, query, fault)));
        }
      }
    }
    assertThat(faults).as(faults.size() + " of " + looked).isEmpty();
    assertThat(refused).as("refused, of " + looked).isLessThan(looked / 5 + 2);
    assertThat(looked).isGreaterThan(WORLDS * QUERIES / 2);
  }

  private static Lantrel open(Engine engine, World world) throws IOException, SQLException {
    Path folder = world.folder();
    if (engine.isEmbedded()) {
      return Lantrel.open(folder, engine);
    }
    Access access = RiverDatabases.empty(engine, "made");
    Catalog catalog = SchemaFile.read(new SourceText(world.schema()), engine.dialect()).catalog();
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(connection, RiverDatabases.before(engine).toArray(String[]::new));
      RiverDatabases.run(connection, world.schema().split("\n", -1));
      for (Table table : catalog.tables()) {
        RiverDatabases.insert(connection, table, folder, engine.dialect());
      }
    }
    return Lantrel.connect(access);
  }

  /** What is wrong with what Lantrel says of a query that runs; empty if nothing. */
  private static Optional<String> fault(Lantrel lantrel, WorldQuery query) {
    try {
      Study study = lantrel.study(query.sql(), WorldQuery.values());
      if (!study.inspection().isComplete()) {
        return Optional.of("not looked at whole: " + study.inspection());
      }
      Optional<Finding> error =
          study.findings().stream().filter(each -> each.severity() == Severity.ERROR).findFirst();
      if (error.isPresent()) {
        return error.map(each -> "an error in what runs: " + each.message());
      }
      long rows = study.result(1_000_000).size();
      Optional<Ledger> ledger = ledger(study);
      if (ledger.isPresent() && ledger.get().result() != rows) {
        return Optional.of("the ledger ends with " + ledger.get().result() + " of " + rows);
      }

      return ledger.isPresent() && isPlain(query)
          ? steps(lantrel, query, ledger.get())
          : Optional.empty();
    } catch (LantrelException failure) {
      return Optional.of(failure.toString());
    }
  }

  private static Optional<Ledger> ledger(Study study) {
    try {
      return Optional.of(study.ledger());
    } catch (NoLedgerException none) {
      assertThat(none.getMessage()).contains("puts several together");
      return Optional.empty();
    }
  }

  private static boolean isPlain(WorldQuery query) {
    return !query.hasCommas() && query.wraps().isEmpty();
  }

  private static Optional<String> steps(Lantrel lantrel, WorldQuery query, Ledger ledger) {
    List<Entry> joins =
        ledger.entries().stream().filter(each -> each.kind() == Entry.Kind.JOIN).toList();
    for (int i = 0; i < joins.size(); i++) {
      String counting = "SELECT COUNT(*) AS n FROM " + query.from(i + 1);
      long counted = lantrel.study(counting).result(1).figure(0);
      if (joins.get(i).after() != counted) {
        return Optional.of(
            joins.get(i).words() + " gives " + joins.get(i).after() + ", counted " + counted);
      }
    }
    return Optional.empty();
  }

  private static String told(Engine engine, World world, WorldQuery query, String fault) {
    if (!engine.isEmbedded()) {
      return fault + "\n" + new Smallest(world, query).words();
    }
    Smallest small = Smallest.of(world, query, each -> stillFails(engine, each));
    return fault + "\n" + small.words();
  }

  private static boolean stillFails(Engine engine, Smallest smaller) {
    try (Lantrel lantrel = Lantrel.open(smaller.world().folder(), engine)) {
      return lantrel
              .study(smaller.query().sql(), WorldQuery.values())
              .inspection()
              .refusal()
              .isEmpty()
          && fault(lantrel, smaller.query()).isPresent();
    }
  }
}
