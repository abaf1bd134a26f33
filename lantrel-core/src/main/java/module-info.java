/**
 * Lantrel's library: it reads a query, checks it, and accounts for what each join did to the rows.
 */
@SuppressWarnings("module") // the report is built later
module io.lantrel.core {
  requires static com.h2database;
  requires org.apache.commons.csv;
  requires static duckdb.jdbc;
  requires transitive java.sql;
  requires org.antlr.antlr4.runtime;
  requires static org.hsqldb;
  requires org.jgrapht.core;
  requires static org.mariadb.jdbc;
  requires static org.postgresql.jdbc;
  requires static org.xerial.sqlitejdbc;
  requires static org.checkerframework.checker.qual;
  requires static transitive org.jspecify;

  exports io.lantrel;
  exports io.lantrel.catalog;
  exports io.lantrel.check;
  exports io.lantrel.claim;
  exports io.lantrel.compare;
  exports io.lantrel.engine;
  exports io.lantrel.failure;
  exports io.lantrel.hierarchy;
  exports io.lantrel.ledger;
  exports io.lantrel.sql;
  exports io.lantrel.survey;
  exports io.lantrel.sql.tree;
  exports io.lantrel.rewrite;
  exports io.lantrel.rows;
  exports io.lantrel.sample;
  exports io.lantrel.trace;
  exports io.lantrel.draft;
  exports io.lantrel.words to
      io.lantrel.cli,
      io.lantrel.report;
}
