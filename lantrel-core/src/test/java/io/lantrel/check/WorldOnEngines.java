package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.engine.Engine;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.BiConsumer;

/** A small world, opened on three engines that need no server. */
final class WorldOnEngines implements AutoCloseable {

  private final Map<Engine, Lantrel> engines = new EnumMap<>(Engine.class);

  /**
   * @param statements that make its tables and rows
   */
  WorldOnEngines(String name, List<String> statements) {
    Path folder = Scratch.world(name, statements);
    for (Engine each : List.of(Engine.DUCKDB, Engine.SQLITE, Engine.H2)) {
      engines.put(each, Lantrel.open(folder, each));
    }
  }

  void forEach(BiConsumer<Engine, Lantrel> engine) {
    engines.forEach(engine);
  }

  Lantrel duckdb() {
    return Objects.requireNonNull(engines.get(Engine.DUCKDB));
  }

  /**
   * That a query has warnings or errors of these kinds and no others on each engine, and that each
   * repair does what it says.
   *
   * @param kinds their names, with blanks between; empty if there are none
   */
  void hasWarnings(String sql, String kinds) {
    forEach(
        (engine, lantrel) ->
            assertThat(
                    lantrel.study(sql).findings().stream()
                        .filter(each -> each.severity() != Severity.NOTE)
                        .map(each -> each.kind().id())
                        .distinct())
                .as(engine + ": " + sql)
                .isEqualTo(kinds.isEmpty() ? List.of() : List.of(kinds.split(" ", -1))));
    Repaired.keepsItsWord(sql, duckdb());
  }

  @Override
  public void close() {
    engines.values().forEach(Lantrel::close);
  }
}
