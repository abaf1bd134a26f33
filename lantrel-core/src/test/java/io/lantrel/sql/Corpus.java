package io.lantrel.sql;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * Statements to read, in the folder {@code corpus}: a file for each engine, and the refused ones.
 */
public final class Corpus {

  private static final Pattern KIND = Pattern.compile("(?m)^-- ([a-z-]+)$");

  private Corpus() {}

  private static String text(String file) {
    try (InputStream text =
        Objects.requireNonNull(Corpus.class.getResourceAsStream("corpus/" + file))) {
      return new String(text.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException failure) {
      throw new IllegalStateException(failure);
    }
  }

  /** The dialects that have a file. */
  public static List<Dialect> dialects() {
    return Stream.of(Dialect.values()).filter(each -> each != Dialect.STANDARD).toList();
  }

  /** The statements in one engine's way of writing; for the embedded one, the plain ones too. */
  public static List<String> statements(Dialect dialect) {
    List<String> statements = new ArrayList<>(split(text(dialect.id() + ".sql"), dialect));
    if (dialect == Dialect.DUCKDB) {
      statements.addAll(plain(dialect));
    }
    return statements;
  }

  /** The statements that are written alike for all engines. */
  public static List<String> plain(Dialect dialect) {
    return split(text("plain.sql"), dialect);
  }

  /** Statements that the embedded engine refuses, with the kind of finding that says why. */
  public static Map<String, String> refused() {
    String text = text("refused.sql");
    Map<String, String> refused = new LinkedHashMap<>();
    Matcher kind = KIND.matcher(text);
    String current = "";
    int from = 0;
    while (kind.find()) {
      for (String sql : split(text.substring(from, kind.start()), Dialect.DUCKDB)) {
        refused.put(sql, current);
      }
      current = kind.group(1);
      from = kind.end();
    }
    for (String sql : split(text.substring(from), Dialect.DUCKDB)) {
      refused.put(sql, current);
    }
    return refused;
  }

  private static List<String> split(String text, Dialect dialect) {
    SourceText source = new SourceText(text);
    return SqlReader.read(source, dialect).stream()
        .map(statement -> source.at(statement.span()))
        .toList();
  }
}
