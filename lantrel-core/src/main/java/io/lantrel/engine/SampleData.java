package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.SchemaFile;
import io.lantrel.catalog.Table;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * The rows on which queries are tried: a folder with {@code schema.sql} and one CSV file for each
 * table, loaded into a database of its own.
 */
public final class SampleData implements AutoCloseable {

  /** The file that defines the tables. */
  public static final String SCHEMA_FILE = "schema.sql";

  /** How the names of everything begin that Lantrel defines within a query. */
  public static final String RESERVED = "lantrel_";

  private static final String CSV = ".csv";

  private final Catalog catalog;
  private final DuckDb database;

  private SampleData(Catalog catalog, DuckDb database) {
    this.catalog = catalog;
    this.database = database;
  }

  /**
   * Loads a folder. Either all of it is loaded or nothing.
   *
   * @throws DataException if the folder, its schema or one of its files cannot be used
   * @throws DatabaseException if the database cannot be opened
   */
  public static SampleData load(Path folder) {
    Catalog catalog = schema(folder);
    Map<String, Path> files = files(folder, catalog);
    DuckDb database = DuckDb.open();
    try {
      for (Table table : catalog.tables()) {
        fill(database, table, files);
      }
      database.seal();
      return new SampleData(catalog, database);
    } catch (SQLException failure) {
      database.close();
      throw new DatabaseException(DuckDb.words(failure), failure);
    } catch (DataException failure) {
      database.close();
      throw failure;
    }
  }

  private static Catalog schema(Path folder) {
    if (!Files.isDirectory(folder)) {
      throw new DataException(
          folder
              + ": there is no such folder; sample data is a folder with "
              + SCHEMA_FILE
              + " and a CSV file for each table");
    }
    Path file = folder.resolve(SCHEMA_FILE);
    if (!Files.isRegularFile(file)) {
      throw new DataException(
          folder + ": there is no " + SCHEMA_FILE + " in this folder; it must define the tables");
    }
    SourceText source = new SourceText(text(file));
    try {
      return withoutReservedNames(SchemaFile.read(source));
    } catch (SyntaxException wrong) {
      Span place = wrong.problem().place();
      throw new DataException(
          SCHEMA_FILE
              + ":"
              + source.place(place).line()
              + ":"
              + source.place(place).column()
              + ": "
              + wrong.getMessage(),
          wrong);
    }
  }

  private static Catalog withoutReservedNames(Catalog catalog) {
    for (Table table : catalog.tables()) {
      if (Identifier.key(table.name()).startsWith(RESERVED)) {
        throw new DataException(
            SCHEMA_FILE
                + ": the table "
                + table.name()
                + " begins with "
                + RESERVED
                + ", which Lantrel keeps for itself; rename it");
      }
    }
    return catalog;
  }

  private static String text(Path file) {
    try {
      return Files.readString(file, StandardCharsets.UTF_8);
    } catch (CharacterCodingException notUtf8) {
      throw new DataException(
          file.getFileName() + ": this is not UTF-8; save it as UTF-8", notUtf8);
    } catch (IOException failure) {
      throw new DataException(
          file.getFileName() + ": cannot be read: " + failure.getMessage(), failure);
    }
  }

  /** The CSV file of each table, by the table's name; every file must belong to a table. */
  private static Map<String, Path> files(Path folder, Catalog catalog) {
    List<String> names = catalog.tables().stream().map(Table::name).toList();
    Map<String, Path> files = new LinkedHashMap<>();
    for (Path file : csvFiles(folder)) {
      String fileName = String.valueOf(file.getFileName());
      String table = fileName.substring(0, fileName.length() - CSV.length());
      if (catalog.table(table).isEmpty()) {
        List<String> near = NearNames.of(table, names);
        throw new DataException(
            fileName
                + ": "
                + SCHEMA_FILE
                + " defines no table "
                + table
                + (near.isEmpty() ? "" : "; close to it: " + String.join(", ", near)));
      }
      files.put(Identifier.key(table), file);
    }
    return files;
  }

  private static List<Path> csvFiles(Path folder) {
    try (Stream<Path> all = Files.list(folder)) {
      return all.filter(file -> Identifier.key(file.getFileName().toString()).endsWith(CSV))
          .sorted()
          .toList();
    } catch (IOException failure) {
      throw new DataException(folder + ": cannot be read: " + failure.getMessage(), failure);
    }
  }

  private static void fill(DuckDb database, Table table, Map<String, Path> files)
      throws SQLException {
    Path file = files.get(Identifier.key(table.name()));
    if (file == null) {
      throw new DataException(
          SCHEMA_FILE
              + " defines the table "
              + table.name()
              + ", and there is no "
              + table.name()
              + CSV
              + "; an empty table still needs its header line");
    }
    try {
      database.create(table);
    } catch (SQLException refused) {
      throw new DataException(
          SCHEMA_FILE + ": DuckDB refuses the table " + table.name() + ": " + DuckDb.words(refused),
          refused);
    }
    try {
      database.insert(table, new CsvFile(file, table).read());
    } catch (SQLException refused) {
      throw new DataException(
          file.getFileName() + ": DuckDB refuses a value: " + DuckDb.words(refused), refused);
    }
  }

  /** The tables as the schema declares them. */
  public Catalog catalog() {
    return catalog;
  }

  /** The database that holds the rows. */
  public Database database() {
    return database;
  }

  @Override
  public void close() {
    database.close();
  }
}
