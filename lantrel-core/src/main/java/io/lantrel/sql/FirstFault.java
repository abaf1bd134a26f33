package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.antlr.v4.runtime.BaseErrorListener;
import org.antlr.v4.runtime.Parser;
import org.antlr.v4.runtime.RecognitionException;
import org.antlr.v4.runtime.Recognizer;
import org.antlr.v4.runtime.Token;
import org.antlr.v4.runtime.Vocabulary;
import org.antlr.v4.runtime.misc.IntervalSet;
import org.jspecify.annotations.Nullable;

/** Hears of the first fault in a statement, and says it in the user's words. */
final class FirstFault extends BaseErrorListener {

  private static final Set<Integer> OPEN =
      Set.of(SqlLexer.OPEN_STRING, SqlLexer.OPEN_QUOTED_NAME, SqlLexer.OPEN_COMMENT);

  private static final Set<Integer> OPERATORS =
      Set.of(
          SqlLexer.PLUS,
          SqlLexer.MINUS,
          SqlLexer.STAR,
          SqlLexer.SLASH,
          SqlLexer.PERCENT,
          SqlLexer.CONCAT,
          SqlLexer.TYPE_MARK,
          SqlLexer.EQUAL,
          SqlLexer.NOT_EQUAL,
          SqlLexer.LESS,
          SqlLexer.LESS_OR_EQUAL,
          SqlLexer.GREATER,
          SqlLexer.GREATER_OR_EQUAL,
          SqlLexer.IS,
          SqlLexer.IN,
          SqlLexer.NOT,
          SqlLexer.BETWEEN,
          SqlLexer.LIKE,
          SqlLexer.ILIKE,
          SqlLexer.AND,
          SqlLexer.OR);

  private final List<Token> tokens;
  private final Offsets offsets;
  private @Nullable SyntaxProblem problem;

  FirstFault(List<Token> tokens, Offsets offsets) {
    this.tokens = tokens;
    this.offsets = offsets;
  }

  @Nullable SyntaxProblem problem() {
    return problem;
  }

  @Override
  public void syntaxError(
      Recognizer<?, ?> recognizer,
      @Nullable Object offending,
      int line,
      int column,
      String message,
      @Nullable RecognitionException cause) {
    if (problem == null && offending instanceof Token token && recognizer instanceof Parser p) {
      Set<Integer> expected = toSet(cause == null ? p.getExpectedTokens() : expected(p, cause));
      problem = OPEN.contains(token.getType()) ? open(token) : at(token, expected);
    }
  }

  private static IntervalSet expected(Parser parser, RecognitionException cause) {
    IntervalSet known = cause.getExpectedTokens();
    return known == null ? parser.getExpectedTokens() : known;
  }

  private static Set<Integer> toSet(IntervalSet intervals) {
    return new TreeSet<>(intervals.toSet());
  }

  private SyntaxProblem open(Token token) {
    Span quote = new Span(offsets.of(token.getStartIndex()), offsets.of(token.getStartIndex()) + 1);
    String what =
        token.getType() == SqlLexer.OPEN_STRING
            ? "a text that begins with ' is never closed"
            : token.getType() == SqlLexer.OPEN_QUOTED_NAME
                ? "a name that begins with \" is never closed"
                : "a comment that begins with /* is never closed";
    return new SyntaxProblem(quote, what, List.of());
  }

  private SyntaxProblem at(Token token, Set<Integer> expected) {
    boolean atEnd = token.getType() == Token.EOF;
    Token last = tokens.get(tokens.size() - 1);
    int end = offsets.of(last.getStopIndex() + 1);
    Span place = atEnd ? new Span(end, end) : offsets.span(token, token);
    String found = atEnd ? "the statement ends here" : "found " + token.getText();
    List<String> words = words(expected);
    String wanted =
        words.isEmpty()
            ? ""
            : "; expected "
                + (words.size() == 1
                    ? words.get(0)
                    : String.join(", ", words.subList(0, words.size() - 1))
                        + " or "
                        + words.get(words.size() - 1));
    return new SyntaxProblem(place, found + wanted, guesses(token, place, expected));
  }

