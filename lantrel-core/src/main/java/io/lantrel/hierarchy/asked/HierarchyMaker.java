package io.lantrel.hierarchy.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.Database;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.hierarchy.Hierarchy;
import io.lantrel.hierarchy.Hierarchy.Node;
import io.lantrel.hierarchy.HierarchyException;
import io.lantrel.hierarchy.HierarchyWish;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.tree.Expression;
import io.lantrel.survey.walk.Circles;
import io.lantrel.survey.walk.HierarchyWalk;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Makes the trees of a table in few statements: how many rows there are, the rows of the upper
 * levels, what lies below them if not all is shown, and what no root reaches. Of a large table it
 * is first hoped that roots reach all, since rows that refer to a row that is not there are dear to
 * find; and only few levels are walked down in search of the upper ones.
 */
public final class HierarchyMaker {

  /** So many rows that no root reaches are looked at to name the circles among them. */
  private static final int LOOKED_AT = 10_000;

  /** A table of more rows is a large one. */
  private static final int LARGE = 10_000;

  /** So far down the upper levels of a large table are looked for, one after the other. */
  private static final List<Integer> DEPTHS = List.of(3, 10, HierarchyWish.DEEPEST);

  private final Database database;
  private final Reference reference;
  private final Table table;
  private final HierarchyWish wish;
  private final List<String> columns;
  private final int keys;
  private final int references;

  private HierarchyMaker(Database database, Reference reference, HierarchyWish wish) {
    this.database = database;
    this.reference = reference;
    this.table = reference.from();
    this.wish = wish;
    this.columns = new ArrayList<>(reference.toColumns());
    this.keys = reference.toColumns().size();
    columns.addAll(reference.fromColumns());
    this.references = columns.size();
    columns.addAll(table.identifyingColumns().stream().map(Column::name).toList());
    if (!wish.sum().isEmpty()) {
      columns.add(wish.sum());
    }
  }

  /**
   * The hierarchy.
   *
   * @param catalog the tables, with the references that are known
   * @throws HierarchyException if the table does not refer to itself, or in several ways
   * @throws io.lantrel.engine.DatabaseException if the database fails
   */
  public static Hierarchy make(Database database, Catalog catalog, HierarchyWish wish) {
    if (!wish.over().isEmpty()) {
      return JunctionHierarchy.make(database, catalog, wish);
    }
    Reference reference = reference(catalog, wish);
    HierarchyWish exact = wish;
    if (!wish.sum().isEmpty()) {
      exact = wish.summing(Measure.column(reference.from(), wish.sum()).name());
    }
    HierarchyMaker maker = new HierarchyMaker(database, reference, exact);
    return database.inSnapshot(maker::made);
  }

  /** Whether the references by which rows are below others are among those of a catalog. */
  public static boolean isDeclared(Catalog catalog, HierarchyWish wish) {
    return wish.over().isEmpty()
        ? !own(catalog, JunctionEnds.table(catalog, wish.table())).isEmpty()
        : JunctionEnds.ends(catalog, wish).size() > 1;
  }

  private static List<Reference> own(Catalog catalog, Table table) {
    return catalog.references().stream()
        .filter(each -> each.isSelfReference() && each.from().equals(table))
        .toList();
  }

  /** The reference of a table to itself that is meant. */
  public static Reference reference(Catalog catalog, HierarchyWish wish) {
    Table table = JunctionEnds.table(catalog, wish.table());
    List<Reference> own = own(catalog, table);
    List<Reference> chosen =
        wish.by().isEmpty()
            ? own
            : own.stream()
                .filter(
                    each ->
                        each.fromColumns().stream()
                            .anyMatch(name -> name.equalsIgnoreCase(wish.by())))
                .toList();
    if (chosen.size() == 1) {
      return chosen.get(0);
    }
    String ways = own.stream().map(Reference::words).collect(Collectors.joining(", "));
    throw new HierarchyException(
        own.isEmpty()
            ? table.name()
                + " does not refer to itself, by any reference that is declared or that its rows"
                + " show"
                + JunctionEnds.hint(catalog, table)
            : chosen.isEmpty()
                ? table.name() + " does not refer to itself by " + wish.by() + ", but so: " + ways
                : table.name()
                    + " refers to itself in several ways: "
                    + ways
                    + "; say by which column");
  }

