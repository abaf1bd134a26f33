package io.lantrel.hierarchy.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Table;
import io.lantrel.engine.Database;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.hierarchy.Hierarchy;
import io.lantrel.hierarchy.Hierarchy.Node;
import io.lantrel.hierarchy.HierarchyException;
import io.lantrel.hierarchy.HierarchyWish;
import io.lantrel.hierarchy.OverJunction;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Sql;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jgrapht.Graph;
import org.jgrapht.graph.DefaultDirectedGraph;
import org.jgrapht.graph.DefaultEdge;
import org.jspecify.annotations.Nullable;

/**
 * Rows of a table that a junction table puts below each other, in two statements: the rows, and the
 * pairs. A recursion in the database would go every way, of which a few rows can have more than can
 * be counted; so the pairs are fetched, up to a bound, and put together here.
 */
final class JunctionHierarchy {

  /** So many rows, and so many pairs of them, are put together. */
  static final int MOST = 200_000;

  private static final int SHARED_SHOWN = 5;
  private static final String ROW = "here";
  private static final String PAIR = "pr";

  private final Asker asker;
  private final JunctionEnds ends;
  private final Table table;
  private final HierarchyWish wish;
  private final Optional<Column> sum;
  private final List<Column> keys;
  private final List<Column> named;

  private JunctionHierarchy(Asker asker, JunctionEnds ends, HierarchyWish wish) {
    this.asker = asker;
    this.ends = ends;
    this.table = ends.above().to();
    this.wish = wish;
    this.sum =
        wish.sum().isEmpty() ? Optional.empty() : Optional.of(Measure.column(table, wish.sum()));
    this.keys =
        ends.above().toColumns().stream().map(name -> HierarchyMaker.column(table, name)).toList();
    this.named = table.identifyingColumns();
    if (!ends.above().toColumns().equals(ends.below().toColumns())) {
      throw new HierarchyException(
          ends.above().words()
              + " and "
              + ends.below().words()
              + " name rows by different columns; a hierarchy needs the same");
    }
  }

  /**
   * The hierarchy.
   *
   * @throws HierarchyException if it is none, or has more than {@link #MOST} rows or pairs
   */
  static Hierarchy make(Database database, Catalog catalog, HierarchyWish wish) {
    JunctionEnds ends = JunctionEnds.of(catalog, wish);
    return database.inSnapshot(() -> new JunctionHierarchy(new Asker(database), ends, wish).made());
  }

  private Hierarchy made() {
    Map<List<String>, Integer> numbers = new HashMap<>();
    List<NamedRow> names = new ArrayList<>();
    List<Optional<BigDecimal>> own = new ArrayList<>();
    Rows rows = rows();
    for (List<@Nullable Object> row : rows.rows()) {
      numbers.put(texts(row, keys), names.size());
      List<@Nullable Object> rest = row.subList(keys.size(), row.size());
      List<@Nullable String> values = new ArrayList<>();
      for (int i = 0; i < named.size(); i++) {
        values.add(ValueText.of(rest.get(i), named.get(i).type()));
      }
      names.add(new NamedRow(table.name(), named.stream().map(Column::name).toList(), values));
      own.add(sum.isEmpty() ? Optional.empty() : Measure.of(rest.get(named.size())));
    }
    Rows pairs = pairs();
    Graph<Integer, DefaultEdge> graph = new DefaultDirectedGraph<>(DefaultEdge.class);
    IntStream.range(0, names.size()).forEach(graph::addVertex);
    long broken = 0;
    for (List<@Nullable Object> pair : pairs.rows()) {
      Integer below = numbers.get(texts(pair, keys));
      Integer above = numbers.get(texts(pair.subList(keys.size(), pair.size()), keys));
      if (below == null || above == null) {
        broken++;
      } else {
        graph.addEdge(below, above);
      }
    }
    Ways ways = new Ways(graph, HierarchyWish.DEEPEST);
    int levels = HierarchyMaker.shownLevels(ways.levels(), wish);
    Drawing drawing = new Drawing(ways, names, ways.sums(own), levels);
    List<Node> trees = ways.roots().stream().limit(wish.rows()).map(drawing::node).toList();
    List<Integer> shared = ways.shared();
    OverJunction junction =
        new OverJunction(
            ends.below(),
            ends.above(),
            pairs.size(),
            broken,
            shared.stream()
                .limit(SHARED_SHOWN)
                .map(each -> new OverJunction.SharedRow(names.get(each), ways.above(each)))
                .toList(),
            shared.size());
    return new Hierarchy(
        ends.above(),
        sum.map(Column::name).orElse(""),
        names.size(),
        ways.levels(),
        trees,
        ways.levels().stream().mapToLong(each -> each).sum() - drawing.shown(),
        ways.circles().stream().map(circle -> circle.stream().map(names::get).toList()).toList(),
        ways.unreached(),
        Optional.of(junction));
  }

