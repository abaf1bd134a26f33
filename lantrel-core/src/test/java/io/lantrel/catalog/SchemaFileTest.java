package io.lantrel.catalog;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import java.util.List;
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
    return table.telling().stream().map(Column::name).collect(Collectors.joining(","));
  }
}
