package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.Identifier;
import java.util.HashSet;
import java.util.Set;
import java.util.regex.Pattern;
import org.antlr.v4.runtime.misc.IntervalSet;

/** Which words are names, and which names need quotes. */
final class Keywords {

  private static final Pattern PLAIN = Pattern.compile("[\\p{L}_][\\p{L}\\p{M}\\p{N}_$]*");
  private static final IntervalSet AS_NAMES = startOf(SqlParser.RULE_identifier);
  private static final IntervalSet RESERVED_TYPES = startOf(SqlParser.RULE_reservedWord);
  private static final IntervalSet BEHIND_TABLE = startOf(SqlParser.RULE_afterTableWord);
  private static final Set<String> QUOTED = quoted();

  private Keywords() {}

  static boolean needsQuotes(String name) {
    return !PLAIN.matcher(name).matches() || QUOTED.contains(Identifier.key(name));
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
