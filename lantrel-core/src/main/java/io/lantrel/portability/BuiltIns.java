package io.lantrel.portability;

import io.lantrel.engine.harmless.HarmlessFunctions;
import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/** Which functions an engine brings, and what to write in place of those that few have. */
final class BuiltIns {

  private static final Map<String, String> FORMS =
      Map.ofEntries(
          Map.entry("ifnull", "COALESCE"),
          Map.entry("nvl", "COALESCE"),
          Map.entry("if", "CASE WHEN … THEN … ELSE … END"),
          Map.entry("iif", "CASE WHEN … THEN … ELSE … END"),
          Map.entry("len", "LENGTH"),
          Map.entry("char_length", "LENGTH"),
          Map.entry("left", "SUBSTRING(…, 1, …)"),
          Map.entry("right", "SUBSTRING with what LENGTH gives"),
          Map.entry("strpos", "POSITION(… IN …), or INSTR"),
          Map.entry("instr", "POSITION(… IN …)"),
          Map.entry("ucase", "UPPER"),
          Map.entry("lcase", "LOWER"),
          Map.entry("greatest", "CASE WHEN … THEN … ELSE … END"),
          Map.entry("least", "CASE WHEN … THEN … ELSE … END"),
          Map.entry("group_concat", "STRING_AGG(…, ',')"),
          Map.entry("string_agg", "GROUP_CONCAT"),
          Map.entry("listagg", "STRING_AGG, or GROUP_CONCAT"),
          Map.entry("year", "EXTRACT(YEAR FROM …)"),
          Map.entry("month", "EXTRACT(MONTH FROM …)"),
          Map.entry("day", "EXTRACT(DAY FROM …)"),
          Map.entry("now", "CURRENT_TIMESTAMP"),
          Map.entry("curdate", "CURRENT_DATE"),
          Map.entry("bool_or", "MAX(CASE WHEN … THEN 1 ELSE 0 END) = 1"),
          Map.entry("bool_and", "MIN(CASE WHEN … THEN 1 ELSE 0 END) = 1"),
          Map.entry("any_value", "MIN"));

  /** Those whose form takes the same values. */
  private static final Set<String> RENAMED =
      Set.of("ifnull", "nvl", "len", "char_length", "ucase", "lcase");

  /** By dialect, what may be run there, but is not there: the list of what may run is wider. */
  private static final Map<String, Set<String>> ABSENT = absent();

  private BuiltIns() {}

  /**
   * Whether an engine brings a function.
   *
   * @param name in small letters
   */
  static boolean has(Dialect dialect, String name) {
    return HarmlessFunctions.of(dialect).contains(name)
        && !ABSENT.getOrDefault(dialect.id(), Set.of()).contains(name);
  }

  private static Map<String, Set<String>> absent() {
    String file = "absent-functions.txt";
    try (InputStream text =
        Objects.requireNonNull(BuiltIns.class.getResourceAsStream(file), file)) {
      Map<String, Set<String>> absent = new HashMap<>();
      new String(text.readAllBytes(), StandardCharsets.UTF_8)
          .lines()
          .filter(line -> !line.startsWith("#"))
          .forEach(
              line -> {
                int colon = line.indexOf(':');
                absent
                    .computeIfAbsent(line.substring(0, colon), key -> new HashSet<>())
                    .addAll(List.of(line.substring(colon + 2).split(" ", -1)));
              });
      return absent;
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  /** Another name that means the same; empty if more is to be changed. */
  static Optional<String> otherName(String name) {
    return RENAMED.contains(name) ? Optional.of(form(name)) : Optional.empty();
  }

  /** What to write in its place; empty if nothing is known that fits. */
  static String form(String name) {
    return FORMS.getOrDefault(name, "");
  }
}
