package io.lantrel.cli;

import io.lantrel.Study;
import io.lantrel.report.StudiedFile;
import java.math.BigDecimal;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** Values for the parameters of queries. */
final class ValuesOption {

  private static final Pattern NUMBER = Pattern.compile("-?(0|[1-9][0-9]*)(\\.[0-9]+)?");

  @Spec(Spec.Target.MIXEE)
  private CommandSpec spec = CommandSpec.create();

  @Option(
      names = "--set",
      paramLabel = "NAME=VALUE",
      description =
          "A value for the parameter :NAME, or by number for $1 and ?, of every query that has it: a"
              + " number, true, false, null, or a text; '7' in single quotes is a text too.")
  private List<String> set = List.of();

  /** The values by name. */
  Map<String, @Nullable Object> values() {
    return values(set, "--set");
  }

  private Map<String, @Nullable Object> values(List<String> given, String where) {
    Map<String, @Nullable Object> values = new LinkedHashMap<>();
    for (String each : given) {
      int sign = each.indexOf('=');
      if (sign < 1) {
        throw wrong(where + " takes a name and a value, as since=2026-05-01, not " + each);
      }
      String name = each.substring(0, sign).strip().replaceFirst("^[:$]", "");
      if (values.containsKey(name)) {
        throw wrong(where + " gives " + name + " two values");
      }
      values.put(name, value(each.substring(sign + 1).strip()));
    }
    return values;
  }

  /** The values by name, with others from elsewhere, which count more. */
  Map<String, @Nullable Object> valuesWith(List<String> others, String where) {
    Map<String, @Nullable Object> values = values();
    values.putAll(values(others, where));
    return values;
  }

  private static @Nullable Object value(String text) {
    if (text.length() > 1 && text.startsWith("'") && text.endsWith("'")) {
      return text.substring(1, text.length() - 1).replace("''", "'");
    }
    return switch (text.toLowerCase(Locale.ROOT)) {
      case "null" -> null;
      case "true" -> true;
      case "false" -> false;
      default -> NUMBER.matcher(text).matches() ? new BigDecimal(text) : text;
    };
  }

  /** A value that no query has a parameter for is a slip. */
  void checkUse(List<StudiedFile> files) {
    Set<String> known = new HashSet<>();
    files.stream()
        .flatMap(file -> file.studies().stream())
        .map(Study::parameters)
        .forEach(known::addAll);
    for (String name : values().keySet()) {
      if (!known.contains(name)) {
        throw wrong(
            "--set "
                + name
                + ": no query has such a parameter"
                + (known.isEmpty() ? "" : "; there is " + String.join(", ", known)));
      }
    }
  }

  private ParameterException wrong(String words) {
    return new ParameterException(spec.commandLine(), words);
  }
}
