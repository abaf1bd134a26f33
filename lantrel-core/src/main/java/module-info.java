/**
 * Lantrel's library: it reads a query, checks it, and accounts for what each join did to the rows.
 */
module io.lantrel.core {
  requires de.siegmar.fastcsv;
  requires duckdb.jdbc;
  requires transitive java.sql;
  requires org.antlr.antlr4.runtime;
  requires org.jgrapht.core;
  requires static transitive org.jspecify;

  exports io.lantrel.catalog;
  exports io.lantrel.engine;
  exports io.lantrel.resolve;
  exports io.lantrel.sql;
  exports io.lantrel.sql.tree;
}
