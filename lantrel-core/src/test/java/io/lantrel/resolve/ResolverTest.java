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

  private static final Catalog CATALOG = catalog();

  private static Catalog catalog() {
    try {
      return SchemaFile.read(
              new SourceText(Files.readString(RiverWatchFolder.data().resolve("schema.sql"))),
              Dialect.DUCKDB)
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
        "SELECT 1 FROM station s, river r JOIN warden w ON w.id = s.keeper_id",
        "NotVisibleYet s.keeper_id"
      },
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
    };
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
                .map(each -> SqlPrinter.print(each.condition()))
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
    assertThat(block.grouping().stream().map(SqlPrinter::print))
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
