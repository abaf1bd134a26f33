package io.lantrel.catalog;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.SyntaxProblem;
import io.lantrel.sql.tree.CreateTable.TableConstraint;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import java.util.Collection;
import java.util.List;
import java.util.Objects;

/** Foreign keys as they are written, and what is wrong with one. */
final class ReferenceReader {

  private final Dialect dialect;

  ReferenceReader(Dialect dialect) {
    this.dialect = dialect;
  }

  /**
   * A foreign key between two tables; without columns of its own the target means its primary key.
   *
   * @throws SyntaxException with the place, if a column is not there or their numbers differ
   */
  Reference reference(Table from, TableConstraint constraint, Table to) {
    List<String> columns = columns(from, constraint.columns());
    List<String> target =
        constraint.targetColumns().isEmpty()
            ? primaryKey(to, constraint)
            : columns(to, constraint.targetColumns());
    if (columns.size() != target.size()) {
      throw wrong(
          constraint.span(),
          "a reference from " + columns.size() + " to " + target.size() + " columns");
    }
    return new Reference(from, columns, to, target, Basis.DECLARED);
  }

  private static List<String> primaryKey(Table table, TableConstraint constraint) {
    List<Identifier> name = Objects.requireNonNull(constraint.target());
    return table.keys().stream()
        .filter(Key::primary)
        .findFirst()
        .map(Key::columns)
        .orElseThrow(
            () ->
                wrong(
                    name.get(name.size() - 1).span(),
                    table.name() + " has no primary key to refer to; name the columns"));
  }

  /** What columns that somebody names are called. */
  List<String> columns(Table table, List<Identifier> names) {
    List<String> known = table.columns().stream().map(Column::name).toList();
    return names.stream().map(name -> column(table.name(), known, name)).toList();
  }

  /** What a column that somebody names is called. */
  String column(String table, Collection<String> known, Identifier name) {
    return known.stream()
        .filter(each -> dialect.means(name, each))
        .findFirst()
        .orElseThrow(
            () ->
                wrong(
                    name.span(),
                    "the table "
                        + table
                        + " has no column "
                        + name.text()
                        + NearNames.instead(name.text(), known, "its columns are")));
  }

  static SyntaxException wrong(Span place, String message) {
    return new SyntaxException(new SyntaxProblem(place, message, List.of()));
  }
}
