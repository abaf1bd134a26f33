package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.check.Severity;
import io.lantrel.draft.Draft;
import io.lantrel.draft.Wish;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What people ask of the river watch, drafted and run on every engine; the tables are by hand. */
public class DraftTest {

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  private static Object[][] questions() {
    return new Object[][] {
      {
        Wish.show("station.name", "river.name").keepEvery("station"),
        """
        Alder Bend|Tavin
        Drayle Meadow|Drayle
        Hathe Pool|Hathe
        Keskel Ford|Keskel
        Long Reach|Ombrel
        Mill Weir|Ombrel
        Murlin Lock|Murlin
        Pellow Spring|Pellow Brook
        Quarle Head|Quarle
        Sarnet Quay|Sarnet
        Spare Float|NULL
        Stony Steps|Keskel
        Tavin Bridge|Tavin
        Vennick Falls|Vennick
        """
      },
      {
        Wish.show("warden.given_name", "mentor.given_name"),
        """
        Ada|NULL
        Bram|Ada
        Cilla|Ada
        Dorn|Bram
        Elspa|Cilla
        Finn|Bram
        Greta|Dorn
        Hob|Finn
        Isolde|Ada
        Jory|Elspa
        """
      },
      {
        Wish.show("river.name", "river.flow", "flows_into.name", "flows_into.flow")
            .where("river.flow > flows_into.flow"),
        """
        Tavin|40.5|Ombrel|38.0
        Vennick|19.3|Murlin|17.8
        """
      },
      {
        Wish.show("species.name").without("sighting"),
        """
        ghost eel
        night caddis
        """
      },
      {
        Wish.show("station.name").without("reading", "taken_at >= '2026-06-01 00:00:00'"),
        """
        Alder Bend
        Hathe Pool
        Pellow Spring
        Quarle Head
        Spare Float
        Vennick Falls
        """
      },
      {
        Wish.show("river.name", "average reading.temperature").keepEvery("river"),
        """
        Drayle|15.00
        Hathe|NULL
        Keskel|8.73
        Little Keskel|NULL
        Murlin|10.00
        Oldcut|NULL
        Ombrel|10.18
        Pellow Brook|NULL
        Quarle|4.20
        Sarnet|11.77
        Tavin|10.62
        Vennick|8.80
        """
      },
      {
        Wish.show("station.name", "other.name", "river.name").pairsOf("station", "river"),
        """
        Keskel Ford|Stony Steps|Keskel
        Mill Weir|Long Reach|Ombrel
        Tavin Bridge|Alder Bend|Tavin
        """
      },
      {
        Wish.show("river.name").below("river", "river.name = 'Ombrel'"),
        """
        Hathe|2|/1/6/7/
        Keskel|2|/1/2/3/
        Little Keskel|3|/1/2/3/4/
        Murlin|1|/1/6/
        Pellow Brook|4|/1/2/3/4/5/
        Tavin|1|/1/2/
        Vennick|2|/1/6/8/
        """
      },
      {
        Wish.show("river.name").above("river", "name = 'Hathe'"),
        """
        Murlin|1|/7/6/
        Ombrel|2|/7/6/1/
        """
      },
      {
        Wish.show("river.name").below("river").where("river.length_km > 140"),
        """
        Ombrel|0
        Sarnet|0
        """
      },
      {
        Wish.show("station.name", "river.name").below("river", "name = 'Murlin'"),
        """
        Hathe Pool|Hathe
        Vennick Falls|Vennick
        """
      },
      {
        Wish.show("river.name", "count of station", "count of different sighting.species_id")
            .overBranchesOf("river")
            .where("river.length_km > 60"),
        """
        Murlin|3|3
        Ombrel|10|9
        Sarnet|3|4
        Tavin|5|4
        """
      },
      {
        Wish.show("species.name", "other.name", "station.name")
            .pairsOf("species", "station")
            .where("station.name = 'Mill Weir'"),
        """
        brook duck|marsh loach|Mill Weir
        reed heron|brook duck|Mill Weir
        reed heron|marsh loach|Mill Weir
        """
      },
      {
        Wish.show("species.name", "other.name")
            .pairsOf("species", "station")
            .where("station.name = 'Mill Weir'"),
        """
        brook duck|marsh loach
        reed heron|brook duck
        reed heron|marsh loach
        """
      },
      {
        Wish.show("river.name", "sum of station.capacity", "count of reading")
            .where("river.length_km > 140"),
        """
        Ombrel|20|5
        Sarnet|14|4
        """
      },
    };
  }

  @Test(dataProvider = "engines")
  public void answersTheQuestions(Engine engine) {
    try (Lantrel lantrel = RiverDatabases.open(engine)) {
      for (Object[] question : questions()) {
        Study study = drafted(lantrel, (Wish) question[0]);
        assertSame(study.result(), (String) question[1]);
      }
    }
  }

  private static Study drafted(Lantrel lantrel, Wish wish) {
    List<Draft> drafts = lantrel.drafts(wish);
    assertThat(drafts).hasSize(1);
    Study study = lantrel.study(drafts.get(0).sql());
    assertThat(study.inspection().refusal()).as(study.sql()).isEmpty();
    assertThat(study.findings())
        .as(study.sql())
        .noneMatch(each -> each.severity() != Severity.NOTE);
    return study;
  }

