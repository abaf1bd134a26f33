package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.engine.Engine;
import java.util.List;
import java.util.Optional;

/**
 * What takes long at every start, done in another thread while the options are still being read.
 */
final class HeadStart {

  private static final String ENGINE = "--engine";

  private HeadStart() {}

  /**
   * Begins it, if the arguments look as if sample data will be loaded. A wrong guess costs nothing
   * but some work on another core; what fails here fails again where it is needed, and is told
   * there.
   */
  static void begin(String... arguments) {
    List<String> all = List.of(arguments);
    if (all.contains("--data") || all.contains("demo") || all.contains("verify")) {
      engine(all).ifPresent(HeadStart::begin);
    }
  }

  private static void begin(Engine engine) {
    Engine holder = engine.isEmbedded() ? engine : Engine.DUCKDB;
    begin(() -> Lantrel.warmUp(holder, TablesOption.usual()));
    begin(() -> Lantrel.warmUpReading(engine));
  }

  private static void begin(Runnable work) {
    Thread thread = new Thread(work, "head start");
    thread.setDaemon(true);
    thread.setUncaughtExceptionHandler((where, failure) -> {});
    thread.start();
  }

  private static Optional<Engine> engine(List<String> arguments) {
    int option = arguments.indexOf(ENGINE);
    if (option < 0) {
      return Optional.of(Engine.DUCKDB);
    }
    return option + 1 < arguments.size() ? Engine.of(arguments.get(option + 1)) : Optional.empty();
  }
}
