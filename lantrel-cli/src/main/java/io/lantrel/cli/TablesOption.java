package io.lantrel.cli;

import io.lantrel.Lantrel;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.NearNames;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** The tables that queries are about: with rows, or as a schema alone. */
final class TablesOption {

  @Spec(Spec.Target.MIXEE)
  private CommandSpec spec = CommandSpec.create();

  @Option(
      names = "--data",
      paramLabel = "DIR",
      description = "Folder with schema.sql and one CSV file for each table.")
  private @Nullable Path data;

  @Option(
      names = "--schema",
      paramLabel = "FILE.sql",
      description =
          "A schema alone, without rows: nothing is run, and only what needs no rows is checked.")
  private @Nullable Path schema;

  @Option(
      names = "--engine",
      paramLabel = "NAME",
      completionCandidates = EngineNames.class,
      description =
          "How a schema alone and its queries are written: ${COMPLETION-CANDIDATES};"
              + " default: duckdb.")
  private @Nullable String engine;

  /** What picocli shows in the help. */
  static final class EngineNames extends ArrayList<String> {
    private static final long serialVersionUID = 1L;

    EngineNames() {
      super(Dialect.ids());
    }
  }

  Lantrel open() {
    if ((data == null) == (schema == null)) {
      throw wrong(
          data == null
              ? "where are the tables? Give --data DIR for sample data, or --schema FILE.sql"
              : "--data and --schema exclude each other: the folder has its own schema.sql");
    }
    if (schema != null) {
      return Lantrel.openSchema(schema, dialect());
    }
    if (engine != null) {
      throw wrong("--engine goes with --schema: sample data is loaded into DuckDB");
    }
    return Lantrel.open(data == null ? Path.of("") : data);
  }

  private Dialect dialect() {
    String name = engine;
    if (name == null) {
      return Dialect.DUCKDB;
    }
    return Dialect.of(name)
        .orElseThrow(
            () -> {
              List<String> near = NearNames.of(name, Dialect.ids());
              return wrong(
                  "there is no engine "
                      + name
                      + (near.isEmpty() ? "" : "; close to it: " + String.join(", ", near))
                      + "; known are "
                      + String.join(", ", Dialect.ids()));
            });
  }

  private ParameterException wrong(String message) {
    return new ParameterException(spec.commandLine(), message);
  }
}