  /** A column by name. */
  static Column column(Table table, String name) {
    return table
        .column(name)
        .orElseThrow(
            () -> {
              List<String> names = table.columns().stream().map(Column::name).toList();
              return new HierarchyException(
                  table.name()
                      + " has no column "
                      + name
                      + NearNames.instead(name, names, "its columns are"));
            });
  }

  private Hierarchy made() {
    Asker asker = new Asker(database);
    HierarchyWalk walk = new HierarchyWalk(reference, asker);
    long rows =
        asker.ask(Question.count(Relation.of(Sql.table(table, null, database.dialect()), null)));
    boolean large = rows > LARGE;
    Walked walked = walked(large ? walk.fromRoots() : walk, rows);
    if (large && walked.reached() < rows) {
      walked = walked(walk, rows);
    }
    List<List<NamedRow>> circles =
        walked.reached() == rows
            ? List.of()
            : new Circles(walk.unreached(LOOKED_AT), reference).all();
    long inCircles = circles.stream().mapToLong(List::size).sum();
    return new Hierarchy(
        reference,
        wish.sum(),
        rows,
        walked.levels(),
        new Trees(walked.found(), walked.below()).trees(),
        walked.reached() - walked.found().size(),
        circles,
        Math.max(0, rows - walked.reached() - inCircles),
        Optional.empty());
  }

  /**
   * What a walk met.
   *
   * @param found the rows that are shown
   * @param levels how many rows each level has
   * @param below what lies below rows of which not all is shown
   */
  private record Walked(List<Found> found, List<Long> levels, Map<List<String>, Below> below) {

    long reached() {
      return levels.stream().mapToLong(each -> each).sum();
    }
  }

  private Walked walked(HierarchyWalk walk, long rows) {
    List<Found> upper = upper(walk, rows > LARGE);
    List<Long> levels = new ArrayList<>();
    upper.forEach(each -> add(levels, each.level(), 1));
    boolean whole = upper.size() == rows || (upper.size() <= wish.rows() && !isCut(levels));
    int shown = shownLevels(levels, wish);
    List<Found> found =
        upper.stream().filter(each -> each.level() <= shown).limit(wish.rows()).toList();
    if (whole && found.size() == upper.size()) {
      return new Walked(found, levels, Map.of());
    }
    boolean isFirstCut = found.size() < upper.size() && upper.get(found.size()).level() == 1;
    Rows below = walk.below(wish.sum(), shown, isFirstCut ? last(found) : null);
    return new Walked(found, levels(below), below(below, shown));
  }

  /** Whether there may be levels below those that were walked. */
  private boolean isCut(List<Long> levels) {
    return levels.size() == depth(HierarchyWish.DEEPEST);
  }

  private int depth(int most) {
    return wish.levels() > 0 ? Math.min(wish.levels(), most) : most;
  }

  /** One row more than is shown, of as many levels as may be shown. */
  private List<Found> upper(HierarchyWalk walk, boolean large) {
    List<Found> found = List.of();
    for (int most : large ? DEPTHS : List.of(HierarchyWish.DEEPEST)) {
      int depth = depth(most);
      found = found(walk.upper(columns, depth, wish.rows() + 1));
      int deepest = found.isEmpty() ? 0 : found.get(found.size() - 1).level();
      if (found.size() > wish.rows() || deepest < depth || depth == wish.levels()) {
        break;
      }
    }
    return found;
  }

  /** The key of the last row of the first level that is shown, if keys can be compared with it. */
  private @Nullable Expression last(List<Found> found) {
    TypeFamily family = column(table, columns.get(0)).type().family();
    boolean comparable = family == TypeFamily.INTEGER || family == TypeFamily.TEXT;
    return keys == 1 && comparable
        ? Sql.literal(found.get(found.size() - 1).key().get(0), family)
        : null;
  }

  private List<Long> levels(Rows below) {
    List<Long> levels = new ArrayList<>();
    for (int i = 0; i < below.size(); i++) {
      add(levels, (int) below.figure(i, keys), below.figure(i, keys + 1));
    }
    return levels;
  }

