package io.lantrel.catalog;

import io.lantrel.sql.NearNames;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.SyntaxProblem;
import io.lantrel.sql.tree.CreateTable;
import io.lantrel.sql.tree.CreateTable.ColumnDefinition;
import io.lantrel.sql.tree.CreateTable.Demand;
import io.lantrel.sql.tree.CreateTable.TableConstraint;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;

/** Reads the catalog from CREATE TABLE statements. */
public final class SchemaFile {

  private final List<CreateTable> definitions;

  private SchemaFile(List<CreateTable> definitions) {
    this.definitions = definitions;
  }

  /**
   * The catalog that a schema text declares.
   *
   * @throws SyntaxException with the place, if the text is no schema, or names a table or a column
   *     that it does not define
   */
  public static Catalog read(SourceText source) {
    SchemaFile file = new SchemaFile(SqlReader.readSchema(source));
    file.refuseRepeatedTables();
    return new Catalog(
        file.definitions.stream().map(file::table).toList(),
        file.definitions.stream().flatMap(file::references).toList());
  }

  private void refuseRepeatedTables() {
    Set<String> seen = new HashSet<>();
    for (CreateTable definition : definitions) {
      if (!seen.add(definition.last().key())) {
        throw wrong(
            definition.last().span(),
            "the table " + definition.last().text() + " is defined twice");
      }
    }
  }

  private Table table(CreateTable definition) {
    List<Key> keys =
        constraints(definition)
            .filter(each -> each.demand() != Demand.FOREIGN_KEY)
            .map(each -> key(definition, each))
            .sorted(Comparator.comparing(key -> !key.primary()))
            .toList();
    Set<String> seen = new HashSet<>();
    List<Column> columns = new ArrayList<>();
    for (ColumnDefinition column : definition.columns()) {
      if (!seen.add(column.name().key())) {
        throw wrong(
            column.name().span(),
            "the column " + column.name().text() + " is defined twice in " + name(definition));
      }
      boolean inPrimaryKey =
          keys.stream()
              .anyMatch(key -> key.primary() && key.columns().contains(column.name().text()));
      columns.add(
          new Column(
              column.name().text(),
              ColumnType.of(column.type().text()),
              !column.notNull() && !inPrimaryKey));
    }
    return new Table(name(definition), columns, keys);
  }

  private static Stream<TableConstraint> constraints(CreateTable definition) {
    return Stream.concat(
        definition.columns().stream().flatMap(column -> column.constraints().stream()),
        definition.constraints().stream());
  }

  private static String name(CreateTable definition) {
    return definition.last().text();
  }

  private static Key key(CreateTable definition, TableConstraint constraint) {
    return new Key(
        columns(definition, constraint.columns()), constraint.demand() == Demand.PRIMARY_KEY);
  }

  private static List<String> columns(CreateTable definition, List<Identifier> names) {
    return names.stream().map(name -> column(definition, name)).toList();
  }

  private static String column(CreateTable definition, Identifier name) {
    List<String> known = definition.columns().stream().map(column -> column.name().text()).toList();
    return known.stream()
        .filter(name::means)
        .findFirst()
        .orElseThrow(
            () ->
                wrong(
                    name.span(),
                    "the table "
                        + name(definition)
                        + " has no column "
                        + name.text()
                        + near(name.text(), known)));
  }

  private static String near(String name, List<String> known) {
    List<String> near = NearNames.of(name, known);
    return near.isEmpty() ? "" : "; close to it: " + String.join(", ", near);
  }

  private Stream<Reference> references(CreateTable definition) {
    return constraints(definition)
        .filter(each -> each.demand() == Demand.FOREIGN_KEY)
        .map(each -> reference(definition, each));
  }

  private Reference reference(CreateTable definition, TableConstraint constraint) {
    List<Identifier> target = Objects.requireNonNull(constraint.target());
    Identifier name = target.get(target.size() - 1);
    CreateTable to =
        definitions.stream()
            .filter(each -> each.last().means(name.text()))
            .findFirst()
            .orElseThrow(
                () ->
                    wrong(
                        name.span(),
                        name(definition)
                            + " refers to a table "
                            + name.text()
                            + ", which is not defined"
                            + near(
                                name.text(), definitions.stream().map(SchemaFile::name).toList())));
    List<String> from = columns(definition, constraint.columns());
    List<String> toColumns =
        constraint.targetColumns().isEmpty()
            ? primaryKey(to, name)
            : columns(to, constraint.targetColumns());
    if (from.size() != toColumns.size()) {
      throw wrong(
          constraint.span(),
          "a reference from " + from.size() + " to " + toColumns.size() + " columns");
    }
    return new Reference(name(definition), from, name(to), toColumns, Basis.DECLARED);
  }

  private static List<String> primaryKey(CreateTable table, Identifier mentioned) {
    return constraints(table)
        .filter(each -> each.demand() == Demand.PRIMARY_KEY)
        .findFirst()
        .map(each -> columns(table, each.columns()))
        .orElseThrow(
            () ->
                wrong(
                    mentioned.span(),
                    name(table) + " has no primary key to refer to; name the columns"));
  }

  private static SyntaxException wrong(Span place, String message) {
    return new SyntaxException(new SyntaxProblem(place, message, List.of()));
  }
}
