package io.lantrel.engine;

import io.lantrel.Lantrel;
import io.lantrel.QueryGenerator;
import io.lantrel.Study;
import io.lantrel.check.Kind;
import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;

/** Generated worlds of three small tables on every engine, in which queries are made at random. */
abstract class InWorlds {

  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 2);
  static final int QUERIES = 12;
  static final int TABLES = 3;
  static final long SEED = 20261128;

  private final Map<Engine, List<Lantrel>> worlds = new EnumMap<>(Engine.class);

  @BeforeClass
  public void open() throws IOException, SQLException {
    for (Engine engine : RiverDatabases.engines()) {
      List<Lantrel> opened = new ArrayList<>();
      for (int world = 0; world < (engine.isEmbedded() ? WORLDS : 1); world++) {
        opened.add(EngineLedgerTest.open(engine, QueryGenerator.folder(SEED + world, TABLES)));
      }
      worlds.put(engine, opened);
    }
  }

  @AfterClass(alwaysRun = true)
  public void close() {
    worlds.values().forEach(each -> each.forEach(Lantrel::close));
  }

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  interface Look {
    void at(Lantrel lantrel, Random random);
  }

  void inAll(Engine engine, Look look) {
    Random random = new Random(SEED);
    for (Lantrel lantrel : Objects.requireNonNull(worlds.get(engine))) {
      for (int i = 0; i < QUERIES; i++) {
        look.at(lantrel, random);
      }
    }
  }

  static List<List<Long>> rows(Lantrel lantrel, String sql) {
    return lantrel.study(sql).result(10_000).rows().stream()
        .map(row -> row.stream().map(InWorlds::number).toList())
        .toList();
  }

  /** NULL is a number here that no table has. */
  static long number(@Nullable Object value) {
    return value == null ? -1 : Long.parseLong(value.toString());
  }

  static boolean runs(Study study) {
    return study.inspection().refusal().isEmpty()
        && study.findings().stream().noneMatch(each -> each.kind() == Kind.DOES_NOT_RUN);
  }

  static String table(Random random) {
    return "t" + random.nextInt(TABLES);
  }
}
