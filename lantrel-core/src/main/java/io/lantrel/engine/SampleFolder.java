package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.tree.Identifier;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The files of a folder of sample data. Such a folder may have come from anybody, so only regular
 * files within it are read: no link that leads out of it, and nothing that has no end.
 */
final class SampleFolder {

  static final String CSV = ".csv";

  /** Bytes below which an engine is set for few rows. */
  private static final long SMALL = 2_000_000;

  private final Path folder;
  private final Path schema;
  private final Map<String, Path> tables = new LinkedHashMap<>();

  private SampleFolder(Path folder) {
    this.folder = folder;
    this.schema = folder.resolve(SampleData.SCHEMA_FILE);
  }

  /**
   * Looks what is in a folder.
   *
   * @throws DataException if there is no such folder, or a file in it is not to be read
   */
  static SampleFolder of(Path path) {
    if (!Files.isDirectory(path)) {
      throw new DataException(
          path
              + ": there is no such folder; sample data is a folder with "
              + SampleData.SCHEMA_FILE
              + " and a CSV file for each table");
    }
    SampleFolder folder = new SampleFolder(path);
    if (!Files.exists(folder.schema)) {
      throw new DataException(
          path
              + ": there is no "
              + SampleData.SCHEMA_FILE
              + " in this folder; it must define the tables");
    }
    folder.within(folder.schema);
    for (Path file : folder.csvFiles()) {
      String name = String.valueOf(file.getFileName());
      String key = Identifier.key(name.substring(0, name.length() - CSV.length()));
      if (folder.tables.put(key, folder.within(file)) != null) {
        throw new DataException(name + ": there is another file for the same table");
      }
    }
    return folder;
  }

  private List<Path> csvFiles() {
    try (Stream<Path> all = Files.list(folder)) {
      return all.filter(file -> Identifier.key(file.getFileName().toString()).endsWith(CSV))
          .sorted()
          .toList();
    } catch (IOException failure) {
      throw new DataException(folder + ": cannot be read: " + failure.getMessage(), failure);
    }
  }

  private Path within(Path file) {
    try {
      if (!file.toRealPath().startsWith(folder.toRealPath())) {
        throw new DataException(
            file.getFileName() + ": this is a link to a file outside of the folder; copy the file");
      }
      if (!Files.isRegularFile(file)) {
        throw new DataException(file.getFileName() + ": this is not a regular file");
      }
      return file;
    } catch (IOException failure) {
      throw new DataException(
          file.getFileName() + ": cannot be read: " + failure.getMessage(), failure);
    }
  }

  Path schema() {
    return schema;
  }

  /** The file of a table; null if there is none. */
  @Nullable Path of(Table table) {
    return tables.get(CsvFile.key(table.name()));
  }

  boolean isSmall() {
    long bytes = 0;
    try {
      for (Path file : tables.values()) {
        bytes += Files.size(file);
      }
    } catch (IOException failure) {
      throw new DataException(folder + ": cannot be read: " + failure.getMessage(), failure);
    }
    return bytes < SMALL;
  }

  /**
   * Every file must belong to a table.
   *
   * @throws DataException if one does not
   */
  void belongTo(Catalog catalog) {
    List<String> names = catalog.tables().stream().map(Table::name).toList();
    List<String> keys = new ArrayList<>(names.stream().map(CsvFile::key).toList());
    Optional<Path> stray =
        tables.entrySet().stream()
            .filter(file -> !keys.contains(file.getKey()))
            .map(Map.Entry::getValue)
            .findFirst();
    if (stray.isPresent()) {
      String fileName = String.valueOf(stray.get().getFileName());
      String table = fileName.substring(0, fileName.length() - CSV.length());
      List<String> near = NearNames.of(table, names);
      throw new DataException(
          fileName
              + ": "
              + SampleData.SCHEMA_FILE
              + " defines no table "
              + table
              + (near.isEmpty() ? "" : "; close to it: " + String.join(", ", near)));
    }
  }
}
