package io.lantrel.resolve;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.RiverWatchFolder;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.SchemaFile;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.SqlReader;
import java.io.IOException;
import java.nio.file.Files;
import java.util.List;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What names mean, on the schema of the river watch. */
public class ResolverTest {

  private static final Catalog CATALOG = catalog(Dialect.DUCKDB);

  private static Catalog catalog(Dialect dialect) {
    try {
      return SchemaFile.read(
              new SourceText(Files.readString(RiverWatchFolder.data().resolve("schema.sql"))),
              dialect)
          .catalog();
    } catch (IOException failure) {
      throw new IllegalStateException(failure);
    }
  }

  private static Resolution resolve(String sql) {
    return Resolver.resolve(SqlReader.readQuery(sql, Dialect.DUCKDB), CATALOG);
  }

  @DataProvider
  static Object[][] problems() {
    return new Object[][] {
      {"SELECT s.id FROM station s", ""},
      {"SELECT x FROM nowhere", "UnknownTable nowhere"},
      {"SELECT nowhere.x, n.y FROM nowhere n", "UnknownTable nowhere"},
      {"SELECT z.id FROM station s", "UnknownQualifier z"},
      {"SELECT z.* FROM station s", "UnknownQualifier z"},
      {"SELECT main.station.id FROM main.station", ""},
      {"SELECT s.flow, depth FROM station s", "UnknownColumn flow; UnknownColumn depth"},
      {"SELECT id FROM station s, river r", "AmbiguousColumn id"},
      {"SELECT id FROM station s JOIN river r USING (id)", ""},
      {"SELECT s.id, r.id FROM station s JOIN river r USING (id)", ""},
      {"SELECT name FROM station s JOIN river r USING (id)", "AmbiguousColumn name"},
      {"SELECT 1 FROM station s JOIN river r USING (flow)", "UnknownColumn flow"},
      {
        "SELECT 1 FROM station s JOIN river r ON TRUE JOIN warden w USING (id)",
        "AmbiguousColumn id"
      },
      {"SELECT id, name FROM station s NATURAL JOIN river r", ""},
      {"SELECT station.id FROM station s", "HiddenByAlias station"},
      {"SELECT s.id FROM station s, river s", "RepeatedAlias s"},
      {"SELECT station.id FROM station, station", "RepeatedAlias station"},
      {"SELECT s.id FROM station s, (SELECT 1 AS a) S", "RepeatedAlias S"},
      {
        "SELECT 1 FROM station s JOIN river r ON r.id = w.id JOIN warden w ON w.id = s.keeper_id",
        "NotVisibleYet w.id"
      },
      {
        "SELECT 1 FROM station s, river r RIGHT JOIN warden w ON w.id = s.keeper_id",
        "NotVisibleYet s.keeper_id"
      },
      {"SELECT 1 FROM station s, river r JOIN warden w ON w.id = s.keeper_id", ""},
      {"SELECT 1 FROM (SELECT s.id) q, station s", "UnknownQualifier s"},
      {"SELECT s.id AS n FROM station s ORDER BY n", ""},
      {"SELECT s.id AS n FROM station s GROUP BY n HAVING n > 1", ""},
      {"SELECT s.id AS n FROM station s JOIN river r ON r.id = n", "UnknownColumn n"},
      {"SELECT 1 FROM station s WHERE EXISTS (SELECT 1 FROM river r WHERE r.id = s.river_id)", ""},
      {
        "SELECT 1 FROM station s WHERE EXISTS (SELECT 1 FROM river r WHERE r.id = x.river_id)",
        "UnknownQualifier x"
      },
      {"SELECT 1 FROM station s WHERE s.id IN (SELECT capacity FROM river r)", ""},
      {"SELECT (SELECT MAX(flow) FROM river WHERE id = river_id) FROM station", ""},
      {"SELECT q.a FROM (SELECT id AS a FROM station) q", ""},
      {"SELECT q.id FROM (SELECT id AS a FROM station) q", "UnknownColumn id"},
      {"SELECT q.c FROM (SELECT id, name FROM station) q (c, d)", ""},
      {"SELECT current_date, CURRENT_TIMESTAMP, user FROM station", ""},
      {"SELECT s.\"ID\", S.Name FROM \"STATION\" s", ""},
      {"WITH a AS (SELECT id FROM b), b AS (SELECT 1 AS id) SELECT * FROM a", "UnknownTable b"},
      {"WITH a AS (SELECT 1 AS x) SELECT (SELECT x FROM a), y FROM a", "UnknownColumn y"},
      {"WITH river AS (SELECT 1 AS x) SELECT flow FROM river", "UnknownColumn flow"},
      {
        "WITH a AS (SELECT 1 AS x) SELECT x FROM (WITH a AS (SELECT 2 AS y) SELECT x FROM a) q",
        "UnknownColumn x"
      },
      {"SELECT x.id, d.id FROM reading d JOIN station s USING (id) AS x", ""},
      {"SELECT s.id FROM river r SEMI JOIN station s ON s.river_id = r.id", "UnknownQualifier s"},
      {
        "SELECT r.id FROM river r ANTI JOIN station s USING (id) WHERE s.id = 1",
        "UnknownQualifier s"
      },
      {"SELECT w.id FROM (warden w CROSS JOIN river r) x, station s", "HiddenByAlias w"},
      {"SELECT warden.id FROM (warden w CROSS JOIN river r) x", "HiddenByAlias warden"},
      {"SELECT bank.code FROM station s", "UnknownQualifier bank"},
      {"SELECT s.id FROM (station s JOIN river r ON r.id = s.river_id) j", "HiddenByAlias s"},
      {"SELECT j.capacity FROM (station s JOIN river r ON r.id = s.river_id) j", ""},
      {"SELECT 1 FROM station s, LATERAL (SELECT s.id, r.id) q, river r", "UnknownQualifier r"},
      {"SELECT 1 FROM river r WHERE r.id IN (SELECT s.id FROM station s UNION SELECT r.flow)", ""},
      {"SELECT id FROM river UNION SELECT 1 ORDER BY id, name", "UnknownColumn name"},
      {
        "SELECT SUM(id) OVER w FROM river WINDOW w AS (PARTITION BY name ORDER BY x)",
        "UnknownColumn x"
      },
      {"SELECT list_transform([1], lambda x : x + y) FROM river", "UnknownColumn y"},
      {"SELECT list_transform([1], x -> x + id) FROM river", ""},
      {"SELECT s.name, COUNT(*) FROM station s", "UngroupedColumns s.name"},
      {"SELECT 1 FROM station s WHERE SUM(s.id) > 1", "MisplacedAggregate SUM(s.id)"},
      {
        "SELECT r.name FROM river r WHERE r.id = (SELECT MAX(s.river_id) FROM station s"
            + " WHERE s.capacity > r.flow)",
        ""
      },
    };
  }

