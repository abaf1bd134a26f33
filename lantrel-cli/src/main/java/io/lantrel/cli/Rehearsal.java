package io.lantrel.cli;

import io.lantrel.engine.Engine;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.Writer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/**
 * Runs every command on every embedded engine once and says nothing: what is loaded on the way goes
 * into the archive of classes from which the launcher starts faster.
 */
public final class Rehearsal {

  private Rehearsal() {}

  /**
   * Runs it.
   *
   * @param arguments the folder of the river watch
   */
  public static void main(String[] arguments) throws IOException {
    HeadStart.begin("demo");
    String folder = arguments[0];
    List<String> queries;
    try (Stream<Path> files = Files.list(Path.of(folder, "queries"))) {
      queries = files.map(Path::toString).toList();
    }
    for (Engine engine : Engine.embedded()) {
      run(List.of("demo", "--engine", engine.id()), List.of());
      run(List.of("verify", "--engine", engine.id()), List.of(folder));
      for (String command : List.of("check", "ledger")) {
        for (String format : List.of("text", "json")) {
          List<String> options =
              List.of(command, "--data", folder, "--engine", engine.id(), "--format", format);
          run(options, queries);
        }
      }
    }
    System.exit(0);
  }

  private static void run(List<String> options, List<String> queries) {
    List<String> all = new ArrayList<>(options);
    all.addAll(queries);
    PrintWriter nowhere = new PrintWriter(Writer.nullWriter());
    Main.run(nowhere, nowhere, all.toArray(String[]::new));
  }
}
