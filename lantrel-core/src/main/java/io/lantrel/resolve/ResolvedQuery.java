package io.lantrel.resolve;

import io.lantrel.sql.tree.Query;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntPredicate;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** What a query gives: its columns, which of them can be NULL, and its keys. */
public final class ResolvedQuery {

  private final Query query;
  private final List<QueryBlock> parts;
  private final List<OutputColumn> outputs;
  private final boolean complete;
  private final boolean onlyStart;
  private final IntPredicate nullable;
  private final Supplier<List<Set<Integer>>> keySupplier;
  private @Nullable List<Set<Integer>> keys;

  ResolvedQuery(
      Query query,
      List<QueryBlock> parts,
      List<OutputColumn> outputs,
      boolean complete,
      boolean onlyStart,
      IntPredicate nullable,
      Supplier<List<Set<Integer>>> keys) {
    this.query = query;
    this.parts = List.copyOf(parts);
    this.outputs = List.copyOf(outputs);
    this.complete = complete;
    this.onlyStart = onlyStart;
    this.nullable = nullable;
    this.keySupplier = keys;
  }

  /** The same as far as a recursion starts with it: of its later rows nothing is known. */
  ResolvedQuery asStart() {
    return new ResolvedQuery(
        query, parts, outputs, complete, true, position -> true, Collections::emptyList);
  }

  /** Whether it is only what a recursion starts with. */
  public boolean isOnlyStart() {
    return onlyStart;
  }

  /** The query. */
  public Query query() {
    return query;
  }

  /** The one block that it is; empty for UNION and the like, and for VALUES. */
  public Optional<QueryBlock> block() {
    return parts.size() == 1 && parts.get(0).select() == query.body()
        ? Optional.of(parts.get(0))
        : Optional.empty();
  }

  /** The blocks whose rows it puts together, in the order of the text. */
  public List<QueryBlock> parts() {
    return parts;
  }

  /** The columns of the result. */
  public List<OutputColumn> outputs() {
    return outputs;
  }

  /** Whether these are all; not so if {@code *} stands for columns that are not known. */
  public boolean isComplete() {
    return complete;
  }

  /** Whether a column of the result can be NULL; true if that is not known. */
  public boolean isNullable(OutputColumn output) {
    return nullable.test(output.position());
  }

  /**
   * Sets of columns, by their positions from 0, in all of which no two rows of the result agree,
   * NULL being like NULL. An empty set: there is at most one row.
   */
  public List<Set<Integer>> keys() {
    if (keys == null) {
      keys = keySupplier.get();
    }
    return keys;
  }
}
