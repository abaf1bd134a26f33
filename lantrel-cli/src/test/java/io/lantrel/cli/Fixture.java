package io.lantrel.cli;

import com.networknt.schema.InputFormat;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import com.networknt.schema.ValidationMessage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/** What the tests of the commands stand on: small worlds in folders, and the schemas of JSON. */
final class Fixture {

  /** The folder of the whole project, from wherever the tests are started. */
  static final Path ROOT = root();

  private Fixture() {}

  private static Path root() {
    Path here = Path.of("").toAbsolutePath();
    return Files.isDirectory(here.resolve("docs")) ? here : here.resolve("..").normalize();
  }

  /**
   * Writes files into a new folder.
   *
   * @param files their texts by their names, which may lead into folders
   */
  static Path folder(String name, Map<String, String> files) throws IOException {
    Path folder = Files.createTempDirectory(name);
    for (Map.Entry<String, String> each : files.entrySet()) {
      Path file = folder.resolve(each.getKey());
      Files.createDirectories(file.getParent());
      Files.writeString(file, each.getValue());
    }
    return folder;
  }

  /** In what a JSON text does not fit the schema of a command; nothing if it fits. */
  static List<String> violations(String command, String json) throws IOException {
    Path schema = ROOT.resolve("docs/schemas/" + command + ".schema.json");
    return JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
        .getSchema(Files.readString(schema))
        .validate(json, InputFormat.JSON)
        .stream()
        .map(ValidationMessage::getMessage)
        .toList();
  }
}
