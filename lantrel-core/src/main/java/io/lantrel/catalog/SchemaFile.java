package io.lantrel.catalog;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.SchemaReader;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.CreateTable;
import io.lantrel.sql.tree.CreateTable.ColumnDefinition;
import io.lantrel.sql.tree.CreateTable.Demand;
import io.lantrel.sql.tree.CreateTable.TableConstraint;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.SchemaStatement;
import io.lantrel.sql.tree.SchemaStatement.ChangeTable;
import io.lantrel.sql.tree.SchemaStatement.CreateView;
import io.lantrel.sql.tree.SchemaStatement.InsertRows;
import io.lantrel.sql.tree.SchemaStatement.Skipped;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** A schema file: what it defines, the rows that it holds, and what was passed over. */
public final class SchemaFile {

  private final SourceText source;
  private final Dialect dialect;
  private final ReferenceReader reader;
  private final Map<CreateTable, Table> tables = new IdentityHashMap<>();
  private final List<SchemaStatement> statements;
  private final List<CreateTable> definitions;
  private final boolean stored;

  private SchemaFile(
      SourceText source, Dialect dialect, List<SchemaStatement> statements, boolean stored) {
    this.stored = stored;
    this.source = source;
    this.dialect = dialect;
    this.reader = new ReferenceReader(dialect);
    this.statements = statements;
    this.definitions = all(CreateTable.class).map(this::changed).toList();
  }

  /**
   * Reads a schema file.
   *
   * @throws SyntaxException with the place, if a CREATE TABLE cannot be read
   */
  public static SchemaFile read(SourceText source, Dialect dialect) {
    return new SchemaFile(source, dialect, SchemaReader.read(source, dialect), false);
  }

  /**
   * Reads the definitions that a database keeps of its own tables. They need not be of one piece:
   * it may hold no table, and a reference may lead to a table that is not there any more.
   *
   * @throws SyntaxException if a CREATE TABLE cannot be read
   */
  public static SchemaFile readStored(SourceText source, Dialect dialect) {
    return new SchemaFile(source, dialect, SchemaReader.read(source, dialect), true);
  }

  private <S extends SchemaStatement> Stream<S> all(Class<S> sort) {
    return statements.stream().filter(sort::isInstance).map(sort::cast);
  }

  /**
   * What the file defines.
   *
   * @throws SyntaxException with the place, if it defines no table, or one twice, or names a table
   *     or a column that it does not define
   */
  public Catalog catalog() {
    if (!stored && definitions.isEmpty() && all(CreateView.class).findAny().isEmpty()) {
      throw ReferenceReader.wrong(
          statements.isEmpty() ? new Span(0, 0) : statements.get(0).span(),
          "there is no CREATE TABLE in this file, so it is no schema");
    }
    refuseRepeatedTables();
    refuseUnknownTables();
    return new Catalog(
        dialect,
        definitions.stream().map(this::table).toList(),
        views().map(this::view).toList(),
        definitions.stream().flatMap(this::references).toList());
  }

  /** The views, of each name the last: a dump makes some twice, first as a stand-in. */
  private Stream<CreateView> views() {
    Map<String, CreateView> last = new LinkedHashMap<>();
    all(CreateView.class)
        .forEach(
            view -> last.put(schema(view.name()) + "." + dialect.key(last(view.name())), view));
    return last.values().stream();
  }

  /** The rows that the file puts into its tables. */
  public List<InsertRows> rows() {
    return all(InsertRows.class).toList();
  }

  /**
   * What was passed over although it may matter, in one line for each sort of statement, with the
   * lines where they stand.
   */
  public List<String> notes() {
    Map<String, List<Integer>> lines = new LinkedHashMap<>();
    all(Skipped.class)
        .filter(each -> !each.isHarmless())
        .forEach(
            each ->
                lines
                    .computeIfAbsent(each.words(), words -> new ArrayList<>())
                    .add(source.line(each.span().start())));
    List<String> notes = new ArrayList<>();
    lines.forEach((words, at) -> notes.add(words + " was passed over (" + places(at) + ")"));
    views()
        .filter(view -> view.query() == null)
        .forEach(
            view ->
                notes.add(
                    "the query of the view "
                        + last(view.name()).text()
                        + " could not be read, so its columns are not known (line "
                        + source.line(view.span().start())
                        + ")"));
    return notes;
  }

