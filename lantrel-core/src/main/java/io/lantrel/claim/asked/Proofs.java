package io.lantrel.claim.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Constraint;
import io.lantrel.catalog.Constraints;
import io.lantrel.catalog.Table;
import io.lantrel.claim.kinds.Meaning;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Proofs of claims, and the constraints that they rest on: the query is resolved against the same
 * tables with fewer and fewer constraints, as long as the claim still follows. Which ones are
 * needed is found by halving (U. Junker: QuickXplain, AAAI 2004), so that it takes few attempts.
 */
final class Proofs {

  /** With so many attempts the work stays linear in the size of the query. */
  private static final int MOST_ATTEMPTS = 200;

  private final Query query;
  private final Resolution resolution;
  private final Constraints constraints;
  private int attempts;

  Proofs(Query query, Resolution resolution, Catalog catalog) {
    this.query = query;
    this.resolution = resolution;
    Set<String> names =
        query
            .preorder()
            .filter(Identifier.class::isInstance)
            .map(node -> catalog.dialect().key((Identifier) node))
            .collect(Collectors.toSet());
    Set<Table> tables = new LinkedHashSet<>();
    resolution.blocks().forEach(block -> collect(block, tables));
    this.constraints =
        new Constraints(
            catalog,
            tables,
            (table, column) ->
                names.contains(catalog.dialect().key(column)) || isOfKey(table, column));
  }

  private static boolean isOfKey(Table table, String column) {
    return table.keys().stream().anyMatch(key -> key.columns().contains(column));
  }

  private static void collect(QueryBlock block, Set<Table> tables) {
    block
        .uses()
        .forEach(
            use -> {
              use.table().ifPresent(tables::add);
              use.result().stream()
                  .map(ResolvedQuery::parts)
                  .flatMap(List::stream)
                  .forEach(part -> collect(part, tables));
            });
  }

  /** What a proof rests on; empty if there is none. */
  Optional<List<Constraint>> of(Meaning meaning) {
    if (!meaning.follows(resolution)) {
      return Optional.empty();
    }
    attempts = 0;
    if (follows(meaning, List.of())) {
      return Optional.of(List.of());
    }
    List<Constraint> needed = needed(meaning, List.of(), false, constraints.all());
    return Optional.of(follows(meaning, needed) ? inOrder(needed) : constraints.all());
  }

  private List<Constraint> inOrder(List<Constraint> needed) {
    Set<Constraint> wanted = new HashSet<>(needed);
    return constraints.all().stream().filter(wanted::contains).toList();
  }

  private boolean follows(Meaning meaning, List<Constraint> kept) {
    attempts++;
    Resolution weaker = Resolver.resolve(query, constraints.keeping(kept));
    return meaning.follows(weaker);
  }

  /**
   * Of the candidates those without which the claim does not follow from what is given; all of them
   * after too many attempts, which makes the proof rest on more than it needs.
   */
  private List<Constraint> needed(
      Meaning meaning, List<Constraint> given, boolean grown, List<Constraint> candidates) {
    if (grown && follows(meaning, given)) {
      return List.of();
    }
    if (candidates.size() <= 1 || attempts > MOST_ATTEMPTS) {
      return candidates;
    }
    int half = candidates.size() / 2;
    List<Constraint> first = candidates.subList(0, half);
    List<Constraint> second = candidates.subList(half, candidates.size());
    List<Constraint> ofSecond = needed(meaning, joined(given, first), true, second);
    List<Constraint> ofFirst = needed(meaning, joined(given, ofSecond), !ofSecond.isEmpty(), first);
    return joined(ofFirst, ofSecond);
  }

  private static List<Constraint> joined(List<Constraint> one, List<Constraint> other) {
    return Stream.concat(one.stream(), other.stream()).toList();
  }
}
