package io.lantrel.catalog;

import io.lantrel.sql.NearNames;
import io.lantrel.sql.SchemaReader;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.SyntaxProblem;
import io.lantrel.sql.tree.CreateTable.Demand;
import io.lantrel.sql.tree.CreateTable.TableConstraint;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.SchemaStatement;
import io.lantrel.sql.tree.SchemaStatement.ChangeTable;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;

/**
 * References that only people know, written as {@code ALTER TABLE … ADD FOREIGN KEY …}. Nothing of
 * it is ever run.
 */
public final class ReferencesFile {

  private final Catalog catalog;

  private ReferencesFile(Catalog catalog) {
    this.catalog = catalog;
  }

  /**
   * Reads them.
   *
   * @param catalog the tables that they are about
   * @throws SyntaxException with the place, if something else is written there, or a table or
   *     column is not in the catalog
   */
  public static List<Reference> read(SourceText source, Catalog catalog) {
    ReferencesFile file = new ReferencesFile(catalog);
    List<Reference> references = new ArrayList<>();
    for (SchemaStatement statement : SchemaReader.read(source, catalog.dialect())) {
      references.addAll(file.of(statement));
    }
    if (references.isEmpty()) {
      throw wrong(
          new Span(0, 0), "there is no ALTER TABLE … ADD FOREIGN KEY … REFERENCES … in this file");
    }
    return references;
  }

  private List<Reference> of(SchemaStatement statement) {
    boolean plain =
        statement instanceof ChangeTable change
            && change.added().isEmpty()
            && change.notNull().isEmpty()
            && !change.constraints().isEmpty()
            && change.constraints().stream().allMatch(each -> each.demand() == Demand.FOREIGN_KEY);
    if (!plain) {
      throw wrong(
          statement.span(), "a file of references holds nothing but ALTER TABLE … ADD FOREIGN KEY");
    }
    ChangeTable change = (ChangeTable) statement;
    Table from = table(change.table());
    return change.constraints().stream().map(each -> reference(from, each)).toList();
  }

  private Reference reference(Table from, TableConstraint constraint) {
    List<Identifier> name = Objects.requireNonNull(constraint.target());
    Table to = table(name);
    List<String> columns = columns(from, constraint.columns());
    List<String> target =
        constraint.targetColumns().isEmpty()
            ? to.keys().stream()
                .filter(Key::primary)
                .findFirst()
                .map(Key::columns)
                .orElseThrow(
                    () ->
                        wrong(
                            name.get(name.size() - 1).span(),
                            to.name() + " has no primary key to refer to; name the columns"))
            : columns(to, constraint.targetColumns());
    if (columns.size() != target.size()) {
      throw wrong(
          constraint.span(),
          "a reference from " + columns.size() + " to " + target.size() + " columns");
    }
    return new Reference(from, columns, to, target, Basis.DECLARED);
  }

  private Table table(List<Identifier> name) {
    Identifier last = name.get(name.size() - 1);
    return catalog
        .table(name)
        .orElseThrow(
            () ->
                wrong(
                    last.span(),
                    "there is no table "
                        + last.text()
                        + NearNames.instead(
                            last.text(),
                            catalog.tables().stream().map(Table::name).toList(),
                            "there are")));
  }

  private List<String> columns(Table table, List<Identifier> names) {
    return names.stream().map(name -> column(table, name)).toList();
  }

  private String column(Table table, Identifier name) {
    List<String> known = table.columns().stream().map(Column::name).toList();
    return known.stream()
        .filter(each -> catalog.dialect().means(name, each))
        .findFirst()
        .orElseThrow(
            () ->
                wrong(
                    name.span(),
                    "the table "
                        + table.name()
                        + " has no column "
                        + name.text()
                        + NearNames.instead(name.text(), known, "its columns are")));
  }

  private static SyntaxException wrong(Span place, String message) {
    return new SyntaxException(new SyntaxProblem(place, message, List.of()));
  }
}