  private static String places(List<Integer> lines) {
    String first = lines.stream().limit(5).map(String::valueOf).collect(Collectors.joining(", "));
    return (lines.size() == 1 ? "line " : "lines ")
        + first
        + (lines.size() > 5 ? " and " + (lines.size() - 5) + " more" : "");
  }

  private static Identifier last(List<Identifier> name) {
    return name.get(name.size() - 1);
  }

  private String schema(List<Identifier> name) {
    return name.size() > 1 ? dialect.stored(name.get(name.size() - 2)) : "";
  }

  private boolean isSame(List<Identifier> one, List<Identifier> other) {
    boolean schemas = one.size() > 1 && other.size() > 1;
    return dialect.key(last(one)).equals(dialect.key(last(other)))
        && (!schemas || schema(one).equals(schema(other)));
  }

  /** A table with what later statements add to it. */
  private CreateTable changed(CreateTable table) {
    List<ColumnDefinition> columns = new ArrayList<>();
    table.like().forEach(other -> columns.addAll(columnsOf(other)));
    for (ColumnDefinition own : table.columns()) {
      // PostgreSQL merges a column with the inherited one of its name.
      columns.removeIf(
          each ->
              dialect.key(each.name()).equals(dialect.key(own.name())) && isInherited(each, table));
      columns.add(own);
    }
    List<TableConstraint> constraints = new ArrayList<>(table.constraints());
    for (ChangeTable change : all(ChangeTable.class).toList()) {
      if (isSame(change.table(), table.name())) {
        columns.addAll(change.added());
        constraints.addAll(change.constraints());
        columns.replaceAll(
            column ->
                change.notNull().stream()
                        .anyMatch(name -> dialect.key(name).equals(dialect.key(column.name())))
                    ? column.asNotNull()
                    : column);
      }
    }
    return new CreateTable(table.span(), table.name(), columns, constraints, List.of());
  }

  private static boolean isInherited(ColumnDefinition column, CreateTable table) {
    return !table.columns().contains(column);
  }

  /** The columns of a table that another one takes over; the first definition of that name. */
  private List<ColumnDefinition> columnsOf(List<Identifier> name) {
    CreateTable other =
        all(CreateTable.class)
            .filter(each -> isSame(each.name(), name))
            .findFirst()
            .orElseThrow(
                () ->
                    ReferenceReader.wrong(
                        last(name).span(), "there is no table " + last(name).text()));
    List<ColumnDefinition> columns = new ArrayList<>();
    other.like().forEach(each -> columns.addAll(isSame(each, name) ? List.of() : columnsOf(each)));
    columns.addAll(other.columns().stream().map(ColumnDefinition::withoutKeys).toList());
    return columns;
  }

  private View view(CreateView view) {
    return new View(
        schema(view.name()),
        dialect.stored(last(view.name())),
        view.columns().stream().map(dialect::stored).toList(),
        view.query());
  }

  private void refuseRepeatedTables() {
    Set<String> seen = new HashSet<>();
    for (CreateTable definition : definitions) {
      if (!seen.add(schema(definition.name()) + "." + dialect.key(definition.last()))) {
        throw ReferenceReader.wrong(
            definition.last().span(),
            "the table " + definition.last().text() + " is defined twice");
      }
    }
  }

  private void refuseUnknownTables() {
    for (ChangeTable change : all(ChangeTable.class).toList()) {
      if (definitions.stream().noneMatch(each -> isSame(each.name(), change.table()))) {
        Identifier name = last(change.table());
        throw ReferenceReader.wrong(
            name.span(),
            "there is no table "
                + name.text()
                + near(name.text(), definitions.stream().map(this::name).toList()));
      }
    }
  }

