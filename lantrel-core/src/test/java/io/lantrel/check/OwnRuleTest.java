package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import io.lantrel.catalog.Catalog;
import io.lantrel.engine.Engine;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import java.util.List;
import java.util.Set;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What a project wants beside the kinds that are always looked for. */
public class OwnRuleTest {

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  /** Commas between tables are forbidden; whoever writes one gets a CROSS JOIN. */
  private static List<OwnRule.Breach> commas(SourceText source, Query query, Catalog catalog) {
    return query
        .preorder()
        .filter(FromItem.Join.class::isInstance)
        .map(FromItem.Join.class::cast)
        .filter(join -> join.kind() == JoinKind.COMMA)
        .map(
            join ->
                new OwnRule.Breach(
                    join.keyword(),
                    Severity.NOTE,
                    "Say JOIN.",
                    List.of(new Edit(join.keyword(), " CROSS JOIN"))))
        .toList();
  }

  private Study study(String sql, CheckRules rules) {
    Study study = lantrel.judgingBy(rules).study(sql);
    assertThat(study.findings()).isNotNull();
    lantrel.judgingBy(CheckRules.USUAL);
    return study;
  }

  private static List<Finding> own(Study study) {
    return study.findings().stream().filter(each -> each.kind() == Kind.OWN_RULE).toList();
  }

  private static final String COMMA =
      "SELECT s.name, r.name AS river FROM station s, river r WHERE r.id = s.river_id";

  @Test
  public void aBreachIsAFindingWithATriedRepair() {
    Finding finding =
        own(study(COMMA, CheckRules.USUAL.and(OwnRuleTest::commas))).stream()
            .findFirst()
            .orElseThrow();
    assertThat(finding.severity()).isEqualTo(Severity.NOTE);
    assertThat(finding.place().start()).isEqualTo(COMMA.indexOf(", river r"));
    Repair repair = finding.repair().orElseThrow();
    assertThat(repair.sql()).contains("station s CROSS JOIN river r");
    assertThat(repair.rowsAfter()).hasValue(13);
    assertThat(own(study(COMMA, CheckRules.USUAL))).isEmpty();
  }

  @Test
  public void aRepairThatDoesNotMendIsNotOffered() {
    OwnRule stubborn =
        (source, query, catalog) ->
            List.of(
                new OwnRule.Breach(
                    query.span(), Severity.WARNING, "No.", List.of(Edit.insert(0, "-- no\n"))));
    Finding finding = own(study(COMMA, CheckRules.USUAL.and(stubborn))).get(0);
    assertThat(finding.repair()).isEmpty();
  }

  @Test
  public void itIsJudgedAndAcceptedLikeAnyOther() {
    CheckRules strict =
        CheckRules.USUAL.and(OwnRuleTest::commas).with(Kind.OWN_RULE, Severity.WARNING);
    assertThat(own(study(COMMA, strict)).get(0).severity()).isEqualTo(Severity.WARNING);
    Study accepted = study("-- accepted: own-rule, an old query\n" + COMMA, strict);
    assertThat(own(accepted)).isEmpty();
    assertThat(accepted.inspection().excepted()).hasSize(1);
  }

  @Test
  public void whereNamesMeanNothingNoRuleIsAsked() {
    assertThat(
            own(
                study(
                    "SELECT s.nme FROM station s, river r",
                    CheckRules.USUAL.and(OwnRuleTest::commas))))
        .isEmpty();
  }

  @DataProvider
  static Object[][] elsewhere() {
    return new Object[][] {
      // Each piece of the message once, at one place, for the engines that it concerns.
      {
        "SELECT s.name FROM station s WHERE s.river_id == 4 ORDER BY s.id",
        "PostgreSQL, MariaDB, H2 and HSQLDB have no ==. Write =.",
        "s.river_id = 4"
      },
      {
        "SELECT s.name FROM station s ORDER BY s.river_id, s.id",
        "In SQLite, H2 and HSQLDB, NULL comes first in an order; here it comes last in an order."
            + " Write NULLS FIRST or NULLS LAST; on MariaDB, which has neither, … IS NULL before it.",
        "s.river_id NULLS LAST, s.id"
      },
      {
        "SELECT r.name, ifnull(r.flows_into, 0) AS next_river FROM river r",
        "PostgreSQL has no function ifnull. Write COALESCE.",
        "coalesce(r.flows_into, 0)"
      },
    };
  }

  @Test(dataProvider = "elsewhere")
  public void whatOtherEnginesLackIsToldOnceWithARepair(
      String sql, String message, String repaired) {
    CheckRules rules =
        CheckRules.USUAL.alsoOn(
            sql.contains("ORDER BY s.river_id")
                ? Set.of(Engine.DUCKDB, Engine.SQLITE, Engine.H2, Engine.HSQLDB)
                : Set.of(
                    Engine.POSTGRESQL, Engine.MARIADB, Engine.SQLITE, Engine.H2, Engine.HSQLDB));
    List<Finding> found =
        study(sql, rules).findings().stream()
            .filter(each -> each.kind() == Kind.NOT_IN_ENGINE)
            .toList();
    assertThat(found).hasSize(1);
    assertThat(found.get(0).message()).isEqualTo(message);
    assertThat(found.get(0).repair().orElseThrow().sql()).contains(repaired);
  }

  @Test
  public void placesAreThoseOfTheWholeText() {
    String text =
        "SELECT 1 AS one FROM river;\n\nSELECT s.name || '!' AS n -- what?\nFROM station s;\n";
    lantrel.judgingBy(CheckRules.USUAL.alsoOn(Set.of(Engine.MARIADB)));
    Finding finding = lantrel.studies(text).get(1).findings().get(0);
    lantrel.judgingBy(CheckRules.USUAL);
    assertThat(finding.kind()).isEqualTo(Kind.NOT_IN_ENGINE);
    assertThat(text.substring(finding.place().start(), finding.place().end()))
        .isEqualTo("s.name || '!'");
  }
}