  /** The same query is right in one product and wrong in another. */
  @DataProvider
  static Object[][] dialects() {
    String byLabel = "SELECT bank AS b, COUNT(*) AS n FROM station GROUP BY b HAVING n > 1";
    String byKey = "SELECT s.id, s.name, COUNT(*) FROM station s GROUP BY s.id";
    String loose = "SELECT bank, name FROM station GROUP BY bank";
    String exact = "SELECT \"Name\" FROM Station";
    String text = "SELECT name FROM station WHERE bank = \"R\"";
    return new Object[][] {
      {byLabel, Dialect.DUCKDB, ""},
      {byLabel, Dialect.POSTGRESQL, "UnknownColumn n"},
      {byLabel, Dialect.MARIADB, ""},
      {byKey, Dialect.DUCKDB, "UngroupedColumns s.name"},
      {byKey, Dialect.POSTGRESQL, ""},
      {byKey, Dialect.MARIADB, ""},
      {loose, Dialect.POSTGRESQL, "UngroupedColumns name"},
      {loose, Dialect.SQLITE, ""},
      {loose, Dialect.MARIADB, ""},
      {exact, Dialect.DUCKDB, ""},
      {exact, Dialect.POSTGRESQL, "UnknownColumn \"Name\""},
      {exact, Dialect.H2, "UnknownColumn \"Name\""},
      {exact.replace("Name", "NAME"), Dialect.H2, ""},
      {text, Dialect.DUCKDB, "UnknownColumn \"R\""},
      {text, Dialect.MARIADB, ""},
      {text, Dialect.SQLITE, ""},
      {"SELECT s FROM station s", Dialect.POSTGRESQL, ""},
      {"SELECT s FROM station s", Dialect.MARIADB, "UnknownColumn s"},
      {"SELECT name AS n FROM station WHERE n = 'x'", Dialect.DUCKDB, ""},
      {"SELECT name AS n FROM station WHERE n = 'x'", Dialect.POSTGRESQL, "UnknownColumn n"},
    };
  }

