package io.lantrel.claim.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.claim.ClaimException;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Identifier;
import java.util.List;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** How claims are read, and what is said of those that cannot be. */
public class ClaimReaderTest {

  @DataProvider
  static Object[][] claims() {
    return new Object[][] {
      {"one row per station", Form.ONE_ROW_PER, "station"},
      {"One ROW per  a ,\tb", Form.ONE_ROW_PER, "a|b"},
      {"one row per s.id, \"Row Per\".\"a.b\"", Form.ONE_ROW_PER, "s.id|Row Per.a.b"},
      {"one row per row", Form.ONE_ROW_PER, "row"},
      {"one row per per", Form.ONE_ROW_PER, "per"},
      {"every station appears", Form.EVERY_APPEARS, "station"},
      {"every public.station appears", Form.EVERY_APPEARS, "public.station"},
      {"every appears appears", Form.EVERY_APPEARS, "appears"},
      {"every s appears where x = 'where' or y > 3", Form.EVERY_APPEARS, "s x = 'where' or y > 3"},
      {"no null in a", Form.NO_NULL, "a"},
      {"no null in null", Form.NO_NULL, "null"},
      {"no rows", Form.NO_ROWS, ""},
      {"1 row", Form.EXACTLY, "#1"},
      {"0 rows", Form.EXACTLY, ""},
      {"123456789012345678 rows", Form.EXACTLY, "#123456789012345678"},
      {"at least 2 rows", Form.AT_LEAST, "#2"},
      {"at most 1 row", Form.AT_MOST, "#1"},
      {"levels at most 4", Form.LEVELS, "#4"},
      {"total of a is total of t.b", Form.TOTAL, "a|t.b"},
      {"total of s.a is total of main.t.b where c is null", Form.TOTAL, "s.a|main.t.b c is null"},
      {"total of n is number of t", Form.NUMBER, "n|t"},
      {"total of total is number of number", Form.NUMBER, "total|number"},
      {"same rows as other.sql", Form.SAME_ROWS, " other.sql"},
      {"same rows as 'a b/c.sql'", Form.SAME_ROWS, " 'a b/c.sql'"},
      {"rows of data/x.csv", Form.ROWS_OF, " data/x.csv"},
      {"order by a, b desc, c asc", Form.ORDER, "a|b-|c"},
      {"order by a descending", Form.ORDER, "a-"},
      {"a refers to t", Form.REFERS, "a|t"},
      {"a, b refer to t", Form.REFERS, "a|b|t"},
      {"a is one of 'x', 'it''s'", Form.ONE_OF, "a 'x', 'it''s'"},
      {"a between -1 and 2.5", Form.BETWEEN, "a -1 and 2.5"},
      {"order between 1 and 2", Form.BETWEEN, "order 1 and 2"},
    };
  }

  @Test(dataProvider = "claims")
  public void reads(String text, Form form, String parts) {
    for (Dialect dialect : List.of(Dialect.DUCKDB, Dialect.POSTGRESQL, Dialect.SQLITE)) {
      ReadClaim claim = ClaimReader.read(text, dialect);
      assertThat(claim.form()).isEqualTo(form);
      assertThat(told(claim)).as(dialect + " " + text).isEqualTo(parts);
    }
  }

  private static String told(ReadClaim claim) {
    StringBuilder told = new StringBuilder();
    for (int i = 0; i < claim.names().size(); i++) {
      told.append(i == 0 ? "" : "|").append(words(claim.names().get(i)));
      boolean down = i < claim.descending().size() && claim.descending().get(i);
      told.append(down ? "-" : "");
    }
    told.append(claim.number() == 0 ? "" : "#" + claim.number());
    told.append(claim.rest().isEmpty() ? "" : " " + claim.rest());
    return told.append(claim.condition().map(each -> " " + each).orElse("")).toString();
  }

  private static String words(List<Identifier> name) {
    return name.stream().map(Identifier::text).collect(Collectors.joining("."));
  }

  @DataProvider
  static Object[][] quoted() {
    return new Object[][] {
      {"one row per `a b`", Dialect.MARIADB, "a b"},
      {"one row per `a``b`", Dialect.MARIADB, "a`b"},
      {"one row per [a b]", Dialect.SQLITE, "a b"},
      {"one row per \"a\"\"b\"", Dialect.POSTGRESQL, "a\"b"},
      {"one row per größe, naïve", Dialect.DUCKDB, "größe|naïve"},
      {"one row per \"🦆\", b", Dialect.DUCKDB, "🦆|b"},
    };
  }

  @Test(dataProvider = "quoted")
  public void readsNamesAsTheirProductQuotesThem(String text, Dialect dialect, String parts) {
    assertThat(told(ClaimReader.read(text, dialect))).isEqualTo(parts);
  }

  @DataProvider
  static Object[][] slips() {
    return new Object[][] {
      {"one rows per station", "near it is: one row per station"},
      {"on row per station", "near it is: one row per station"},
      {"one row pro station", "one is written: one row per A, B"},
      {"evrey station appears", "near it is: every station appears"},
      {"every station appaers where a > 1", "near it is: every station appears where a > 1"},
      {"no nulls in a", "near it is: no null in a"},
      {"no null of a", "one is written: no null in A, B"},
      {"at leest 3 rows", "near it is: at least 3 rows"},
      {"at most three rows", "one is written: at most N rows"},
      {"3 rwos", "near it is: 3 rows"},
      {"3.5 rows", "one is written: N rows"},
      {"-3 rows", "one is written: N rows"},
      {"total of a is totl of t.b", "near it is: total of a is total of t.b"},
      {"sum of a is total of t.b", "one is written: total of A is total of TABLE.B"},
      {"same row as x.sql", "near it is: same rows as x.sql"},
      {"row of x.csv", "near it is: rows of x.csv"},
      {"a refer too t", "near it is: a refer to t"},
      {"a reffers to t", "near it is: a refers to t"},
      {"a is on of 'x'", "near it is: a is one of 'x'"},
      {"a betwen 1 and 2", "near it is: a between 1 and 2"},
      {"level at most 3", "near it is: levels at most 3"},
      {"order bye a", "near it is: order by a"},
      {"one row per", "one is written: one row per A, B"},
      {"one row per a,", "one is written: one row per A, B"},
      {"one row per a.", "one is written: one row per A, B"},
      {"every station appears when a > 1", "one is written: every TABLE appears"},
      {"every station appears where", "one is written: every TABLE appears"},
      {"", "this claim says nothing"},
      {";", "this claim says nothing"},
      {"what a nice query", "claims are: one row per A, B; every TABLE appears"},
      {"'one row per a'", "claims are:"},
    };
  }

  @Test(dataProvider = "slips")
  public void saysWhatMayBeMeant(String text, String told) {
    assertThatThrownBy(() -> ClaimReader.read(text, Dialect.DUCKDB))
        .isInstanceOf(ClaimException.class)
        .hasMessageContaining(told);
  }

  @Test
  public void aLongTextIsNotRepeatedInFull() {
    assertThatThrownBy(() -> ClaimReader.read("moon ".repeat(20_000), Dialect.DUCKDB))
        .satisfies(
            failure -> assertThat(String.valueOf(failure.getMessage())).hasSizeLessThan(900));
  }

  /** Every form is shown to people as it can be written. */
  @Test
  public void theExamplesOfFormsAreClaims() {
    for (Form form : Form.values()) {
      String text = form.example().replace("N ", "3 ").replaceAll("N$", "3");
      assertThat(ClaimReader.read(text, Dialect.DUCKDB).form()).as(text).isEqualTo(form);
    }
  }
}
