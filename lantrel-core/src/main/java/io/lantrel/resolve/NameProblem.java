package io.lantrel.resolve;

import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.List;
import java.util.Optional;

/** A name that means nothing, or more than one thing. */
public sealed interface NameProblem {

  /** The block that it stands in. */
  QueryBlock block();

  /** Where the name stands. */
  Span place();

  /** No table has this name. */
  record UnknownTable(QueryBlock block, FromItem.TableName table) implements NameProblem {
    @Override
    public Span place() {
      return table.last().span();
    }
  }

  /** No table use goes by this name: {@code x.name} where no x is in FROM. */
  record UnknownQualifier(QueryBlock block, ColumnName column) implements NameProblem {
    @Override
    public Span place() {
      return qualifier().span();
    }

    /** The name before the dot. */
    public Identifier qualifier() {
      return column.qualifier().get(column.qualifier().size() - 1);
    }
  }

  /** The tables that could have this column do not have it. */
  record UnknownColumn(QueryBlock block, ColumnName column, List<TableUse> searched)
      implements NameProblem {
    public UnknownColumn {
      searched = List.copyOf(searched);
    }

    @Override
    public Span place() {
      return column.name().span();
    }
  }

  /**
   * Rows are put in order, or grouped, by a column at a position that the result does not have.
   *
   * @param clause ORDER BY or GROUP BY
   * @param columns how many columns there are
   */
  record NoSuchPosition(QueryBlock block, String clause, Value.Literal position, int columns)
      implements NameProblem {
    @Override
    public Span place() {
      return position.span();
    }
  }

  /** More than one table use has this column. */
  record AmbiguousColumn(QueryBlock block, ColumnName column, List<UseColumn> candidates)
      implements NameProblem {
    @Override
    public Span place() {
      return column.span();
    }
  }

  /**
   * A table is called by its own name although it has an alias here, or is within parentheses that
   * have one.
   *
   * @param around the alias of the parentheses; empty if there are none
   */
  record HiddenByAlias(
      QueryBlock block, ColumnName column, TableUse use, Optional<Identifier> around)
      implements NameProblem {
    @Override
    public Span place() {
      return column.qualifier().get(column.qualifier().size() - 1).span();
    }
  }

  /** A condition mentions a table that is joined further on. */
  record NotVisibleYet(QueryBlock block, ColumnName column, TableUse use) implements NameProblem {
    @Override
    public Span place() {
      return column.span();
    }
  }

  /** Two table uses go by one name. */
  record RepeatedAlias(QueryBlock block, TableUse first, TableUse second) implements NameProblem {
    @Override
    public Span place() {
      return second.nameSpan();
    }
  }

  /** Columns are shown of groups that need not agree in them. */
  record UngroupedColumns(QueryBlock block, List<ColumnName> names, List<UseColumn> columns)
      implements NameProblem {
    public UngroupedColumns {
      names = List.copyOf(names);
      columns = List.copyOf(columns);
    }

    @Override
    public Span place() {
      return names.get(0).span();
    }
  }

  /** An aggregate where rows have not been put together yet. */
  record MisplacedAggregate(QueryBlock block, Call.FunctionCall call, String clause)
      implements NameProblem {
    @Override
    public Span place() {
      return call.span();
    }
  }
}
