package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.Identifier;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.Objects;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.antlr.v4.runtime.misc.IntervalSet;

/** Which words are names, and which names need quotes. */
final class Keywords {

  private static final Pattern PLAIN = Pattern.compile("[\\p{L}_][\\p{L}\\p{M}\\p{N}_$]*");
  private static final IntervalSet AS_NAMES = startOf(SqlParser.RULE_identifier);
  private static final IntervalSet RESERVED_TYPES = startOf(SqlParser.RULE_reservedWord);
  private static final IntervalSet BEHIND_TABLE = startOf(SqlParser.RULE_afterTableWord);
  private static final Set<String> QUOTED = quoted();
  private static final Set<String> RESERVED = reserved();

  private Keywords() {}

  /**
   * Whether a name must be written in quotes. One that stands in a user's text without them is read
   * by its engine; of one that Lantrel writes itself this must hold for every engine.
   */
  static boolean needsQuotes(Identifier name) {
    boolean reserved =
        QUOTED.contains(name.key()) || (name.span().isNowhere() && RESERVED.contains(name.key()));
    return reserved || !PLAIN.matcher(name.text()).matches();
  }

  /** Whether a token can be a name. */
  static boolean isName(int type) {
    return AS_NAMES.contains(type);
  }

  /** Whether a token is a word that cannot be a name. */
  static boolean isReserved(int type) {
    return RESERVED_TYPES.contains(type);
  }

  /** Whether a token is a word of SQL. */
  static boolean isKeyword(int type) {
    return type < SqlLexer.COMMA;
  }

  private static Set<String> reserved() {
    try (InputStream text =
        Objects.requireNonNull(Keywords.class.getResourceAsStream("reserved-words.txt"))) {
      return new String(text.readAllBytes(), StandardCharsets.UTF_8)
          .lines()
          .filter(line -> !line.startsWith("#"))
          .flatMap(line -> Stream.of(line.split(" ", -1)))
          .collect(Collectors.toUnmodifiableSet());
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  private static IntervalSet startOf(int rule) {
    return SqlParser._ATN.nextTokens(SqlParser._ATN.ruleToStartState[rule]);
  }

  /** Names that are words of SQL get quotes: then nobody need know whether the word is reserved. */
  private static Set<String> quoted() {
    Set<String> words = new HashSet<>();
    for (int type = SqlLexer.ABSENT; type < SqlLexer.COMMA; type++) {
      String literal = SqlParser.VOCABULARY.getLiteralName(type);
      boolean used = isReserved(type) || BEHIND_TABLE.contains(type);
      if (used) {
        words.add(Identifier.key(literal.substring(1, literal.length() - 1)));
      }
    }
    return Set.copyOf(words);
  }
}
