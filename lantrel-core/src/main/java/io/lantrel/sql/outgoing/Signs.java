package io.lantrel.sql.outgoing;

import io.lantrel.sql.Dialect;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/** The signs and operators that each product has. */
final class Signs {

  /** What a run of signs can be made of; all others stand alone. */
  static final String IN_RUNS = "+-*/<>=~!@#%^&|?:";

  static final String ALONE = "(),.[]{}";

  private static final Set<String> EVERYWHERE = Set.of("<>", "<=", ">=", "||");

  /** Those of one character, for speed: every statement is full of them. */
  private static final String COMMON = "(),.*/+-=<>";

  private static final Set<String> LISTS = Set.of("[", "]", ":", "=>");

  private static final Map<Dialect, Set<String>> OWN =
      Map.of(
          Dialect.DUCKDB,
          Set.of(
              "{", "}", ":=", "%", "->", "->>", "//", "^", "**", "^@", "~", "~~", "!~~", "~~*",
              "!~~*", "~~~", "!~", "~*", "!~*", "&", "|", "<<", ">>", "@", "@>", "<@", "<->", "<=>",
              "&&", "!", "<<=", ">>="),
          Dialect.POSTGRESQL,
          Set.of(),
          Dialect.MARIADB,
          Set.of("%", "!", "^", "&", "|", "<<", ">>", "~", "<=>", "&&", ":="),
          Dialect.SQLITE,
          Set.of("%", "->", "->>", "&", "|", "<<", ">>", "~"),
          Dialect.H2,
          Set.of(
              "%",
              "~", "~*", "!~", "!~*", "&&", "^", "&", "|", "<<", ">>", "[", "]", ":", "=>", ":="),
          Dialect.HSQLDB,
          Set.of("%", "[", "]", ":", "=>"),
          Dialect.TRINO,
          Set.of("%", "->", "[", "]", "=>"),
          Dialect.STANDARD,
          Set.of("%", "->", "[", "]", ":", "=>"));

  /** PostgreSQL has many, and its users add to them; which there are, its catalog says. */
  private static final Pattern OF_POSTGRESQL = Pattern.compile("[-+*/<>=~!@#%^&|?]{1,8}");

  private Signs() {}

  /** Whether a product reads the sign as one, and as no comment. */
  static boolean has(Dialect dialect, String sign) {
    if (sign.length() == 1 && COMMON.indexOf(sign.charAt(0)) >= 0) {
      return true;
    }
    if (EVERYWHERE.contains(sign)) {
      return true;
    }
    boolean comment = sign.contains("--") || sign.contains("/*") || sign.contains("*/");
    return switch (dialect) {
      case POSTGRESQL ->
          !comment
              && (LISTS.contains(sign)
                  || sign.equals(":=")
                  || OF_POSTGRESQL.matcher(sign).matches());
      case DUCKDB -> LISTS.contains(sign) || own(dialect).contains(sign);
      case MARIADB, SQLITE, H2, HSQLDB, TRINO, STANDARD -> own(dialect).contains(sign);
    };
  }

  private static Set<String> own(Dialect dialect) {
    return OWN.getOrDefault(dialect, Set.of());
  }
}
