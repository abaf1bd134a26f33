package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.sql.Dialect;
import java.sql.Connection;
import java.sql.DriverManager;
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
    connection.setReadOnly(true);
    connection.setAutoCommit(false);
    return connection;
  }

  @Override
  Catalog catalog(Connection connection) throws SQLException {
    return new CatalogReader(connection, dialect()).read();
  }

  @Override
  String words(SQLException failure) {
    return failure.getMessage() != null && failure.getMessage().startsWith("No suitable driver")
        ? "no driver on the class path takes this URL"
        : super.words(failure);
  }
}
