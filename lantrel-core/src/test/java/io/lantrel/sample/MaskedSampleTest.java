package io.lantrel.sample;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.catalog.Table;
import io.lantrel.sample.SampleWish.Likeness;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Values that stand for others. */
public class MaskedSampleTest {

  private final Lantrel rivers = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    rivers.close();
  }

  private static Sample sample(Lantrel lantrel, SampleWish wish) {
    return lantrel.sample(wish.ofRows(500), List.of(), doing -> {});
  }

  private static List<@Nullable String> column(Sample sample, String table, String column) {
    SampledTable found =
        sample.tables().stream()
            .filter(each -> each.table().name().equals(table))
            .findFirst()
            .orElseThrow();
    List<String> names = found.table().columns().stream().map(each -> each.name()).toList();
    List<@Nullable String> values = new ArrayList<>();
    found.rows().forEach(row -> values.add(row.get(names.indexOf(column))));
    return values;
  }

  @DataProvider
  static Object[][] columns() {
    return new Object[][] {
      {"station", "name"},
      {"warden", "given_name"},
      {"river", "length_km"},
      {"reading", "temperature"},
      {"reading", "depth_cm"},
      {"reading", "taken_at"},
      {"sighting", "seen_on"},
      {"station", "id"},
      {"bank_kind", "code"},
    };
  }

  /** Equal stays equal, different stays different, NULL stays NULL; nothing of before is left. */
  @Test(dataProvider = "columns")
  public void noValueIsLeftAndEqualOnesStayEqual(String table, String column) {
    Sample plain = sample(rivers, SampleWish.usual());
    for (Set<Likeness> kept : List.of(Set.<Likeness>of(), Set.of(Likeness.ORDER))) {
      Sample masked =
          sample(rivers, SampleWish.usual().masking(List.of(table + "." + column), kept));
      List<@Nullable String> before = column(plain, table, column);
      List<@Nullable String> after = column(masked, table, column);
      Map<String, String> others = new HashMap<>();
      assertThat(after).hasSameSizeAs(before);
      for (int i = 0; i < before.size(); i++) {
        String value = before.get(i);
        if (value == null) {
          assertThat(after.get(i)).isNull();
        } else {
          String other = String.valueOf(after.get(i));
          assertThat(others.getOrDefault(value, other)).isEqualTo(other);
          others.put(value, other);
        }
      }
      assertThat(others.values())
          .doesNotHaveDuplicates()
          .doesNotContainAnyElementsOf(others.keySet());
    }
  }

  /** What refers to a masked column is masked with it. */
  @Test
  public void referencesStay() throws IOException {
    Sample sample =
        sample(rivers, SampleWish.usual().masking(List.of("station.id", "code"), Set.of()));
    assertThat(sample.masked())
        .containsExactly(
            "bank_kind.code",
            "reading.station_id",
            "sighting.station_id",
            "station.bank",
            "station.id");
    Path folder = Scratch.folder("masked").resolve("rows");
    sample.writeTo(folder);
    assertThat(Files.readString(folder.resolve("schema.sql")))
        .contains("-- Masked: bank_kind.code");
    try (Lantrel masked = Lantrel.open(folder)) {
      List<Long> lost =
          masked.survey().references().stream().map(each -> each.toNothing()).toList();
      List<Long> before =
          rivers.survey().references().stream().map(each -> each.toNothing()).toList();
      assertThat(lost).isEqualTo(before);
    }
  }

  @Test
  public void orderAndLengthAreKept() {
    Sample plain = sample(rivers, SampleWish.usual());
    Sample masked =
        sample(
            rivers,
            SampleWish.usual()
                .masking(
                    List.of("station.name", "river.length_km"),
                    Set.of(Likeness.ORDER, Likeness.LENGTH)));
    List<@Nullable String> names = column(plain, "station", "name");
    List<@Nullable String> others = column(masked, "station", "name");
    List<@Nullable String> lengths = column(plain, "river", "length_km");
    List<@Nullable String> otherLengths = column(masked, "river", "length_km");
    for (int i = 0; i < names.size(); i++) {
      assertThat(text(others, i)).hasSameSizeAs(text(names, i));
      for (int j = 0; j < i; j++) {
        assertThat(Integer.signum(text(others, i).compareTo(text(others, j))))
            .isEqualTo(Integer.signum(text(names, i).compareTo(text(names, j))));
      }
    }
    for (int i = 0; i < lengths.size(); i++) {
      assertThat(text(otherLengths, i)).hasSameSizeAs(text(lengths, i));
    }
  }

  private static String text(List<@Nullable String> values, int index) {
    return String.valueOf(values.get(index));
  }

  /** A name of a table as a database may have it, and what is said of it as a file. */
  @DataProvider
  static Object[][] names() {
    return new Object[][] {
      {"../kept", "the table ../kept cannot be a file"},
      {"kept\n/../../kept", "cannot be a file"},
      {"a\\b", "cannot be a file"},
      {".hidden", "cannot be a file"},
      {"station", "two tables are called station"},
      {"STATION", "two tables are called"},
    };
  }

  /** Names come from a database, and a file lies in its folder, one for each table. */
  @Test(dataProvider = "names")
  public void aNameStaysInItsFolder(String name, String said) throws IOException {
    Sample sample = sample(rivers, SampleWish.usual());
    List<SampledTable> tables = new ArrayList<>(sample.tables());
    SampledTable one = tables.get(0);
    Table renamed = new Table("", name, one.table().columns(), one.table().keys());
    tables.add(new SampledTable(renamed, one.there(), one.rows()));
    Sample odd =
        new Sample(
            sample.catalog(), tables, List.of(), List.of(), 0, List.of(), List.of(), List.of());
    Path folder = Scratch.folder("names").resolve("rows");
    assertThatThrownBy(() -> odd.writeTo(folder))
        .isInstanceOf(SampleException.class)
        .hasMessageContaining(said);
    assertThat(folder).doesNotExist();
    assertThat(folder.resolveSibling("kept.csv")).doesNotExist();
  }

  /** What means nothing by itself stays: no text, blanks, 0, the sign. */
  @Test
  public void whatTellsNothingStays() throws IOException {
    Path folder = Scratch.folder("odd");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE weir (id INTEGER PRIMARY KEY, note VARCHAR(20), fall DECIMAL(4,2));");
    Files.writeString(
        folder.resolve("weir.csv"),
        "id,note,fall\n1,\"\",0\n2,\"  \",-1.25\n3,\" high\",1.25\n4,high,\n5,High,7\n");
    try (Lantrel lantrel = Lantrel.open(folder)) {
      Sample masked =
          sample(lantrel, SampleWish.usual().masking(List.of("note", "fall"), Set.of()));
      List<@Nullable String> notes = column(masked, "weir", "note");
      assertThat(notes.subList(0, 2)).containsExactly("", "  ");
      assertThat(text(notes, 2)).isEqualTo(" " + notes.get(3)).doesNotContain("high");
      assertThat(notes.get(4)).isNotEqualTo(notes.get(3));
      List<@Nullable String> falls = column(masked, "weir", "fall");
      assertThat(falls.get(0)).isEqualTo("0.00");
      assertThat(text(falls, 1)).startsWith("-").isNotEqualTo("-1.25");
      assertThat(falls.get(3)).isNull();
    }
  }

  @Test
  public void whatCannotBeMaskedIsSaid() throws IOException {
    assertThatThrownBy(
            () -> sample(rivers, SampleWish.usual().masking(List.of("station.nam"), Set.of())))
        .isInstanceOf(SampleException.class)
        .hasMessageStartingWith("nothing to mask is called station.nam; name a column, as ");
    Path folder = Scratch.folder("short");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE gate (id INTEGER PRIMARY KEY, digit INTEGER, open BOOLEAN, mark CHAR(1));");
    StringBuilder rows = new StringBuilder("id,digit,open,mark\n");
    for (int i = 1; i <= 26; i++) {
      rows.append(i + "," + (i % 9 + 1) + ",true," + (char) ('a' + i - 1) + "\n");
    }
    Files.writeString(folder.resolve("gate.csv"), rows.toString());
    try (Lantrel lantrel = Lantrel.open(folder)) {
      assertThatThrownBy(
              () -> sample(lantrel, SampleWish.usual().masking(List.of("open"), Set.of())))
          .hasMessageStartingWith("gate.open cannot be masked: it is of type BOOLEAN");
      assertThatThrownBy(
              () ->
                  sample(
                      lantrel,
                      SampleWish.usual().masking(List.of("digit"), Set.of(Likeness.LENGTH))))
          .hasMessageContaining("there are not enough numbers");
      assertThatThrownBy(
              () -> sample(lantrel, SampleWish.usual().masking(List.of("mark"), Set.of())))
          .hasMessageContaining("there are not enough texts");
    }
  }
}
