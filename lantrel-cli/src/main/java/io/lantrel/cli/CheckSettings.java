package io.lantrel.cli;

import io.lantrel.check.CheckRules;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.engine.DataException;
import io.lantrel.engine.Engine;
import io.lantrel.sql.NearNames;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Properties;
import java.util.Set;
import java.util.TreeSet;

/**
 * What the file {@code check.properties} says of kinds of findings, of the working directory or of
 * the nearest folder around it: {@code unordered-limit = note}, or {@code vague-alias = off, short
 * names are the custom here}. And on which engines the queries shall run as well: {@code also-on =
 * postgresql, mariadb}.
 */
final class CheckSettings {

  static final String FILE = "check.properties";

  private static final String OFF = "off";
  private static final String ALSO_ON = "also-on";

  private CheckSettings() {}

  /** The rules for who works in a directory; the usual ones if no file says otherwise. */
  static CheckRules around(Path directory) {
    // A file in the directory itself counts as well: its folder is looked at first.
    return QueryFolder.around(directory.resolve("any.sql"), FILE)
        .map(folder -> read(folder.resolve(FILE)))
        .orElse(CheckRules.USUAL);
  }

  private static CheckRules read(Path file) {
    Properties read = QueryFolder.properties(file);
    CheckRules rules = CheckRules.USUAL;
    for (String key : new TreeSet<>(read.stringPropertyNames())) {
      String text = read.getProperty(key).strip();
      rules =
          key.equals(ALSO_ON)
              ? rules.alsoOn(engines(text, file))
              : with(rules, kind(key, file), text, file);
    }
    return rules;
  }

  private static Set<Engine> engines(String text, Path file) {
    try {
      return EngineNames.engines(text);
    } catch (DataException unknown) {
      throw new DataException(file + ": " + unknown.getMessage());
    }
  }

  private static Kind kind(String name, Path file) {
    return Kind.of(name)
        .orElseThrow(
            () -> {
              List<String> near = NearNames.of(name, Kind.ids());
              return new DataException(
                  file
                      + ": there is no kind "
                      + name
                      + (near.isEmpty()
                          ? "; lantrel kinds lists them"
                          : "; near it is: " + near.get(0)));
            });
  }

  private static CheckRules with(CheckRules rules, Kind kind, String text, Path file) {
    String word = text.split("[\\s,:]", 2)[0].toLowerCase(Locale.ROOT);
    String reason = text.substring(word.length()).replaceFirst("^[\\s,:]+", "");
    if (word.equals(OFF)) {
      if (reason.isEmpty()) {
        throw new DataException(
            file
                + ": "
                + kind.id()
                + " is off without a reason; write "
                + kind.id()
                + " = off, why");
      }
      if (kind.usualSeverity() == Severity.ERROR) {
        throw new DataException(
            file + ": " + kind.id() + " cannot be off: a query with it does not run");
      }
      return rules.without(kind, reason);
    }
    for (Severity severity : Severity.values()) {
      if (severity.id().equals(word)) {
        return rules.with(kind, severity);
      }
    }
    throw new DataException(
        file + ": " + kind.id() + " is error, warning, note or off with a reason, not " + text);
  }
}
