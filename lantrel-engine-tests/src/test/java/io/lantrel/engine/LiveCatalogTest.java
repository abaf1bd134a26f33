package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.Study;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.check.Severity;
import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Verdict;
import io.lantrel.draft.Wish;
import io.lantrel.hierarchy.HierarchyWish;
import io.lantrel.sample.SampleWish;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Tables, keys and references as they are read from databases of every engine. */
public class LiveCatalogTest {

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void readsTheRiverWatchAsItsSchemaDeclaresIt(Engine engine) {
    try (Lantrel sample = RiverDatabases.open(Engine.DUCKDB);
        Lantrel live = Lantrel.connect(RiverDatabases.access(engine))) {
      assertThat(tables(live.catalog())).isEqualTo(tables(sample.catalog()));
      // A file of DuckDB cannot hold the row that breaks a reference, so it has none here.
      List<Reference> declared =
          engine == Engine.DUCKDB ? List.of() : sample.catalog().references();
      assertThat(live.catalog().references())
          .extracting(LiveCatalogTest::told)
          .containsExactlyInAnyOrderElementsOf(
              declared.stream().map(LiveCatalogTest::told).toList());
    }
  }

  private static String told(Reference reference) {
    return reference.words() + " " + reference.basis();
  }

  private static Set<String> tables(Catalog catalog) {
    return catalog.tables().stream()
        .map(table -> table.name() + " " + columns(table) + " " + table.keys())
        .collect(Collectors.toCollection(TreeSet::new));
  }

  /** DuckDB forgets the length of texts. */
  private static List<String> columns(Table table) {
    return table.columns().stream()
        .map(
            each ->
                each.name()
                    + " "
                    + each.type().text().replaceFirst("(?:VAR)?CHAR.*", "TEXT")
                    + " "
                    + each.nullable())
        .toList();
  }

