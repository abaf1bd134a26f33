package io.lantrel.compare.proof;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.catalog.Constraint;
import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Comparison;
import io.lantrel.compare.Verdict;
import io.lantrel.edit.OneQuery;
import io.lantrel.engine.Engine;
import io.lantrel.world.World;
import io.lantrel.world.WorldGenerator;
import io.lantrel.world.WorldQueries;
import io.lantrel.world.WorldQuery;
import io.lantrel.world.WorldQuery.Head;
import io.lantrel.world.WorldQuery.Step;
import io.lantrel.world.WorldQuery.Term;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.testng.annotations.Test;

/**
 * Queries made at random, each beside ones that differ from it in one place, in worlds that keep
 * their keys and references. Whatever is proven to be the same must be so in the rows.
 */
public class ProofInWorldsTest {

  /** {@code -Dlantrel.worlds=150} at full size: some 40,000 pairs. */
  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 8);

  private static final int QUERIES = 8;

  private static final List<Engine> ENGINES = List.of(Engine.DUCKDB, Engine.SQLITE, Engine.H2);

  /** What is shown of a query: all, one column, or that column without repetitions. */
  private static final List<String> SHOWN =
      List.of("%s", "SELECT q.c0 FROM (%s) AS q", "SELECT DISTINCT q.c0 FROM (%s) AS q");

  @Test
  public void whatIsProvenHoldsInTheRows() {
    int pairs = 0;
    int proven = 0;
    for (int seed = 0; seed < WORLDS; seed++) {
      World world = new WorldGenerator(5_000 + seed, true, true).world();
      Engine engine = ENGINES.get(seed % ENGINES.size());
      try (Lantrel lantrel = Lantrel.open(world.folder(), engine)) {
        // An empty table leaves the others with references to nothing.
        if (lantrel.survey().references().stream().anyMatch(each -> each.toNothing() > 0)) {
          continue;
        }
        WorldQueries queries = new WorldQueries(world, seed, engine.dialect());
        for (int i = 0; i < QUERIES; i++) {
          for (List<String> pair : pairs(queries.query())) {
            pairs++;
            proven += isProven(lantrel, pair, world) ? 1 : 0;
          }
        }
      }
    }
    System.out.println(pairs + " pairs of queries, " + proven + " proven to be the same");
    assertThat(proven).isGreaterThan(pairs / 100).isLessThan(pairs / 2);
  }

  private static boolean isProven(Lantrel lantrel, List<String> pair, World world) {
    Optional<OneQuery> first = OneQuery.ifAny(pair.get(0), lantrel.catalog());
    Optional<OneQuery> second = OneQuery.ifAny(pair.get(1), lantrel.catalog());
    if (first.isEmpty() || second.isEmpty() || pair.get(0).equals(pair.get(1))) {
      return false;
    }
    Optional<Proof> proof = Proof.of(first.get().resolution(), second.get().resolution());
    if (proof.isEmpty()) {
      return false;
    }
    Comparison comparison =
        lantrel
            .study(pair.get(0), WorldQuery.values())
            .compare(
                lantrel.study(pair.get(1), WorldQuery.values()),
                CompareOptions.USUAL.byRowsAlone());
    assertThat(comparison.verdict())
        .as(
            pair.get(0)
                + "\n"
                + pair.get(1)
                + "\n"
                + proof.get().constraints().stream().map(Constraint::words).toList()
                + "\n"
                + comparison
                + "\n"
                + world.words())
        .isNotEqualTo(Verdict.DIFFERENT);
    // An engine may not take what Lantrel reads.
    return comparison.verdict().isSame();
  }

  private static List<List<String>> pairs(WorldQuery made) {
    WorldQuery query =
        new WorldQuery(made.first(), made.steps(), made.where(), made.head(), List.of());
    List<List<String>> pairs = new ArrayList<>();
    for (WorldQuery other : variants(query).toList()) {
      for (String shown : SHOWN) {
        pairs.add(List.of(shown.formatted(query.sql()), shown.formatted(other.sql())));
      }
    }
    pairs.add(List.of(SHOWN.get(1).formatted(query.sql()), SHOWN.get(2).formatted(query.sql())));
    return pairs;
  }

  private static Stream<WorldQuery> variants(WorldQuery query) {
    List<WorldQuery> variants = new ArrayList<>();
    for (int i = 0; i < query.steps().size(); i++) {
      Step step = query.steps().get(i);
      for (String words : List.of("JOIN", "LEFT JOIN", "RIGHT JOIN")) {
        if (step.condition().startsWith("ON ")) {
          variants.add(with(query, i, new Step(words, step.use(), step.condition())));
        }
      }
      if (step.condition().startsWith("ON ")) {
        List<Term> where = new ArrayList<>(query.where());
        where.add(new Term("(" + step.condition().substring(3) + ")", Set.of()));
        Step cross = new Step("CROSS JOIN", step.use(), "");
        WorldQuery moved = with(query, i, cross);
        variants.add(new WorldQuery(moved.first(), moved.steps(), where, moved.head(), List.of()));
      }
      if (i > 0) {
        List<Step> steps = new ArrayList<>(query.steps());
        Collections.swap(steps, i, i - 1);
        variants.add(new WorldQuery(query.first(), steps, query.where(), query.head(), List.of()));
      }
    }
    if (query.steps().size() > 1) {
      List<Step> fewer = query.steps().subList(0, query.steps().size() - 1);
      variants.add(new WorldQuery(query.first(), fewer, query.where(), query.head(), List.of()));
    }
    for (int i = 0; i < query.where().size(); i++) {
      List<Term> fewer = new ArrayList<>(query.where());
      fewer.remove(i);
      variants.add(new WorldQuery(query.first(), query.steps(), fewer, query.head(), List.of()));
    }
    for (Head head : List.of(Head.PLAIN, Head.DISTINCT, Head.GROUPED)) {
      variants.add(new WorldQuery(query.first(), query.steps(), query.where(), head, List.of()));
    }
    return variants.stream();
  }

  private static WorldQuery with(WorldQuery query, int at, Step step) {
    List<Step> steps = new ArrayList<>(query.steps());
    steps.set(at, step);
    return new WorldQuery(query.first(), steps, query.where(), query.head(), List.of());
  }
}
