package io.lantrel.engine;

import io.lantrel.Lantrel;
import java.util.Map;
import java.util.Objects;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;

/** Tests over the river watch, which is open on each of the six engines while they run. */
abstract class OnEveryEngine {

  private Map<Engine, Lantrel> engines = Map.of();

  @BeforeClass
  public void open() {
    engines = RiverDatabases.openAll();
  }

  @AfterClass(alwaysRun = true)
  public void close() {
    engines.values().forEach(Lantrel::close);
  }

  /** The six as rows of a data provider. */
  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  Map<Engine, Lantrel> all() {
    return engines;
  }

  Lantrel at(Engine engine) {
    return Objects.requireNonNull(engines.get(engine));
  }
}
