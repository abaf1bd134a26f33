package io.lantrel.examples;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Objects;

/** The sample data of the river watch: schema, CSV files, and some queries. */
public final class RiverWatch {

  private static final List<String> TABLES =
      List.of(
          "bank_kind",
          "river",
          "warden",
          "station",
          "reading",
          "species_group",
          "species",
          "sighting");

  private RiverWatch() {}

  /**
   * Writes the schema and the rows into a folder.
   *
   * @param folder an existing folder; files of the same names are replaced
   * @return the folder
   * @throws UncheckedIOException if the folder cannot be written
   */
  public static Path copyTo(Path folder) {
    copy("schema.sql", folder);
    TABLES.forEach(table -> copy(table + ".csv", folder));
    return folder;
  }

  /**
   * The text of a query of the river watch.
   *
   * @param name its file, as {@code mentors.sql}
   */
  public static String query(String name) {
    try (InputStream text = open("queries/" + name)) {
      return new String(text.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  private static void copy(String name, Path folder) {
    try (InputStream content = open(name)) {
      Files.write(folder.resolve(name), content.readAllBytes());
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  private static InputStream open(String name) {
    return Objects.requireNonNull(
        RiverWatch.class.getResourceAsStream("/river-watch/" + name), name);
  }
}
