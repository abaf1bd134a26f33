package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.Identifier;
import java.util.HashSet;
import java.util.Set;
import java.util.regex.Pattern;

/** Which names need quotes. */
final class Keywords {

  private static final Pattern PLAIN = Pattern.compile("[\\p{L}_][\\p{L}\\p{M}\\p{N}_$]*");
  private static final Set<String> RESERVED = reserved();

  private Keywords() {}

  static boolean needsQuotes(String name) {
    return !PLAIN.matcher(name).matches() || RESERVED.contains(Identifier.key(name));
  }

  private static Set<String> reserved() {
    Set<String> words = new HashSet<>();
    for (int type = SqlLexer.ALL; type < SqlLexer.COMMA; type++) {
      String literal = SqlParser.VOCABULARY.getLiteralName(type);
      words.add(Identifier.key(literal.substring(1, literal.length() - 1)));
    }
    return Set.copyOf(words);
  }
}
