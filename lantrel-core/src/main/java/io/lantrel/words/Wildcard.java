package io.lantrel.words;

import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Names as people give several at a time: {@code *} stands for any characters. */
public final class Wildcard {

  private Wildcard() {}

  /** What matches the names that are meant, without regard to case. */
  public static Pattern of(String wanted) {
    String regex =
        Stream.of(wanted.strip().split("\\*", -1))
            .map(Pattern::quote)
            .collect(Collectors.joining(".*"));
    return Pattern.compile(regex, Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE | Pattern.DOTALL);
  }
}