  @Test(dataProvider = "dialects")
  public void knowsTheRulesOfEachDialect(String sql, Dialect dialect, String expected) {
    SourceText source = new SourceText(sql);
    Resolution resolution = Resolver.resolve(SqlReader.readQuery(sql, dialect), catalog(dialect));
    String problems =
        resolution.problems().stream()
            .map(each -> each.getClass().getSimpleName() + " " + source.at(each.place()))
            .collect(Collectors.joining("; "));
    assertThat(problems).isEqualTo(expected);
  }

  /** What is known of the result: its columns, ? behind those that can be NULL, and its keys. */
  @DataProvider
  static Object[][] results() {
    return new Object[][] {
      {"SELECT id, bank FROM station", "id bank?", "[id]"},
      {
        "SELECT s.id, d.id AS d FROM station s JOIN reading d ON d.station_id = s.id", "id d", "[d]"
      },
      {
        "SELECT s.id, d.id AS d FROM station s LEFT JOIN reading d ON d.station_id = s.id",
        "id d?",
        "[id, d]"
      },
      {
        "SELECT s.id, r.name FROM station s LEFT JOIN river r ON r.id = s.river_id",
        "id name?",
        "[id]"
      },
      {
        "SELECT s.id, r.name FROM station s LEFT JOIN river r ON r.id = s.river_id"
            + " WHERE r.flow > 1",
        "id name",
        "[id]"
      },
      {
        "SELECT r.id AS r, s.river_id AS s FROM station s JOIN river r ON r.id = s.river_id",
        "r s",
        ""
      },
      {
        "SELECT bank, COUNT(*) AS n, MIN(capacity) AS c FROM station GROUP BY bank",
        "bank? n c",
        "[bank]"
      },
      {
        "SELECT s.id, s.name, COUNT(d.id) AS n FROM station s LEFT JOIN reading d ON"
            + " d.station_id = s.id GROUP BY s.id, s.name",
        "id name n",
        "[id]"
      },
      {"SELECT bank, COUNT(*) AS n FROM station GROUP BY ROLLUP (bank)", "bank? n", ""},
      {"SELECT MAX(id) AS m FROM station", "m?", "[]"},
      {"SELECT DISTINCT bank, river_id FROM station", "bank? river_id?", "[bank, river_id]"},
      {"SELECT id FROM station UNION SELECT flows_into FROM river", "id?", "[id]"},
      {"SELECT id FROM station UNION ALL SELECT id FROM river", "id", ""},
      {"SELECT id FROM station EXCEPT ALL SELECT flows_into FROM river", "id", "[id]"},
      {"SELECT flows_into FROM river INTERSECT SELECT id FROM river", "flows_into", "[flows_into]"},
      {
        "WITH a AS (SELECT station_id, COUNT(*) AS n FROM reading GROUP BY station_id)"
            + " SELECT s.id, a.n FROM station s LEFT JOIN a ON a.station_id = s.id",
        "id n?",
        "[id]"
      },
      {"SELECT q.id FROM (SELECT id FROM station LIMIT 1) q", "id", "[]"},
      {"SELECT name FROM station LIMIT 1", "name", "[]"},
      {"VALUES (1, NULL), (2, 3)", "col0 col1?", ""},
      {
        "WITH RECURSIVE n AS (SELECT 1 AS i UNION SELECT i + 1 FROM n WHERE i < 5) SELECT i FROM n",
        "i",
        "[i]"
      },
      {
        "SELECT s.id, q.n FROM station s, LATERAL (SELECT COUNT(*) AS n FROM reading d"
            + " WHERE d.station_id = s.id) q",
        "id n",
        "[id]"
      },
      {
        "SELECT id, COALESCE(bank, '-') AS b, capacity + 1 AS c, capacity / 2 AS h FROM station",
        "id b c h?",
        "[id]"
      },
      {
        "SELECT g.* FROM sighting g",
        "station_id species_id seen_on head_count",
        "[station_id, species_id, seen_on]"
      },
      {"SELECT id, UNNEST([1, 2]) AS u FROM station", "id u?", ""},
      {
        "SELECT * FROM reading d FULL JOIN sighting g USING (station_id)",
        "id? station_id? taken_at? temperature? depth_cm? species_id? seen_on? head_count?",
        ""
      },
    };
  }

