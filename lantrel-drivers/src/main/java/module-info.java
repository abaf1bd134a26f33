/** The library with the drivers of all databases that it knows. */
module io.lantrel.drivers {
  requires transitive io.lantrel.core;
  requires com.h2database;
  requires duckdb.jdbc;
  requires org.hsqldb;
  requires org.mariadb.jdbc;
  requires org.postgresql.jdbc;
  requires org.xerial.sqlitejdbc;
}
