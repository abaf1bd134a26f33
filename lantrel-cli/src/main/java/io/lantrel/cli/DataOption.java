package io.lantrel.cli;

import java.nio.file.Path;
import picocli.CommandLine.Option;

/** Where the sample data is. */
final class DataOption {

  @Option(
      names = "--data",
      required = true,
      paramLabel = "DIR",
      description = "Folder with schema.sql and one CSV file for each table.")
  Path folder = Path.of("");
}