  @Test(dataProvider = "results")
  public void knowsColumnsAndKeysOfEveryResult(String sql, String columns, String key) {
    ResolvedQuery result = resolve(sql).result();
    assertThat(
            result.outputs().stream()
                .map(output -> output.name() + (result.isNullable(output) ? "?" : ""))
                .collect(Collectors.joining(" ")))
        .isEqualTo(columns);
    List<String> keys =
        result.keys().stream()
            .map(each -> each.stream().map(i -> result.outputs().get(i).name()).toList().toString())
            .toList();
    if (key.isEmpty()) {
      assertThat(keys).isEmpty();
    } else {
      assertThat(keys).contains(key);
    }
  }

  @Test(dataProvider = "problems")
  public void reportsNamesThatMeanNothingOrTooMuch(String sql, String expected) {
    SourceText source = new SourceText(sql);
    String problems =
        resolve(sql).problems().stream()
            .map(each -> each.getClass().getSimpleName() + " " + source.at(each.place()))
            .collect(Collectors.joining("; "));
    assertThat(problems).isEqualTo(expected);
  }

  @DataProvider
  static Object[][] outputs() {
    return new Object[][] {
      {"SELECT * FROM bank_kind b", "code,label"},
      {"SELECT b.*, 1 AS one FROM bank_kind b", "code,label,one"},
      {
        "SELECT * FROM species p JOIN species_group g USING (id)", "id,name,group_id,name,within_id"
      },
      {"SELECT * FROM species p NATURAL JOIN species_group g", "id,name,group_id,within_id"},
      {"SELECT * FROM (SELECT code FROM bank_kind) q, (SELECT 2 AS two) z", "code,two"},
      {"SELECT s.id + 1, COUNT(*) FROM station s GROUP BY s.id", "s.id + 1,COUNT(*)"},
      {"SELECT x.a FROM bank_kind x (a, b)", "a"},
    };
  }

  @Test(dataProvider = "outputs")
  public void writesOutStars(String sql, String expected) {
    assertThat(resolve(sql).root().outputs().stream().map(OutputColumn::name))
        .containsExactly(expected.split(",", -1));
  }

