package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.RiverWatchFolder;
import java.io.File;
import java.lang.reflect.InvocationTargetException;
import java.net.MalformedURLException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A program that has the library alone, and no driver with it. */
public class MissingDriverTest {

  private static final List<String> DRIVERS =
      List.of("duckdb", "postgresql", "mariadb", "sqlite", "/h2", "hsqldb");

  @DataProvider
  static Object[][] engines() {
    return new Object[][] {
      {"DUCKDB", "org.duckdb:duckdb_jdbc"},
      {"SQLITE", "org.xerial:sqlite-jdbc"},
      {"H2", "com.h2database:h2"},
      {"HSQLDB", "org.hsqldb:hsqldb"},
      {"jdbc:postgresql://localhost/rivers", "org.postgresql:postgresql"},
      {"jdbc:mariadb://localhost/rivers", "org.mariadb.jdbc:mariadb-java-client"},
    };
  }

  @Test(dataProvider = "engines")
  public void isNamed(String engine, String artifact) throws Exception {
    try (URLClassLoader loader = withoutDrivers()) {
      assertThat(failure(loader, engine))
          .hasMessageContaining("its driver is not on the class path; add " + artifact + ",");
    }
  }

  /** What needs no rows needs no driver. */
  @Test
  public void aSchemaAloneNeedsNone() throws Exception {
    try (URLClassLoader loader = withoutDrivers()) {
      Class<?> dialect = loader.loadClass("io.lantrel.sql.Dialect");
      Object duckdb = dialect.getField("DUCKDB").get(null);
      Class<?> lantrel = loader.loadClass("io.lantrel.Lantrel");
      Path schema = RiverWatchFolder.data().resolve("schema.sql");
      Object open =
          lantrel.getMethod("openSchema", Path.class, dialect).invoke(null, schema, duckdb);
      Object study =
          lantrel.getMethod("study", String.class).invoke(open, "SELECT nam FROM station");
      assertThat((List<?>) study.getClass().getMethod("findings").invoke(study)).hasSize(1);
    }
  }

  private static Throwable failure(ClassLoader loader, String engine)
      throws ReflectiveOperationException {
    Class<?> lantrel = loader.loadClass("io.lantrel.Lantrel");
    try {
      if (engine.startsWith("jdbc:")) {
        Class<?> access = loader.loadClass("io.lantrel.engine.Access");
        Object to = access.getMethod("to", String.class).invoke(null, engine);
        return opened(lantrel.getMethod("connect", access).invoke(null, to));
      }
      Class<?> engines = loader.loadClass("io.lantrel.engine.Engine");
      Object wanted = engines.getField(engine).get(null);
      return opened(
          lantrel
              .getMethod("open", Path.class, engines)
              .invoke(null, RiverWatchFolder.data(), wanted));
    } catch (InvocationTargetException failure) {
      return Objects.requireNonNull(failure.getCause());
    }
  }

  private static Throwable opened(Object lantrel) {
    throw new AssertionError(lantrel + " was opened without a driver");
  }

  private static URLClassLoader withoutDrivers() throws MalformedURLException {
    URL[] rest =
        Arrays.stream(System.getProperty("java.class.path").split(File.pathSeparator, -1))
            .filter(entry -> DRIVERS.stream().noneMatch(driver -> isOf(entry, driver)))
            .map(MissingDriverTest::url)
            .toArray(URL[]::new);
    return new URLClassLoader(rest, ClassLoader.getPlatformClassLoader());
  }

  private static boolean isOf(String entry, String driver) {
    return entry.endsWith(".jar") && entry.contains(driver);
  }

  private static URL url(String entry) {
    try {
      return Path.of(entry).toUri().toURL();
    } catch (MalformedURLException failure) {
      throw new IllegalStateException(failure);
    }
  }
}
