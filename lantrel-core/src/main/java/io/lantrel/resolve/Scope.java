package io.lantrel.resolve;

import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.resolve.Columns.Visible;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Value.ColumnName;
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
 * @param columns the tables and columns that can be named
 * @param tables the queries of WITH that can be named
 * @param labels whether the labels of output columns can be named
 * @param locals the parameters of a function written in place
 * @param outer the scope around this one; null for the outermost
 */
record Scope(
    QueryBlock block,
    Columns columns,
    CommonTables tables,
    Labels labels,
    Set<String> locals,
    @Nullable Scope outer) {

  /** Whether labels can be named, and whether they win over columns, as they do in ORDER BY. */
  enum Labels {
    NONE,
    BEHIND_COLUMNS,
    /** Which of the two wins depends on the product and on the grouping. */
    EITHER,
    FIRST
  }

  /** What engines keep of every row beside its columns; and the word for a column's default. */
  private static final Set<String> OF_EACH_ROW =
      Set.of(
          "oid",
          "rowid",
          "_rowid_",
          "rownum",
          "ctid",
          "xmin",
          "xmax",
          "cmin",
          "cmax",
          "tableoid",
          "filename",
          "default");

  /** {@code s.nextval}: s is a sequence. */
  private static final Set<String> OF_SEQUENCES = Set.of("nextval", "currval");

  Scope(
      QueryBlock block,
      Columns columns,
      CommonTables tables,
      Labels labels,
      @Nullable Scope outer) {
    this(block, columns, tables, labels, Set.of(), outer);
  }

  /** The same place with the parameters of a function written in place. */
  Scope withLocals(Set<String> names) {
    return new Scope(block, columns, tables, labels, names, this);
  }

  private Dialect dialect() {
    return block.dialect();
  }

  /** Whether a name without a qualifier means a column or a label here or outside. */
  boolean knows(Identifier name) {
    for (Scope scope = this; scope != null; scope = scope.outer()) {
      if (!scope.columns.find(name).isEmpty() || scope.isLocal(name)) {
        return true;
      }
    }
    return false;
  }

  private boolean isLocal(Identifier name) {
    return locals.contains(dialect().key(name));
  }

  /** What a column name stands for; problems are reported to the list. */
  Binding bind(ColumnName column, List<NameProblem> problems) {
    return column.qualifier().isEmpty()
        ? unqualified(column, problems)
        : qualified(column, problems);
  }

  // ---- names without a qualifier ----

  private Binding unqualified(ColumnName column, List<NameProblem> problems) {
    for (Scope scope = this; scope != null; scope = scope.outer()) {
      Optional<Binding> found = scope.here(column, problems);
      if (found.isPresent()) {
        markCorrelation(scope);
        return found.get();
      }
    }
    if (anyUse(use -> !use.isKnown()) || isKnownWithoutTable(column.name())) {
      return new Binding.Opaque();
    }
    Optional<UseColumn> later =
        block.columnsNamed(dialect().key(column.name())).stream()
            .filter(each -> !columns.has(each.use()) && !seesOnlyOutputs())
            .findFirst();
    problems.add(
        later.isPresent()
            ? new NameProblem.NotVisibleYet(block, column, later.get().use())
            : new NameProblem.UnknownColumn(block, column, columns.uses()));
    return new Binding.Nothing();
  }

  /** The order of a UNION names its output columns and no table. */
  private boolean seesOnlyOutputs() {
    return labels == Labels.FIRST && columns.uses().isEmpty();
  }

  private boolean isKnownWithoutTable(Identifier name) {
    boolean text = name.quoted() && dialect().has(Dialect.Rule.UNKNOWN_QUOTED_NAME_IS_TEXT);
    boolean row = dialect().has(Dialect.Rule.WHOLE_ROW_BY_NAME) && namesTable(name);
    return text || row || isWithoutTable(name);
  }

  private static boolean isWithoutTable(Identifier name) {
    return SameForAllRows.isNamed(name.key()) || OF_EACH_ROW.contains(name.key());
  }

  private boolean namesTable(Identifier name) {
    for (Scope scope = this; scope != null; scope = scope.outer()) {
      if (scope.columns.use(name).isPresent() || scope.columns.join(name).isPresent()) {
        return true;
      }
    }
    return false;
  }

  private Optional<Binding> here(ColumnName column, List<NameProblem> problems) {
    if (isLocal(column.name())) {
      return Optional.of(new Binding.Opaque());
    }
    Optional<Binding> label = labels == Labels.NONE ? Optional.empty() : label(column.name());
    if (labels == Labels.FIRST && label.isPresent()) {
      return label;
    }
    List<Visible> found = columns.find(column.name());
    if (labels == Labels.EITHER && label.isPresent() && !found.isEmpty()) {
      return Optional.of(new Binding.Opaque());
    }
    if (found.size() > 1 || found.stream().anyMatch(Visible::isAmbiguous)) {
      List<UseColumn> candidates = found.stream().flatMap(each -> each.columns().stream()).toList();
      problems.add(new NameProblem.AmbiguousColumn(block, column, candidates));
      return Optional.of(new Binding.Nothing());
    }
    return found.isEmpty() ? label : Optional.of(found.get(0).binding());
  }

  private Optional<Binding> label(Identifier name) {
    return block.outputs().stream()
        .filter(output -> dialect().means(name, output.name()))
        .findFirst()
        .map(Binding.ToOutput::new);
  }

  // ---- names with a qualifier ----

  private Binding qualified(ColumnName column, List<NameProblem> problems) {
    Identifier qualifier = column.qualifier().get(column.qualifier().size() - 1);
    for (Scope scope = this; scope != null; scope = scope.outer()) {
      if (scope.isLocal(column.qualifier().get(0))) {
        return new Binding.Opaque();
      }
      Optional<TableUse> use = scope.columns.use(qualifier);
      if (use.isPresent()) {
        markCorrelation(scope);
        return columnOf(use.get(), column, problems);
      }
      Optional<List<Visible>> join = scope.columns.join(qualifier);
      if (join.isPresent()) {
        markCorrelation(scope);
        return join.get().stream()
            .filter(each -> dialect().means(column.name(), each.name()))
            .findFirst()
            .map(Visible::binding)
            .orElseGet(Binding.Opaque::new);
      }
      if (scope.isFieldOfColumn(column)) {
        return new Binding.Opaque();
      }
    }
    return noSuchUse(column, qualifier, problems);
  }

  /**
   * {@code t.column.field}, {@code column.field}: Lantrel does not look into structured columns.
   */
  private boolean isFieldOfColumn(ColumnName column) {
    Identifier first = column.qualifier().get(0);
    List<Visible> named = columns.find(first);
    return (named.size() == 1 && hasFields(named.get(0)))
        || (column.qualifier().size() > 1 && columns.use(first).isPresent());
  }

  /** A number or a text has none, so that a name before a dot means a table further out. */
  private static boolean hasFields(Visible column) {
    return column.columns().stream().allMatch(each -> each.type().family() == TypeFamily.OTHER);
  }

  private Binding columnOf(TableUse use, ColumnName column, List<NameProblem> problems) {
    Optional<UseColumn> found = use.column(column.name());
    if (found.isPresent()) {
      return new Binding.ToColumn(found.get());
    }
    if (!use.isKnown() || isWithoutTable(column.name())) {
      return new Binding.Opaque();
    }
    problems.add(new NameProblem.UnknownColumn(block, column, List.of(use)));
    return new Binding.Nothing();
  }

  private Binding noSuchUse(ColumnName column, Identifier qualifier, List<NameProblem> problems) {
    Optional<TableUse> later =
        block.usesNamed(block.catalog().tableKey(dialect().stored(qualifier))).stream()
            .filter(use -> !columns.has(use) && !seesOnlyOutputs())
            .findFirst();
    if (later.isPresent()) {
      problems.add(new NameProblem.NotVisibleYet(block, column, later.get()));
      return new Binding.Nothing();
    }
    if (anyUse(use -> !use.isKnown() && isNamed(use, qualifier))) {
      return new Binding.Opaque();
    }
    if (OF_SEQUENCES.contains(column.name().key())) {
      return new Binding.Opaque();
    }
    for (Scope scope = this; scope != null; scope = scope.outer()) {
      FromItem from = scope.block().select().from();
      Optional<TableUse> hidden =
          scope.columns.uses().stream().filter(use -> isHidden(use, qualifier, from)).findFirst();
      if (hidden.isPresent()) {
        Optional<Identifier> around = aroundJoins(from, hidden.get());
        problems.add(new NameProblem.HiddenByAlias(block, column, hidden.get(), around));
        return new Binding.Nothing();
      }
    }
    problems.add(new NameProblem.UnknownQualifier(block, column));
    return new Binding.Nothing();
  }

  /** Its table has this name and it another; or it has it behind parentheses with an alias. */
  private boolean isHidden(TableUse use, Identifier name, @Nullable FromItem from) {
    return use.table().filter(table -> isCalled(table, name)).isPresent()
        || (dialect().means(name, use.name()) && FilterJoins.around(from, use).isEmpty());
  }

  /** The alias of the outermost parentheses around joins with a table use; empty for none. */
  private static Optional<Identifier> aroundJoins(@Nullable FromItem item, TableUse use) {
    if (!(item instanceof FromItem.Join join) || !join.span().contains(use.item().span())) {
      return Optional.empty();
    }
    return join.alias() == null
        ? aroundJoins(join.left(), use).or(() -> aroundJoins(join.right(), use))
        : Optional.of(join.alias().name());
  }

  private boolean isCalled(Table table, Identifier name) {
    return dialect().means(name, table.name());
  }

  private boolean isNamed(TableUse use, Identifier name) {
    return use.item() instanceof FromItem.TableName table
        && dialect().key(name).equals(dialect().key(table.last()));
  }

  private boolean anyUse(Predicate<TableUse> test) {
    for (Scope scope = this; scope != null; scope = scope.outer()) {
      if (scope.columns.uses().stream().anyMatch(test)) {
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
