package io.lantrel.claim;

import io.lantrel.compare.ExpectedTable;
import io.lantrel.engine.DataException;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;

/**
 * The files that claims name: other queries, and tables that are expected.
 *
 * @param folder where they are; nothing outside of it is read
 */
public record ClaimFiles(Path folder) {

  /**
   * The text of a file.
   *
   * @throws DataException if there is none, it is outside of the folder, or it cannot be read
   */
  public String text(String name) {
    Path file = file(name);
    try {
      return Files.readString(file, StandardCharsets.UTF_8);
    } catch (IOException unreadable) {
      throw new DataException("the file " + name + " cannot be read", unreadable);
    }
  }

  /**
   * A CSV file as {@link ExpectedTable#ofCsv} reads it.
   *
   * @throws DataException if there is none, it is outside of the folder, or it cannot be read
   */
  public ExpectedTable table(String name) {
    return ExpectedTable.ofCsv(file(name));
  }

  /** Whether it is in the folder, also where links lead elsewhere. */
  private boolean isHere(Path file) {
    try {
      return file.startsWith(home())
          && (!Files.exists(file) || file.toRealPath().startsWith(home().toRealPath()));
    } catch (IOException unreadable) {
      return false;
    }
  }

  private Path home() {
    return folder.toAbsolutePath().normalize();
  }

  private Path file(String name) {
    Path file;
    try {
      file = home().resolve(name).normalize();
    } catch (InvalidPathException strange) {
      throw new DataException("no file can be called " + name, strange);
    }
    if (!isHere(file) || Path.of(name).isAbsolute()) {
      throw new DataException(
          "the file " + name + " is not in the folder of the query; only files there are read");
    }
    if (!Files.isRegularFile(file)) {
      throw new DataException("there is no file " + name + " in the folder of the query");
    }
    return file;
  }
}
