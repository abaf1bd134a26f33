package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import javax.sql.DataSource;

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
    return over(Connections.to(access));
  }

  /**
   * Reads through a connection of somebody else's, which is as it was when this is closed.
   *
   * @param connection on which no transaction runs; nobody else uses it until then
   * @throws DatabaseException if it is in a transaction, or the database does not tell what is in
   *     it
   */
  public static LiveDatabase lent(Connection connection, Limits limits) {
    return over(Connections.lent(connection, limits, () -> {}));
  }

  /**
   * Reads through a connection of a data source, which is closed when this is.
   *
   * @throws DatabaseException if the source gives none, or one in a transaction
   */
  public static LiveDatabase from(DataSource source, Limits limits) {
    Connection connection;
    try {
      connection = source.getConnection();
    } catch (SQLException failure) {
      throw new DatabaseException(
          DatabaseException.Reason.CONNECTION_LOST,
          "the data source gives no connection: " + failure.getMessage(),
          failure);
    }
    try {
      return over(Connections.lent(connection, limits, connection::close));
    } catch (RuntimeException failure) {
      try {
        connection.close();
      } catch (SQLException further) {
        failure.addSuppressed(further);
      }
      throw failure;
    }
  }

  private static LiveDatabase over(Session session) {
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
