package io.lantrel.claim;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A page of queries; above each stand claims about it, with what is to become of them. */
final class ClaimPage {

  private static final Pattern QUERY =
      Pattern.compile("(?<claims>(?:-- [^\\n]*\\n)+)(?<sql>(?:SELECT|WITH|VALUES)[^;]*);");

  private static final Pattern CLAIM =
      Pattern.compile(
          "-- (?<verdict>proven|not proven|holds|broken|undecided|misspelt): (?<claim>.*?)"
              + "(?: => (?<reason>.*))?");

  private ClaimPage() {}

  /**
   * A claim.
   *
   * @param reason what the reason must contain
   */
  record Expected(String sql, String verdict, String claim, String reason) {
    @Override
    public String toString() {
      return verdict + ": " + claim + " of " + sql;
    }
  }

  static List<Expected> read(String file) {
    String text;
    try (InputStream in = ClaimPage.class.getResourceAsStream(file)) {
      text = new String(Objects.requireNonNull(in).readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException missing) {
      throw new UncheckedIOException(missing);
    }
    List<Expected> all = new ArrayList<>();
    Matcher queries = QUERY.matcher(text.replaceFirst("(?s)^.*?\\n\\n", ""));
    while (queries.find()) {
      for (String line : queries.group("claims").lines().toList()) {
        Matcher claim = CLAIM.matcher(line);
        if (!claim.matches()) {
          throw new IllegalStateException("not understood: " + line);
        }
        all.add(
            new Expected(
                queries.group("sql"),
                claim.group("verdict"),
                claim.group("claim"),
                Objects.requireNonNullElse(claim.group("reason"), "")));
      }
    }
    return all;
  }
}
