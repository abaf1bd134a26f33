package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.catalog.Reference;
import io.lantrel.sql.Dialect;
import java.sql.Connection;
import java.sql.Driver;
import java.sql.DriverManager;
import java.sql.DriverPropertyInfo;
import java.sql.SQLException;
import java.util.Properties;
import java.util.logging.Logger;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** A driver of which nothing is known: a known server behind a URL that is not. */
public class OtherDriverTest {

  private final Driver driver = new Disguised();

  @BeforeClass
  public void register() throws SQLException {
    DriverManager.registerDriver(driver);
  }

  @AfterClass
  public void deregister() throws SQLException {
    DriverManager.deregisterDriver(driver);
  }

  @Test
  public void anyDriverGetsTheStandardDialect() {
    Access known = RiverDatabases.access(Engine.POSTGRESQL);
    Access access = Access.to(known.url().replace("postgresql", "somebodys")).as("postgres", null);
    assertThat(access.engine()).isEqualTo(Engine.OTHER);
    try (Lantrel lantrel = Lantrel.connect(access)) {
      assertThat(lantrel.catalog().dialect()).isEqualTo(Dialect.STANDARD);
      assertThat(lantrel.engine()).startsWith("PostgreSQL 17");
      assertThat(lantrel.catalog().references())
          .extracting(Reference::words)
          .contains("station.river_id → river.id", "warden.mentor_id → warden.id");
      assertThat(lantrel.survey().violations()).isEqualTo(1);
      Study study =
          lantrel.study(
              "SELECT s.name, r.flow FROM station s LEFT JOIN river r ON r.id = s.river_id"
                  + " WHERE r.flow > 5");
      assertThat(study.findings())
          .extracting(each -> each.kind().id())
          .containsExactly("outer-join-cancelled");
      assertThat(study.ledger().result()).isEqualTo(study.result().size());
      assertThat(lantrel.study("SELECT nosuch FROM river").findings())
          .extracting(each -> each.kind().id())
          .containsExactly("unknown-column");
    }
  }

  private static final class Disguised implements Driver {
    private final Driver real = new org.postgresql.Driver();

    @Override
    public @Nullable Connection connect(String url, Properties properties) throws SQLException {
      return acceptsURL(url)
          ? real.connect(url.replace("somebodys", "postgresql"), properties)
          : null;
    }

    @Override
    public boolean acceptsURL(String url) {
      return url.startsWith("jdbc:somebodys:");
    }

    @Override
    public DriverPropertyInfo[] getPropertyInfo(String url, Properties properties) {
      return new DriverPropertyInfo[0];
    }

    @Override
    public int getMajorVersion() {
      return 1;
    }

    @Override
    public int getMinorVersion() {
      return 0;
    }

    @Override
    public boolean jdbcCompliant() {
      return false;
    }

    @Override
    public Logger getParentLogger() {
      return Logger.getLogger("disguised");
    }
  }
}
