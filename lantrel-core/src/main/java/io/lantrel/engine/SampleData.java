package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.engine.harmless.DatabaseObjects;
import io.lantrel.engine.harmless.Permission;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.SchemaStatement.InsertRows;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
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

  private static final Duration FOREVER = Duration.ofDays(1);

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
  public static SampleData load(Path folder, Engine engine, Limits limits) {
    return load(folder, engine, engine.dialect(), limits);
  }

  /**
   * The same with a schema, and queries, in the SQL of another product.
   *
   * @param dialect how they are read; what is sent to the engine is in its own SQL
   */
  public static SampleData load(Path folder, Engine engine, Dialect dialect, Limits limits) {
    if (!(engine.product() instanceof EmbeddedProduct product)) {
      throw new DataException(
          engine.title()
              + " is a server, which Lantrel only reads; sample data is loaded into "
              + String.join(", ", Engine.embedded().stream().map(Engine::id).toList()));
    }
    EngineThread thread = new EngineThread();
    SampleFolder files = SampleFolder.of(folder);
    // The engine starts while the schema is read: both take their time.
    CompletableFuture<Connection> opening =
        CompletableFuture.supplyAsync(() -> open(product, thread, limits, files.isSmall()));
    SchemaText schema;
    try {
      schema = SchemaText.read(files.schema(), dialect);
      files.belongTo(schema.catalog());
    } catch (DataException failure) {
      abandon(opening, failure);
      thread.close();
      throw failure;
    }
    return load(product, opened(opening), thread, limits, schema, files);
  }

  private static SampleData load(
      EmbeddedProduct product,
      Connection connection,
      EngineThread thread,
      Limits limits,
      SchemaText schema,
      SampleFolder files) {
    Catalog catalog = schema.catalog();
    // What is harmless is a question of where it runs.
    Permission permission =
        new Permission(catalog.in(product.dialect()), DatabaseObjects.none(), limits.allowed());
    List<String> notes = new ArrayList<>(schema.notes());
    try {
      Connection reading =
          thread.call(
              () -> {
                Loader loader = new Loader(product, connection, catalog);
                for (Table table : catalog.tables()) {
                  fill(product, loader, table, files, rowsOf(table, schema), notes);
                }
                loader.verify();
                catalog.views().forEach(view -> create(product, loader, view, permission, notes));
                return product.seal(connection);
              },
              FOREVER,
              () -> false);
      Session session = Connections.over(product, reading, thread, files.isSmall(), limits);
      session.permit(catalog.in(product.dialect()));
      return new SampleData(catalog, session, notes);
    } catch (SQLException failure) {
      close(product, connection, failure);
      thread.close();
      throw new DatabaseException(
          DatabaseException.Reason.REFUSED, product.words(failure), failure);
    } catch (DataException failure) {
      close(product, connection, failure);
      thread.close();
      throw failure;
    }
  }

  static void warmUp(EmbeddedProduct product, Limits limits) {
    try {
      product.requireDriver();
      product.warmUp(limits);
    } catch (SQLException failure) {
      throw new DatabaseException(
          DatabaseException.Reason.CONNECTION_LOST, product.words(failure), failure);
    }
  }

  private static Connection open(
      EmbeddedProduct product, EngineThread thread, Limits limits, boolean small) {
    try {
      return thread.call(
          () -> {
            product.requireDriver();
            return product.open(limits, small);
          },
          FOREVER,
          () -> false);
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
      opened(opening).close();
    } catch (DatabaseException | SQLException notOpened) {
      first.addSuppressed(notOpened);
    }
  }

  private static void close(EmbeddedProduct product, Connection connection, Exception first) {
    try {
      connection.close();
      product.closed(connection);
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

  /** The rows that the schema file itself puts into a table. */
  private static List<InsertRows> rowsOf(Table table, SchemaText schema) {
    return schema.rows().stream()
        .filter(rows -> schema.catalog().table(rows.table()).filter(table::equals).isPresent())
        .toList();
  }

  /** A view that the engine does not take is no reason to refuse all tables. */
  private static void create(
      EmbeddedProduct product,
      Loader loader,
      View view,
      Permission permission,
      List<String> notes) {
    if (view.query() == null) {
      return;
    }
    Optional<String> unsafe = permission.refusal(view.query());
    if (unsafe.isPresent()) {
      notes.add(SCHEMA_FILE + ": the view " + view.name() + " was left out: " + unsafe.get());
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

  private static void fill(
      EmbeddedProduct product,
      Loader loader,
      Table table,
      SampleFolder files,
      List<InsertRows> rows,
      List<String> notes) {
    Path file = files.of(table);
    if (file == null && rows.isEmpty()) {
      throw new DataException(
          SCHEMA_FILE
              + " defines the table "
              + table.name()
              + ", and there is no "
              + table.name()
              + SampleFolder.CSV
              + "; an empty table still needs its header line");
    }
    Table made;
    try {
      made = loader.create(table, notes);
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
    try {
      if (file != null) {
        List<@Nullable Object[]> read = new CsvFile(file, made, product.decimalDefaults()).read();
        loader.insert(made, read);
      }
      for (InsertRows each : rows) {
        loader.insert(made, each);
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
