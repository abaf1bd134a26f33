package io.lantrel.claim.kinds;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.claim.ClaimException;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * What the names in claims stand for in one query: columns of its result, and tables by their keys.
 */
public final class ResultNames {

  private final Resolution resolution;
  private final ResolvedQuery result;
  private final Dialect dialect;
  private final AskedColumns asked;

  public ResultNames(Resolution resolution) {
    this.resolution = resolution;
    this.result = resolution.result();
    this.dialect = resolution.root().dialect();
    this.asked = new AskedColumns(result, dialect);
  }

  /** The columns of the rows that are asked. */
  public AskedColumns asked() {
    return asked;
  }

  /** The query as its author wrote it. */
  Resolution resolution() {
    return resolution;
  }

  // ---- columns ----

  /**
   * Where a column stands: one of the result by its heading, or one of a table in FROM.
   *
   * @throws ClaimException if there is none, or several
   */
  int column(List<Identifier> name) {
    Optional<Integer> found = ifColumn(name);
    if (found.isEmpty()) {
      throw unknown("column", name, headings());
    }
    return found.get();
  }

  /** The same; empty if there is none. */
  private Optional<Integer> ifColumn(List<Identifier> name) {
    Optional<Integer> shown = ifHeading(name);
    return shown.isPresent() ? shown : ifOfTable(name);
  }

  /** A column of the result by its heading; empty if there is none. */
  Optional<Integer> ifHeading(List<Identifier> name) {
    requireAllColumns();
    if (name.size() == 1) {
      List<OutputColumn> same =
          result.outputs().stream()
              .filter(output -> dialect.means(name.get(0), output.name()))
              .toList();
      if (same.size() > 1) {
        throw new ClaimException(
            "several columns of the result are called " + words(name) + "; name one by its table");
      }
      if (!same.isEmpty()) {
        return Optional.of(same.get(0).position());
      }
    }
    return Optional.empty();
  }

  /** A column of a table in FROM, shown or not; empty if there is none. */
  Optional<Integer> ifOfTable(List<Identifier> name) {
    requireAllColumns();
    return result.block().flatMap(block -> ofTable(block, name)).flatMap(asked::place);
  }

  private Optional<UseColumn> ofTable(QueryBlock block, List<Identifier> name) {
    List<TableUse> uses = block.uses();
    if (name.size() > 1) {
      Identifier table = name.get(name.size() - 2);
      uses = block.uses().stream().filter(use -> isNamed(use, table)).toList();
      uses = uses.isEmpty() ? usesOf(block, table) : uses;
    }
    List<UseColumn> found =
        uses.stream()
            .flatMap(use -> use.columns().stream())
            .filter(column -> dialect.means(name.get(name.size() - 1), column.name()))
            .toList();
    if (found.size() > 1 && name.size() == 1) {
      throw new ClaimException(
          words(name)
              + " is a column of several tables: "
              + Words.list(found.stream().map(UseColumn::words).toList()));
    }
    return found.stream().findFirst();
  }

  /** The use of a table by its own name, if it is the only one. */
  private List<TableUse> usesOf(QueryBlock block, Identifier table) {
    List<TableUse> uses =
        block.uses().stream()
            .filter(
                use -> use.table().filter(each -> dialect.means(table, each.name())).isPresent())
            .toList();
    return uses.size() == 1 ? uses : List.of();
  }

  private void requireAllColumns() {
    if (!result.isComplete()) {
      throw new UndecidedException("which columns * stands for is not known here");
    }
  }

  // ---- tables ----

  /**
   * A table that a claim names, by its alias or its own name.
   *
   * @param joined whether it is enough that a row is among the joined rows
   * @throws ClaimException if there is none, several, or the result does not tell its rows apart
   */
  Subject subject(List<Identifier> name, boolean joined) {
    return ifSubject(name, joined).orElseThrow(() -> unknownTable(name));
  }

  /** A table whose rows need not be known in the result. */
  Subject tableOrSubject(List<Identifier> name) {
    requireAllColumns();
    Optional<Origins.Path> path = path(name);
    Optional<TableUse> use = path.map(Origins.Path::use);
    Optional<Subject> subject =
        path.filter(way -> way.use().table().filter(each -> !each.keys().isEmpty()).isPresent())
            .flatMap(way -> placed(way, true));
    if (subject.isPresent()) {
      return subject.get();
    }
    Table table =
        use.flatMap(TableUse::table)
            .or(() -> resolution.root().catalog().table(name))
            .orElseThrow(() -> unknownTable(name));
    return new Subject(
        use.map(TableUse::name).orElse(table.name()),
        table,
        new Key(List.of(), false),
        List.of(),
        false,
        List.of());
  }