  /** Odd names, composite keys and references, unique indexes and views. */
  @Test(dataProvider = "engines")
  public void readsWhatDatabasesHold(Engine engine) throws SQLException, IOException {
    Access access = RiverDatabases.empty(engine, "odd_catalog");
    String quote = engine == Engine.MARIADB ? "`" : "\"";
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE basin (region INTEGER NOT NULL, no INTEGER NOT NULL, title VARCHAR(20),"
              + " PRIMARY KEY (region, no))",
          "CREATE TABLE gauge (id INTEGER PRIMARY KEY, serial VARCHAR(10), mate INTEGER,"
              + " basin_region INTEGER, basin_no INTEGER, level_m DECIMAL(5, 2),"
              + " FOREIGN KEY (basin_region, basin_no) REFERENCES basin (region, no),"
              + " FOREIGN KEY (mate) REFERENCES gauge (id))",
          "CREATE UNIQUE INDEX gauge_serial ON gauge (serial)",
          "CREATE TABLE 'Odd Näme' ('Key' INTEGER PRIMARY KEY, 'a b' INTEGER, 'select' INTEGER)"
              .replace("'", quote),
          "CREATE VIEW big_gauge AS SELECT g.id, b.title FROM gauge g"
              + " LEFT JOIN basin b ON b.region = g.basin_region AND b.no = g.basin_no",
          "INSERT INTO basin VALUES (1, 1, 'Upper')",
          "INSERT INTO gauge VALUES (1, 'A', NULL, 1, 1, 2.50)",
          "INSERT INTO gauge VALUES (2, 'B', 1, NULL, 1, NULL)",
          "INSERT INTO 'Odd Näme' VALUES (1, 2, 3)".replace("'", quote));
    }
    try (Lantrel lantrel = Lantrel.connect(access)) {
      Catalog catalog = lantrel.catalog();
      Table gauge = catalog.table("gauge").orElseThrow();
      assertThat(gauge.keys())
          .containsExactly(new Key(List.of("id"), true), new Key(List.of("serial"), false));
      assertThat(catalog.table("basin").orElseThrow().keys())
          .containsExactly(new Key(List.of("region", "no"), true));
      assertThat(catalog.references())
          .extracting(Reference::words)
          .containsExactlyInAnyOrder(
              "gauge(basin_region, basin_no) → basin(region, no)", "gauge.mate → gauge.id");
      assertThat(catalog.views()).extracting(view -> view.name()).containsExactly("big_gauge");
      Table odd = catalog.table("Odd Näme").orElseThrow();
      assertThat(odd.columns())
          .extracting(Column::name)
          .containsExactly("Key", small(engine, "a b"), small(engine, "select"));
      assertThat(lantrel.survey().tables()).hasSize(3);
      assertNothingWrong(lantrel, "SELECT o.'a b', o.'select' FROM 'Odd Näme' o", quote);
      assertNothingWrong(
          lantrel, "SELECT v.title, g.serial FROM big_gauge v JOIN gauge g ON g.id = v.id", quote);
      Study loop =
          lantrel.study("SELECT g.serial, m.serial FROM gauge g JOIN gauge m ON m.id = g.mate");
      assertThat(loop.ledger().result()).isEqualTo(1);
      assertThat(loop.findings())
          .extracting(each -> each.kind().id())
          .contains("rows-without-partner");
    }
  }

  @DataProvider
  static Object[][] withSchemas() {
    return new Object[][] {{Engine.POSTGRESQL}, {Engine.H2}, {Engine.HSQLDB}, {Engine.DUCKDB}};
  }

  /** Tables of one name in two schemas, each with references of its own. */
  @Test(dataProvider = "withSchemas")
  public void tellsTablesOfOneNameApart(Engine engine) throws SQLException, IOException {
    Access access = RiverDatabases.empty(engine, "two_schemas");
    String keyed = "(id INTEGER PRIMARY KEY, name VARCHAR(20))";
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE SCHEMA upper_basin",
          "CREATE TABLE river " + keyed,
          "CREATE TABLE upper_basin.river " + keyed,
          "CREATE TABLE station (id INTEGER PRIMARY KEY, river_id INTEGER REFERENCES river (id))",
          "CREATE TABLE upper_basin.station (id INTEGER PRIMARY KEY, river_id INTEGER NOT NULL,"
              + " FOREIGN KEY (river_id) REFERENCES upper_basin.river (id))",
          "INSERT INTO river VALUES (1, 'Ombrel')",
          "INSERT INTO upper_basin.river VALUES (1, 'Tavin')",
          "INSERT INTO upper_basin.river VALUES (2, 'Keskel')",
          "INSERT INTO station VALUES (10, NULL)",
          "INSERT INTO upper_basin.station VALUES (20, 2)");
    }
    try (Lantrel lantrel = Lantrel.connect(access)) {
      assertThat(lantrel.catalog().references())
          .hasSize(2)
          .allMatch(each -> each.from().schema().equals(each.to().schema()));
      String joined = "SELECT r.name FROM station s JOIN river r ON r.id = s.river_id";
      String upper = joined.replaceAll("(station|river) ([sr])", "upper_basin.$1 $2");
      assertThat(lantrel.study(joined).findings())
          .extracting(each -> each.kind().id())
          .containsExactly("rows-without-partner");
      assertThat(lantrel.study(upper).findings()).isEmpty();
      assertThat(lantrel.study(upper).ledger().result()).isEqualTo(1);
      assertThat(lantrel.survey().tables()).hasSize(4);
      assertThat(lantrel.survey().references()).hasSize(2);
    }
  }

  /** Tables that no path leads to are meant by their names all the same, in whatever schema. */
  @Test(dataProvider = "withSchemas")
  public void tablesOfOtherSchemasAreMeantByTheirNames(Engine engine)
      throws SQLException, IOException {
    Access access = RiverDatabases.empty(engine, "other_schema");
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE SCHEMA field",
          "CREATE TABLE field.spot (id INTEGER PRIMARY KEY, name VARCHAR(20), up_id INTEGER, FOREIGN"
              + " KEY (up_id) REFERENCES field.spot (id))",
          "CREATE TABLE field.look (id INTEGER PRIMARY KEY, spot_id INTEGER, FOREIGN KEY (spot_id)"
              + " REFERENCES field.spot (id))",
          "CREATE VIEW field.seen AS SELECT s.name, l.id FROM field.spot s JOIN field.look l ON"
              + " l.spot_id = s.id",
          "INSERT INTO field.spot VALUES (1, 'Ford', NULL)",
          "INSERT INTO field.spot VALUES (2, 'Weir', 1)",
          "INSERT INTO field.look VALUES (7, 2)");
    }
    Path folder = Scratch.folder("other_schema").resolve("sample");
    String joined =
        "SELECT s.name, field.look.id FROM field.spot s JOIN field.look ON field.look.spot_id = s.id";
    try (Lantrel lantrel = Lantrel.connect(access)) {
      for (String spot : List.of("spot", "field.spot")) {
        String sql =
            lantrel
                .drafts(Wish.show(spot + ".name", "look.id"))
                .get(0)
                .sql()
                .replaceAll("\\s+", " ");
        assertThat(sql).containsIgnoringCase("FROM field.spot s LEFT JOIN field.look l");
        assertThat(lantrel.study(sql).result().size()).isEqualTo(2);
        assertThat(lantrel.hierarchy(HierarchyWish.of(spot)).trees()).hasSize(1);
      }
      assertThatThrownBy(() -> lantrel.hierarchy(HierarchyWish.of("other.spot")))
          .hasMessageStartingWith("there is no table other.spot");
      assertThat(lantrel.study(joined).findings()).isEmpty();
      lantrel
          .sample(SampleWish.usual(), List.of(lantrel.study(joined)), text -> {})
          .writeTo(folder);
    }
    // A folder has no schemas: the same queries mean its tables.
    try (Lantrel sample =
        Lantrel.open(folder, engine.isEmbedded() ? engine : Engine.DUCKDB, Limits.usual())) {
      assertThat(sample.notes()).isEmpty();
      assertThat(sample.study(joined).ledger().result()).isEqualTo(1);
      assertThat(sample.study("SELECT v.name FROM field.seen v").result().size()).isEqualTo(1);
      assertThat(sample.study(joined).inspection().unchecked()).isEmpty();
    }
  }

  /** A partition holds the rows of its table that meet its condition: it is no table beside it. */
  @Test
  public void partitionsArePartsOfTheirTable() throws SQLException, IOException {
    Access access = RiverDatabases.empty(Engine.POSTGRESQL, "parted");
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE spot (id INTEGER PRIMARY KEY)",
          "CREATE TABLE look (id INTEGER, spot_id INTEGER REFERENCES spot (id), PRIMARY KEY (id))"
              + " PARTITION BY RANGE (id)",
          "CREATE TABLE look_low PARTITION OF look FOR VALUES FROM (1) TO (10)",
          "CREATE TABLE look_high PARTITION OF look FOR VALUES FROM (10) TO (20)",
          "INSERT INTO spot VALUES (1), (2)",
          "INSERT INTO look VALUES (1, 1), (2, 2), (11, 2)");
    }
    try (Lantrel lantrel = Lantrel.connect(access)) {
      assertThat(lantrel.survey().tables()).hasSize(2);
      assertThat(lantrel.catalog().references()).hasSize(1);
      assertThat(lantrel.catalog().views()).hasSize(2);
      Study low =
          lantrel.study(
              "SELECT s.id, l.id AS look FROM spot s LEFT JOIN look_low l ON l.spot_id = s.id");
      assertThat(low.ledger().result()).isEqualTo(2);
      assertThat(low.findings()).isEmpty();
      assertThat(lantrel.drafts(Wish.show("spot.id", "look.id"))).hasSize(1);
    }
    String low = "SELECT l.id FROM look_low l";
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE FUNCTION watched() RETURNS INTEGER VOLATILE LANGUAGE sql AS 'SELECT 1'",
          "CREATE POLICY watch ON look_low USING (watched() > 0)",
          "ALTER TABLE look_low ENABLE ROW LEVEL SECURITY");
    }
    // What is asked of a partition has its own row security, not that of its table.
    try (Lantrel lantrel = Lantrel.connect(access)) {
      assertThatThrownBy(() -> lantrel.study(low).result())
          .hasMessageContaining("in the row security of the table look_low")
          .hasMessageContaining("watched");
      assertThat(lantrel.study(low.replace("_low", "_high")).result().size()).isEqualTo(1);
    }
  }

  /** SQLite takes a reference to a table that is not there; and a database may be empty. */
  @Test
  public void readsWhatIsNotOfOnePiece() throws SQLException, IOException {
    Access access = RiverDatabases.empty(Engine.SQLITE, "pieces");
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(connection, "PRAGMA user_version = 1");
    }
    try (Lantrel lantrel = Lantrel.connect(access)) {
      assertThat(lantrel.survey().tables()).isEmpty();
    }
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE a (id INTEGER PRIMARY KEY, gone_id INTEGER REFERENCES gone (id))",
          "CREATE VIRTUAL TABLE words USING fts5 (word)",
          "CREATE TABLE copy AS SELECT id FROM a");
    }
    try (Lantrel lantrel = Lantrel.connect(access)) {
      assertThat(lantrel.catalog().references()).isEmpty();
      assertThat(lantrel.study("SELECT w.word, c.id FROM words w, copy c").findings())
          .noneMatch(each -> each.severity() == Severity.ERROR);
    }
  }

  /** Where names without quotes are capitals, one in small letters is told with its quotes. */
  private static String small(Engine engine, String name) {
    return engine == Engine.H2 || engine == Engine.HSQLDB ? "\"" + name + "\"" : name;
  }

  private static void assertNothingWrong(Lantrel lantrel, String sql, String quote) {
    Study study = lantrel.study(sql.replace("'", quote));
    assertThat(study.inspection().refusal()).as(sql).isEmpty();
    assertThat(study.findings()).as(sql).noneMatch(each -> each.severity() == Severity.ERROR);
    assertThat(study.result().size()).as(sql).isPositive();
    assertThat(study.ledger().result()).as(sql).isEqualTo(study.result().size());
  }

  /** What a file says is believed and looked at; nothing of it is run. */
  @Test(dataProvider = "engines")
  public void referencesThatOnlyPeopleKnowAreRead(Engine engine) throws IOException {
    Path file = Files.createTempDirectory("known").resolve("known.sql");
    Files.writeString(
        file,
        "ALTER TABLE warden ADD FOREIGN KEY (id) REFERENCES station (id);\n"
            + "ALTER TABLE station ADD FOREIGN KEY (id) REFERENCES warden (id);\n");
    try (Lantrel lantrel = RiverDatabases.open(engine)) {
      Lantrel knowing = lantrel.withReferences(file);
      assertThat(knowing.catalog().references().stream().map(Reference::words).toList())
          .containsAll(lantrel.catalog().references().stream().map(Reference::words).toList())
          .contains("warden.id → station.id", "station.id → warden.id");
      assertThat(knowing.notes())
          .filteredOn(note -> note.startsWith("known.sql"))
          .containsExactly(
              "known.sql: station.id → warden.id does not hold: rows of station refer to nothing");
      Study study = knowing.study("SELECT w.id FROM warden w JOIN station s ON s.id = w.id");
      assertThat(study.ledger().entries().get(1).promise()).isEqualTo("exactly one");
    }
  }

  @DataProvider
  static Object[][] writtenMeanwhile() {
    return new Object[][] {{Engine.POSTGRESQL}, {Engine.MARIADB}, {Engine.SQLITE}};
  }

  /** Nothing but people sees to such a key, so whatever rests on it looks again. */
  @Test(dataProvider = "writtenMeanwhile")
  public void keysThatOnlyPeopleKnowAreLookedAtAgain(Engine engine)
      throws IOException, SQLException {
    Path file = Files.createTempDirectory("known").resolve("known.sql");
    Files.writeString(file, "ALTER TABLE tag ADD PRIMARY KEY (code);\n");
    Access access = RiverDatabases.empty(engine, "known_keys");
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection, "CREATE TABLE tag (code INTEGER)", "INSERT INTO tag VALUES (1)");
      try (Lantrel lantrel = Lantrel.connect(access).withReferences(file)) {
        Study codes = lantrel.study("SELECT t.code FROM tag t");
        Study different = lantrel.study("SELECT DISTINCT t.code FROM tag t");
        assertThat(codes.compare(different, CompareOptions.USUAL).verdict())
            .isEqualTo(Verdict.SAME);
        assertThat(codes.verify("one row per t").claims().get(0).verdict().name())
            .isEqualTo("PROVEN");
        RiverDatabases.run(connection, "INSERT INTO tag VALUES (1)");
        assertThat(codes.compare(different, CompareOptions.USUAL).verdict())
            .isEqualTo(Verdict.DIFFERENT);
        assertThat(codes.verify("one row per t").claims().get(0).verdict().name())
            .isNotEqualTo("PROVEN");
      }
    }
  }
}
