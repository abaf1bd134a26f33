package io.lantrel.engine.harmless;

import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.EnumMap;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * The built-in functions of each product that do nothing but compute, by name in small letters: one
 * file for each product, and one of what all have in common.
 */
public final class HarmlessFunctions {

  private static final Map<Dialect, Set<String>> KNOWN = new EnumMap<>(Dialect.class);

  private HarmlessFunctions() {}

  /** Those of a product. */
  public static synchronized Set<String> of(Dialect dialect) {
    return KNOWN.computeIfAbsent(
        dialect,
        each ->
            each == Dialect.STANDARD
                ? Set.copyOf(read(Dialect.STANDARD))
                : Stream.concat(read(each).stream(), read(Dialect.STANDARD).stream())
                    .collect(Collectors.toUnmodifiableSet()));
  }

  private static Set<String> read(Dialect dialect) {
    String file = "/io/lantrel/engine/harmless/" + dialect.id() + ".txt";
    try (InputStream text =
        Objects.requireNonNull(HarmlessFunctions.class.getResourceAsStream(file), file)) {
      return new String(text.readAllBytes(), StandardCharsets.UTF_8)
          .lines()
          .filter(line -> !line.startsWith("#"))
          .flatMap(line -> Stream.of(line.split(" ", -1)))
          .collect(Collectors.toSet());
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }
}
