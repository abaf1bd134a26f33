package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import java.util.List;

/** Somebody's own database, which is only read. */
public final class LiveDatabase {

  private final Catalog catalog;
  private final Session database;

  private final List<String> notes;

  private LiveDatabase(Catalog catalog, Session database, List<String> notes) {
    this.catalog = catalog;
    this.database = database;
    this.notes = notes;
  }

  /**
   * Connects, and reads what a query can use.
   *
   * @throws DatabaseException if that fails
   */
  public static LiveDatabase open(Access access) {
    Session session = Session.connect(access);
    try {
      Catalog catalog = session.catalog();
      SampleData.reservedTable(catalog).ifPresent(LiveDatabase::refuse);
      session.permit(catalog);
      return new LiveDatabase(catalog, session, session.noteOnRights().stream().toList());
    } catch (RuntimeException failure) {
      session.close();
      throw failure;
    }
  }

  private static void refuse(String table) {
    throw new DataException(table + ", which Lantrel keeps for what it defines within a query");
  }

  /** The tables as the database declares them. */
  public Catalog catalog() {
    return catalog;
  }

  /** What is worth knowing of the user who connected, in sentences. */
  public List<String> notes() {
    return notes;
  }

  /** The connection. */
  public Database database() {
    return database;
  }
}
