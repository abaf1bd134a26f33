package io.lantrel.sql;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.QueryGenerator;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Reading and printing, over a corpus and over generated queries. */
public class RoundTripTest {

  /** Each statement of the corpora that the embedded engine runs, and those of the others. */
  @DataProvider
  static Iterator<Object[]> corpus() {
    List<Object[]> cases = new ArrayList<>();
    for (Dialect dialect : Corpus.dialects()) {
      Corpus.statements(dialect).forEach(sql -> cases.add(new Object[] {sql, dialect}));
    }
    return cases.iterator();
  }

  @Test(dataProvider = "corpus")
  public void printsWhatReadsBackAsTheSame(String sql, Dialect dialect) {
    assertRoundTrip(sql, dialect);
  }

  private static void assertRoundTrip(String sql, Dialect dialect) {
    String once = SqlPrinter.print(SqlReader.readQuery(sql, dialect), dialect);
    Query again = SqlReader.readQuery(once, dialect);
    assertThat(SqlPrinter.print(again, dialect)).as(sql).isEqualTo(once);
    assertThat(shape(again)).as(once).isEqualTo(shape(SqlReader.readQuery(sql, dialect)));
  }

  /** The tree without its places. */
  private static String shape(Object value) {
    if (value instanceof Span) {
      return "";
    }
    if (value instanceof List<?> list) {
      return list.stream().map(RoundTripTest::shape).toList().toString();
    }
    if (value instanceof Record record) {
      return record.getClass().getSimpleName()
          + Stream.of(record.getClass().getRecordComponents())
              .map(component -> component.getName() + "=" + shape(read(record, component)))
              .toList();
    }
    return String.valueOf(value);
  }

  private static Object read(Record record, RecordComponent component) {
    try {
      return List.of("quoted", "inParentheses").contains(component.getName())
          ? ""
          : orNone(component.getAccessor().invoke(record));
    } catch (ReflectiveOperationException failure) {
      throw new IllegalStateException(failure);
    }
  }

  private static Object orNone(@Nullable Object value) {
    return value == null ? "none" : value;
  }

  @Test
  public void printsGeneratedQueriesThatReadBackAsTheSame() {
    QueryGenerator generator = new QueryGenerator(7, 4);
    for (int i = 0; i < 500; i++) {
      for (Dialect dialect : Corpus.dialects()) {
        assertRoundTrip(generator.query().sql(), dialect);
      }
      assertRoundTrip(generator.oldOrNested(), Dialect.DUCKDB);
    }
  }

  @Test(dataProvider = "corpus")
  public void everyNodeStandsWithinItsParent(String sql, Dialect dialect) {
    SqlReader.readQuery(sql, dialect)
        .preorder()
        .forEach(
            node ->
                assertThat(node.children())
                    .allMatch(child -> node.span().contains(child.span()), node.toString()));
  }

  /** children() is the one truth on traversal, so it must leave nothing out. */
  @Test(dataProvider = "corpus")
  public void childrenAreAllNodesOfTheComponents(String sql, Dialect dialect) {
    SqlReader.readQuery(sql, dialect)
        .preorder()
        .forEach(
            node -> {
              List<Node> expected = new ArrayList<>();
              for (RecordComponent component : node.getClass().getRecordComponents()) {
                Object value = read((Record) node, component);
                Stream<?> values = value instanceof List<?> list ? list.stream() : Stream.of(value);
                values.filter(Node.class::isInstance).map(Node.class::cast).forEach(expected::add);
              }
              assertThat(List.<Node>copyOf(node.children()))
                  .as(node.getClass().getSimpleName())
                  .containsExactlyInAnyOrderElementsOf(expected);
            });
  }

