package io.lantrel.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import org.testng.annotations.Test;

/** The examples run, and show what they promise. */
public class ExamplesTest {

  /** What may be called as a program. */
  private interface Program {
    void run(String[] args) throws IOException;
  }

  private static String output(Program program) throws IOException {
    PrintStream before = System.out;
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    System.setOut(new PrintStream(bytes, true, StandardCharsets.UTF_8));
    try {
      program.run(new String[0]);
    } finally {
      System.setOut(before);
    }
    return bytes.toString(StandardCharsets.UTF_8);
  }

  @Test
  public void studiesOneQuery() throws IOException {
    assertThat(output(StudyOneQuery::main))
        .containsSubsequence(
            "outer-join-cancelled: ",
            "LEFT JOIN warden k ON k.id = s.keeper_id AND k.family_name <> 'Harrow'",
            "= after",
            "Tolliver");
  }

  @Test
  public void accountsForRows() throws IOException {
    assertThat(output(AccountForRows::main))
        .containsSubsequence(
            "query 1: ",
            "query 2: 12",
            "UNION query 2: ",
            "station s: 14 → 14",
            "JOIN reading d: 14 → 26",
            "  d.temperature > 8 is false",
            "  d.temperature > 8 is unknown, since d.temperature is NULL",
            "JOIN reading d as LEFT JOIN: 28 rows behind it",
            "used in [SELECT, WHERE]; without it 14 rows");
  }

  @Test
  public void looksAtTables() throws IOException {
    assertThat(output(LookAtTables::main))
        .contains(
            "sighting: 20 rows [JUNCTION]",
            "reading.station_id → station.id (DECLARED): 12 of 13 values found",
            "river |o--o{ station : river_id");
  }

  @Test
  public void draftsAQuery() throws IOException {
    assertThat(output(DraftAQuery::main))
        .containsSubsequence(
            "one row for each river; every river is kept",
            "FROM river r",
            "LEFT JOIN (",
            "ORDER BY r.name",
            "Findings: 0",
            "Drayle",
            "select s.name, keeper.given_name as keeper_given_name from station s left join warden"
                + " keeper on keeper.id = s.keeper_id where s.capacity > 2",
            "rows without one stay");
  }

  @Test
  public void rewritesAQuery() throws IOException {
    assertThat(output(RewriteAQuery::main))
        .containsSubsequence(
            "FROM station s JOIN reading d ON s.id = d.station_id   -- one row for each reading",
            "WHERE capacity > 5",
            "The same 22 rows before and after.",
            "SELECT s.name, d.depth_cm",
            "SELECT name, CAST(capacity AS DOUBLE PRECISION) / 2 AS half FROM station",
            "The same 14 rows there.");
  }

  @Test
  public void followsRows() throws IOException {
    assertThat(output(FollowRows::main))
        .containsSubsequence(
            "LOST: station 7 (Pellow Spring) is lost at JOIN reading d.",
            "LOST: station 13 (Quarle Head) is lost in WHERE.",
            "r.length_km is 16, so r.length_km > 20 is not true.",
            "LOST: station 14 (Spare Float) is lost at JOIN river r. s.river_id is NULL",
            "row 1: name is Alder Bend",
            "d: id is 10",
            "readings comes from [reading.id]",
            "Ombrel: 8 rivers, 500 km",
            "  Tavin: 4 rivers");
  }

  @Test
  public void drawsASample() throws IOException {
    assertThat(output(DrawASample::main))
        .containsSubsequence(
            "40 of 106 rows",
            "masked: warden.family_name, warden.given_name",
            "rows-without-partner: ");
  }

  @Test
  public void verifiesClaims() throws IOException {
    assertThat(output(VerifyClaims::main))
        .containsSubsequence(
            "PROVEN: one row per station; so for any data in which station.id is a key",
            "PROVEN: every station appears; so for any data",
            "BROKEN: total of readings is number of reading; the total of readings is 26, and",
            "PROVEN: no null in name",
            "-- claim: one row per station");
  }

  @Test
  public void comparesTwoQueries() throws IOException {
    assertThat(output(CompareTwoQueries::main))
        .containsSubsequence(
            "SAME: the same 10 rows, in the same order, and the same for any data",
            "DIFFERENT: 3 rows only in the join",
            "Keskel: 1, and joined 2",
            "DIFFERENT: 7 rows only in the first");
  }
}
