package io.lantrel.resolve;

import io.lantrel.sql.tree.Expression.ColumnName;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * What can be named at one place of a query (ISO/IEC 9075-2, 6.7, column reference; 7.6, scope of a
 * table reference). A name is sought here first, then outside.
 *
 * @param block the block of the place
 * @param visible the columns that can be named without their table
 * @param uses the table uses that can be named
 * @param labels whether the labels of output columns can be named
 * @param labelsFirst whether labels win over columns, as they do in ORDER BY
 * @param outer the scope around this one; null for the outermost
 */
record Scope(
    QueryBlock block,
    List<Visible> visible,
    List<TableUse> uses,
    boolean labels,
    boolean labelsFirst,
    @Nullable Scope outer) {

  /** Names that need no table (ISO/IEC 9075-2, 6.4), and row numbers that engines keep. */
  private static final Set<String> WITHOUT_TABLE =
      Set.of(
          "current_date",
          "current_time",
          "current_timestamp",
          "localtime",
          "localtimestamp",
          "current_user",
          "session_user",
          "user",
          "current_schema",
          "current_catalog",
          "rowid");

  /**
   * A column that can be named without its table.
   *
   * @param name its name
   * @param binding what it stands for: a column, or the merged column of USING
   * @param columns the columns behind it
   */
  record Visible(String name, Binding binding, List<UseColumn> columns) {
    boolean isCalled(Identifier wanted) {
      return wanted.means(name);
    }
  }

  /** What a column name stands for; problems are reported to the list. */
  Binding bind(ColumnName column, List<NameProblem> problems) {
    return column.qualifier().isEmpty()
        ? unqualified(column, problems)
        : qualified(column, problems);
  }

  private Binding unqualified(ColumnName column, List<NameProblem> problems) {
    for (Scope scope = this; scope != null; scope = scope.outer()) {
      Optional<Binding> found = scope.here(column, problems);
      if (found.isPresent()) {
        markCorrelation(scope);
        return found.get();
      }
    }
    boolean guess = anyUse(use -> !use.isKnown());
    if (guess || WITHOUT_TABLE.contains(column.name().key())) {
      return new Binding.Opaque();
    }
    Optional<TableUse> later =
        block.uses().stream()
            .filter(use -> !uses.contains(use) && use.column(column.name().text()).isPresent())
            .findFirst();
    problems.add(
        later.isPresent()
            ? new NameProblem.NotVisibleYet(block, column, later.get())
            : new NameProblem.UnknownColumn(block, column, uses));
    return new Binding.Nothing();
  }

  private Optional<Binding> here(ColumnName column, List<NameProblem> problems) {
    Optional<Binding> label = labels ? label(column.name()) : Optional.empty();
    if (labelsFirst && label.isPresent()) {
      return label;
    }
    List<Visible> found = visible.stream().filter(each -> each.isCalled(column.name())).toList();
    if (found.size() > 1) {
      List<UseColumn> candidates = found.stream().flatMap(each -> each.columns().stream()).toList();
      problems.add(new NameProblem.AmbiguousColumn(block, column, candidates));
      return Optional.of(new Binding.Nothing());
    }
    return found.isEmpty() ? label : Optional.of(found.get(0).binding());
  }

  private Optional<Binding> label(Identifier name) {
    return block.outputs().stream()
        .filter(output -> name.means(output.name()))
        .findFirst()
        .map(Binding.ToOutput::new);
  }

  private Binding qualified(ColumnName column, List<NameProblem> problems) {
    Identifier qualifier = column.qualifier().get(column.qualifier().size() - 1);
    for (Scope scope = this; scope != null; scope = scope.outer()) {
      Optional<TableUse> use =
          scope.uses().stream().filter(each -> qualifier.means(each.name())).findFirst();
      if (use.isPresent()) {
        markCorrelation(scope);
        return columnOf(use.get(), column, problems);
      }
    }
    return noSuchUse(column, qualifier, problems);
  }

  private Binding columnOf(TableUse use, ColumnName column, List<NameProblem> problems) {
    Optional<UseColumn> found = use.column(column.name().text());
    if (found.isPresent()) {
      return new Binding.ToColumn(found.get());
    }
    if (!use.isKnown() || WITHOUT_TABLE.contains(column.name().key())) {
      return new Binding.Opaque();
    }
    problems.add(new NameProblem.UnknownColumn(block, column, List.of(use)));
    return new Binding.Nothing();
  }

  private Binding noSuchUse(ColumnName column, Identifier qualifier, List<NameProblem> problems) {
    Optional<TableUse> later =
        block.uses().stream().filter(use -> qualifier.means(use.name())).findFirst();
    if (later.isPresent()) {
      problems.add(new NameProblem.NotVisibleYet(block, column, later.get()));
      return new Binding.Nothing();
    }
    if (anyUse(use -> !use.isKnown() && isNamed(use, qualifier))) {
      return new Binding.Opaque();
    }
    for (Scope scope = this; scope != null; scope = scope.outer()) {
      Optional<TableUse> hidden =
          scope.uses().stream()
              .filter(use -> use.table().filter(t -> qualifier.means(t.name())).isPresent())
              .findFirst();
      if (hidden.isPresent()) {
        problems.add(new NameProblem.HiddenByAlias(block, column, hidden.get()));
        return new Binding.Nothing();
      }
      // A field of a structured column, which Lantrel does not look into.
      if (scope.visible().stream().anyMatch(each -> each.isCalled(qualifier))) {
        return new Binding.Opaque();
      }
    }
    problems.add(new NameProblem.UnknownQualifier(block, column));
    return new Binding.Nothing();
  }

  private static boolean isNamed(TableUse use, Identifier name) {
    return use.item() instanceof FromItem.TableName table && name.means(table.last().text());
  }

  private boolean anyUse(Predicate<TableUse> test) {
    for (Scope scope = this; scope != null; scope = scope.outer()) {
      if (scope.uses().stream().anyMatch(test)) {
        return true;
      }
    }
    return false;
  }

  /** Every block between the name and the block that has it depends on that outer block. */
  private void markCorrelation(Scope found) {
    for (Scope scope = this;
        scope != null && scope.block() != found.block();
        scope = scope.outer()) {
      scope.block().markCorrelated();
    }
  }
}
