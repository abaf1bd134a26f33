package io.lantrel.cli;

import io.lantrel.engine.Engine;
import io.lantrel.sql.NearNames;
import java.util.ArrayList;
import java.util.List;
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
    List<String> known = new EngineNames();
    return Engine.of(name)
        .filter(each -> known.contains(each.id()))
        .orElseThrow(
            () -> {
              List<String> near = NearNames.of(name, known);
              return new ParameterException(
                  spec.commandLine(),
                  "there is no engine "
                      + name
                      + (near.isEmpty() ? "" : "; close to it: " + String.join(", ", near))
                      + "; known are "
                      + String.join(", ", known));
            });
  }
}
