package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Schemas as other products write them are loaded: into the type of the standard, or a text. */
public class ForeignTypesTest {

  /** A type, a value in a file, what a query over it gives; whether engines may take it as text. */
  @DataProvider
  static Object[][] types() {
    return new Object[][] {
      {"serial", "7", "c + 1", "8", false},
      {"bigserial", "7000000000", "c + 1", "7000000001", false},
      {"int(11) unsigned", "4000000000", "c + 1", "4000000001", false},
      {"bigint unsigned", "7000000000", "c + 1", "7000000001", false},
      {"tinyint(1)", "1", "c + 1", "2", false},
      {"mediumint", "70000", "c + 1", "70001", false},
      {"int8", "7000000000", "c + 1", "7000000001", false},
      {"year", "2026", "c + 1", "2027", false},
      {"nvarchar(20)", "weir", "UPPER(c)", "WEIR", false},
      {"mediumtext", "weir", "UPPER(c)", "WEIR", false},
      {"citext", "weir", "UPPER(c)", "WEIR", false},
      {"datetime", "2026-05-01 10:00:00", "EXTRACT(YEAR FROM c)", "2026", false},
      {"timestamp without time zone", "2026-05-01 10:00:00", "EXTRACT(YEAR FROM c)", "2026", false},
      {"float8", "0.5", "c * 2", "1.0", false},
      {"number(8, 2)", "1.50", "c * 2", "3.0", false},
      {"jsonb", "{\"\"a\"\": 1}", "c", "{\"a\": 1}", true},
      {"tsvector", "a b", "c", "a b", true},
      {"inet", "10.0.0.1", "c", "10.0.0.1", true},
      {"flow_kind", "high", "UPPER(c)", "HIGH", true},
      {"\"field\".\"flow_kind\"", "high", "UPPER(c)", "HIGH", true},
      {"text[]", "{a,b}", "c", "", true},
    };
  }

  @Test(dataProvider = "types")
  public void areLoaded(String type, String value, String shown, String told, boolean asText)
      throws IOException {
    Path folder = Scratch.folder("foreign");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE gauge (id INTEGER PRIMARY KEY, c " + type + ");");
    Files.writeString(
        folder.resolve("gauge.csv"),
        "id,c\n1,\"" + value + "\"\n2," + (type.endsWith("serial") ? "1" : "") + "\n");
    for (Engine engine : Engine.embedded()) {
      if (engine == Engine.SQLITE && shown.startsWith("EXTRACT")) {
        continue;
      }
      try (Lantrel lantrel = Lantrel.open(folder, engine)) {
        String sql = "SELECT " + shown + " AS v FROM gauge ORDER BY id";
        List<List<@Nullable Object>> rows = lantrel.study(sql).result().rows();
        assertThat(rows).as(engine.title()).hasSize(2);
        if (!told.isEmpty()) {
          assertThat(ValueText.of(Objects.requireNonNull(rows.get(0).get(0))))
              .as(engine.title())
              .startsWith(told);
        }
        assertThat(rows.get(1).get(0) == null).isEqualTo(!type.endsWith("serial"));
        assertThat(lantrel.notes())
            .allMatch(
                note ->
                    asText
                        && note.equals(
                            "schema.sql: "
                                + engine.title()
                                + " has no type for gauge.c ("
                                + type
                                + "), which is a text here"));
      }
    }
  }

  /** Another fault of a table is told as before. */
  @Test
  public void whatIsNoTypeIsStillRefused() throws IOException {
    Path folder = Scratch.folder("twice");
    Files.writeString(folder.resolve("schema.sql"), "CREATE TABLE gauge (c jsonb, d int4);");
    Files.writeString(folder.resolve("gauge.csv"), "c,d\n1,99999999999\n");
    assertThatThrownBy(() -> Lantrel.open(folder, Engine.H2).close())
        .hasMessageContaining("gauge.csv:2")
        .hasMessageContaining("99999999999");
  }
}