  private Table table(CreateTable definition) {
    return tables.computeIfAbsent(definition, this::made);
  }

  private Table made(CreateTable definition) {
    List<Key> keys =
        constraints(definition)
            .filter(each -> each.demand() != Demand.FOREIGN_KEY)
            .map(each -> key(definition, each))
            .sorted(Comparator.comparing(key -> !key.primary()))
            .toList();
    Set<String> seen = new HashSet<>();
    List<Column> columns = new ArrayList<>();
    for (ColumnDefinition column : definition.columns()) {
      String stored = dialect.stored(column.name());
      if (!seen.add(dialect.key(stored))) {
        throw ReferenceReader.wrong(
            column.name().span(),
            "the column " + column.name().text() + " is defined twice in " + name(definition));
      }
      boolean inPrimaryKey =
          keys.stream().anyMatch(key -> key.primary() && key.columns().contains(stored));
      columns.add(
          new Column(
              stored, ColumnType.of(column.type().text()), !column.notNull() && !inPrimaryKey));
    }
    return new Table(schema(definition.name()), name(definition), columns, keys);
  }

  private static Stream<TableConstraint> constraints(CreateTable definition) {
    return Stream.concat(
        definition.columns().stream().flatMap(column -> column.constraints().stream()),
        definition.constraints().stream());
  }

  private String name(CreateTable definition) {
    return dialect.stored(definition.last());
  }

  private Key key(CreateTable definition, TableConstraint constraint) {
    return new Key(
        columns(definition, constraint.columns()), constraint.demand() == Demand.PRIMARY_KEY);
  }

  private List<String> columns(CreateTable definition, List<Identifier> names) {
    return names.stream().map(name -> column(definition, name)).toList();
  }

  private String column(CreateTable definition, Identifier name) {
    List<String> known =
        definition.columns().stream().map(column -> dialect.stored(column.name())).toList();
    return reader.column(name(definition), known, name);
  }

  private static String near(String name, List<String> known) {
    List<String> near = NearNames.of(name, known);
    return near.isEmpty() ? "" : "; close to it: " + String.join(", ", near);
  }

  private Stream<Reference> references(CreateTable definition) {
    return constraints(definition)
        .filter(each -> each.demand() == Demand.FOREIGN_KEY)
        .filter(each -> !stored || leadsSomewhere(each))
        .map(each -> reference(definition, each));
  }

  /** Whether the table is there, and the columns referred to are named or its key. */
  private boolean leadsSomewhere(TableConstraint constraint) {
    List<Identifier> target = Objects.requireNonNull(constraint.target());
    return definitions.stream()
        .filter(each -> isSame(each.name(), target))
        .anyMatch(
            each ->
                constraint.targetColumns().isEmpty()
                    ? constraints(each).anyMatch(key -> key.demand() == Demand.PRIMARY_KEY)
                    : constraint.targetColumns().stream().allMatch(name -> hasColumn(each, name)));
  }

  private boolean hasColumn(CreateTable table, Identifier name) {
    return table.columns().stream()
        .anyMatch(each -> dialect.means(name, dialect.stored(each.name())));
  }

  private Reference reference(CreateTable definition, TableConstraint constraint) {
    List<Identifier> target = Objects.requireNonNull(constraint.target());
    Identifier name = target.get(target.size() - 1);
    CreateTable to =
        definitions.stream()
            .filter(each -> isSame(each.name(), target))
            // Without a schema, a table of the same one is meant before others.
            .min(
                Comparator.comparing(
                    each -> !schema(each.name()).equals(schema(definition.name()))))
            .orElseThrow(
                () ->
                    ReferenceReader.wrong(
                        name.span(),
                        name(definition)
                            + " refers to a table "
                            + name.text()
                            + ", which is not defined"
                            + near(name.text(), definitions.stream().map(this::name).toList())));
    return reader.reference(table(definition), constraint, table(to));
  }
}
