package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.QueryGenerator;
import io.lantrel.Study;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.SchemaFile;
import io.lantrel.catalog.Table;
import io.lantrel.check.Severity;
import io.lantrel.ledger.Ledger;
import io.lantrel.sql.SourceText;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Ledgers of generated queries on real engines: the same as on the embedded one. */
public class EngineLedgerTest {

  private static final long SEED = 20261123;
  private static final int QUERIES = 40;
  private static final int QUERIES_OF_CLUSTER = 8;
  private static final int TABLES = 4;

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void accountsForRowsAsTheEmbeddedEngineDoes(Engine engine)
      throws IOException, SQLException {
    Path folder = QueryGenerator.folder(SEED, TABLES);
    QueryGenerator generator = new QueryGenerator(SEED, TABLES);
    int compared = 0;
    int queries = engine == Engine.TRINO ? QUERIES_OF_CLUSTER : QUERIES;
    try (Lantrel known = Lantrel.open(folder);
        Lantrel lantrel = open(engine, folder)) {
      for (int i = 0; i < queries; i++) {
        String sql = generator.query().sql();
        Study study = lantrel.study(sql);
        if (sql.contains("FULL JOIN") && !runsAnyFullJoin(engine)) {
          continue;
        }
        boolean error =
            study.findings().stream().anyMatch(each -> each.severity() == Severity.ERROR);
        if (engine == Engine.TRINO && error) {
          // It takes no labels where the others do.
          continue;
        }
        assertThat(study.inspection().refusal()).as(sql).isEmpty();
        Ledger ledger = study.ledger();
        assertThat(ledger).as(sql).isEqualTo(known.study(sql).ledger());
        compared++;
      }
    }
    assertThat(compared).isGreaterThan(queries / 3);
  }

  /** MariaDB and H2 have none, and PostgreSQL has it for equalities only. */
  static boolean runsAnyFullJoin(Engine engine) {
    return engine != Engine.MARIADB && engine != Engine.H2 && engine != Engine.POSTGRESQL;
  }

  static Lantrel open(Engine engine, Path folder) throws IOException, SQLException {
    return open(engine, folder, false);
  }

  /**
   * The same.
   *
   * @param kept whether the rows keep all keys and references, so that servers take them too
   */
  static Lantrel open(Engine engine, Path folder, boolean kept) throws IOException, SQLException {
    if (engine.isEmbedded()) {
      return Lantrel.open(folder, engine);
    }
    Access access = RiverDatabases.empty(engine, "generated");
    String schema = Files.readString(folder.resolve("schema.sql"));
    Catalog catalog = SchemaFile.read(new SourceText(schema), engine.dialect()).catalog();
    try (Connection connection = RiverDatabases.writing(access)) {
      for (Table table : catalog.tables()) {
        RiverDatabases.createWithoutKeys(connection, table, engine.dialect());
        RiverDatabases.insert(connection, table, folder, engine.dialect());
      }
      if (kept) {
        RiverDatabases.declareKeys(connection, catalog, engine.dialect());
      }
    }
    return Lantrel.connect(access);
  }
}