  @Test
  public void theCorpusHasEveryKindOfExpression() {
    Set<Class<?>> met = new LinkedHashSet<>();
    for (Object[] sql : iterable(corpus())) {
      SqlReader.readQuery((String) sql[0], (Dialect) sql[1])
          .preorder()
          .forEach(node -> met.add(node.getClass()));
    }
    List<Class<?>> kinds = new ArrayList<>();
    for (Class<?> family :
        List.of(
            Value.class,
            Condition.class,
            Call.class,
            QueryBody.class,
            FromItem.class,
            SelectItem.class,
            JoinCondition.class)) {
      kinds.addAll(List.of(family.getPermittedSubclasses()));
    }
    assertThat(met).containsAll(kinds);
  }

  private static <T> Iterable<T> iterable(Iterator<T> iterator) {
    return () -> iterator;
  }

  @DataProvider
  static Object[][] names() {
    return new Object[][] {
      {"plain", false, "plain"},
      {"With Blank", false, "\"With Blank\""},
      {"select", false, "\"select\""},
      {"with\"quote", false, "\"with\"\"quote\""},
      {"Kept", true, "\"Kept\""},
      {"größe", false, "größe"},
      {"2nd", false, "\"2nd\""},
    };
  }

  @Test(dataProvider = "names")
  public void quotesNamesWhereItMust(String name, boolean quoted, String expected) {
    assertThat(SqlPrinter.print(new Identifier(Span.NOWHERE, name, quoted), Dialect.DUCKDB))
        .isEqualTo(expected);
  }

  @DataProvider
  static Object[][] deep() {
    return new Object[][] {
      {"SELECT " + "(".repeat(10_000) + "1" + ")".repeat(10_000)},
      {"SELECT " + "NOT ".repeat(100_000) + "TRUE"},
      {"SELECT " + "- ".repeat(100_000) + "1"},
      {"SELECT " + "CASE WHEN TRUE THEN ".repeat(20_000) + "1" + " END".repeat(20_000)},
    };
  }

  @Test(dataProvider = "deep")
  public void saysThatSomethingIsNestedTooDeep(String sql) {
    Statement statement = SqlReader.read(new SourceText(sql), Dialect.DUCKDB).get(0);
    assertThat(statement).isInstanceOf(Statement.UnreadStatement.class);
    assertThat(((Statement.UnreadStatement) statement).problems().get(0).message())
        .contains("nested");
  }

  @Test
  public void readsALongListAndALongCondition() {
    String list = "SELECT 1" + ", 1".repeat(20_000);
    String condition = "SELECT 1 AS a WHERE TRUE" + " AND TRUE".repeat(20_000);
    assertRoundTrip(list, Dialect.DUCKDB);
    assertRoundTrip(condition, Dialect.DUCKDB);
  }

  @Test
  public void knowsLinesAndColumns() {
    SourceText source = new SourceText("SELECT 1;\r\n\r\n  SELECT\n'ä🦆' AS x, y\r-- end");
    List<Place> places =
        SqlReader.read(source, Dialect.DUCKDB).stream()
            .map(each -> source.place(each.span()))
            .toList();
    assertThat(places).containsExactly(new Place(0, 8, 1, 1, 1, 9), new Place(15, 20, 3, 3, 4, 14));
    assertThat(source.lineText(4)).isEqualTo("'ä🦆' AS x, y");
  }

  @DataProvider
  static Object[][] comments() {
    return new Object[][] {
      {"SELECT 1 /**/ AS a"},
      {"SELECT 1 /***/ AS a"},
      {"SELECT 1 /* a * b / c ** // */ AS a"},
      {"SELECT 1 /* a /* b */ c */ AS a"},
      {"SELECT 1 /*/* x */*/ AS a"},
      {"SELECT 1 /* ; ' \" -- \n */ AS a -- ; ' /*"},
      {"--\nSELECT--\n1--\rAS a"},
    };
  }

  @Test(dataProvider = "comments")
  public void passesOverComments(String sql) {
    assertThat(SqlPrinter.print(SqlReader.readQuery(sql, Dialect.DUCKDB), Dialect.DUCKDB))
        .isEqualTo("SELECT 1 AS a");
  }
}
