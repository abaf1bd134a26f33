package io.lantrel.catalog;

import io.lantrel.sql.NearNames;
import io.lantrel.sql.SchemaReader;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.CreateTable.Demand;
import io.lantrel.sql.tree.CreateTable.TableConstraint;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.SchemaStatement;
import io.lantrel.sql.tree.SchemaStatement.ChangeTable;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;

/**
 * References and keys that only people know, written as {@code ALTER TABLE … ADD FOREIGN KEY …},
 * {@code ADD PRIMARY KEY} or {@code ADD UNIQUE}. Nothing of it is ever run.
 */
public final class ReferencesFile {

  private final Catalog catalog;
  private final ReferenceReader reader;
  private final Set<Constraint> given = new LinkedHashSet<>();
  private final Set<Constraint> primary = new LinkedHashSet<>();

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
  public static ReferencesFile read(SourceText source, Catalog catalog) {
    ReferencesFile file = new ReferencesFile(catalog);
    List<ChangeTable> changes =
        SchemaReader.read(source, catalog.dialect()).stream().map(ReferencesFile::change).toList();
    changes.forEach(file::addKeys);
    // What refers to a table without naming columns means the primary key that it has now.
    Catalog withKeys = file.without(List.of());
    changes.forEach(each -> file.addReferences(each, withKeys));
    if (changes.isEmpty()) {
      throw ReferenceReader.wrong(
          new Span(0, 0), "there is no ALTER TABLE … ADD FOREIGN KEY … REFERENCES … in this file");
    }
    return file;
  }

  private static ChangeTable change(SchemaStatement statement) {
    if (statement instanceof ChangeTable change
        && change.added().isEmpty()
        && !(change.constraints().isEmpty() && change.notNull().isEmpty())) {
      return change;
    }
    throw ReferenceReader.wrong(
        statement.span(),
        "a file of references holds nothing but ALTER TABLE … ADD FOREIGN KEY, PRIMARY KEY or"
            + " UNIQUE, and SET NOT NULL");
  }

  private void addKeys(ChangeTable change) {
    Table table = table(change.table(), catalog);
    for (TableConstraint each : change.constraints()) {
      if (each.demand() != Demand.FOREIGN_KEY) {
        Constraint key = Constraint.key(table, reader.columns(table, each.columns()));
        if (!hasKey(table.keys(), key)) {
          given.add(key);
        }
        if (each.demand() == Demand.PRIMARY_KEY) {
          primary.add(key);
          key.columns().forEach(column -> addNotNull(table, column));
        }
      }
    }
    reader.columns(table, change.notNull()).forEach(column -> addNotNull(table, column));
  }

  private void addNotNull(Table table, String column) {
    if (table.column(column).map(Column::nullable).orElse(true)) {
      given.add(Constraint.notNull(table, column));
    }
  }

  private static boolean hasKey(List<Key> keys, Constraint key) {
    return keys.stream()
        .anyMatch(each -> Set.copyOf(each.columns()).equals(Set.copyOf(key.columns())));
  }

  private void addReferences(ChangeTable change, Catalog withKeys) {
    Table from = table(change.table(), withKeys);
    change.constraints().stream()
        .filter(each -> each.demand() == Demand.FOREIGN_KEY)
        .map(
            each ->
                reader.reference(
                    from, each, table(Objects.requireNonNull(each.target()), withKeys)))
        .forEach(each -> given.add(Constraint.of(each)));
  }

  private Table table(List<Identifier> name, Catalog known) {
    Identifier last = name.get(name.size() - 1);
    return known
        .table(name)
        .orElseThrow(
            () ->
                ReferenceReader.wrong(
                    last.span(),
                    "there is no table "
                        + last.text()
                        + NearNames.instead(
                            last.text(),
                            known.tables().stream().map(Table::name).toList(),
                            "there are")));
  }

  /** What is demanded there and no key of the tables demands, in the order of the file. */
  public List<Constraint> constraints() {
    return List.copyOf(given);
  }

  /**
   * The tables with all of it that they did not have before.
   *
   * @param left what is left out
   */
  public Catalog without(Collection<Constraint> left) {
    Map<Table, Table> now = new LinkedHashMap<>();
    catalog.tables().forEach(each -> now.put(each, with(each, left)));
    List<Reference> references = new ArrayList<>(catalog.references());
    given.stream()
        .filter(each -> !left.contains(each))
        .flatMap(each -> each.ifReference().stream())
        .filter(each -> !references.contains(each))
        .forEach(references::add);
    return catalog.of(
        List.copyOf(now.values()),
        references.stream()
            .map(each -> each.between(table -> Objects.requireNonNull(now.get(table))))
            .toList());
  }

  private Table with(Table table, Collection<Constraint> left) {
    List<Key> keys = new ArrayList<>(table.keys());
    List<Column> columns = new ArrayList<>(table.columns());
    for (Constraint each : given) {
      if (!each.table().equals(table) || left.contains(each)) {
        continue;
      }
      if (each.kind() == Constraint.Kind.KEY && !hasKey(keys, each)) {
        boolean first = primary.contains(each) && keys.stream().noneMatch(Key::primary);
        keys.add(first ? 0 : keys.size(), new Key(each.columns(), first));
      }
      if (each.kind() == Constraint.Kind.NOT_NULL) {
        columns.replaceAll(
            column ->
                each.columns().contains(column.name())
                    ? new Column(column.name(), column.type(), false)
                    : column);
      }
    }
    return new Table(table.schema(), table.name(), columns, keys);
  }
}
