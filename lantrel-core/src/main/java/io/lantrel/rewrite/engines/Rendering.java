package io.lantrel.rewrite.engines;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.rewrite.Caveat;
import io.lantrel.rewrite.forms.Reading;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** A query written anew from the leaves up: each node as it was, but for what its rules change. */
final class Rendering {

  /** Rules of one sort of node. */
  interface Rules {
    /** A node in the other product's words; empty if these are its own. */
    Optional<String> write(Node node);
  }

  private final Reading reading;
  private final Dialect to;
  private final List<Rules> rules;
  private final List<Caveat> caveats = new ArrayList<>();

  Rendering(Reading reading, Dialect to) {
    this.reading = reading;
    this.to = to;
    this.rules =
        List.of(
            new TypedRules(this),
            new NameRules(this),
            new ConstantRules(this),
            new SignRules(this),
            new FunctionRules(this),
            new CastRules(this),
            new QueryRules(this),
            new OrderRules(this));
  }

  Dialect from() {
    return reading.dialect();
  }

  Dialect to() {
    return to;
  }

  Reading reading() {
    return reading;
  }

  List<Caveat> caveats() {
    return caveats;
  }

  /** Says once on which data the two products do not agree. */
  void caveat(String words) {
    Caveat caveat = new Caveat(words, "", "");
    if (!caveats.contains(caveat)) {
      caveats.add(caveat);
    }
  }

  /** The whole text, with what stands around the query. */
  String all() {
    Query query = reading.query();
    Edit edit = new Edit(query.span(), write(query));
    return Edit.apply(reading.source().text(), List.of(edit));
  }

  /** The innermost block around a node. */
  QueryBlock block(Node node) {
    return reading.resolution().blocks().stream()
        .filter(each -> each.query().span().contains(node.span()))
        .min(Comparator.comparingInt(each -> each.query().span().length()))
        .orElseGet(() -> reading.resolution().root());
  }

  /** A node in the other product's words. */
  String write(Node node) {
    for (Rules each : rules) {
      Optional<String> written = each.write(node);
      if (written.isPresent()) {
        return isInParentheses(node) ? "(" + written.get() + ")" : written.get();
      }
    }
    return asItWas(node, List.of());
  }

  /** The node's own text around its parts. */
  String asItWas(Node node, List<Edit> further) {
    // What is put in before a part comes first; in their order they are sorted by place.
    List<Edit> edits = new ArrayList<>();
    further.forEach(edit -> edits.add(within(node, edit)));
    for (Node part : parts(node)) {
      String now = write(part);
      if (!now.equals(reading.text(part))) {
        edits.add(within(node, new Edit(part.span(), now)));
      }
    }
    return Edit.apply(reading.text(node), edits);
  }

  private static Edit within(Node node, Edit edit) {
    int start = edit.span().start() - node.span().start();
    return new Edit(new Span(start, start + edit.span().length()), edit.text());
  }

  /** The nodes below that stand in the text, each at a place of its own. */
  private static List<Node> parts(Node node) {
    List<Node> parts = new ArrayList<>();
    int end = node.span().start();
    List<Node> sorted =
        node.children().stream()
            .map(Node.class::cast)
            .sorted(Comparator.comparingInt(each -> each.span().start()))
            .toList();
    for (Node each : sorted) {
      boolean there = each.span().length() > 0 && node.span().contains(each.span());
      if (there && each.span().start() >= end) {
        parts.add(each);
        end = each.span().end();
      }
    }
    return parts;
  }

  /** Whether the parentheses around a value were taken for a part of it. */
  private boolean isInParentheses(Node node) {
    List<Node> parts = parts(node);
    boolean value =
        node instanceof Condition.Like
            || node instanceof Condition.IsDistinct
            || node instanceof Condition.Comparison
            || node instanceof Value.Arithmetic;
    return value && !parts.isEmpty() && parts.get(0).span().start() > node.span().start();
  }
}
