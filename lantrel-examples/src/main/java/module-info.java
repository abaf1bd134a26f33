/** The river watch, and runnable examples on it. */
module io.lantrel.examples {
  requires transitive io.lantrel.core;
  requires io.lantrel.drivers;
  requires io.lantrel.report;
  requires static transitive org.jspecify;

  exports io.lantrel.examples;
}
