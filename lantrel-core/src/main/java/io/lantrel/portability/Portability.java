package io.lantrel.portability;

import io.lantrel.engine.Engine;
import io.lantrel.resolve.Resolution;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/** Finds what of a query other engines lack or take otherwise. */
public final class Portability {

  private static final List<Construct> CONSTRUCTS =
      Stream.of(
              FromConstructs.ALL,
              QueryConstructs.ALL,
              SignConstructs.ALL,
              ValueConstructs.ALL,
              NameConstructs.ALL)
          .flatMap(List::stream)
          .toList();

  private final Passage passage;
  private final Dialect here;
  private final List<Engine> others;
  private final Set<Node> continued = Collections.newSetFromMap(new IdentityHashMap<>());

  /**
   * @param source the text of the query
   * @param resolution what its names mean
   * @param engines on which it shall run as well; those of its own dialect are passed over
   */
  public Portability(SourceText source, Resolution resolution, Set<Engine> engines) {
    this.passage = new Passage(source, resolution);
    this.here = resolution.root().dialect();
    this.others = engines.stream().filter(each -> each.dialect() != here).sorted().toList();
  }

  /** What is found, in the order of the text. */
  public List<Difference> differences(Query query) {
    List<Difference> found = new ArrayList<>();
    if (others.isEmpty()) {
      return found;
    }
    for (Node node : (Iterable<Node>) query.preorder()::iterator) {
      if (node.span().isNowhere()) {
        continue;
      }
      if (continued.contains(node)) {
        continueInto(node);
        continue;
      }
      int before = found.size();
      for (Construct each : CONSTRUCTS) {
        each.use().of(node, passage).ifPresent(place -> found.addAll(judge(each, node, place)));
      }
      if (node instanceof Call.FunctionCall call) {
        functions(call).ifPresent(found::add);
      }
      if (found.size() > before) {
        continueInto(node);
      }
    }
    return found;
  }

  /** What is told of {@code a || b || c} is not told of {@code a || b} again. */
  private void continueInto(Node node) {
    if (node instanceof Value.Arithmetic outer) {
      for (Node part : List.of(outer.left(), outer.right())) {
        if (part instanceof Value.Arithmetic inner && inner.operator() == outer.operator()) {
          continued.add(inner);
        }
      }
    }
  }

  private List<Difference> judge(Construct construct, Node node, Span place) {
    List<Difference> found = new ArrayList<>();
    String own = construct.senses().getOrDefault(here, "");
    List<Edit> mend = construct.mend().of(node, passage);
    List<Engine> without =
        others.stream().filter(each -> !construct.senses().containsKey(each.dialect())).toList();
    if (!without.isEmpty()) {
      found.add(lack(place, without, construct.name(), construct.form(), mend));
    }
    Map<String, List<Engine>> bySense = new LinkedHashMap<>();
    for (Engine each : others) {
      String sense = construct.senses().get(each.dialect());
      if (sense != null && !sense.equals(own)) {
        bySense.computeIfAbsent(sense, key -> new ArrayList<>()).add(each);
      }
    }
    bySense.forEach(
        (sense, engines) ->
            found.add(
                new Difference(
                    place,
                    Set.copyOf(engines),
                    "In "
                        + titles(engines)
                        + ", "
                        + construct.name()
                        + " "
                        + sense
                        + (own.isEmpty() ? "" : "; here it " + own)
                        + ". Write "
                        + construct.form()
                        + ".",
                    mend)));
    return found;
  }

  private static Difference lack(
      Span place, List<Engine> without, String name, String form, List<Edit> mend) {
    return new Difference(
        place,
        Set.copyOf(without),
        titles(without)
            + (without.size() == 1 ? " has no " : " have no ")
            + name
            + (form.isEmpty() ? "." : ". Write " + form + "."),
        mend);
  }

  private static String titles(List<Engine> engines) {
    return Words.list(engines.stream().map(Engine::title).toList());
  }

  /** A function that its own engine has and others do not. */
  private Optional<Difference> functions(Call.FunctionCall call) {
    if (call.name().size() != 1 || !BuiltIns.has(here, call.key())) {
      return Optional.empty();
    }
    List<Engine> without =
        others.stream().filter(each -> !BuiltIns.has(each.dialect(), call.key())).toList();
    return without.isEmpty()
        ? Optional.empty()
        : Optional.of(
            lack(
                call.name().get(0).span(),
                without,
                "function " + passage.text(call.name().get(0)),
                BuiltIns.form(call.key()),
                BuiltIns.otherName(call.key())
                    .map(
                        other ->
                            List.of(
                                new Edit(
                                    call.name().get(0).span(),
                                    Words.like(passage.text(call.name().get(0)), other))))
                    .orElse(List.of())));
  }
}
