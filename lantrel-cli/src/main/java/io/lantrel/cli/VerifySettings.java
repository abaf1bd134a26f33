package io.lantrel.cli;

import io.lantrel.engine.DataException;
import io.lantrel.sql.NearNames;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.TreeMap;
import java.util.regex.Pattern;

/**
 * What the file {@code verify.properties} says of the queries in its folder, and below: a key alone
 * is for all, {@code queries/late.sql.set} or {@code queries/old.fail-on} for a file or a folder.
 * It names no database: a folder may come from anybody, and whom Lantrel connects to is said by who
 * calls it.
 */
final class VerifySettings {

  static final String FILE = "verify.properties";

  private static final List<String> KEYS = List.of("data", "engines", "fail-on", "set");

  private final Path folder;
  private final Map<String, String> values;

  private VerifySettings(Path folder, Map<String, String> values) {
    this.folder = folder;
    this.values = values;
  }

  /** Those for a query: of the nearest folder around it that has the file. */
  static VerifySettings around(Path query) {
    return QueryFolder.around(query, FILE)
        .map(VerifySettings::read)
        .orElseGet(() -> new VerifySettings(Path.of("").toAbsolutePath(), Map.of()));
  }

  private static VerifySettings read(Path folder) {
    Path file = folder.resolve(FILE);
    Properties read = QueryFolder.properties(file);
    Map<String, String> values = new TreeMap<>();
    for (String key : read.stringPropertyNames()) {
      String name = key.replaceFirst("\\.[0-9]+$", "");
      String last = name.substring(name.lastIndexOf('.') + 1);
      if (!KEYS.contains(last)) {
        List<String> near = NearNames.of(last, KEYS);
        throw new DataException(
            file
                + ": there is no setting "
                + last
                + (near.isEmpty()
                    ? "; there are " + String.join(", ", KEYS)
                    : "; near it is: " + near.get(0)));
      }
      values.put(key, read.getProperty(key).strip());
    }
    return new VerifySettings(folder, values);
  }

  /** Sample data for a query. */
  Optional<Path> data(Path query) {
    return value(query, "data").map(name -> folder.resolve(name).normalize());
  }

  /** The engines for a query. */
  Optional<List<String>> engines(Path query) {
    return value(query, "engines").map(VerifySettings::parts);
  }

  /** From which severity on findings fail it. */
  Optional<FailOn> failOn(Path query) {
    return value(query, "fail-on")
        .map(
            word -> {
              for (FailOn each : FailOn.values()) {
                if (each.name().equals(word)) {
                  return each;
                }
              }
              throw new DataException(
                  folder.resolve(FILE) + ": fail-on is note, warning, error or none, not " + word);
            });
  }

  /** Each set of values for the parameters of a query; none if nothing is said. */
  List<List<String>> sets(Path query) {
    String key = relative(query) + ".set";
    List<List<String>> sets = new ArrayList<>();
    values.forEach(
        (name, value) -> {
          if (name.equals(key) || name.matches(Pattern.quote(key) + "\\.[0-9]+")) {
            sets.add(parts(value));
          }
        });
    return sets;
  }

  /** The file itself, for messages. */
  String file() {
    return folder.resolve(FILE).toString();
  }

  private Optional<String> value(Path query, String key) {
    for (String at = relative(query); !at.isEmpty(); at = parent(at)) {
      String value = values.get(at + "." + key);
      if (value != null) {
        return Optional.of(value);
      }
    }
    return Optional.ofNullable(values.get(key));
  }

  private static String parent(String path) {
    return path.substring(0, Math.max(0, path.lastIndexOf('/')));
  }

  private String relative(Path query) {
    return folder
        .toAbsolutePath()
        .normalize()
        .relativize(query.toAbsolutePath().normalize())
        .toString()
        .replace('\\', '/');
  }

  private static List<String> parts(String text) {
    return List.of(text.split("\\s*,\\s*"));
  }
}
