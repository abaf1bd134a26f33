package io.lantrel.catalog;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.sql.Dialect;
import java.util.List;
import java.util.Set;
import org.testng.annotations.Test;

/** The constraints of tables, and catalogs without some of them. */
public class ConstraintsTest {

  private static Catalog catalog() {
    try (Lantrel lantrel =
        Lantrel.openSchema(RiverWatchFolder.data().resolve("schema.sql"), Dialect.DUCKDB)) {
      return lantrel.catalog();
    }
  }

  private final Catalog catalog = catalog();
  private final Table reading = catalog.table("reading").orElseThrow();
  private final Table sighting = catalog.table("sighting").orElseThrow();

  private Constraints of(Table... tables) {
    return new Constraints(catalog, List.of(tables), (table, column) -> true);
  }

  @Test
  public void knowsKeysNotNullAndReferences() {
    assertThat(of(reading).all().stream().map(Constraint::words))
        .containsExactly(
            "reading.id is a key",
            "reading.id is never NULL",
            "reading.station_id is never NULL",
            "reading.taken_at is never NULL",
            "reading.station_id refers to station");
    assertThat(of(sighting).all().stream().map(Constraint::words))
        .contains(
            "sighting (station_id, species_id, seen_on) is a key",
            "sighting.station_id refers to station",
            "sighting.species_id refers to species");
    assertThat(
            new Constraints(catalog, List.of(reading), (table, column) -> column.equals("id"))
                .all())
        .noneMatch(each -> each.words().contains("taken_at"));
  }

  @Test
  public void leavesOutWhatIsNotKept() {
    Catalog none = of(reading, sighting).keeping(Set.of());
    Table weak = none.table("reading").orElseThrow();
    assertThat(weak.keys()).isEmpty();
    assertThat(weak.columns()).allMatch(Column::nullable);
    assertThat(none.references()).noneMatch(each -> each.from().equals(reading));
    assertThat(none.tables()).hasSameSizeAs(catalog.tables());
    // Of other tables nothing is left out.
    assertThat(none.table("station").orElseThrow().keys()).isNotEmpty();
    assertThat(none.references()).anyMatch(each -> each.from().name().equals("station"));
  }

  @Test
  public void keepsWhatIsWanted() {
    Constraints all = of(reading, sighting);
    for (Constraint kept : all.all()) {
      Catalog one = all.keeping(List.of(kept));
      Table table = one.table(kept.table().name()).orElseThrow();
      long keys = one.tables().stream().filter(this::isOurs).mapToLong(t -> t.keys().size()).sum();
      long firm =
          one.tables().stream()
              .filter(this::isOurs)
              .flatMap(t -> t.columns().stream())
              .filter(column -> !column.nullable())
              .count();
      long references = one.references().stream().filter(each -> isOurs(each.from())).count();
      assertThat(List.of(keys, firm, references))
          .as(kept.words())
          .isEqualTo(
              switch (kept.kind()) {
                case KEY -> List.of(1L, 0L, 0L);
                case NOT_NULL -> List.of(0L, 1L, 0L);
                case REFERENCE -> List.of(0L, 0L, 1L);
              });
      assertThat(table).isEqualTo(kept.table());
    }
    Catalog same = all.keeping(all.all());
    assertThat(same.table("reading").orElseThrow().columns()).isEqualTo(reading.columns());
    assertThat(same.references()).hasSameSizeAs(catalog.references());
  }

  private boolean isOurs(Table table) {
    return table.equals(reading) || table.equals(sighting);
  }

  @Test
  public void tellsThemInOneSentence() {
    assertThat(Constraint.words(of(reading).all()))
        .isEqualTo(
            "reading.id is a key, reading.station_id is never NULL, reading.taken_at is never NULL"
                + " and reading.station_id refers to station");
    assertThat(Constraint.words(List.of())).isEmpty();
    Constraint alone = Constraint.notNull(reading, "id");
    assertThat(Constraint.words(List.of(alone))).isEqualTo("reading.id is never NULL");
  }
}
