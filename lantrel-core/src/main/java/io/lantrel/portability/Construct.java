package io.lantrel.portability;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Span;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;

/**
 * Something that not every engine has, or that some take otherwise.
 *
 * @param name what it is called in a sentence
 * @param senses what it means to each dialect that has it; to the others it means nothing. All
 *     alike and empty if there is but one sense
 * @param form what to write in its place
 * @param use where a node is one
 * @param mend how a text is brought into the form
 */
record Construct(String name, Map<Dialect, String> senses, String form, Use use, Mend mend) {

  /** Brings a node into the form. */
  @FunctionalInterface
  interface Mend {
    /** The changes; empty if it cannot be done by changing the text. */
    List<Edit> of(Node node, Passage passage);
  }

  /** One that is not mended by changing the text. */
  Construct(String name, Map<Dialect, String> senses, String form, Use use) {
    this(name, senses, form, use, (node, passage) -> List.of());
  }

  /** The same, mended so. */
  Construct mendedBy(Mend other) {
    return new Construct(name, senses, form, use, other);
  }

  /** Recognizes it. */
  @FunctionalInterface
  interface Use {
    /** Where it stands, if the node is one. */
    Optional<Span> of(Node node, Passage passage);
  }

  /** Says of a node whether it is one; the node itself is the place then. */
  @FunctionalInterface
  interface Test<N extends Node> {
    boolean holds(N node, Passage passage);
  }

  /** One that some do not have. */
  static <N extends Node> Construct lacking(
      Set<Dialect> without, String name, String form, Class<N> sort, Test<? super N> test) {
    return lacking(without, name, form, at(sort, test));
  }

  /** The same at a place of its own. */
  static Construct lacking(Set<Dialect> without, String name, String form, Use use) {
    Map<Dialect, String> senses = new EnumMap<>(Dialect.class);
    EnumSet.complementOf(EnumSet.copyOf(without)).forEach(each -> senses.put(each, ""));
    return new Construct(name, senses, form, use);
  }

  /** One that only some have. */
  static <N extends Node> Construct only(
      Set<Dialect> with, String name, String form, Class<N> sort, Test<? super N> test) {
    return lacking(EnumSet.complementOf(EnumSet.copyOf(with)), name, form, sort, test);
  }

  /** The products whose dialects have a rule: a fact of both stands there alone. */
  static Set<Dialect> having(Dialect.Rule rule) {
    return products(dialect -> dialect.has(rule));
  }

  /** The products whose dialects do not have it. */
  static Set<Dialect> without(Dialect.Rule rule) {
    return products(dialect -> !dialect.has(rule));
  }

  private static Set<Dialect> products(Predicate<Dialect> test) {
    Set<Dialect> products = EnumSet.allOf(Dialect.class);
    products.removeIf(each -> each == Dialect.STANDARD || test.negate().test(each));
    return products;
  }

  /** One that some take otherwise than most. */
  static <N extends Node> Construct differing(
      String name,
      String usual,
      Set<Dialect> others,
      String unusual,
      String form,
      Class<N> sort,
      Test<? super N> test) {
    Map<Dialect, String> senses = new EnumMap<>(Dialect.class);
    for (Dialect each : Dialect.values()) {
      senses.put(each, others.contains(each) ? unusual : usual);
    }
    return new Construct(name, senses, form, at(sort, test));
  }

  /** The same, and some do not have it at all. */
  Construct missingIn(Set<Dialect> without) {
    Map<Dialect, String> fewer = new EnumMap<>(senses);
    without.forEach(fewer::remove);
    return new Construct(name, fewer, form, use, mend);
  }

  /** Recognizes nodes of a sort, at their own place. */
  static <N extends Node> Use at(Class<N> sort, Test<? super N> test) {
    return (node, passage) ->
        sort.isInstance(node) && test.holds(sort.cast(node), passage)
            ? Optional.of(node.span())
            : Optional.empty();
  }
}
