package io.lantrel.catalog;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** CREATE TABLE as people write it. */
public class SchemaFileTest {

  private static Catalog read(String sql) {
    return SchemaFile.read(new SourceText(sql), Dialect.DUCKDB).catalog();
  }

  @DataProvider
  static Object[][] types() {
    return new Object[][] {
      {"INTEGER", TypeFamily.INTEGER, List.of()},
      {"int", TypeFamily.INTEGER, List.of()},
      {"BIGINT", TypeFamily.INTEGER, List.of()},
      {"NUMERIC(10, 2)", TypeFamily.DECIMAL, List.of(10, 2)},
      {"decimal(4,1)", TypeFamily.DECIMAL, List.of(4, 1)},
      {"DOUBLE PRECISION", TypeFamily.FLOAT, List.of()},
      {"VARCHAR(40)", TypeFamily.TEXT, List.of(40)},
      {"CHARACTER VARYING (40)", TypeFamily.TEXT, List.of(40)},
      {"TEXT", TypeFamily.TEXT, List.of()},
      {"BOOLEAN", TypeFamily.TRUTH, List.of()},
      {"DATE", TypeFamily.DATE, List.of()},
      {"TIME", TypeFamily.TIME, List.of()},
      {"TIMESTAMP", TypeFamily.TIMESTAMP, List.of()},
      {"TIMESTAMP WITH TIME ZONE", TypeFamily.OTHER, List.of()},
      {"UUID", TypeFamily.OTHER, List.of()},
    };
  }

  @Test(dataProvider = "types")
  public void knowsTypes(String text, TypeFamily family, List<Integer> numbers) {
    Catalog catalog = read("CREATE TABLE t (a " + text + " NOT NULL, b " + text + ")");
    Column column = catalog.tables().get(0).columns().get(0);
    assertThat(column.type().family()).isEqualTo(family);
    assertThat(column.type().numbers()).isEqualTo(numbers);
    assertThat(column.nullable()).isFalse();
    assertThat(catalog.tables().get(0).columns().get(1).nullable()).isTrue();
  }

  @DataProvider
  static Object[][] keys() {
    return new Object[][] {
      {"a INTEGER PRIMARY KEY, b INTEGER", "a!"},
      {"a INTEGER, b INTEGER, PRIMARY KEY (a, b)", "a+b!"},
      {"a INTEGER UNIQUE, b INTEGER PRIMARY KEY", "b! a"},
      {"a INTEGER, b INTEGER, CONSTRAINT u UNIQUE (b, a), CONSTRAINT k PRIMARY KEY (A)", "a! b+a"},
      {"a INTEGER CHECK (a > (1 + 2)) DEFAULT -3, b INTEGER DEFAULT 'x' NULL", ""},
      {"a INTEGER DEFAULT now(), b INTEGER, CHECK (a < b)", ""},
    };
  }

  @Test(dataProvider = "keys")
  public void knowsKeys(String columns, String expected) {
    Table table = read("CREATE TABLE IF NOT EXISTS main.t (" + columns + ");").tables().get(0);
    assertThat(
            table.keys().stream()
                .map(key -> String.join("+", key.columns()) + (key.primary() ? "!" : ""))
                .collect(Collectors.joining(" ")))
        .isEqualTo(expected);
    assertThat(table.name()).isEqualTo("t");
  }

  @DataProvider
  static Object[][] dialects() {
    return Arrays.stream(Dialect.values())
        .map(each -> new Object[] {each})
        .toArray(Object[][]::new);
  }

  /** What ON says behind a column ends no column; in SQLite it makes a join of a comma in FROM. */
  @Test(dataProvider = "dialects")
  public void keepsColumnsBeforeOn(Dialect dialect) {
    String schema =
        "CREATE VIEW v AS SELECT r.id FROM river r;"
            + " CREATE TABLE river (id INTEGER PRIMARY KEY, code VARCHAR(9));"
            + " CREATE TABLE station (id INTEGER PRIMARY KEY, name VARCHAR(9) NOT NULL, river_id"
            + " INTEGER NOT NULL REFERENCES river (id) ON DELETE CASCADE ON UPDATE SET NULL, seen"
            + " DATE, up_id INTEGER, FOREIGN KEY (up_id) REFERENCES station (id) ON DELETE"
            + " CASCADE);";
    Catalog catalog = SchemaFile.read(new SourceText(schema), dialect).catalog();
    assertThat(catalog.table("station").orElseThrow().columns())
        .extracting(column -> column.name().toLowerCase(Locale.ROOT))
        .containsExactly("id", "name", "river_id", "seen", "up_id");
    assertThat(catalog.references())
        .extracting(reference -> reference.words().toLowerCase(Locale.ROOT))
        .containsExactlyInAnyOrder("station.river_id → river.id", "station.up_id → station.id");
  }

