package io.lantrel.portability;

import io.lantrel.engine.Engine;
import io.lantrel.resolve.Resolution;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Identifier;
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
import java.util.stream.Collectors;
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

  /** The same of the engine alone that the query is written for: what it does not have. */
  public Portability(SourceText source, Resolution resolution) {
    this.passage = new Passage(source, resolution);
    this.here = resolution.root().dialect();
    this.others =
        Stream.of(Engine.values())
            .filter(each -> each.dialect() == here && each != Engine.OTHER)
            .toList();
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
        each.use()
            .of(node, passage)
            .flatMap(place -> judge(each, node, place))
            .ifPresent(found::add);
      }
      if (node instanceof Call.FunctionCall call) {
        Set<Engine> told =
            found.subList(before, found.size()).stream()
                .flatMap(each -> each.engines().stream())
                .collect(Collectors.toSet());
        functions(call, told).ifPresent(found::add);
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

  private Optional<Difference> judge(Construct construct, Node node, Span place) {
    String own = construct.senses().getOrDefault(here, "");
    List<Engine> without = new ArrayList<>();
    Map<String, List<Engine>> bySense = new LinkedHashMap<>();
    for (Engine each : others) {
      String sense = construct.senses().get(each.dialect());
      if (sense == null) {
        without.add(each);
      } else if (!sense.equals(own)) {
        bySense.computeIfAbsent(sense, key -> new ArrayList<>()).add(each);
      }
    }
    if (without.isEmpty() && bySense.isEmpty()) {
      return Optional.empty();
    }
    List<String> sentences = new ArrayList<>();
    if (!without.isEmpty()) {
      sentences.add(lack(without, construct.name()));
    }
    if (!bySense.isEmpty()) {
      List<String> clauses = new ArrayList<>();
      bySense.forEach(
          (sense, engines) ->
              clauses.add(
                  (clauses.isEmpty() ? "In " : "in ")
                      + titles(engines)
                      + ", "
                      + (clauses.isEmpty() ? construct.name() : "it")
                      + " "
                      + sense));
      if (!own.isEmpty()) {
        clauses.add("here it " + own);
      }
      sentences.add(String.join("; ", clauses) + ".");
    }
    List<Engine> concerned = new ArrayList<>(without);
    bySense.values().forEach(concerned::addAll);
    return Optional.of(
        difference(
            place, concerned, sentences, construct.form(), construct.mend().of(node, passage)));
  }

  private static Difference difference(
      Span place, List<Engine> engines, List<String> sentences, String form, List<Edit> mend) {
    List<String> all = new ArrayList<>(sentences);
    if (!form.isEmpty()) {
      all.add("Write " + form + ".");
    }
    return new Difference(place, Set.copyOf(engines), String.join(" ", all), mend);
  }

  private static String lack(List<Engine> without, String name) {
    return titles(without) + (without.size() == 1 ? " has no " : " have no ") + name + ".";
  }

  private static String titles(List<Engine> engines) {
    return Words.list(engines.stream().map(Engine::title).toList());
  }

  /**
   * A function that its own engine has and others do not; or that one of the others has, and not
   * its own.
   *
   * @param told engines of which it was told already that they have no such call
   */
  private Optional<Difference> functions(Call.FunctionCall call, Set<Engine> told) {
    if (call.name().size() != 1 || !isBuiltIn(call.key())) {
      return Optional.empty();
    }
    List<Engine> without =
        others.stream()
            .filter(each -> !told.contains(each) && !BuiltIns.has(each.dialect(), call.key()))
            .toList();
    if (without.isEmpty()) {
      return Optional.empty();
    }
    Identifier name = call.name().get(0);
    List<Edit> mend =
        BuiltIns.otherName(call.key())
            .map(other -> List.of(new Edit(name.span(), Words.like(passage.text(name), other))))
            .orElse(List.of());
    return Optional.of(
        difference(
            name.span(),
            without,
            List.of(lack(without, "function " + passage.text(name))),
            BuiltIns.form(call.key()),
            mend));
  }

  private boolean isBuiltIn(String function) {
    boolean ofOwn = others.stream().anyMatch(each -> each.dialect() == here);
    return ofOwn
        ? Stream.of(Engine.values()).anyMatch(each -> BuiltIns.has(each.dialect(), function))
        : BuiltIns.has(here, function);
  }
}
