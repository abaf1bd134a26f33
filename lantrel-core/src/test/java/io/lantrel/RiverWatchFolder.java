package io.lantrel;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;

/** Where the river watch and the documentation are, seen from the module that is built. */
public final class RiverWatchFolder {

  private RiverWatchFolder() {}

  /** The folder of the sample data. */
  public static Path data() {
    return root().resolve("lantrel-examples/river-watch");
  }

  /** The same without the one row that breaks a reference: the reading of a station 99. */
  public static Path withoutViolations() {
    try {
      Path copy = Scratch.folder("river-watch");
      try (Stream<Path> files = Files.list(data())) {
        for (Path file : files.filter(Files::isRegularFile).toList()) {
          List<String> lines = Files.readAllLines(file);
          lines.removeIf(line -> line.startsWith("27,99,"));
          Files.write(copy.resolve(file.getFileName()), lines);
        }
      }
      return copy;
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  /** The pages of the findings. */
  public static Path pages() {
    return root().resolve("docs/findings");
  }

  private static Path root() {
    Path here = Path.of("").toAbsolutePath();
    return Files.isDirectory(here.resolve("docs")) ? here : here.resolve("..").normalize();
  }
}
