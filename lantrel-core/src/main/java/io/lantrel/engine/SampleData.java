package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.SchemaStatement.InsertRows;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The rows on which queries are tried: a folder with {@code schema.sql} and one CSV file for each
 * table, loaded into a database of its own.
 */
public final class SampleData {

  /** The file that defines the tables. */
  public static final String SCHEMA_FILE = "schema.sql";

  /** How the names of everything begin that Lantrel defines within a query. */
  public static final String RESERVED = "lantrel_";

  private static final String CSV = ".csv";

  private final Catalog catalog;
  private final Session database;
  private final List<String> notes;

  private SampleData(Catalog catalog, Session database, List<String> notes) {
    this.catalog = catalog;
    this.database = database;
    this.notes = List.copyOf(notes);
  }

  /**
   * Loads a folder. Either all of it is loaded or nothing.
   *
   * @param engine where to; one that is {@link Engine#isEmbedded}, and in whose SQL the schema is
   *     written
   * @throws DataException if the folder, its schema or one of its files cannot be used, or if the
   *     engine is a server
   * @throws DatabaseException if the database cannot be opened
   */
  public static SampleData load(Path folder, Engine engine) {
    if (!(engine.product() instanceof EmbeddedProduct product)) {
      throw new DataException(
          engine.title()
              + " is a server, which Lantrel only reads; sample data is loaded into "
              + String.join(", ", Engine.embedded().stream().map(Engine::id).toList()));
    }
    // The engine starts while the schema is read: both take their time.
    CompletableFuture<Connection> opening = CompletableFuture.supplyAsync(() -> open(product));
    SchemaText schema;
    Map<String, Path> files;
    try {
      schema = schema(folder, engine);
      files = files(folder, schema.catalog());
    } catch (DataException failure) {
      abandon(opening, failure);
      throw failure;
    }
    return load(product, opened(opening), schema, files);
  }

  private static SampleData load(
      EmbeddedProduct product, Connection connection, SchemaText schema, Map<String, Path> files) {
    Catalog catalog = schema.catalog();
    try {
      Loader loader = new Loader(product, connection);
      long rows = 0;
      for (Table table : catalog.tables()) {
        rows += fill(product, loader, table, files, rowsOf(table, schema));
      }
      List<String> notes = new ArrayList<>(schema.notes());
      catalog.views().forEach(view -> create(product, loader, view, notes));
      return new SampleData(catalog, Session.over(product, product.seal(connection, rows)), notes);
    } catch (SQLException failure) {
      close(connection, failure);
      throw new DatabaseException(
          DatabaseException.Reason.REFUSED, product.words(failure), failure);
    } catch (DataException failure) {
      close(connection, failure);
      throw failure;
    }
  }

  static void warmUp(EmbeddedProduct product) {
    try {
      open(product).close();
    } catch (SQLException failure) {
      throw new DatabaseException(
          DatabaseException.Reason.CONNECTION_LOST, product.words(failure), failure);
    }
  }

  private static Connection open(EmbeddedProduct product) {
    try {
      return product.open();
    } catch (SQLException failure) {
      throw new DatabaseException(
          DatabaseException.Reason.CONNECTION_LOST,
          product.title() + " does not start: " + product.words(failure),
          failure);
    }
  }

  private static Connection opened(CompletableFuture<Connection> opening) {
    try {
      return opening.join();
    } catch (CompletionException failure) {
      throw failure.getCause() instanceof DatabaseException known ? known : failure;
    }
  }

  private static void abandon(CompletableFuture<Connection> opening, DataException first) {
    try {
      close(opened(opening), first);
    } catch (DatabaseException notOpened) {
      first.addSuppressed(notOpened);
    }
  }

  private static void close(Connection connection, Exception first) {
    try {
      connection.close();
    } catch (SQLException failure) {
      first.addSuppressed(failure);
    }
  }

  /** A table that Lantrel could not tell from what it defines within a query. */
  static Optional<String> reservedTable(Catalog catalog) {
    return catalog.tables().stream()
        .map(Table::name)
        .filter(name -> Identifier.key(name).startsWith(RESERVED))
        .findFirst()
        .map(name -> "the table " + name + " begins with " + RESERVED);
  }

  private static SchemaText schema(Path folder, Engine engine) {
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
    return SchemaText.read(file, engine.dialect());
  }

  /** The CSV file of each table, by the table's name; every file must belong to a table. */
  private static Map<String, Path> files(Path folder, Catalog catalog) {
    List<String> names = catalog.tables().stream().map(Table::name).toList();
    Map<String, Path> files = new LinkedHashMap<>();
    for (Path file : csvFiles(folder)) {
      String fileName = String.valueOf(file.getFileName());
      String table = fileName.substring(0, fileName.length() - CSV.length());
      Optional<Table> known =
          catalog.tables().stream()
              .filter(each -> CsvFile.key(each.name()).equals(Identifier.key(table)))
              .findFirst();
      if (known.isEmpty()) {
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

  /** A view that the engine does not take is no reason to refuse all tables. */
  private static void create(
      EmbeddedProduct product, Loader loader, View view, List<String> notes) {
    if (view.query() == null) {
      return;
    }
    try {
      loader.create(view);
    } catch (SQLException refused) {
      notes.add(
          SCHEMA_FILE
              + ": "
              + product.title()
              + " refuses the view "
              + view.name()
              + ": "
              + product.words(refused));
    }
  }

  /** How many rows came in; those that the schema itself puts in are few. */
  private static long fill(
      EmbeddedProduct product,
      Loader loader,
      Table table,
      Map<String, Path> files,
      List<InsertRows> rows) {
    Path file = files.get(CsvFile.key(table.name()));
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
      loader.create(table);
    } catch (SQLException refused) {
      throw new DataException(
          SCHEMA_FILE
              + ": "
              + product.title()
              + " refuses the table "
              + table.name()
              + ": "
              + product.words(refused),
          refused);
    }
    long count = 0;
    try {
      if (file != null) {
        List<@Nullable Object[]> read = new CsvFile(file, table, product.decimalDefaults()).read();
        loader.insert(table, read);
        count += read.size();
      }
      for (InsertRows each : rows) {
        loader.insert(table, each);
      }
    } catch (SQLException refused) {
      throw new DataException(
          (file == null ? SCHEMA_FILE : file.getFileName())
              + ": "
              + product.title()
              + " refuses a value: "
              + product.words(refused),
          refused);
    }
    return count;
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
}
