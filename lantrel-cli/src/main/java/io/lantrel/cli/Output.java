package io.lantrel.cli;

import io.lantrel.report.Style;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Option;

/** How a command writes its answer. */
final class Output {

  @Option(
      names = "--format",
      defaultValue = "text",
      paramLabel = "FORMAT",
      description = "${COMPLETION-CANDIDATES}; default: ${DEFAULT-VALUE}.")
  Format format = Format.text;

  /** Colours only on a terminal, and not with NO_COLOR; the width from COLUMNS if it is there. */
  static Style style() {
    String columns = System.getenv("COLUMNS");
    int width = columns != null && columns.matches("[0-9]{1,4}") ? Integer.parseInt(columns) : 100;
    return new Style(Ansi.AUTO.enabled(), width);
  }
}
