package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.engine.DataException;
import io.lantrel.report.StudiedFile;
import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Reads the files that hold queries; {@code -} is standard input. */
final class QueryFiles {

  private QueryFiles() {}

  static List<StudiedFile> open(List<String> names, Lantrel lantrel) {
    return open(names, lantrel, new ValuesOption());
  }

  /** The same with values for the parameters. */
  static List<StudiedFile> open(List<String> names, Lantrel lantrel, ValuesOption values) {
    List<StudiedFile> files = new ArrayList<>();
    for (String name : names) {
      files.add(new StudiedFile(shown(name), lantrel.studies(text(name), values.values())));
    }
    values.checkUse(files);
    return files;
  }

  private static String shown(String name) {
    return name.equals("-") ? "standard input" : name;
  }

  /** The text of a file; - for standard input. */
  static String text(String name) {
    String shown = shown(name);
    try {
      return name.equals("-")
          ? new String(System.in.readAllBytes(), StandardCharsets.UTF_8)
          : Files.readString(Path.of(name), StandardCharsets.UTF_8);
    } catch (CharacterCodingException notUtf8) {
      throw new DataException(shown + ": this is not UTF-8; save the file as UTF-8", notUtf8);
    } catch (IOException failure) {
      String reason =
          Files.isDirectory(Path.of(name))
              ? "this is a folder; name the files in it"
              : Files.exists(Path.of(name)) ? "it cannot be read" : "there is no such file";
      throw new DataException(shown + ": " + reason, failure);
    }
  }
}
