package io.lantrel.cli;

import io.lantrel.engine.DataException;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFileAttributeView;
import org.jspecify.annotations.Nullable;

/** Writes a file so that in the end it has either all of its new text, or its old one. */
final class WholeFile {

  private WholeFile() {}

  /**
   * Writes it in the place of the text that was read from it.
   *
   * @throws DataException if it is another text by now, or cannot be written
   */
  static void replace(String file, String before, String after) {
    if (!QueryFiles.text(file).equals(before)) {
      throw new DataException(file + " was changed meanwhile; nothing is written into it");
    }
    if (!before.equals(after)) {
      write(Path.of(file), after);
    }
  }

  /**
   * Writes it; who may read it stays as it was.
   *
   * @throws DataException if it cannot be written
   */
  static void write(Path file, String text) {
    try {
      Path target = Files.exists(file) ? file.toRealPath() : file;
      Path draft = target.resolveSibling("." + target.getFileName() + ".new");
      Files.writeString(draft, text, StandardCharsets.UTF_8, StandardOpenOption.CREATE_NEW);
      try {
        keepPermissions(target, draft);
        Files.move(draft, target, StandardCopyOption.REPLACE_EXISTING);
      } finally {
        Files.deleteIfExists(draft);
      }
    } catch (FileAlreadyExistsException left) {
      throw new DataException(
          file + " cannot be written: there is a file " + left.getFile() + "; remove it", left);
    } catch (IOException failure) {
      throw new DataException(file + " cannot be written: " + failure.getMessage(), failure);
    }
  }

  private static void keepPermissions(Path from, Path to) throws IOException {
    @Nullable PosixFileAttributeView own =
        Files.getFileAttributeView(to, PosixFileAttributeView.class);
    if (own != null && Files.exists(from)) {
      own.setPermissions(Files.getPosixFilePermissions(from));
    }
  }
}
