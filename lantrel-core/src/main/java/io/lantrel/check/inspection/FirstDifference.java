package io.lantrel.check.inspection;

import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Optional;

/** Where two readings of one text part. */
final class FirstDifference {

  private FirstDifference() {}

  /**
   * The place in the first tree of the smallest part that the second does not have so; empty if
   * only names are spelt otherwise, since what they mean is for the catalog to say.
   */
  static Optional<Span> between(Node first, Node second) {
    Node one = first;
    Node other = second;
    while (true) {
      if (one instanceof Identifier && other instanceof Identifier) {
        return Optional.empty();
      }
      List<? extends Node> parts = one.children();
      List<? extends Node> others = other.children();
      int at = 0;
      while (at < parts.size() && at < others.size() && parts.get(at).equals(others.get(at))) {
        at++;
      }
      boolean within =
          parts.size() == others.size() && at < parts.size() && !parts.get(at).span().isNowhere();
      if (!within) {
        return Optional.of(one.span());
      }
      if (parts.get(at).getClass() != others.get(at).getClass()) {
        return Optional.of(parts.get(at).span());
      }
      one = parts.get(at);
      other = others.get(at);
    }
  }
}
