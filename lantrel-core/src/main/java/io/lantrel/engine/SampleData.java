package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.SchemaStatement.InsertRows;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
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
  private final List<String> notes;

  private SampleData(Catalog catalog, DuckDb database, List<String> notes) {
    this.catalog = catalog;
    this.database = database;
    this.notes = List.copyOf(notes);
  }

  /**
   * Loads a folder. Either all of it is loaded or nothing.
   *
   * @throws DataException if the folder, its schema or one of its files cannot be used
   * @throws DatabaseException if the database cannot be opened
   */
  public static SampleData load(Path folder) {
    SchemaText schema = schema(folder);
    Catalog catalog = schema.catalog();
    Map<String, Path> files = files(folder, catalog);
    DuckDb database = DuckDb.open();
    try {
      for (Table table : catalog.tables()) {
        fill(database, table, files, rowsOf(table, schema));
      }
      List<String> notes = new ArrayList<>(schema.notes());
      catalog.views().forEach(view -> create(database, view, notes));
      database.seal();
      return new SampleData(catalog, database, notes);
    } catch (SQLException failure) {
      database.close();
      throw new DatabaseException(DuckDb.words(failure), failure);
    } catch (DataException failure) {
      database.close();
      throw failure;
    }
  }

  private static SchemaText schema(Path folder) {
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
    return SchemaText.read(file, Dialect.DUCKDB);
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

  /** The rows that the schema file itself puts into a table. */
  private static List<InsertRows> rowsOf(Table table, SchemaText schema) {
    return schema.rows().stream()
        .filter(rows -> schema.catalog().table(rows.table()).filter(table::equals).isPresent())
        .toList();
  }

  /** A view that DuckDB does not take is no reason to refuse all tables. */
  private static void create(DuckDb database, View view, List<String> notes) {
    if (view.query() == null) {
      return;
    }
    try {
      database.create(view);
    } catch (SQLException refused) {
      notes.add(
          SCHEMA_FILE + ": DuckDB refuses the view " + view.name() + ": " + DuckDb.words(refused));
    }
  }

  private static void fill(
      DuckDb database, Table table, Map<String, Path> files, List<InsertRows> rows)
      throws SQLException {
    Path file = files.get(Identifier.key(table.name()));
    if (file == null && rows.isEmpty()) {
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
      if (file != null) {
        database.insert(table, new CsvFile(file, table).read());
      }
      for (InsertRows each : rows) {
        database.insert(table, each);
      }
    } catch (SQLException refused) {
      throw new DataException(
          (file == null ? SCHEMA_FILE : file.getFileName())
              + ": DuckDB refuses a value: "
              + DuckDb.words(refused),
          refused);
    }
  }

  /** The tables as the schema declares them. */
  public Catalog catalog() {
    return catalog;
  }

  /** What of the schema was passed over although it may matter, in sentences. */
  public List<String> notes() {
    return notes;
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
