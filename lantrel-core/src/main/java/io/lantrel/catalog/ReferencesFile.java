package io.lantrel.catalog;

import io.lantrel.sql.NearNames;
import io.lantrel.sql.SchemaReader;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.CreateTable.Demand;
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
  private final ReferenceReader reader;

  private ReferencesFile(Catalog catalog) {
    this.catalog = catalog;
    this.reader = new ReferenceReader(catalog.dialect());
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
      throw ReferenceReader.wrong(
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
      throw ReferenceReader.wrong(
          statement.span(), "a file of references holds nothing but ALTER TABLE … ADD FOREIGN KEY");
    }
    ChangeTable change = (ChangeTable) statement;
    Table from = table(change.table());
    return change.constraints().stream()
        .map(each -> reader.reference(from, each, table(Objects.requireNonNull(each.target()))))
        .toList();
  }

  private Table table(List<Identifier> name) {
    Identifier last = name.get(name.size() - 1);
    return catalog
        .table(name)
        .orElseThrow(
            () ->
                ReferenceReader.wrong(
                    last.span(),
                    "there is no table "
                        + last.text()
                        + NearNames.instead(
                            last.text(),
                            catalog.tables().stream().map(Table::name).toList(),
                            "there are")));
  }
}
