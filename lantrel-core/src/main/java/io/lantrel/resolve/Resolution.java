package io.lantrel.resolve;

import io.lantrel.sql.tree.Value.ColumnName;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;

/** What all names of a query mean. Immutable once it is handed out. */
public final class Resolution {

  private final ResolvedQuery result;
  private final List<QueryBlock> blocks;
  private final List<NameProblem> problems;
  private final Map<ColumnName, Binding> bindings;

  Resolution(
      ResolvedQuery result,
      List<QueryBlock> blocks,
      List<NameProblem> problems,
      IdentityHashMap<ColumnName, Binding> bindings) {
    this.result = result;
    this.blocks = List.copyOf(blocks);
    this.problems = List.copyOf(problems);
    this.bindings = bindings;
  }

  /** What the query as a whole gives. */
  public ResolvedQuery result() {
    return result;
  }

  /** The outermost block: the query itself, or the first part of a UNION or the like. */
  public QueryBlock root() {
    return result.parts().get(0);
  }

  /** All blocks, the outermost first. */
  public List<QueryBlock> blocks() {
    return blocks;
  }

  /** The names that mean nothing or too much, in the order in which they were met. */
  public List<NameProblem> problems() {
    return problems;
  }

  /** What a column name of this query stands for. */
  public Binding binding(ColumnName column) {
    return bindings.getOrDefault(column, new Binding.Opaque());
  }
}