  @DataProvider
  static Object[][] references() {
    String target = "CREATE TABLE river (id INTEGER PRIMARY KEY, code TEXT UNIQUE); ";
    return new Object[][] {
      {
        target + "CREATE TABLE s (river_id INTEGER REFERENCES river)",
        "s.river_id → river.id",
        "river"
      },
      {
        target
            + "CREATE TABLE s (c TEXT REFERENCES River (code) ON DELETE CASCADE ON UPDATE SET NULL)",
        "s.c → river.code",
        "river"
      },
      {
        target
            + "CREATE TABLE s (main_river INTEGER, FOREIGN KEY (main_river) REFERENCES river (id)"
            + " MATCH FULL)",
        "s.main_river → river.id",
        "river"
      },
      {
        "CREATE TABLE w (id INTEGER PRIMARY KEY, mentor_id INTEGER REFERENCES w (id))",
        "w.mentor_id → w.id",
        "mentor"
      },
      {
        "CREATE TABLE a (x INTEGER, y INTEGER, PRIMARY KEY (x, y)); CREATE TABLE b (p INTEGER,"
            + " q INTEGER, FOREIGN KEY (p, q) REFERENCES a)",
        "b(p, q) → a(x, y)",
        "a"
      },
      {
        "CREATE TABLE b (a INTEGER REFERENCES later); CREATE TABLE later (id INTEGER PRIMARY KEY)",
        "b.a → later.id",
        "later"
      },
    };
  }

  @Test(dataProvider = "references")
  public void knowsReferences(String sql, String words, String role) {
    Reference reference = read(sql).references().get(0);
    assertThat(reference.words()).isEqualTo(words);
    assertThat(reference.role()).isEqualTo(role);
    assertThat(reference.basis()).isEqualTo(Basis.DECLARED);
  }

  @Test
  public void namesARowByItsKeyAndFirstText() {
    Catalog catalog =
        read(
            "CREATE TABLE a (n INTEGER, t TEXT, id INTEGER PRIMARY KEY, u TEXT);"
                + "CREATE TABLE b (w INTEGER, x INTEGER, y INTEGER, z INTEGER);"
                + "CREATE TABLE c (code TEXT PRIMARY KEY, note TEXT)");
    assertThat(catalog.tables().stream().map(SchemaFileTest::telling))
        .containsExactly("t,id", "w,x,y", "code,note");
  }

  private static String telling(Table table) {
    return table.identifyingColumns().stream().map(Column::name).collect(Collectors.joining(","));
  }

  private static SchemaFile file(String sql, Dialect dialect) {
    return SchemaFile.read(new SourceText(sql), dialect);
  }

