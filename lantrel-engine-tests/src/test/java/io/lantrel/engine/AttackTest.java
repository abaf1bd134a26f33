package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.NoLedgerException;
import io.lantrel.Study;
import io.lantrel.ledger.LedgerDefect;
import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Whatever is tried, a database is afterwards as it was. */
public class AttackTest {

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test
  public void areMany() {
    assertThat(Attacks.readInTwoWays().size() + Attacks.acting().size()).isGreaterThan(600);
  }

  @Test(dataProvider = "engines")
  public void nothingChanges(Engine engine) throws SQLException, IOException {
    try (AttackedDatabase database = AttackedDatabase.create(engine)) {
      attack(database, Attacks.readInTwoWays(), "");
      attack(database, Attacks.acting(), "");
      assertThat(isArmed(database)).as("the weapons work").isTrue();
    }
  }

  @DataProvider
  static Object[][] settings() {
    String database = "ALTER DATABASE attacked SET ";
    String mode = "SET GLOBAL sql_mode = ";
    return new Object[][] {
      {Engine.POSTGRESQL, database + "standard_conforming_strings = off"},
      {Engine.POSTGRESQL, database + "backslash_quote = on"},
      {
        Engine.POSTGRESQL,
        "CREATE FUNCTION chr(n INTEGER) RETURNS TEXT LANGUAGE sql AS 'SELECT nextval(''counter'')::text';"
            + " CREATE FUNCTION current_setting(a TEXT) RETURNS TEXT LANGUAGE sql AS"
            + " 'SELECT nextval(''counter'')::text';"
            + database
            + "search_path = public, pg_catalog"
      },
      {Engine.POSTGRESQL, "ALTER ROLE postgres SET standard_conforming_strings = off"},
      {Engine.POSTGRESQL, database + "default_transaction_read_only = off"},
      {Engine.MARIADB, mode + "''"},
      {Engine.MARIADB, mode + "'ANSI_QUOTES'"},
      {Engine.MARIADB, mode + "'NO_BACKSLASH_ESCAPES'"},
      {Engine.MARIADB, mode + "'PIPES_AS_CONCAT,HIGH_NOT_PRECEDENCE,IGNORE_SPACE'"},
      {Engine.MARIADB, mode + "'ORACLE'"},
      {Engine.MARIADB, mode + "'ANSI,NO_BACKSLASH_ESCAPES'"},
    };
  }

  @Test(dataProvider = "settings")
  public void nothingChangesWhateverASessionIsSetTo(Engine engine, String setting)
      throws SQLException, IOException {
    try (AttackedDatabase database = AttackedDatabase.create(engine)) {
      database.set(setting);
      try {
        attack(database, Attacks.readInTwoWays(), setting);
      } finally {
        database.set(
            engine == Engine.POSTGRESQL
                ? "ALTER ROLE postgres RESET ALL"
                : "SET GLOBAL sql_mode = DEFAULT");
      }
    }
  }

  private static void attack(AttackedDatabase database, List<String> attacks, String setting)
      throws SQLException {
    String before = database.fingerprint();
    int answered = 0;
    Lantrel lantrel = Lantrel.connect(database.access());
    try {
      for (String attack : attacks) {
        List<Boolean> ends = new ArrayList<>();
        for (Study study : lantrel.studies(database.aimed(attack))) {
          answered += rows(study, ends);
        }
        assertThat(database.fingerprint())
            .as("%s %s after %s", database.access(), setting, attack)
            .isEqualTo(before);
        if (!ends.isEmpty()) {
          lantrel.close();
          lantrel = Lantrel.connect(database.access());
        }
      }
    } finally {
      lantrel.close();
    }
    assertThat(database.fingerprint()).isEqualTo(before);
    assertThat(answered).as("attacks that were only queries, and gave rows").isPositive();
  }

  /** All that can be asked of a statement; 1 if it gave rows. */
  private static int rows(Study study, List<Boolean> ends) {
    int rows = 0;
    try {
      assertThat(study.inspection()).isNotNull();
      rows = study.result().size() > 0 ? 1 : 0;
      study.ledger();
    } catch (NoLedgerException | IllegalStateException refused) {
      assertThat(refused.getMessage()).isNotBlank();
    } catch (DatabaseException refused) {
      assertThat(refused.getMessage()).isNotBlank();
      if (refused.isFatal()) {
        ends.add(true);
      }
    } catch (LedgerDefect defect) {
      throw new AssertionError(study.sql(), defect);
    }
    return rows;
  }

  /** Allowed by name, the function does what it was kept from. */
  /** Fired without Lantrel, the weapons hit, and the fingerprint shows it. */
  private static boolean isArmed(AttackedDatabase database) throws SQLException {
    String before = database.fingerprint();
    database.fire();
    return !database.fingerprint().equals(before);
  }
}