  private ClaimException unknownTable(List<Identifier> name) {
    return resolution
        .root()
        .catalog()
        .table(name)
        .map(
            table ->
                new ClaimException(
                    "the query does not use "
                        + table.name()
                        + ", and its result shows nothing that refers to it"))
        .orElseGet(() -> unknown("table", name, tables()));
  }

  ClaimException unknownColumnOrTable(List<Identifier> name) {
    if (resolution.root().catalog().table(name).isPresent()) {
      return unknownTable(name);
    }
    return unknown(
        "column or table", name, Stream.concat(headings().stream(), tables().stream()).toList());
  }

  /** The same; empty if no table is called so. */
  Optional<Subject> ifSubject(List<Identifier> name, boolean joined) {
    requireAllColumns();
    Optional<Origins.Path> path = path(name);
    return path.isPresent()
        ? Optional.of(placed(path.get(), joined).orElseThrow(() -> hidden(path.get().use())))
        : resolution.root().catalog().table(name).flatMap(this::referred);
  }

  /** Where a table stands that a claim names: by its alias, by its own name, further in. */
  private Optional<Origins.Path> path(List<Identifier> name) {
    List<Origins.Path> paths = result.block().map(this::paths).orElse(List.of());
    Optional<Table> table = resolution.root().catalog().table(name);
    List<List<Origins.Path>> ranks =
        List.of(
            paths.stream()
                .filter(path -> path.places().size() == 1 && isNamed(path.use(), name.get(0)))
                .filter(path -> name.size() == 1)
                .toList(),
            paths.stream()
                .filter(path -> path.places().size() == 1 && path.use().table().equals(table))
                .toList(),
            paths.stream().filter(path -> path.use().table().equals(table)).toList());
    for (List<Origins.Path> rank : ranks) {
      List<Origins.Path> tables =
          rank.stream().filter(path -> path.use().table().isPresent()).toList();
      if (tables.size() > 1) {
        throw new ClaimException(
            words(name)
                + " is used several times, as "
                + Words.list(tables.stream().map(path -> path.use().name()).toList())
                + "; name one of these");
      }
      if (tables.size() == 1) {
        return Optional.of(tables.get(0));
      }
    }
    return Optional.empty();
  }

  private List<Origins.Path> paths(QueryBlock block) {
    return Origins.uses(block).toList();
  }

  /** The table by a key that the rows show, or can show; empty if they cannot. */
  private Optional<Subject> placed(Origins.Path path, boolean joinedRows) {
    TableUse use = path.use();
    Table table = use.table().orElseThrow();
    if (table.keys().isEmpty()) {
      throw new ClaimException(table.name() + " has no key, by which its rows could be known");
    }
    for (Key key : table.keys()) {
      Optional<List<Integer>> positions = positions(use, key);
      if (positions.isPresent()) {
        return Optional.of(
            new Subject(use.name(), table, key, positions.get(), false, path.places()));
      }
    }
    if (joinedRows && path.places().size() == 1 && isShownWhole()) {
      Key key = table.keys().get(0);
      List<Integer> positions =
          key.columns().stream().map(name -> asked.ofJoined(use, name)).toList();
      return Optional.of(new Subject(use.name(), table, key, positions, true, path.places()));
    }
    return Optional.empty();
  }

  private static UndecidedException hidden(TableUse use) {
    Table table = use.table().orElseThrow();
    return new UndecidedException(
        "the result does not tell which "
            + table.name()
            + " a row is of; it would if it showed "
            + Words.list(
                table.keys().get(0).columns().stream()
                    .map(column -> use.name() + "." + column)
                    .toList()));
  }

  private Optional<List<Integer>> positions(TableUse use, Key key) {
    List<Integer> positions = new ArrayList<>();
    for (String name : key.columns()) {
      Optional<Integer> place = outermost(use, name).flatMap(asked::place);
      if (place.isEmpty()) {
        return Optional.empty();
      }
      positions.add(place.get());
    }
    return Optional.of(positions);
  }

