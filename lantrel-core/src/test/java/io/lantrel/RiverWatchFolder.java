package io.lantrel;

import java.nio.file.Files;
import java.nio.file.Path;

/** Where the river watch and the documentation are, seen from the module that is built. */
public final class RiverWatchFolder {

  private RiverWatchFolder() {}

  /** The folder of the sample data. */
  public static Path data() {
    return root().resolve("lantrel-examples/river-watch");
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
