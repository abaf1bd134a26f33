package io.lantrel.cli;

import io.lantrel.engine.DataException;
import java.io.IOException;
import java.io.Reader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import java.util.Set;
import java.util.stream.Stream;

/**
 * The files with queries in a folder: those that end with {@code .sql}, but for schemas. Sample
 * data are looked for in the folder of a query and in those around it.
 */
final class QueryFolder {

  private static final String SCHEMA = "schema.sql";
  private static final String SQL = ".sql";

  private QueryFolder() {}

  /** The files that names stand for, each once, those of a folder in the order of their names. */
  static List<Path> files(List<String> names) {
    Set<Path> files = new LinkedHashSet<>();
    for (String name : names) {
      Path path = Path.of(name);
      if (Files.isDirectory(path)) {
        List<Path> found = in(path);
        if (found.isEmpty()) {
          throw new DataException(name + ": there is no file with queries in this folder");
        }
        files.addAll(found);
      } else if (Files.isRegularFile(path)) {
        files.add(path);
      } else {
        throw new DataException(name + ": there is no such file or folder");
      }
    }
    return List.copyOf(files);
  }

  private static List<Path> in(Path folder) {
    try (Stream<Path> files = Files.walk(folder)) {
      return files
          .filter(file -> String.valueOf(file.getFileName()).endsWith(SQL))
          .filter(file -> !String.valueOf(file.getFileName()).equals(SCHEMA))
          .filter(Files::isRegularFile)
          .filter(file -> !isHidden(folder.relativize(file)))
          .sorted()
          .toList();
    } catch (IOException unreadable) {
      throw new DataException(folder + ": the folder cannot be read", unreadable);
    }
  }

  private static boolean isHidden(Path relative) {
    List<Path> parts = new ArrayList<>();
    relative.forEach(parts::add);
    return parts.stream().anyMatch(part -> part.toString().startsWith("."));
  }

  /** The folder that a file is in. */
  static Path of(Path file) {
    Path parent = file.toAbsolutePath().normalize().getParent();
    return parent == null ? Path.of("").toAbsolutePath() : parent;
  }

  /** The folder of sample data that is nearest around a file: one with a schema. */
  static Optional<Path> data(Path file) {
    return around(file, SCHEMA);
  }

  /** The nearest folder around a file that has a file of that name. */
  static Optional<Path> around(Path file, String name) {
    return Stream.iterate(of(file), folder -> folder != null, Path::getParent)
        .filter(folder -> Files.isRegularFile(folder.resolve(name)))
        .findFirst();
  }

  /**
   * The table that is expected of a query by convention: {@code name.expected.csv} beside {@code
   * name.sql}, and {@code name.2.expected.csv} for its second statement.
   */
  static Path expected(Path file, int statement) {
    String name = String.valueOf(file.getFileName());
    String stem = name.endsWith(SQL) ? name.substring(0, name.length() - SQL.length()) : name;
    String number = statement == 1 ? "" : "." + statement;
    return file.resolveSibling(stem + number + ".expected.csv");
  }

  /**
   * A file of settings.
   *
   * @throws DataException if it cannot be read as such
   */
  static Properties properties(Path file) {
    Properties read = new Properties();
    try (Reader reader = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
      read.load(reader);
    } catch (IOException | IllegalArgumentException unreadable) {
      throw new DataException(
          file + ": cannot be read as properties: " + unreadable.getMessage(), unreadable);
    }
    return read;
  }
}