  /** The column of the query's own FROM that shows a column of a table, perhaps further in. */
  private Optional<UseColumn> outermost(TableUse use, String tableColumn) {
    return result.block().stream()
        .flatMap(block -> block.uses().stream())
        .flatMap(each -> each.columns().stream())
        .filter(
            column ->
                Origins.of(column).stream()
                    .anyMatch(each -> each.use() == use && each.tableColumn().equals(tableColumn)))
        .findFirst();
  }

  /** Whether every joined row has a part in the result. */
  private boolean isShownWhole() {
    QueryBlock block = result.block().orElseThrow();
    return block.select().having() == null
        && block.select().qualify() == null
        && block.select().distinctOn().isEmpty()
        && result.query().limit() == null;
  }

  /**
   * A table that is not used, but that columns of the result refer to.
   *
   * @throws UndecidedException if several do, each in its way
   */
  private Optional<Subject> referred(Table table) {
    Map<List<Integer>, Key> found = new LinkedHashMap<>();
    for (Reference reference : resolution.root().catalog().references()) {
      if (reference.to().equals(table)) {
        Key key = new Key(reference.toColumns(), false);
        sources(reference)
            .map(use -> positions(reference, use))
            .filter(positions -> !positions.isEmpty())
            .forEach(positions -> found.put(positions, key));
      }
    }
    if (found.size() > 1) {
      throw new UndecidedException(
          "several columns of the result refer to "
              + table.name()
              + ": "
              + Words.list(
                  found.keySet().stream()
                      .map(at -> String.join(", ", at.stream().map(asked::heading).toList()))
                      .toList()));
    }
    return found.entrySet().stream()
        .findFirst()
        .map(
            each ->
                new Subject(table.name(), table, each.getValue(), each.getKey(), false, List.of()));
  }

  /** The uses of the table that refers, as far as the result shows columns of them. */
  private Stream<TableUse> sources(Reference reference) {
    return shown()
        .flatMap(shown -> shown.chain().stream())
        .map(UseColumn::use)
        .filter(use -> use.table().filter(reference.from()::equals).isPresent())
        .distinct();
  }

  /** Where the columns of a reference stand, of one row of the table; empty if not all do. */
  private List<Integer> positions(Reference reference, TableUse use) {
    List<Integer> positions = new ArrayList<>();
    for (String name : reference.fromColumns()) {
      shown()
          .filter(
              shown ->
                  shown.chain().stream()
                      .anyMatch(each -> each.use() == use && each.tableColumn().equals(name)))
          .findFirst()
          .ifPresent(shown -> positions.add(shown.position()));
    }
    return positions.size() == reference.fromColumns().size() ? positions : List.of();
  }

  /** A column of the result, and those that it shows the values of. */
  private record Shown(int position, List<UseColumn> chain) {}

  private Stream<Shown> shown() {
    return result.block().stream()
        .flatMap(
            block ->
                block.outputs().stream()
                    .flatMap(
                        output ->
                            block.column(output.value()).stream()
                                .map(column -> new Shown(output.position(), Origins.of(column)))));
  }

  // ---- words ----

  private boolean isNamed(TableUse use, Identifier name) {
    return resolution
        .root()
        .catalog()
        .tableKey(use.name())
        .equals(resolution.root().catalog().tableKey(dialect.stored(name)));
  }

  private List<String> headings() {
    return Stream.concat(
            result.outputs().stream().map(OutputColumn::name),
            result.block().stream()
                .flatMap(block -> block.uses().stream())
                .flatMap(use -> use.columns().stream())
                .map(UseColumn::name))
        .distinct()
        .toList();
  }

  private List<String> tables() {
    return Stream.concat(
            result.block().stream().flatMap(block -> block.uses().stream()).map(TableUse::name),
            resolution.root().catalog().tables().stream().map(Table::name))
        .distinct()
        .toList();
  }

  /** That a name means nothing, and which may have been meant. */
  static ClaimException unknown(String what, List<Identifier> name, List<String> known) {
    List<String> near = NearNames.of(name.get(name.size() - 1).text(), known);
    return new ClaimException(
        "no "
            + what
            + " of the query is called "
            + words(name)
            + (near.isEmpty() ? "" : "; near it is: " + String.join(", ", near)));
  }

  static String words(List<Identifier> name) {
    return String.join(".", name.stream().map(Identifier::text).toList());
  }

  /** The columns of a table by which a person knows a row. */
  static List<String> identifying(Table table) {
    return table.identifyingColumns().stream().map(Column::name).toList();
  }
}
