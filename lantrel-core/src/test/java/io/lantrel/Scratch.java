package io.lantrel;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.stream.Stream;

/** Folders and files that tests write, gone when the tests are over. */
public final class Scratch {

  private static final Queue<Path> MADE = new ConcurrentLinkedQueue<>();

  static {
    Runtime.getRuntime().addShutdownHook(new Thread(Scratch::clear));
  }

  private Scratch() {}

  /** An empty folder. */
  public static Path folder(String name) throws IOException {
    return known(Files.createTempDirectory(name));
  }

  /** A folder of sample data whose tables and rows are all made by statements. */
  public static Path world(String name, List<String> statements) {
    return world(name, Map.of("schema.sql", String.join("\n", statements)));
  }

  /** A folder of sample data, by the texts of its files. */
  public static Path world(String name, Map<String, String> files) {
    try {
      Path folder = folder(name);
      for (Map.Entry<String, String> each : files.entrySet()) {
        Files.writeString(folder.resolve(each.getKey()), each.getValue());
      }
      return folder;
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  /** An empty file. */
  public static Path file(String name, String suffix) throws IOException {
    return known(Files.createTempFile(name, suffix));
  }

  private static Path known(Path made) {
    MADE.add(made);
    return made;
  }

  private static void clear() {
    for (Path made : MADE) {
      try (Stream<Path> all = Files.walk(made)) {
        List<Path> deepestFirst = all.sorted(Comparator.reverseOrder()).toList();
        for (Path each : deepestFirst) {
          Files.deleteIfExists(each);
        }
      } catch (IOException failure) {
        System.err.println(made + " was left behind: " + failure);
      }
    }
  }
}