  /** A group and a river that no sighting brings together is there with 0. */
  @Test(dataProvider = "engines")
  public void countsSightingsOfEveryGroupAtEveryRiver(Engine engine) {
    try (Lantrel lantrel = RiverDatabases.open(engine)) {
      Wish wish =
          Wish.show("species_group.name", "river.name", "count of sighting")
              .keepEvery("species_group", "river");
      Rows rows = drafted(lantrel, wish).result();
      assertThat(rows.size()).isEqualTo(7 * 12);
      List<List<Object>> some = new ArrayList<>();
      for (int i = 0; i < rows.size(); i++) {
        if (rows.figure(i, 2) > 0) {
          some.add(rows.rows().get(i));
        }
      }
      assertSame(
          new Rows(rows.headings(), some, false),
          """
          birds|Vennick|1
          dragonflies|Drayle|1
          dragonflies|Keskel|2
          dragonflies|Tavin|1
          ducks|Murlin|2
          ducks|Ombrel|3
          fish|Ombrel|1
          salmonids|Keskel|1
          salmonids|Quarle|1
          salmonids|Tavin|2
          waders|Ombrel|2
          waders|Sarnet|3
          """);
    }
  }

  /** What is asked for, and a query by hand that answers it in another way. */
  private static Object[][] byHand() {
    return new Object[][] {
      {
        Wish.show("station.name", "sum species.group_id", "count of species", "count of reading"),
        """
        SELECT s.name,
          (SELECT SUM(x.group_id) FROM
            (SELECT DISTINCT g.station_id, p.id, p.group_id FROM sighting g
             JOIN species p ON p.id = g.species_id) x WHERE x.station_id = s.id),
          (SELECT COUNT(DISTINCT g.species_id) FROM sighting g WHERE g.station_id = s.id),
          (SELECT COUNT(*) FROM reading d WHERE d.station_id = s.id)
        FROM station s
        """
      },
      {
        Wish.show("river.name", "bank_kind.label", "count of station", "greatest reading.depth_cm")
            .where("reading.depth_cm > 20"),
        """
        SELECT r.name, b.label,
          (SELECT COUNT(*) FROM station s WHERE s.river_id = r.id AND s.bank = b.code),
          (SELECT MAX(d.depth_cm) FROM station s JOIN reading d ON d.station_id = s.id
           WHERE s.river_id = r.id AND s.bank = b.code AND d.depth_cm > 20)
        FROM river r CROSS JOIN bank_kind b
        """
      },
      {
        Wish.show("keeper.given_name", "average reading.temperature")
            .continuing(
                "SELECT s.name, r.name AS river_name FROM station s, river r"
                    + " WHERE r.id = s.river_id AND s.capacity > 2"),
        """
        SELECT s.name, (SELECT r.name FROM river r WHERE r.id = s.river_id),
          (SELECT k.given_name FROM warden k WHERE k.id = s.keeper_id),
          (SELECT AVG(d.temperature) FROM reading d WHERE d.station_id = s.id)
        FROM station s WHERE s.river_id IS NOT NULL AND s.capacity > 2
        """
      },
      {
        Wish.show("river.name", "count of species")
            .continuing(
                "SELECT s.name, COUNT(d.id) AS readings FROM station s LEFT JOIN reading d"
                    + " ON d.station_id = s.id GROUP BY s.id, s.name ORDER BY s.name"),
        """
        SELECT s.name, (SELECT COUNT(*) FROM reading d WHERE d.station_id = s.id),
          (SELECT r.name FROM river r WHERE r.id = s.river_id),
          (SELECT COUNT(DISTINCT g.species_id) FROM sighting g WHERE g.station_id = s.id)
        FROM station s
        """
      },
    };
  }

  @Test(dataProvider = "engines")
  public void givesWhatAQueryByHandGives(Engine engine) {
    try (Lantrel lantrel = RiverDatabases.open(engine)) {
      for (Object[] question : byHand()) {
        Rows drafted = drafted(lantrel, (Wish) question[0]).result();
        Rows expected = lantrel.study((String) question[1]).result();
        String text =
            expected.rows().stream()
                .sorted((one, two) -> key(one).compareTo(key(two)))
                .map(DraftTest::line)
                .collect(Collectors.joining("\n"));
        assertSame(drafted, text);
      }
    }
  }

  private static String line(List<Object> row) {
    return row.stream()
        .map(value -> value == null ? "NULL" : ValueText.of(value).strip())
        .collect(Collectors.joining("|"));
  }

  private static void assertSame(Rows rows, String expected) {
    List<List<String>> wanted =
        expected.lines().map(line -> Arrays.asList(line.split("\\|", -1))).toList();
    List<List<Object>> sorted =
        rows.rows().stream().sorted((one, two) -> key(one).compareTo(key(two))).toList();
    assertThat(sorted).hasSameSizeAs(wanted);
    for (int i = 0; i < wanted.size(); i++) {
      for (int j = 0; j < wanted.get(i).size(); j++) {
        Object value = sorted.get(i).get(j);
        String text = wanted.get(i).get(j);
        if (value instanceof Number number && !text.equals("NULL")) {
          // HSQLDB gives the mean of numbers with one place behind the point with one place.
          assertThat(new BigDecimal(number.toString()))
              .as("row %s of %s", i, rows)
              .isCloseTo(new BigDecimal(text), within(new BigDecimal("0.1")));
        } else {
          assertThat(value == null ? "NULL" : ValueText.of(value).strip()).isEqualTo(text);
        }
      }
    }
  }

  private static String key(List<Object> row) {
    return row.get(0) + "|" + (row.size() > 1 ? row.get(1) : "");
  }
}
