package io.lantrel.claim;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Constraint;
import io.lantrel.claim.kinds.Inquiry;
import io.lantrel.claim.kinds.Meanings;
import io.lantrel.claim.kinds.Outcome;
import io.lantrel.claim.kinds.ResultNames;
import io.lantrel.claim.kinds.ResultRows;
import io.lantrel.claim.text.ClaimReader;
import io.lantrel.engine.Database;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Limits;
import io.lantrel.engine.SampleData;
import io.lantrel.ledger.RowShare;
import io.lantrel.probe.Asker;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.ParameterValues;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.SyntaxException;
import io.lantrel.world.World;
import io.lantrel.world.WorldGenerator;
import io.lantrel.world.WorldQueries;
import io.lantrel.world.WorldQuery;
import io.lantrel.world.WorldQuery.Use;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.testng.annotations.Test;

/**
 * Queries made at random in worlds that keep their keys and references, and claims about them made
 * at random too. Whatever is proven is asked of the rows as well, and must be so.
 */
public class ClaimsInWorldsTest {

  /** {@code -Dlantrel.worlds=250} at full size: some 20,000 claims. */
  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 10);

  private static final int QUERIES = 12;

  private static final List<Engine> ENGINES = List.of(Engine.DUCKDB, Engine.SQLITE, Engine.H2);

  @Test
  public void whatIsProvenHoldsInTheRows() {
    int claims = 0;
    int proven = 0;
    int broken = 0;
    for (int seed = 0; seed < WORLDS; seed++) {
      World world = new WorldGenerator(9_000 + seed, true, true).world();
      Engine engine = ENGINES.get(seed % ENGINES.size());
      SampleData data = SampleData.load(world.folder(), engine, Limits.usual());
      try (Lantrel known = Lantrel.open(world.folder(), engine);
          Database rows = data.database()) {
        assertThat(rows.isLive()).isFalse();
        if (known.survey().references().stream().anyMatch(each -> each.toNothing() > 0)) {
          continue;
        }
        WorldQueries queries = new WorldQueries(world, seed, engine.dialect());
        for (int i = 0; i < QUERIES; i++) {
          WorldQuery query = queries.query();
          if (!isClean(query.sql(), known)) {
            continue;
          }
          String[] texts = texts(query, known).toArray(String[]::new);
          Verification found = verify(known, query.sql(), texts);
          for (CheckedClaim each : found.claims()) {
            claims++;
            broken += each.verdict() == Verdict.BROKEN ? 1 : 0;
            if (each.verdict() == Verdict.PROVEN) {
              proven++;
              assertNotBroken(each, query, data, world);
            }
          }
        }
      }
    }
    System.out.println(claims + " claims, " + proven + " proven, " + broken + " broken");
    assertThat(claims).isGreaterThan(WORLDS * 20);
    assertThat(proven).isGreaterThan(claims / 20);
    assertThat(broken).isGreaterThan(claims / 20);
  }

  /**
   * What a part of the rows breaks or shows is so of all of them, and what is proven is the same.
   */
  @Test
  public void whatAPartTellsIsSoOfAllRows() {
    Map<Verdict, Integer> told = new EnumMap<>(Verdict.class);
    for (int seed = 0; seed < WORLDS; seed++) {
      World world = new WorldGenerator(9_500 + seed, seed % 2 == 0, seed % 3 == 0).world();
      Engine engine = ENGINES.get(seed % ENGINES.size());
      try (Lantrel lantrel = Lantrel.open(world.folder(), engine)) {
        WorldQueries queries = new WorldQueries(world, seed, engine.dialect());
        for (int i = 0; i < QUERIES; i++) {
          WorldQuery query = queries.query();
          if (isClean(query.sql(), lantrel)) {
            String[] texts = texts(query, lantrel).toArray(String[]::new);
            RowShare share = RowShare.percent(20 + 20 * (i % 5));
            Study study = lantrel.study(query.sql(), WorldQuery.values());
            Verification part = study.verifyAbout(share, texts);
            Verification all = verify(lantrel, query.sql(), texts);
            part.claims().forEach(each -> told.merge(each.verdict(), 1, Integer::sum));
            assertAgree(part, all, share.of(1) == 1, query.sql() + "\n" + world.words());
          }
        }
      }
    }
    System.out.println("of parts: " + told);
    assertThat(told.keySet()).containsExactly(Verdict.values());
    assertThat(told).allSatisfy((verdict, count) -> assertThat(count).isGreaterThan(WORLDS));
  }

  private static void assertAgree(Verification part, Verification all, boolean whole, String of) {
    assertThat(part.problems()).as(of).isEqualTo(all.problems());
    for (int i = 0; i < part.claims().size(); i++) {
      CheckedClaim one = part.claims().get(i);
      CheckedClaim other = all.claims().get(i);
      boolean open = one.verdict() == Verdict.UNDECIDED;
      assertThat(one.verdict() == other.verdict() || (open && !whole) || isOfGroups(one))
          .as(one + "\n" + other + "\n" + of)
          .isTrue();
    }
  }

  /** All rows were not asked of, since a part of them tells nothing there. */
  private static boolean isOfGroups(CheckedClaim claim) {
    return claim.verdict() == Verdict.UNDECIDED && claim.reason().startsWith("only all rows tell");
  }

  private static Verification verify(Lantrel lantrel, String sql, String... claims) {
    Study study = lantrel.study(sql, WorldQuery.values());
    return study.verify(claims);
  }

  private static boolean isClean(String sql, Lantrel lantrel) {
    try {
      return resolution(sql, lantrel.catalog()).problems().isEmpty();
    } catch (SyntaxException unread) {
      return false;
    }
  }

  private static void assertNotBroken(
      CheckedClaim claim, WorldQuery query, SampleData data, World world) {
    Catalog catalog = data.catalog();
    ResultNames names = new ResultNames(resolution(query.sql(), catalog));
    Inquiry inquiry =
        new Meanings(names, catalog)
            .of(ClaimReader.read(claim.claim().text(), catalog.dialect()))
            .inquiry(new ResultRows(names, 0, catalog.dialect()));
    Outcome outcome =
        inquiry.conclusion().apply(new Asker(data.database()).ask(inquiry.questions()));
    assertThat(outcome.verdict())
        .as(
            claim.claim().text()
                + "\n"
                + query.sql()
                + "\n"
                + claim.constraints().stream().map(Constraint::words).toList()
                + "\n"
                + outcome
                + "\n"
                + world.words())
        .isNotEqualTo(Verdict.BROKEN);
  }

  private static Resolution resolution(String sql, Catalog catalog) {
    ParameterValues values = ParameterValues.of(WorldQuery.values());
    return Resolver.resolve(values.in(SqlReader.readQuery(sql, catalog.dialect())), catalog);
  }

  private static Stream<Use> uses(WorldQuery query) {
    return Stream.concat(
        Stream.of(query.first()), query.steps().stream().map(WorldQuery.Step::use));
  }

  private static List<String> texts(WorldQuery query, Lantrel lantrel) {
    Resolution resolution = resolution(query.sql(), lantrel.catalog());
    List<String> names =
        resolution.result().outputs().stream()
            .map(output -> lantrel.catalog().dialect().write(output.name()))
            .toList();
    List<String> texts = new ArrayList<>();
    for (Use use : uses(query).toList()) {
      texts.add("one row per " + use.alias());
      texts.add("every " + use.alias() + " appears");
      for (String name : names) {
        texts.add("total of " + name + " is number of " + use.alias());
        use.table()
            .columns()
            .forEach(
                column ->
                    texts.add(
                        "total of " + name + " is total of " + use.alias() + "." + column.name()));
      }
    }
    for (String name : names) {
      texts.add("one row per " + name);
      texts.add("no null in " + name);
      texts.add(name + " refers to " + query.first().table().name());
      texts.add(name + " between 1 and 3");
    }
    texts.add("one row per " + String.join(", ", names));
    texts.add("at most 1 row");
    texts.add("at least 1 row");
    texts.add("1 row");
    texts.add("no rows");
    return texts;
  }
}
