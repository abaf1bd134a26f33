package io.lantrel.sql.tree;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** A part of a statement. All nodes are immutable records; the first component is the place. */
public sealed interface Node
    permits Alias,
        CommonTable,
        CreateTable,
        CreateTable.ColumnDefinition,
        CreateTable.TableConstraint,
        Expression,
        Value.When,
        FromItem,
        Identifier,
        JoinCondition,
        Limit,
        OrderItem,
        Query,
        QueryBody,
        SelectItem,
        TypeName,
        Window,
        Window.Bound,
        Window.Frame,
        Window.Named {

  /** Where this node stands in the text that it was read from. */
  Span span();

  /** The nodes directly below this one, in the order of the text. */
  List<? extends Node> children();

  /** This node and all below it, parents first. */
  default Stream<Node> preorder() {
    List<Node> found = new ArrayList<>();
    Deque<Node> open = new ArrayDeque<>();
    open.push(this);
    while (!open.isEmpty()) {
      Node node = open.pop();
      found.add(node);
      List<? extends Node> below = node.children();
      for (int i = below.size() - 1; i >= 0; i--) {
        open.push(below.get(i));
      }
    }
    return found.stream();
  }

  /** The given nodes in one list, without what is absent; lists are taken apart. */
  static List<Node> nodes(@Nullable Object... parts) {
    List<Node> found = new ArrayList<>();
    for (Object part : parts) {
      if (part instanceof Node node) {
        found.add(node);
      } else if (part instanceof List<?> list) {
        list.forEach(element -> found.add((Node) element));
      }
    }
    return List.copyOf(found);
  }
}