  /**
   * What could stand there, sorted. The many beginnings of a value are one word, and so are the
   * many signs that could go on with one.
   */
  private static List<String> words(Set<Integer> expected) {
    boolean value = expected.contains(SqlLexer.NUMBER) && expected.contains(SqlLexer.NAME);
    boolean name = expected.contains(SqlLexer.NAME);
    boolean operator = expected.contains(SqlLexer.PLUS) && expected.contains(SqlLexer.STAR);
    TreeSet<String> words = new TreeSet<>();
    if (value) {
      words.add("a value");
    } else if (name) {
      words.add("a name");
    }
    if (operator) {
      words.add("an operator");
    }
    for (int type : expected) {
      boolean covered =
          (value && startsValue(type))
              || (name && isName(type))
              || (operator && OPERATORS.contains(type));
      if (!covered) {
        words.add(word(type));
      }
    }
    return List.copyOf(words);
  }

  private static boolean isName(int type) {
    return type == SqlLexer.NAME || type == SqlLexer.QUOTED_NAME || isNonReserved(type);
  }

  private static boolean isNonReserved(int type) {
    return SqlParser._ATN
        .nextTokens(SqlParser._ATN.ruleToStartState[SqlParser.RULE_nonReserved])
        .contains(type);
  }

  private static boolean startsValue(int type) {
    return isName(type)
        || SqlParser._ATN
            .nextTokens(SqlParser._ATN.ruleToStartState[SqlParser.RULE_notExpression])
            .contains(type);
  }

  private static String word(int type) {
    Vocabulary vocabulary = SqlParser.VOCABULARY;
    String literal = vocabulary.getLiteralName(type);
    if (type == Token.EOF) {
      return "the end of the statement";
    }
    if (type == SqlLexer.STRING) {
      return "a text in quotes";
    }
    if (type == SqlLexer.NUMBER) {
      return "a number";
    }
    return literal == null
        ? vocabulary.getSymbolicName(type)
        : literal.substring(1, literal.length() - 1);
  }

  /** The usual slips: a misspelt word, a sign too many, a sign or word too few. */
  private List<Edit> guesses(Token token, Span place, Set<Integer> expected) {
    List<Edit> guesses = new ArrayList<>();
    Token before = before(token);
    for (Token suspect : before == null ? List.of(token) : List.of(token, before)) {
      misspelt(suspect, guesses);
    }
    if (before != null && before.getType() == SqlLexer.COMMA) {
      guesses.add(new Edit(offsets.span(before, before), ""));
    }
    if (token.getType() == SqlLexer.COMMA || token.getType() == SqlLexer.RIGHT_PAREN) {
      guesses.add(new Edit(place, ""));
    }
    int gap = before == null ? place.start() : offsets.of(before.getStopIndex() + 1);
    if (expected.contains(SqlLexer.COMMA)) {
      guesses.add(Edit.insert(gap, ","));
    }
    Token earlier = before == null ? null : before(before);
    if (earlier != null && token.getType() == SqlLexer.DOT) {
      // In "a b.c" the b was taken for a label; a comma is missing before it.
      guesses.add(Edit.insert(offsets.of(earlier.getStopIndex() + 1), ","));
    }
    if (expected.contains(SqlLexer.RIGHT_PAREN)) {
      guesses.add(Edit.insert(gap, ")"));
    }
    return guesses;
  }

  private @Nullable Token before(Token token) {
    int index = token.getType() == Token.EOF ? tokens.size() : tokens.indexOf(token);
    return index <= 0 ? null : tokens.get(index - 1);
  }

  /** Names one slip away from a keyword: FORM, JION, WHRE. */
  private void misspelt(Token token, List<Edit> guesses) {
    if (token.getType() != SqlLexer.NAME) {
      return;
    }
    String key = Identifier.key(token.getText());
    for (int type = SqlLexer.ALL; type < SqlLexer.COMMA; type++) {
      String keyword = word(type);
      if (keyword.length() > 1 && NearNames.distance(key, Identifier.key(keyword)) == 1) {
        guesses.add(new Edit(offsets.span(token, token), keyword));
      }
    }
  }
}
