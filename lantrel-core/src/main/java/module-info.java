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

  exports io.lantrel;
  exports io.lantrel.catalog;
  exports io.lantrel.check;
  exports io.lantrel.engine;
  exports io.lantrel.ledger;
  exports io.lantrel.probe;
  exports io.lantrel.resolve;
  exports io.lantrel.sql;
  exports io.lantrel.survey;
  exports io.lantrel.sql.tree;
}