  @DataProvider
  static Object[][] nullable() {
    String from = " FROM station s JOIN river r ON r.id = s.river_id";
    return new Object[][] {
      {"SELECT s.id, s.bank, r.id" + from, "n?n"},
      {"SELECT s.id, s.bank, r.id" + from.replace("JOIN", "LEFT JOIN"), "n??"},
      {"SELECT s.id, s.bank, r.id" + from.replace("JOIN", "RIGHT JOIN"), "??n"},
      {"SELECT s.id, s.bank, r.id" + from.replace("JOIN", "FULL JOIN"), "???"},
      {"SELECT COUNT(s.bank), MAX(s.id), 1" + from, "n?n"},
      {
        "SELECT q.id, q.n, q.b FROM (SELECT id, COUNT(*) AS n, bank AS b FROM station GROUP BY id,"
            + " bank) q",
        "nn?"
      },
    };
  }

  @Test(dataProvider = "nullable")
  public void knowsWhatCanBeNull(String sql, String expected) {
    QueryBlock block = resolve(sql).root();
    String nullable =
        block.outputs().stream()
            .map(output -> block.isNullable(output) ? "?" : "n")
            .collect(Collectors.joining());
    assertThat(nullable).isEqualTo(expected);
  }

  @DataProvider
  static Object[][] multiplicities() {
    return new Object[][] {
      {"station s JOIN river r ON r.id = s.river_id", "at most one / any number"},
      {"river r JOIN station s ON s.river_id = r.id", "any number / at most one"},
      {"reading d JOIN station s ON s.id = d.station_id", "exactly one / any number"},
      {"station s JOIN reading d ON s.id = d.station_id", "any number / exactly one"},
      {"reading d JOIN station s ON s.id = d.station_id AND s.id > 3", "at most one / any number"},
      {"reading d JOIN station s ON s.id = d.id", "at most one / at most one"},
      {
        "sighting g JOIN sighting h ON g.station_id = h.station_id AND g.species_id = h.species_id",
        "any number / any number"
      },
      {
        "sighting g JOIN sighting h USING (station_id, species_id, seen_on)",
        "at most one / at most one"
      },
      {"station s CROSS JOIN river r", "any number / any number"},
      {"station s, river r WHERE s.river_id = r.id", "at most one / any number"},
      {
        "river r JOIN (SELECT river_id, COUNT(*) AS n FROM station GROUP BY river_id) q"
            + " ON q.river_id = r.id",
        "at most one / at most one"
      },
      {
        "river r JOIN (SELECT DISTINCT river_id FROM station) q ON q.river_id = r.id",
        "at most one / at most one"
      },
      {
        "river r JOIN (SELECT id AS sid, river_id FROM station) q ON q.sid = r.id",
        "at most one / at most one"
      },
      {
        "river r JOIN (SELECT MAX(id) AS m FROM station) q ON q.m > r.id",
        "at most one / any number"
      },
    };
  }

  @Test(dataProvider = "multiplicities")
  public void knowsHowManyPartnersKeysAndReferencesAllow(String from, String expected) {
    QueryBlock block = resolve("SELECT 1 AS one FROM " + from).root();
    JoinStep step = block.steps().get(0);
    assertThat(
            block.partnersOnTheRight(step).words() + " / " + block.partnersOnTheLeft(step).words())
        .isEqualTo(expected);
  }

  @Test
  public void doesNotPromiseAPartnerToARowThatWasFilledBefore() {
    QueryBlock block =
        resolve(
                "SELECT 1 AS one FROM station s LEFT JOIN reading d ON d.station_id = s.id"
                    + " LEFT JOIN station t ON t.id = d.station_id")
            .root();
    assertThat(block.partnersOnTheRight(block.steps().get(1))).isEqualTo(Multiplicity.AT_MOST_ONE);
  }

