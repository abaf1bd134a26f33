package io.lantrel.portability;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/** A query as it is looked through: its text, and what its names mean. */
final class Passage {

  private final SourceText source;
  private final Resolution resolution;
  private final Map<Node, QueryBlock> blocks = new IdentityHashMap<>();
  private final Map<CommonTable, Query> around = new IdentityHashMap<>();
  private final Set<Node> free = Collections.newSetFromMap(new IdentityHashMap<>());
  private final Set<Node> texts = Collections.newSetFromMap(new IdentityHashMap<>());

  Passage(SourceText source, Resolution resolution) {
    this.source = source;
    this.resolution = resolution;
    for (QueryBlock block : resolution.blocks()) {
      boolean ordered = block.query().body().equals(block.select());
      Stream<OrderItem> order = ordered ? block.query().orderBy().stream() : Stream.empty();
      Stream.concat(Stream.of(block.select()), order)
          .flatMap(Aggregates::withoutQueries)
          .forEach(node -> blocks.put(node, block));
    }
    resolution.result().query().preorder().forEach(this::note);
  }

  private void note(Node node) {
    if (node instanceof Query query) {
      query.with().forEach(table -> around.put(table, query));
    }
    if (node instanceof SelectItem.Output output && output.label() != null) {
      free.add(output.label());
    }
    boolean text =
        node instanceof ColumnName name
            && resolution.root().dialect().has(Dialect.Rule.UNKNOWN_QUOTED_NAME_IS_TEXT)
            && name.qualifier().isEmpty()
            && name.name().quoted()
            && binding(name) instanceof Binding.Opaque;
    if (text) {
      texts.add(node);
      free.add(((ColumnName) node).name());
    }
  }

  /** Whether a table was made with other capitals in its name. */
  boolean hasOtherCapitals(FromItem.TableName table) {
    Identifier name = table.name().get(table.name().size() - 1);
    return !name.quoted()
        && resolution.blocks().stream()
            .flatMap(block -> block.use(table).stream())
            .flatMap(use -> use.table().stream())
            .anyMatch(
                each ->
                    !each.name().equals(name.text()) && each.name().equalsIgnoreCase(name.text()));
  }

  /** Whether it names columns of a table, and not all of them. */
  boolean namesSomeColumns(FromItem.TableName table) {
    return table.alias() != null
        && !table.alias().columns().isEmpty()
        && resolution.blocks().stream()
            .flatMap(block -> block.use(table).stream())
            .flatMap(use -> use.table().stream())
            .anyMatch(each -> each.columns().size() != table.alias().columns().size());
  }

  /** Whether a text may stand where this name does. */
  boolean isFree(Identifier name) {
    return free.contains(name);
  }

  /** Whether it looks like a name and is a text, because nothing has that name. */
  boolean isTextInNameQuotes(Node node) {
    return texts.contains(node);
  }

  /** The query whose WITH defines a table. */
  Optional<Query> around(CommonTable table) {
    return Optional.ofNullable(around.get(table));
  }

  Resolution resolution() {
    return resolution;
  }

  /** How the query is written. */
  Dialect dialect() {
    return resolution.root().dialect();
  }

  /** A node as it is written. */
  String text(Node node) {
    return source.at(node.span());
  }

  /** What stands between two nodes; nothing if the reader put them in another order. */
  String between(Node left, Node right) {
    return right.span().start() < left.span().end() || left.span().isNowhere()
        ? ""
        : source.at(Span.between(left.span(), right.span()));
  }

  /** The block that a node stands in; empty for what a set operation is put in order by. */
  Optional<QueryBlock> block(Node node) {
    return Optional.ofNullable(blocks.get(node));
  }

  Binding binding(ColumnName name) {
    return resolution.binding(name);
  }

  /** Whether a value can be NULL, as far as its columns tell. */
  boolean canBeNull(Expression value) {
    return Aggregates.withoutQueries(value)
        .anyMatch(
            node ->
                (node instanceof Expression each && Value.Literal.isNull(each))
                    || node instanceof Value.ScalarQuery
                    || (node instanceof ColumnName name && isNullable(name)));
  }

  private boolean isNullable(ColumnName name) {
    Optional<QueryBlock> block = block(name);
    if (block.isPresent() && binding(name) instanceof Binding.ToOutput label) {
      return block.get().isNullable(label.output());
    }
    return block
        .flatMap(each -> each.column(name).filter(each::isOwn).map(own -> isNullable(own, each)))
        .orElse(false);
  }

  /** Of what a recursion gives only its start tells whether it can be NULL. */
  private static boolean isNullable(UseColumn column, QueryBlock block) {
    Optional<QueryBlock> start =
        column
            .use()
            .result()
            .filter(query -> query.parts().stream().anyMatch(QueryBlock::isRecursive))
            .map(query -> query.parts().get(0))
            .filter(first -> first.outputs().size() > column.position());
    return start.isPresent()
        ? !block.stepsThatFill(column.use()).isEmpty()
            || start.get().isNullable(start.get().outputs().get(column.position()))
        : block.isNullable(column);
  }

  TypeFamily family(Expression value) {
    return block(value).map(each -> each.type(value).family()).orElse(TypeFamily.OTHER);
  }

  /** Whether a value is a whole number, or a figure over whole numbers. */
  boolean isWhole(Expression value) {
    boolean figure =
        value instanceof Call.FunctionCall call
            && Set.of("sum", "min", "max", "abs").contains(call.key())
            && call.arguments().size() == 1
            && isWhole(call.arguments().get(0));
    return figure || family(value) == TypeFamily.INTEGER;
  }
}
