package io.lantrel.check;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A query in a table of cases.
 *
 * @param kind the kind of finding that it has; {@code right} for a correct one
 * @param marked the query, with « and » around the place
 */
public record Case(String kind, String marked) {

  /** {@code -- kind} above a statement. */
  private static final Pattern CASE = Pattern.compile("-- ([a-z-]+)\\n(.*?);\\n", Pattern.DOTALL);

  /** The faulty ones. */
  public static List<Case> faulty() {
    return of("faulty.sql");
  }

  /** The correct ones, which look suspicious, or not. */
  public static List<Case> innocent() {
    return of("innocent.sql");
  }

  /** Those of a file beside this class. */
  public static List<Case> of(String file) {
    try (InputStream in = Case.class.getResourceAsStream(file)) {
      String text =
          new String(Objects.requireNonNull(in, file).readAllBytes(), StandardCharsets.UTF_8);
      List<Case> cases = new ArrayList<>();
      Matcher matcher = CASE.matcher(text);
      while (matcher.find()) {
        cases.add(new Case(matcher.group(1), matcher.group(2).strip()));
      }
      return cases;
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  /** The query. */
  public String sql() {
    return marked.replace("«", "").replace("»", "");
  }

  /** Where its place begins. */
  public int start() {
    return marked.indexOf('«');
  }

  /** Where its place ends. */
  public int end() {
    return marked.indexOf('»') - 1;
  }

  @Override
  public String toString() {
    return kind + ": " + marked.replaceAll("\\s+", " ");
  }
}