  /** Schemas as the products' own dump programs write them. */
  @DataProvider
  static Object[][] dumps() {
    return new Object[][] {
      {
        Dialect.POSTGRESQL,
        """
        \\restrict abc
        SET client_encoding = 'UTF8';
        SELECT pg_catalog.set_config('search_path', '', false);
        CREATE FUNCTION public.f() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN INSERT INTO x VALUES (1); RETURN NEW; END;
        $$;
        CREATE TABLE public.river (
            id integer NOT NULL,
            name character varying(40) NOT NULL,
            flows_into integer,
            noted timestamp with time zone DEFAULT now() NOT NULL,
            CONSTRAINT long_name CHECK ((length((name)::text) > 1))
        );
        ALTER TABLE public.river OWNER TO keeper;
        COMMENT ON TABLE public.river IS 'flows; somewhere';
        CREATE SEQUENCE public.river_id_seq START WITH 1 INCREMENT BY 1;
        ALTER TABLE ONLY public.river ALTER COLUMN id SET DEFAULT nextval('public.river_id_seq'::regclass);
        COPY public.river (id, name, flows_into) FROM stdin;
        1\tUpper; it's (old\t\\N
        \\.
        ALTER TABLE ONLY public.river
            ADD CONSTRAINT river_pkey PRIMARY KEY (id);
        CREATE UNIQUE INDEX river_name ON public.river USING btree (name);
        CREATE UNIQUE INDEX river_some ON public.river USING btree (noted) WHERE (flows_into IS NULL);
        CREATE INDEX river_noted ON public.river USING btree (lower((name)::text));
        ALTER TABLE ONLY public.river
            ADD CONSTRAINT into_fkey FOREIGN KEY (flows_into) REFERENCES public.river(id) ON DELETE SET NULL;
        CREATE VIEW public.named AS
         SELECT river.id, river.name FROM public.river;
        GRANT SELECT ON TABLE public.river TO reader;
        """,
        "river(id! name)",
        "river.flows_into → river.id",
        "[named]"
      },
      {
        Dialect.MARIADB,
        """
        /*!40101 SET NAMES utf8 */;
        DROP TABLE IF EXISTS `river`;
        CREATE TABLE `river` (
          `id` int(11) NOT NULL AUTO_INCREMENT COMMENT 'the number',
          `name` varchar(40) CHARACTER SET utf8 COLLATE utf8_bin NOT NULL DEFAULT '',
          `flows_into` int(10) unsigned DEFAULT NULL,
          `kind` enum('a','b;c') DEFAULT 'a',
          PRIMARY KEY (`id`),
          UNIQUE KEY `by_name` (`name`(10)),
          KEY `into` (`flows_into`),
          CONSTRAINT `into_fk` FOREIGN KEY (`flows_into`) REFERENCES `river` (`id`) ON DELETE CASCADE
        ) ENGINE=InnoDB AUTO_INCREMENT=7 DEFAULT CHARSET=utf8;
        LOCK TABLES `river` WRITE;
        INSERT INTO `river` VALUES (1,'it\\'s; (old',NULL,'a'),(2,'b',1,'a');
        UNLOCK TABLES;
        DELIMITER ;;
        CREATE TRIGGER t BEFORE INSERT ON river FOR EACH ROW BEGIN SET NEW.id = 1; END ;;
        DELIMITER ;
        /*M!999999\\- enable the sandbox mode; CREATE VIEW never AS SELECT 1 */
        /*!999999 CREATE VIEW `never` AS SELECT 1 */;
        /*!50001 CREATE VIEW `shown` AS SELECT
         1 AS `id`*/;
        /*!50001 DROP VIEW IF EXISTS `shown`*/;
        /*!50001 CREATE ALGORITHM=UNDEFINED */
        /*!50013 DEFINER=`a`@`b` SQL SECURITY DEFINER */
        /*!50001 VIEW `shown` AS select `river`.`id` AS `id` from `river` where `river`.`name` <> '*/' */;
        CREATE ALGORITHM=UNDEFINED DEFINER=`a`@`b` SQL SECURITY DEFINER VIEW `named` AS select `river`.`id` AS `id` from `river`;
        """,
        "river(id! name)",
        "river.flows_into → river.id",
        "[shown, named]"
      },
      {
        Dialect.SQLITE,
        """
        PRAGMA foreign_keys=OFF;
        BEGIN TRANSACTION;
        CREATE TABLE IF NOT EXISTS "river" (
          "id" INTEGER PRIMARY KEY AUTOINCREMENT,
          name UNIQUE NOT NULL,
          [flows_into] INTEGER REFERENCES river("id") DEFERRABLE INITIALLY DEFERRED,
          key TEXT
        ) WITHOUT ROWID;
        INSERT INTO river VALUES(1,'a',NULL,'k');
        CREATE TRIGGER t AFTER INSERT ON river BEGIN SELECT 1; END;
        CREATE VIEW named(n) AS SELECT name FROM river;
        COMMIT;
        """,
        "river(id! name)",
        "river.flows_into → river.id",
        "[named]"
      },
      {
        Dialect.H2,
        """
        CREATE USER IF NOT EXISTS "SA" SALT 'a' HASH 'b' ADMIN;
        CREATE CACHED TABLE "PUBLIC"."RIVER"(
            "ID" INTEGER NOT NULL,
            "NAME" CHARACTER VARYING(40) NOT NULL,
            "FLOWS_INTO" INTEGER
        );
        ALTER TABLE "PUBLIC"."RIVER" ADD CONSTRAINT "PUBLIC"."K" PRIMARY KEY("ID");
        ALTER TABLE "PUBLIC"."RIVER" ADD CONSTRAINT "PUBLIC"."U" UNIQUE("NAME");
        ALTER TABLE "PUBLIC"."RIVER" ADD CONSTRAINT "PUBLIC"."F" FOREIGN KEY("FLOWS_INTO") REFERENCES "PUBLIC"."RIVER"("ID") NOCHECK;
        CREATE FORCE VIEW "PUBLIC"."NAMED"("ID") AS SELECT "ID" FROM "PUBLIC"."RIVER";
        """,
        "river(id! name)",
        "river.flows_into → river.id",
        "[named]"
      },
    };
  }

