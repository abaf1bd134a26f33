package io.lantrel.engine;

import io.lantrel.catalog.Catalog;

/** Somebody's own database, which is only read. */
public final class LiveDatabase {

  private final Catalog catalog;
  private final Session database;

  private LiveDatabase(Catalog catalog, Session database) {
    this.catalog = catalog;
    this.database = database;
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
      return new LiveDatabase(catalog, session);
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

  /** The connection. */
  public Database database() {
    return database;
  }
}
