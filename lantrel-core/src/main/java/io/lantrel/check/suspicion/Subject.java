package io.lantrel.check.suspicion;

import io.lantrel.catalog.Catalog;
import io.lantrel.check.Severity;
import io.lantrel.edit.QueryEdits;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Obstacle;
import io.lantrel.probe.Promises;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.NameProblem;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Value;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** What a check looks at: one block, the text that it stands in, and the catalog. */
public final class Subject {

  /** How a parameter begins; its value has taken its place in the tree. */
  private static final Pattern PARAMETER = Pattern.compile("[:?@$]");

  private final SourceText source;
  private final Catalog catalog;
  private final Resolution resolution;
  private final QueryBlock block;
  private final Promises keys;
  private final Map<QueryBlock, JoinedRows> rows;

  /**
   * @param keys which promises of the schema can be relied on
   * @param rows the joined rows of blocks, as far as they were asked for: shared by the subjects of
   *     a query, so that questions about one block go into one statement
   */
  public Subject(
      SourceText source,
      Catalog catalog,
      Resolution resolution,
      QueryBlock block,
      Promises keys,
      Map<QueryBlock, JoinedRows> rows) {
    this.source = source;
    this.catalog = catalog;
    this.resolution = resolution;
    this.block = block;
    this.keys = keys;
    this.rows = rows;
  }

  /** The text that all spans are places of. */
  public SourceText source() {
    return source;
  }

  /** The tables that the query can use. */
  public Catalog catalog() {
    return catalog;
  }

  /** The block looked at. */
  public QueryBlock block() {
    return block;
  }

  /** Another block of the same query. */
  public Subject of(QueryBlock other) {
    return new Subject(source, catalog, resolution, other, keys, rows);
  }

  /** An error, but a warning where the engine lets it through by this rule. */
  public Severity errorUnless(Dialect.Rule rule) {
    return block.dialect().has(rule) ? Severity.WARNING : Severity.ERROR;
  }

  /** The name problems of this sort in this block. */
  public <P extends NameProblem> Stream<P> problems(Class<P> sort) {
    return resolution.problems().stream()
        .filter(problem -> problem.block() == block)
        .filter(sort::isInstance)
        .map(sort::cast);
  }

  /** All blocks of the query. */
  public Resolution resolution() {
    return resolution;
  }

  /** The joined rows of the block; empty if names are wrong, or {@link Obstacle} tells why. */
  public Optional<JoinedRows> rows() {
    if (!rows.containsKey(block) && resolution.problems().isEmpty()) {
      JoinedRows.of(block, keys).ifPresent(each -> rows.put(block, each));
    }
    return Optional.ofNullable(rows.get(block));
  }

  /** The nodes of this sort in the block, not counting its subqueries, in the order of the text. */
  public <N extends Node> List<N> nodes(Class<N> sort) {
    boolean ordered = block.query().body().equals(block.select());
    Stream<OrderItem> order = ordered ? block.query().orderBy().stream() : Stream.empty();
    return Stream.concat(Stream.of(block.select()), order)
        .flatMap(Aggregates::withoutQueries)
        .filter(sort::isInstance)
        .map(sort::cast)
        .toList();
  }

  /** A node as it is written. */
  public String text(Node node) {
    return source.at(node.span());
  }

  /** Whether a value in it is given when the query runs: it says nothing of the query. */
  public boolean hasParameter(Node node) {
    return node.preorder()
        .anyMatch(
            each ->
                each instanceof Value.Parameter
                    || (each instanceof Value.Literal
                        && !each.span().isNowhere()
                        && PARAMETER.matcher(text(each)).lookingAt()));
  }

  /** What a value that is the name of a column of this block stands for. */
  public Optional<UseColumn> ownColumn(Expression value) {
    return block.column(value).filter(block::isOwn);
  }

  /** For changes of the block. */
  public QueryEdits edits() {
    return new QueryEdits(source, block);
  }
}
