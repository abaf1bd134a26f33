package io.lantrel.rewrite.forms;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.edit.FreeAliases;
import io.lantrel.edit.OneQuery;
import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.Parentheses;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A query as it is read for one change: its text, and what its names mean.
 *
 * @param source the text
 * @param catalog the tables
 * @param query its tree
 * @param resolution what the names mean
 */
public record Reading(SourceText source, Catalog catalog, Query query, Resolution resolution) {

  /**
   * Reads a text.
   *
   * @throws RewriteException if the text is not one query without errors
   */
  public static Reading of(String text, Catalog catalog) {
    try {
      OneQuery read = OneQuery.read(text, catalog);
      return new Reading(read.source(), catalog, read.query(), read.resolution());
    } catch (SyntaxException fault) {
      throw new RewriteException("this cannot be rewritten: " + fault.getMessage());
    }
  }

  public Dialect dialect() {
    return catalog.dialect();
  }

  /** Whether some node of it is of this kind. */
  public boolean has(Class<? extends Node> kind) {
    return query.preorder().anyMatch(kind::isInstance);
  }

  /** The characters of a node. */
  public String text(Node node) {
    return source.at(node.span());
  }

  /** Where the parenthesis of a query opens, which stands somewhere behind a place. */
  public int opening(int from, Query query) {
    return new LexedText(source, new Span(from, query.span().start()), dialect())
        .last("(")
        .map(Span::start)
        .orElse(query.span().start());
  }

  public QueryEdits edits(QueryBlock block) {
    return new QueryEdits(source, block);
  }

  /** The block that is the whole of a query; empty for a UNION and the like. */
  public Optional<QueryBlock> block(Query query) {
    return resolution.blocks().stream()
        .filter(each -> each.query().span().equals(query.span()))
        .filter(each -> query.body() instanceof QueryBody.Select)
        .findFirst();
  }

  /** The output columns of a query; of its first part, if it has several. Empty if not known. */
  public List<OutputColumn> outputs(Query query) {
    return resolution.blocks().stream()
        .filter(each -> query.span().contains(each.query().span()))
        .findFirst()
        .map(QueryBlock::outputs)
        .orElse(List.of());
  }

  /** Conditions put together with AND, as the block writes it. */
  public String conjunction(QueryBlock block, List<Expression> conditions) {
    return String.join(
        " " + edits(block).keyword("AND") + " ",
        conditions.stream().map(each -> Parentheses.asTerm(each, text(each))).toList());
  }

  /** What table uses go by, for a sentence. */
  public static String names(Collection<TableUse> uses) {
    return String.join(", ", uses.stream().map(TableUse::name).toList());
  }

  /** What the table is called whose rows a use has; for a query, what the use goes by. */
  static String tableName(TableUse use) {
    return use.table().map(Table::name).orElseGet(use::name);
  }

  /** The columns that a node names, of whatever block. */
  public Set<UseColumn> columns(Node node) {
    Set<UseColumn> found = new LinkedHashSet<>();
    node.preorder()
        .filter(ColumnName.class::isInstance)
        .map(name -> resolution.binding((ColumnName) name))
        .forEach(
            binding -> {
              if (binding instanceof Binding.ToColumn bound) {
                found.add(bound.column());
              } else if (binding instanceof Binding.ToMerged merged) {
                found.addAll(merged.columns());
              }
            });
    return found;
  }

  /** Whether every column that a node names is of a table use that stands within a place. */
  boolean namesOnlyWithin(Node node, Span place) {
    return columns(node).stream().allMatch(column -> place.contains(column.use().item().span()));
  }

  /** Whether a node names columns, and only of these table uses. */
  public boolean isOf(Node node, Collection<TableUse> uses) {
    Set<UseColumn> columns = columns(node);
    return !columns.isEmpty() && columns.stream().map(UseColumn::use).allMatch(uses::contains);
  }

  /** Whether a node names no column of these table uses. */
  public boolean isFreeOf(Node node, Collection<TableUse> uses) {
    return columns(node).stream().map(UseColumn::use).noneMatch(uses::contains);
  }

  /**
   * The text of a node, with the table before every column, so that it means the same elsewhere.
   */
  public String qualified(Node node) {
    List<Edit> edits = new ArrayList<>();
    node.preorder()
        .filter(ColumnName.class::isInstance)
        .map(ColumnName.class::cast)
        .filter(name -> name.qualifier().isEmpty())
        .forEach(
            name -> {
              if (resolution.binding(name) instanceof Binding.ToColumn bound
                  && bound.column().use().isNamed()) {
                int place = name.span().start() - node.span().start();
                edits.add(Edit.insert(place, bound.column().use().written() + "."));
              }
            });
    return Edit.apply(text(node), edits.stream().distinct().toList());
  }

  /** The same where it stands beside a sign: in parentheses, unless it is simple. */
  String operand(Expression value) {
    String text = qualified(value);
    boolean simple =
        value instanceof ColumnName || value instanceof Value.Literal || value instanceof Call;
    return simple ? text : Parentheses.around(text);
  }

  /** The text of a node once edits are made, all of which lie in it. */
  String edited(Node node, List<Edit> edits) {
    return Edit.apply(
        text(node), edits.stream().map(each -> each.shifted(-node.span().start())).toList());
  }

  /** Aliases that nothing in the query goes by. */
  public FreeAliases aliases() {
    return new FreeAliases(dialect(), this::isTaken);
  }

  /** Whether a table use of some block, a query of WITH or a table goes by this name. */
  public boolean isTaken(String name) {
    String key = catalog.tableKey(name);
    return resolution.blocks().stream()
            .flatMap(block -> Stream.concat(usesOf(block), commonTablesOf(block)))
            .anyMatch(each -> catalog.tableKey(each).equals(key))
        || catalog.table(name).isPresent();
  }

  private static Stream<String> usesOf(QueryBlock block) {
    return block.uses().stream().map(TableUse::name);
  }

  private Stream<String> commonTablesOf(QueryBlock block) {
    return block.commonTables().stream().map(each -> dialect().stored(each.name()));
  }
}
