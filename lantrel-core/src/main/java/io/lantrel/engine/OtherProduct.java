package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.engine.harmless.DatabaseObjects;
import io.lantrel.sql.Dialect;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;

/** A product of which Lantrel knows nothing but its JDBC driver, which is on the class path. */
final class OtherProduct extends Product {

  @Override
  String urlPrefix() {
    return "jdbc:";
  }

  @Override
  String title() {
    return "the database";
  }

  @Override
  Dialect dialect() {
    return Dialect.STANDARD;
  }

  @Override
  Connection connect(Access access) throws SQLException {
    Connection connection = DriverManager.getConnection(access.url(), access.properties());
    return settled(
        connection,
        () -> {
          connection.setReadOnly(true);
          connection.setAutoCommit(false);
        });
  }

  @Override
  Catalog catalog(Connection connection) throws SQLException {
    return new CatalogReader(connection, dialect()).read();
  }

  /** Whose views cannot be looked through. */
  @Override
  DatabaseObjects objects(Connection connection) throws SQLException {
    DatabaseObjects objects = DatabaseObjects.none();
    try (ResultSet rows = connection.getMetaData().getTables(null, null, "%", null)) {
      while (rows.next()) {
        String type = String.valueOf(rows.getString("TABLE_TYPE"));
        String schema = rows.getString("TABLE_SCHEM");
        if (!type.contains("TABLE") && !type.contains("SYSTEM")) {
          objects.add(
              "view",
              DatabaseObjects.key(schema == null ? "" : schema, rows.getString("TABLE_NAME")),
              "");
        }
      }
    }
    return objects;
  }

  @Override
  String words(SQLException failure) {
    return failure.getMessage() != null && failure.getMessage().startsWith("No suitable driver")
        ? "no driver on the class path takes this URL"
        : super.words(failure);
  }
}