  @DataProvider
  static Object[][] steps() {
    return new Object[][] {
      {
        "SELECT 1 FROM station s, river r, warden w"
            + " WHERE s.river_id = r.id AND w.id = s.keeper_id AND r.flow > 2 AND w.id > r.id",
        ", river r: s.river_id = r.id | , warden w: w.id = s.keeper_id & w.id > r.id"
            + " | where r.flow > 2"
      },
      {
        "SELECT 1 FROM station s JOIN river r ON r.id = s.river_id AND (r.flow > 1 AND s.id > 2)"
            + " WHERE s.capacity > 3 AND s.keeper_id = r.id",
        "JOIN river r: r.id = s.river_id & r.flow > 1 & s.id > 2"
            + " | where s.capacity > 3 & s.keeper_id = r.id"
      },
      {
        "SELECT 1 FROM station s CROSS JOIN river r LEFT JOIN warden w ON w.id = s.keeper_id"
            + " WHERE r.id = s.river_id",
        "CROSS JOIN river r: | LEFT JOIN warden w: w.id = s.keeper_id | where r.id = s.river_id"
      },
      {
        "SELECT 1 FROM station s CROSS JOIN river r JOIN warden w ON w.id = s.keeper_id"
            + " WHERE r.id = s.river_id",
        "CROSS JOIN river r: r.id = s.river_id | JOIN warden w: w.id = s.keeper_id | where"
      },
      {
        "SELECT 1 FROM station s LEFT JOIN (river r JOIN station t ON t.river_id = r.id)"
            + " ON r.id = s.river_id",
        "JOIN station t: t.river_id = r.id | LEFT JOIN (river r, station t): r.id = s.river_id"
            + " | where"
      },
      {
        "SELECT 1 FROM station s, river r WHERE s.river_id = r.id OR s.id = 1",
        ", river r: s.river_id = r.id OR s.id = 1 | where"
      },
    };
  }

  @Test(dataProvider = "steps")
  public void givesEveryConditionToTheStepThatItJoins(String sql, String expected) {
    QueryBlock block = resolve(sql).root();
    String steps =
        block.steps().stream()
            .map(step -> step.words() + ":" + printed(step.conjuncts()))
            .collect(Collectors.joining(" | "));
    assertThat(steps + " | where" + printed(block.filters())).isEqualTo(expected);
  }

  private static String printed(List<Conjunct> conjuncts) {
    return conjuncts.isEmpty()
        ? ""
        : " "
            + conjuncts.stream()
                .map(each -> SqlPrinter.print(each.condition(), Dialect.DUCKDB))
                .collect(Collectors.joining(" & "));
  }

  @Test
  public void tellsWhichBlocksDependOnRowsAroundThem() {
    Resolution resolution =
        resolve(
            "SELECT 1 FROM station s WHERE s.id IN (SELECT d.station_id FROM reading d) AND EXISTS"
                + " (SELECT 1 FROM reading d WHERE d.id IN (SELECT g.station_id FROM sighting g"
                + " WHERE g.head_count > s.capacity))");
    assertThat(resolution.blocks().stream().map(QueryBlock::isCorrelated))
        .containsExactly(false, false, true, true);
    assertThat(resolution.blocks().get(3).outer()).containsSame(resolution.blocks().get(2));
  }

  @Test
  public void replacesLabelsAndPositionsInGroupBy() {
    QueryBlock block =
        resolve("SELECT s.bank AS b, s.id + 1 AS n, COUNT(*) FROM station s GROUP BY b, 2").root();
    assertThat(block.grouping().stream().map(each -> SqlPrinter.print(each, Dialect.DUCKDB)))
        .containsExactly("s.bank", "s.id + 1");
  }

  @Test
  public void resolvesAChainOf256Tables() {
    StringBuilder sql = new StringBuilder("SELECT r0.name FROM river r0");
    for (int i = 1; i < 256; i++) {
      sql.append(" LEFT JOIN river r")
          .append(i)
          .append(" ON r")
          .append(i)
          .append(".id = r")
          .append(i - 1)
          .append(".flows_into");
    }
    Resolution resolution = resolve(sql.toString());
    assertThat(resolution.problems()).isEmpty();
    assertThat(resolution.root().steps()).hasSize(255);
  }
}