  @Test(dataProvider = "dumps")
  public void readsDumps(Dialect dialect, String sql, String tables, String words, String views) {
    SchemaFile file = file(sql, dialect);
    Catalog catalog = file.catalog();
    assertThat(catalog.tables().stream().map(SchemaFileTest::keyed)).containsExactly(tables);
    assertThat(catalog.references().stream().map(Reference::words)).containsExactly(words);
    assertThat(catalog.views().stream().map(View::name).toList()).hasToString(views);
    assertThat(catalog.views()).allMatch(view -> view.query() != null);
  }

  private static String keyed(Table table) {
    return table.name()
        + "("
        + table.keys().stream()
            .map(key -> String.join("+", key.columns()) + (key.primary() ? "!" : ""))
            .collect(Collectors.joining(" "))
        + ")";
  }

  @Test
  public void saysWhatItPassedOver() {
    SchemaFile file =
        file(
            "CREATE TABLE t (id INTEGER);\nCREATE TRIGGER a ON t;\nSET x = 1;\n"
                + "CREATE TRIGGER b ON t;\nCREATE VIEW v AS SELECT !! FROM;\nALTER TABLE t DROP id",
            Dialect.DUCKDB);
    assertThat(file.notes())
        .containsExactly(
            "CREATE TRIGGER was passed over (lines 2, 4)",
            "ALTER TABLE was passed over (line 6)",
            "the query of the view v could not be read, so its columns are not known (line 5)");
  }

  @Test
  public void takesOverTheColumnsOfOtherTables() {
    Catalog catalog =
        read(
            "CREATE TABLE a (id INTEGER PRIMARY KEY, x INTEGER NOT NULL);"
                + "CREATE TABLE b (y INTEGER, period DATE NOT NULL) INHERITS (a);"
                + "CREATE TABLE c (LIKE a INCLUDING ALL, z INTEGER, index INTEGER);"
                + "CREATE TABLE d PARTITION OF b FOR VALUES FROM (1) TO (2);"
                + "CREATE TABLE e () INHERITS (a); CREATE VIRTUAL TABLE f USING fts5(body);"
                + "CREATE TABLE g AS SELECT id AS n FROM a");
    assertThat(
            catalog.tables().stream()
                .map(
                    table ->
                        table.name()
                            + table.columns().stream().map(Column::name).toList()
                            + table.keys().size()))
        .containsExactly(
            "a[id, x]1",
            "b[id, x, y, period]0",
            "c[id, x, z, index]0",
            "d[id, x, y, period]0",
            "e[id, x]0");
    assertThat(catalog.views().stream().map(View::name)).containsExactly("f", "g");
  }

  @Test
  public void comparesNamesAsTheDialectDoes() {
    String sql = "CREATE TABLE River (Id INTEGER PRIMARY KEY, \"Id\" INTEGER)";
    Table table = file(sql, Dialect.POSTGRESQL).catalog().tables().get(0);
    assertThat(table.columns().stream().map(Column::name)).containsExactly("id", "Id");
    assertThat(file(sql, Dialect.H2).catalog().tables().get(0).name()).isEqualTo("river");
    assertThatThrownBy(() -> file(sql, Dialect.DUCKDB).catalog())
        .hasMessage("the column Id is defined twice in River");
  }
}