  // ---- what is asked ----

  private Rows rows() {
    List<SelectItem> items = new ArrayList<>();
    Stream.of(keys.stream(), named.stream(), sum.stream())
        .flatMap(each -> each)
        .forEach(column -> items.add(item(ROW, column.name(), items.size())));
    List<Expression> order = keys.stream().map(key -> column(ROW, key.name())).toList();
    QueryBody body = Sql.select(items, Sql.table(table, ROW, asker.database().dialect()), null);
    return bounded(asker.rows(Sql.first(body, order, MOST + 1)), "row", table);
  }

  private Rows pairs() {
    List<SelectItem> items = new ArrayList<>();
    List<Expression> columns = new ArrayList<>();
    Stream.concat(ends.below().fromColumns().stream(), ends.above().fromColumns().stream())
        .forEach(
            name -> {
              items.add(item(PAIR, name, items.size()));
              columns.add(column(PAIR, name));
            });
    Expression filled = Sql.all(columns.stream().map(Sql::isNotNull).toList());
    QueryBody body =
        new QueryBody.Select(
            Span.NOWHERE,
            false,
            items,
            Sql.table(ends.above().from(), PAIR, asker.database().dialect()),
            filled,
            columns,
            null);
    return bounded(asker.rows(Sql.first(body, columns, MOST + 1)), "pair", ends.above().from());
  }

  private static Rows bounded(Rows rows, String what, Table of) {
    if (rows.size() > MOST) {
      throw new HierarchyException(
          of.name()
              + " has more than "
              + Words.count(MOST, what)
              + ", which are not put together here; the query that walks them in the database can be written instead");
    }
    return rows;
  }

  private SelectItem item(String alias, String name, int position) {
    return Sql.as(column(alias, name), "c" + position);
  }

  private Expression column(String alias, String name) {
    return Sql.column(alias, name, asker.database().dialect());
  }

  private static List<String> texts(List<@Nullable Object> row, List<Column> columns) {
    List<String> texts = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      texts.add(String.valueOf(ValueText.of(row.get(i), columns.get(i).type())));
    }
    return texts;
  }

  // ---- what is shown ----

  /** Puts nodes below each other, each way one of its own, down to a level. */
  private static final class Drawing {
    private final Ways ways;
    private final List<NamedRow> names;
    private final List<Optional<BigDecimal>> sums;
    private final int levels;
    private long shown;

    Drawing(Ways ways, List<NamedRow> names, List<Optional<BigDecimal>> sums, int levels) {
      this.ways = ways;
      this.names = names;
      this.sums = sums;
      this.levels = levels;
    }

    long shown() {
      return shown;
    }

    Node node(int row) {
      return node(row, 1);
    }

    private Node node(int row, int level) {
      shown++;
      List<Node> below = new ArrayList<>();
      if (level < levels) {
        ways.below(row).forEach(each -> below.add(node(each, level + 1)));
      }
      return new Node(names.get(row), level, ways.size(row), sums.get(row), "", below);
    }
  }
}
