/** The command line. */
module io.lantrel.cli {
  requires io.lantrel.core;
  requires io.lantrel.examples;
  requires io.lantrel.report;
  requires info.picocli;
  requires static org.jspecify;

  opens io.lantrel.cli to
      info.picocli;
}