  private static void add(List<Long> levels, int level, long rows) {
    while (levels.size() < level) {
      levels.add(0L);
    }
    levels.set(level - 1, levels.get(level - 1) + rows);
  }

  /** As many levels as the rows allow, at least one. */
  static int shownLevels(List<Long> levels, HierarchyWish wish) {
    long sum = 0;
    int shown = 0;
    for (long each : levels) {
      sum += each;
      if (sum > wish.rows() || (wish.levels() > 0 && shown == wish.levels())) {
        break;
      }
      shown++;
    }
    return Math.max(1, shown);
  }

  // ---- rows ----

  /** A row of the upper levels. */
  private record Found(
      List<String> key,
      List<String> above,
      NamedRow row,
      boolean root,
      int level,
      Optional<BigDecimal> own) {}

  /** What lies below a row, itself counted. */
  private record Below(long size, Optional<BigDecimal> sum) {

    Below plus(Below other) {
      return new Below(size + other.size, Measure.plus(sum, other.sum));
    }
  }

  private List<Found> found(Rows rows) {
    List<Found> found = new ArrayList<>();
    int named = table.identifyingColumns().size();
    for (int i = 0; i < rows.size(); i++) {
      List<@Nullable Object> row = rows.rows().get(i);
      List<@Nullable String> texts = new ArrayList<>();
      for (int at = 0; at < columns.size(); at++) {
        Column column = column(table, columns.get(at));
        texts.add(ValueText.of(row.get(at + 2), column.type()));
      }
      found.add(
          new Found(
              nulls(texts.subList(0, keys)),
              nulls(texts.subList(keys, references)),
              new NamedRow(
                  table.name(),
                  columns.subList(references, references + named),
                  texts.subList(references, references + named)),
              rows.figure(i, 0) == 1,
              (int) rows.figure(i, 1),
              wish.sum().isEmpty() ? Optional.empty() : Measure.of(row.get(columns.size() + 1))));
    }
    return found;
  }

  private static List<String> nulls(List<@Nullable String> texts) {
    return texts.stream().map(String::valueOf).toList();
  }

  /** Of the rows of the last level that is shown. */
  private Map<List<String>, Below> below(Rows rows, int shown) {
    Map<List<String>, Below> below = new HashMap<>();
    for (int i = 0; i < rows.size(); i++) {
      List<@Nullable Object> row = rows.rows().get(i);
      if (row.get(0) == null || rows.figure(i, keys) < shown) {
        continue;
      }
      List<String> key = new ArrayList<>();
      for (int at = 0; at < keys; at++) {
        key.add(
            String.valueOf(
                ValueText.of(row.get(at), column(table, reference.toColumns().get(at)).type())));
      }
      Optional<BigDecimal> sum =
          wish.sum().isEmpty() ? Optional.empty() : Measure.of(row.get(keys + 2));
      below.merge(key, new Below(rows.figure(i, keys + 1), sum), Below::plus);
    }
    return below;
  }

  // ---- trees ----

  /** Puts rows below the rows that they refer to, from the lowest level up. */
  private static final class Trees {
    private final List<Found> found;
    private final Map<List<String>, Below> below;
    private final Map<List<String>, List<Node>> children = new LinkedHashMap<>();

    Trees(List<Found> found, Map<List<String>, Below> below) {
      this.found = found;
      this.below = below;
    }

    List<Node> trees() {
      List<Node> trees = new ArrayList<>();
      for (int i = found.size() - 1; i >= 0; i--) {
        Found each = found.get(i);
        Node node = node(each);
        if (each.level() == 1) {
          trees.add(0, node);
        } else {
          children.computeIfAbsent(each.above(), key -> new ArrayList<>()).add(0, node);
        }
      }
      return trees;
    }

    private Node node(Found row) {
      List<Node> own = children.getOrDefault(row.key(), List.of());
      Below known = below.get(row.key());
      long size = known == null ? 1 + own.stream().mapToLong(Node::size).sum() : known.size();
      Optional<BigDecimal> sum =
          known == null
              ? own.stream().map(Node::sum).reduce(row.own(), Measure::plus)
              : known.sum();
      String refersTo = row.level() == 1 && !row.root() ? String.join(", ", row.above()) : "";
      return new Node(row.row(), row.level(), size, sum, refersTo, own);
    }
  }
}
