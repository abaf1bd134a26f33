package io.lantrel.cli;

import io.lantrel.engine.DataException;
import io.lantrel.engine.Engine;
import io.lantrel.sql.NearNames;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;

/** The names of engines, as picocli shows them in the help. */
final class EngineNames extends ArrayList<String> {
  private static final long serialVersionUID = 1L;

  EngineNames() {
    super(Stream.of(Engine.values()).filter(each -> each != Engine.OTHER).map(Engine::id).toList());
  }

  /** The engine of that name. */
  static Engine engine(String name, CommandSpec spec) {
    try {
      return engine(name);
    } catch (DataException unknown) {
      throw new ParameterException(spec.commandLine(), String.valueOf(unknown.getMessage()));
    }
  }

  /** Several, with commas between them. */
  static Set<Engine> engines(String names, CommandSpec spec) {
    try {
      return engines(names);
    } catch (DataException unknown) {
      throw new ParameterException(spec.commandLine(), String.valueOf(unknown.getMessage()));
    }
  }

  private static Engine engine(String name) {
    List<String> known = new EngineNames();
    return Engine.of(name)
        .filter(each -> known.contains(each.id()))
        .orElseThrow(
            () -> {
              List<String> near = NearNames.of(name, known);
              return new DataException(
                  "there is no engine "
                      + name
                      + (near.isEmpty() ? "" : "; close to it: " + String.join(", ", near))
                      + "; known are "
                      + String.join(", ", known));
            });
  }

  /**
   * The same, outside of a command.
   *
   * @throws DataException if there is no engine of one of the names
   */
  static Set<Engine> engines(String names) {
    Set<Engine> engines = EnumSet.noneOf(Engine.class);
    for (String name : names.strip().split("\\s*,\\s*", -1)) {
      engines.add(engine(name));
    }
    return engines;
  }
}
