/** What people and programs read of Lantrel's answers. */
module io.lantrel.report {
  requires transitive io.lantrel.core;
  requires java.xml;
  requires com.fasterxml.jackson.databind;
  requires io.github.javadiffutils;
  requires org.apache.commons.csv;
  requires org.jline.terminal;
  requires static transitive org.jspecify;

  exports io.lantrel.report;
}
