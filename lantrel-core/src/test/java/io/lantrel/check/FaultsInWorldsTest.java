package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.world.World;
import io.lantrel.world.World.Reference;
import io.lantrel.world.World.Table;
import io.lantrel.world.WorldGenerator;
import java.util.List;
import java.util.function.BiFunction;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * A mistake that is made on purpose, in worlds made at random, is found where the rows show it, and
 * the same query without it is clean. Whether they show it, the engine says, by another query.
 */
public class FaultsInWorldsTest {

  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 16);

  /**
   * A mistake along a reference: {@code c} refers to {@code p}.
   *
   * @param kind what is to be found
   * @param faulty the query with it
   * @param clean the query without it; empty if there is no such
   * @param shown counts what shows it; empty if every data does
   */
  record Fault(String kind, String faulty, String clean, String shown) {}

  @DataProvider
  static Object[][] faults() {
    return new Object[][] {
      {"inner join", (BiFunction<World, Reference, Fault>) (world, r) -> losing(r)},
      {
        "condition on what is optional",
        (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::cancelled
      },
      {"total over repeated rows", (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::total},
      {"no condition", (BiFunction<World, Reference, Fault>) (world, r) -> unconnected(r)},
      {"misspelt column", (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::misspelt},
      {"misspelt table", (BiFunction<World, Reference, Fault>) (world, r) -> noTable(r)},
      {"column of two tables", (BiFunction<World, Reference, Fault>) (world, r) -> ambiguous(r)},
      {"two of one name", (BiFunction<World, Reference, Fault>) (world, r) -> repeated(r)},
      {"name behind an alias", (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::hidden},
      {"joined further on", (BiFunction<World, Reference, Fault>) (world, r) -> tooEarly(r)},
      {"ungrouped", (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::ungrouped},
      {"aggregate in WHERE", (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::inWhere},
      {
        "compared with NULL",
        (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::comparedWithNull
      },
      {"a pattern compared", (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::pattern},
      {
        "count of what is missing",
        (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::countOfMissing
      },
      {"NOT IN with NULL", (BiFunction<World, Reference, Fault>) (world, r) -> notIn(r)},
      {"EXISTS without a link", (BiFunction<World, Reference, Fault>) (world, r) -> unlinked(r)},
      {
        "condition on what is kept",
        (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::onKeptSide
      },
      {
        "ON about another table",
        (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::missesTable
      },
      {"a missing partner", (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::partnerTest},
      {
        "LIMIT without an order",
        (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::unordered
      },
      {
        "lines repeated",
        (BiFunction<World, Reference, Fault>) (world, r) -> repeatedLines(world, r)
      },
      {
        "several rows for one value",
        (BiFunction<World, Reference, Fault>) (world, r) -> severalRows(world, r)
      },
      {"HAVING of rows", (BiFunction<World, Reference, Fault>) (world, r) -> having(r)},
      {"parts of a key with OR", (BiFunction<World, Reference, Fault>) (world, r) -> anyPart(r)},
      {"key with key", (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::keyWithKey},
      {
        "cancelled within a query in FROM",
        (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::cancelledInside
      },
      {"key below key", (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::keyBelowKey},
      {
        "share of repeated rows",
        (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::shareOfRepeated
      },
      {
        "outer join in EXISTS", (BiFunction<World, Reference, Fault>) (world, r) -> outerInExists(r)
      },
      {
        "values of several rows",
        (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::valuesOfSeveral
      },
      {"last value so far", (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::lastSoFar},
      {
        "constant in capitals",
        (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::constantInCapitals
      },
      {
        "a first row for all",
        (BiFunction<World, Reference, Fault>) FaultsInWorldsTest::firstRowForAll
      },
    };
  }

  @Test(dataProvider = "faults")
  public void areFoundWhereTheRowsShowThem(String name, BiFunction<World, Reference, Fault> maker) {
    int shown = 0;
    for (int seed = 0; seed < WORLDS; seed++) {
      World world = new WorldGenerator(1_000 + seed, true, seed % 2 == 0).world();
      try (Lantrel lantrel = Lantrel.open(world.folder())) {
        for (Reference reference : world.references()) {
          if (!reference.isOwn()) {
            shown += check(lantrel, maker.apply(world, reference), world) ? 1 : 0;
          }
        }
      }
    }
    assertThat(shown).as(name + " was shown").isGreaterThan(WORLDS / 3);
  }

  private static boolean check(Lantrel lantrel, Fault fault, World world) {
    if (fault.faulty().isEmpty()) {
      return false;
    }
    if (!fault.clean().isEmpty()) {
      assertThat(lantrel.study(fault.clean()).findings())
          .as(fault.clean() + "\n" + world.words())
          // A world made at random may have no row for a query, which is told.
          .noneMatch(each -> each.severity() != Severity.NOTE && each.kind() != Kind.NEVER_A_ROW);
    }
    boolean shown = fault.shown().isEmpty() || lantrel.study(fault.shown()).result(1).figure(0) > 0;
    Study study = lantrel.study(fault.faulty());
    List<String> found = study.findings().stream().map(each -> each.kind().id()).toList();
    if (shown) {
      assertThat(found).as(fault.faulty() + "\n" + world.words()).contains(fault.kind());
    }
    return shown;
  }

  // ---- the mistakes ----

  private static String on(Reference r) {
    return " ON " + r.condition("c", "p");
  }

  private static String label(World world, String table, String alias) {
    return alias + "." + world.table(table).label();
  }

  private static String keys(World world, String table, String alias) {
    return world.table(table).key().stream()
        .map(each -> alias + "." + each)
        .collect(Collectors.joining(", "));
  }

  private static String key(Reference r, String alias) {
    return alias + "." + r.targetColumns().get(0);
  }

  private static Fault losing(Reference r) {
    String from = r.from() + " c %s " + r.target() + " p" + on(r);
    String show = "SELECT c." + r.columns().get(0) + " FROM ";
    return new Fault(
        "rows-without-partner",
        show + from.formatted("JOIN"),
        show + from.formatted("LEFT JOIN"),
        "SELECT COUNT(*) AS n FROM "
            + from.formatted("LEFT JOIN")
            + " WHERE "
            + key(r, "p")
            + " IS NULL");
  }

  private static Fault cancelled(World world, Reference r) {
    String from = " FROM " + r.from() + " c LEFT JOIN " + r.target() + " p" + on(r);
    String size = "p." + r.target() + "_size";
    return new Fault(
        "outer-join-cancelled",
        "SELECT " + label(world, r.from(), "c") + from + " WHERE " + size + " > 0",
        "SELECT " + label(world, r.from(), "c") + from + " AND " + size + " > 0",
        "SELECT COUNT(*) AS n" + from + " WHERE " + key(r, "p") + " IS NULL");
  }

  private static Fault total(World world, Reference r) {
    String size = "p." + r.target() + "_size";
    String from = " FROM " + r.target() + " p LEFT JOIN " + r.from() + " c" + on(r);
    Table target = world.table(r.target());
    String keys = String.join(", ", target.key().stream().map(each -> "p." + each).toList());
    return new Fault(
        "repeated-in-total",
        "SELECT SUM(" + size + ") AS total" + from,
        "SELECT SUM(" + size + ") AS total FROM " + r.target() + " p",
        "SELECT COUNT(*) AS n FROM (SELECT "
            + keys
            + from
            + " WHERE "
            + size
            + " > 0 GROUP BY "
            + keys
            + " HAVING COUNT(*) > 1) AS several");
  }

  private static Fault unconnected(Reference r) {
    String show = "SELECT c." + r.columns().get(0) + " FROM " + r.from() + " c";
    return new Fault(
        "cross-product",
        show + ", " + r.target() + " p",
        show + " LEFT JOIN " + r.target() + " p" + on(r),
        "SELECT COUNT(*) AS n FROM (SELECT 1 AS one FROM "
            + r.from()
            + " c WHERE (SELECT COUNT(*) FROM "
            + r.target()
            + ") > 1) AS several");
  }

  private static Fault misspelt(World world, Reference r) {
    String label = label(world, r.from(), "c");
    String from = " FROM " + r.from() + " c LEFT JOIN " + r.target() + " p" + on(r);
    return new Fault(
        "unknown-column", "SELECT " + label + "l" + from, "SELECT " + label + from, "");
  }

  private static Fault noTable(Reference r) {
    String show = "SELECT c." + r.columns().get(0) + " FROM ";
    return new Fault("unknown-table", show + r.from() + "s c", show + r.from() + " c", "");
  }

  private static Fault ambiguous(Reference r) {
    if (!r.columns().equals(r.targetColumns())) {
      return new Fault("", "", "", "");
    }
    String from = " FROM " + r.from() + " c LEFT JOIN " + r.target() + " p" + on(r);
    String column = r.columns().get(0);
    return new Fault(
        "ambiguous-column", "SELECT " + column + from, "SELECT c." + column + from, "");
  }

  private static Fault repeated(Reference r) {
    String from = " FROM " + r.from() + " c LEFT JOIN " + r.target() + " ";
    String show = "SELECT c." + r.columns().get(0);
    return new Fault(
        "repeated-alias",
        show + from + "c ON " + r.condition("c", "c"),
        show + from + "p" + on(r),
        "");
  }

  private static Fault hidden(World world, Reference r) {
    String from = " FROM " + r.from() + " c LEFT JOIN " + r.target() + " p" + on(r);
    return new Fault(
        "hidden-by-alias",
        "SELECT " + label(world, r.target(), r.target()) + from,
        "SELECT " + label(world, r.target(), "p") + from,
        "");
  }

  private static Fault tooEarly(Reference r) {
    String show = "SELECT c." + r.columns().get(0) + " FROM " + r.from() + " c LEFT JOIN ";
    String more = r.target() + " q ON q." + r.targetColumns().get(0) + " = ";
    String last = " LEFT JOIN " + r.target() + " p" + on(r);
    return new Fault("not-visible-yet", show + more + key(r, "p") + last, "", "");
  }

  private static Fault ungrouped(World world, Reference r) {
    String label = label(world, r.from(), "c");
    String from = ", COUNT(*) AS n FROM " + r.from() + " c GROUP BY ";
    String day = "c." + r.columns().get(0);
    return new Fault(
        "ungrouped-column",
        "SELECT " + label + from + day,
        "SELECT " + label + from + label + ", " + keys(world, r.from(), "c"),
        "");
  }

  private static Fault inWhere(World world, Reference r) {
    String label = label(world, r.from(), "c");
    String show = "SELECT " + label + ", COUNT(*) AS n FROM " + r.from() + " c ";
    return new Fault(
        "aggregate-in-where",
        show + "WHERE COUNT(*) > 1 GROUP BY " + label,
        show + "GROUP BY " + label + ", " + keys(world, r.from(), "c") + " HAVING COUNT(*) > 0",
        "");
  }

  private static Fault comparedWithNull(World world, Reference r) {
    String show = "SELECT " + label(world, r.from(), "c") + " FROM " + r.from() + " c WHERE c.";
    String column = r.columns().get(0);
    return new Fault(
        "null-comparison", show + column + " = NULL", show + column + " IS NOT NULL", "");
  }

  private static Fault pattern(World world, Reference r) {
    String label = label(world, r.from(), "c");
    String show = "SELECT " + label + " FROM " + r.from() + " c WHERE " + label;
    return new Fault("wildcard-outside-like", show + " = 'a %'", show + " NOT LIKE 'zz%'", "");
  }

  private static Fault countOfMissing(World world, Reference r) {
    String keys = keys(world, r.target(), "p");
    String from = " AS n FROM " + r.target() + " p LEFT JOIN " + r.from() + " c" + on(r);
    return new Fault(
        "count-of-missing",
        "SELECT " + keys + ", COUNT(*)" + from + " GROUP BY " + keys,
        "SELECT " + keys + ", COUNT(c." + r.columns().get(0) + ")" + from + " GROUP BY " + keys,
        "SELECT COUNT(*)" + from + " WHERE c." + r.columns().get(0) + " IS NULL");
  }

  private static Fault notIn(Reference r) {
    if (r.columns().size() > 1) {
      return new Fault("", "", "", "");
    }
    String column = "c." + r.columns().get(0);
    String show = "SELECT " + key(r, "p") + " FROM " + r.target() + " p WHERE ";
    String inner = " NOT IN (SELECT " + column + " FROM " + r.from() + " c";
    return new Fault(
        "not-in-null",
        show + key(r, "p") + inner + ")",
        "",
        "SELECT COUNT(*) AS n FROM " + r.from() + " c WHERE " + column + " IS NULL");
  }

  private static Fault anyPart(Reference r) {
    if (r.columns().size() < 2) {
      return new Fault("", "", "", "");
    }
    String show = "SELECT c." + r.columns().get(0) + " FROM " + r.from() + " c LEFT JOIN ";
    String or = r.condition("c", "p").replace(" AND ", " OR ");
    return new Fault(
        "loose-or", show + r.target() + " p ON " + or, show + r.target() + " p" + on(r), "");
  }

  private static Fault unlinked(Reference r) {
    String show =
        "SELECT " + key(r, "p") + " FROM " + r.target() + " p WHERE EXISTS (SELECT 1 FROM ";
    return new Fault("uncorrelated-exists", show + r.from() + " c)", "", "");
  }

  private static Fault onKeptSide(World world, Reference r) {
    String size = "c." + r.from() + "_size > 5";
    String from = " FROM " + r.from() + " c LEFT JOIN " + r.target() + " p" + on(r);
    String show = "SELECT " + label(world, r.from(), "c") + ", " + key(r, "p") + " AS up";
    return new Fault(
        "filter-on-kept-side",
        show + from + " AND " + size,
        show + from + " WHERE " + size,
        "SELECT COUNT(*) AS n FROM "
            + r.from()
            + " c WHERE c."
            + r.from()
            + "_size <= 5 OR c."
            + r.from()
            + "_size IS NULL");
  }

  private static Fault missesTable(World world, Reference r) {
    String show = "SELECT " + label(world, r.from(), "c") + ", " + key(r, "p") + " AS up FROM ";
    String from = r.from() + " c LEFT JOIN " + r.target() + " p ON ";
    return new Fault(
        "condition-misses-table",
        show + from + "c." + r.from() + "_size > 0",
        show + from + r.condition("c", "p"),
        "SELECT COUNT(*) - 1 AS n FROM " + r.target() + " p");
  }

  private static Fault partnerTest(World world, Reference r) {
    String from = " FROM " + r.target() + " p LEFT JOIN " + r.from() + " c" + on(r) + " WHERE ";
    String size = "c." + r.from() + "_size IS NULL";
    String own = "c." + r.columns().get(0);
    return new Fault(
        "partner-test-on-nullable",
        "SELECT " + keys(world, r.target(), "p") + from + size,
        "SELECT " + keys(world, r.target(), "p") + from + own + " IS NULL",
        "SELECT COUNT(*) AS n" + from + size + " AND " + own + " IS NOT NULL");
  }

  private static Fault unordered(World world, Reference r) {
    String show = "SELECT " + label(world, r.from(), "c") + " FROM " + r.from() + " c ";
    return new Fault(
        "unordered-limit",
        show + "LIMIT 1",
        show + "ORDER BY " + keys(world, r.from(), "c") + " LIMIT 1",
        "SELECT COUNT(*) - 1 AS n FROM " + r.from() + " c");
  }

  private static String several(World world, Reference r) {
    String keys = keys(world, r.target(), "p");
    return "SELECT COUNT(*) AS n FROM (SELECT "
        + keys
        + " FROM "
        + r.target()
        + " p JOIN "
        + r.from()
        + " c"
        + on(r)
        + " GROUP BY "
        + keys
        + " HAVING COUNT(*) > 1) AS several";
  }

  private static Fault repeatedLines(World world, Reference r) {
    String show = "SELECT " + keys(world, r.target(), "p") + " FROM " + r.target() + " p ";
    return new Fault(
        "rows-repeated",
        show + "JOIN " + r.from() + " c" + on(r),
        show
            + "WHERE EXISTS (SELECT 1 FROM "
            + r.from()
            + " c WHERE "
            + r.condition("c", "p")
            + ")",
        several(world, r));
  }

  private static Fault severalRows(World world, Reference r) {
    String size = "c." + r.from() + "_size";
    String inner = " FROM " + r.from() + " c WHERE " + r.condition("c", "p") + ") AS x FROM ";
    String show = "SELECT " + key(r, "p") + ", (SELECT ";
    return new Fault(
        "subquery-many-rows",
        show + size + inner + r.target() + " p",
        show + "MAX(" + size + ")" + inner + r.target() + " p",
        several(world, r));
  }

  private static Fault having(Reference r) {
    String column = "c." + r.columns().get(0);
    String show = "SELECT " + column + ", COUNT(*) AS n FROM " + r.from() + " c ";
    String test = column + " IS NOT NULL";
    return new Fault(
        "having-without-aggregate",
        show + "GROUP BY " + column + " HAVING " + test,
        show + "WHERE " + test + " GROUP BY " + column,
        "");
  }

  private static Fault keyWithKey(World world, Reference r) {
    List<String> own = world.table(r.from()).key();
    boolean fits =
        own.size() == 1 && r.targetColumns().size() == 1 && !own.get(0).equals(r.columns().get(0));
    if (!fits) {
      return new Fault("", "", "", "");
    }
    String show = "SELECT c." + own.get(0) + " FROM " + r.from() + " c LEFT JOIN " + r.target();
    return new Fault(
        "not-a-reference", show + " p ON c." + own.get(0) + " = " + key(r, "p"), "", "");
  }

  private static Fault cancelledInside(World world, Reference r) {
    String inner =
        "SELECT "
            + label(world, r.from(), "c")
            + " AS what, p."
            + r.target()
            + "_size AS amount FROM "
            + r.from()
            + " c LEFT JOIN "
            + r.target()
            + " p"
            + on(r);
    String show = "SELECT q.what FROM (" + inner;
    return new Fault(
        "outer-join-cancelled",
        show + ") q WHERE q.amount > 0",
        show + " AND p." + r.target() + "_size > 0) q",
        "");
  }

  private static Fault keyBelowKey(World world, Reference r) {
    Fault joined = keyWithKey(world, r);
    String show =
        "SELECT p." + r.targetColumns().get(0) + " FROM " + r.target() + " p EXCEPT SELECT c.";
    return joined.faulty().isEmpty()
        ? joined
        : new Fault(
            "not-a-reference",
            show + world.table(r.from()).key().get(0) + " FROM " + r.from() + " c",
            show + r.columns().get(0) + " FROM " + r.from() + " c",
            "");
  }

  private static Fault shareOfRepeated(World world, Reference r) {
    boolean one = world.table(r.target()).key().size() == 1;
    String share = " * 100.0 / (SELECT COUNT(*) FROM " + r.target() + ") AS percent FROM ";
    String from = r.target() + " p JOIN " + r.from() + " c" + on(r);
    return new Fault(
        "repeated-in-total",
        "SELECT COUNT(*)" + share + from,
        one ? "SELECT COUNT(DISTINCT " + keys(world, r.target(), "p") + ")" + share + from : "",
        several(world, r));
  }

  private static Fault outerInExists(Reference r) {
    String show =
        "SELECT "
            + key(r, "p")
            + " FROM "
            + r.target()
            + " p WHERE EXISTS (SELECT 1 FROM "
            + r.target()
            + " q %s "
            + r.from()
            + " c ON "
            + r.condition("c", "q")
            + " AND c."
            + r.from()
            + "_size > 1 WHERE "
            + r.targetColumns().stream()
                .map(each -> "q." + each + " = p." + each)
                .collect(Collectors.joining(" AND "))
            + ")";
    return new Fault("idle-table", show.formatted("LEFT JOIN"), show.formatted("JOIN"), "");
  }

  private static Fault valuesOfSeveral(World world, Reference r) {
    String by = "c." + r.columns().get(0);
    String size = "c." + r.from() + "_size";
    String what = label(world, r.from(), "c");
    String from = " FROM " + r.from() + " c ";
    String most = " OVER (PARTITION BY " + by + ")";
    String show = "SELECT " + by + ", MAX(" + size + ") AS biggest, MAX(" + what + ") AS ";
    return new Fault(
        "values-of-several-rows",
        show + "biggest_what" + from + "GROUP BY " + by,
        show + "last_in_order" + from + "GROUP BY " + by,
        "SELECT COUNT(*) AS n FROM (SELECT g, MAX(CASE WHEN s = ms AND w = mw THEN 1 ELSE 0 END) AS"
            + " hit, MAX(ms) AS ms, MAX(mw) AS mw FROM (SELECT "
            + (by + " AS g, " + size + " AS s, " + what + " AS w, MAX(" + size + ")" + most)
            + (" AS ms, MAX(" + what + ")" + most + " AS mw" + from)
            + ") x GROUP BY g) y WHERE hit = 0 AND ms IS NOT NULL AND mw IS NOT NULL");
  }

  private static Fault lastSoFar(World world, Reference r) {
    String window =
        "(PARTITION BY c." + r.columns().get(0) + " ORDER BY " + keys(world, r.from(), "c");
    String show = "SELECT " + keys(world, r.from(), "c") + ", LAST_VALUE(";
    String last = label(world, r.from(), "c") + ") OVER " + window;
    String from = ") AS latest FROM " + r.from() + " c";
    return new Fault(
        "last-so-far",
        show + last + from,
        show + last + " ROWS BETWEEN UNBOUNDED PRECEDING AND UNBOUNDED FOLLOWING" + from,
        "");
  }

  private static Fault constantInCapitals(World world, Reference r) {
    String what = label(world, r.from(), "c");
    String show = "SELECT " + keys(world, r.from(), "c") + " FROM " + r.from() + " c WHERE ";
    return new Fault(
        "nearly-equal",
        show + what + " = 'A 1 '",
        show + what + " = 'a 1'",
        "SELECT COUNT(*) AS n FROM " + r.from() + " c WHERE " + what + " = 'a 1'");
  }

  private static Fault firstRowForAll(World world, Reference r) {
    String show =
        "SELECT "
            + keys(world, r.target(), "p")
            + ", (SELECT "
            + label(world, r.from(), "c")
            + " FROM ";
    String order = " ORDER BY " + keys(world, r.from(), "c") + " LIMIT 1) AS one FROM ";
    boolean once =
        world.references().stream()
                .filter(each -> each.from().equals(r.from()) && each.target().equals(r.target()))
                .count()
            == 1;
    return once
        ? new Fault(
            "uncorrelated-exists",
            show + r.from() + " c" + order + r.target() + " p",
            show + r.from() + " c WHERE " + r.condition("c", "p") + order + r.target() + " p",
            "")
        : new Fault("", "", "", "");
  }
}
