package io.lantrel.sql;

import static io.lantrel.sql.grammar.SqlLexer.AND;
import static io.lantrel.sql.grammar.SqlLexer.AND_SIGN;
import static io.lantrel.sql.grammar.SqlLexer.BARE_JOIN;
import static io.lantrel.sql.grammar.SqlLexer.CONCAT;
import static io.lantrel.sql.grammar.SqlLexer.CROSS;
import static io.lantrel.sql.grammar.SqlLexer.EXCEPT;
import static io.lantrel.sql.grammar.SqlLexer.FROM;
import static io.lantrel.sql.grammar.SqlLexer.GROUP;
import static io.lantrel.sql.grammar.SqlLexer.INTERSECT;
import static io.lantrel.sql.grammar.SqlLexer.JOIN;
import static io.lantrel.sql.grammar.SqlLexer.LEFT_PAREN;
import static io.lantrel.sql.grammar.SqlLexer.NATURAL;
import static io.lantrel.sql.grammar.SqlLexer.ON;
import static io.lantrel.sql.grammar.SqlLexer.OPERATOR_SIGN;
import static io.lantrel.sql.grammar.SqlLexer.OR;
import static io.lantrel.sql.grammar.SqlLexer.ORDER;
import static io.lantrel.sql.grammar.SqlLexer.QUOTED_NAME;
import static io.lantrel.sql.grammar.SqlLexer.RIGHT_PAREN;
import static io.lantrel.sql.grammar.SqlLexer.SELECT;
import static io.lantrel.sql.grammar.SqlLexer.SEMICOLON;
import static io.lantrel.sql.grammar.SqlLexer.STRAIGHT_JOIN;
import static io.lantrel.sql.grammar.SqlLexer.STRING;
import static io.lantrel.sql.grammar.SqlLexer.UNION;
import static io.lantrel.sql.grammar.SqlLexer.USING;
import static io.lantrel.sql.grammar.SqlLexer.WHERE;

import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.grammar.SqlLexer;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Set;
import org.antlr.v4.runtime.CharStreams;
import org.antlr.v4.runtime.CommonToken;
import org.antlr.v4.runtime.Token;
import org.antlr.v4.runtime.WritableToken;

/** Cuts a text into tokens and statements, as a dialect has it. */
final class Tokens {

  private static final Set<Integer> END_OF_FROM =
      Set.of(WHERE, GROUP, ORDER, UNION, EXCEPT, INTERSECT, SELECT, FROM);

  /** SELECT, and what may stand between it and a STRAIGHT_JOIN that is no join. */
  private static final Set<Integer> BEFORE_SELECT_LIST =
      Set.of(
          SELECT,
          SqlLexer.ALL,
          SqlLexer.DISTINCT,
          SqlLexer.HIGH_PRIORITY,
          SqlLexer.SQL_BIG_RESULT,
          SqlLexer.SQL_BUFFER_RESULT,
          SqlLexer.SQL_CACHE,
          SqlLexer.SQL_CALC_FOUND_ROWS,
          SqlLexer.SQL_NO_CACHE,
          SqlLexer.SQL_SMALL_RESULT);

  private static final Set<Integer> KINDS =
      Set.of(SqlLexer.LEFT, SqlLexer.RIGHT, SqlLexer.INNER, SqlLexer.OUTER, SqlLexer.FULL);

  /** What is brought into one form, whoever wrote it. */
  private static final Set<Integer> TEXTS =
      Set.of(
          STRING,
          SqlLexer.DOUBLE_QUOTED_TEXT,
          SqlLexer.ESCAPED_STRING,
          SqlLexer.DOLLAR_STRING,
          QUOTED_NAME);

  private Tokens() {}

  /** The visible tokens of each statement, without the semicolon; each list has at least one. */
  static List<List<Token>> statements(SourceText source, Dialect dialect) {
    SqlLexer lexer = new SqlLexer(CharStreams.fromString(source.text()));
    lexer.setRules(dialect.lexicalRules());
    lexer.removeErrorListeners();
    List<List<Token>> statements = new ArrayList<>();
    List<Token> current = new ArrayList<>();
    for (Token token = lexer.nextToken(); token.getType() != Token.EOF; token = lexer.nextToken()) {
      if (token.getChannel() != Token.DEFAULT_CHANNEL) {
        continue;
      }
      if (token.getType() != SEMICOLON) {
        Token meant = meant((CommonToken) token, dialect);
        if (isLabel(meant, current, dialect)) {
          ((WritableToken) meant).setType(QUOTED_NAME);
        }
        if (runsInto(current, meant)) {
          meant = runTogether(current, (CommonToken) meant, dialect);
        }
        current.add(meant);
      } else if (!current.isEmpty()) {
        statements.add(current);
        current = new ArrayList<>();
      }
    }
    if (!current.isEmpty()) {
      statements.add(current);
    }
    if (dialect.has(Rule.JOINS_WITHOUT_CONDITION)) {
      statements.forEach(tokens -> markBareJoins(tokens, dialect));
    }
    return statements;
  }

  private static boolean runsInto(List<Token> before, Token token) {
    Token last = before.isEmpty() ? null : before.get(before.size() - 1);
    return last != null
        && last.getType() == SqlLexer.NUMBER
        && last.getStopIndex() + 1 == token.getStartIndex()
        && Character.isLetter(token.getText().codePointAt(0));
  }

  /** A word directly behind a number: one name, two things, or a fault, as the product has it. */
  private static Token runTogether(List<Token> before, CommonToken word, Dialect dialect) {
    CommonToken number = (CommonToken) before.get(before.size() - 1);
    if (dialect.has(Rule.NAMES_BEGIN_WITH_DIGITS) && number.getText().matches("[0-9]+")) {
      before.remove(before.size() - 1);
      CommonToken name = new CommonToken(word);
      name.setStartIndex(number.getStartIndex());
      name.setCharPositionInLine(number.getCharPositionInLine());
      name.setType(SqlLexer.NAME);
      return name;
    }
    if (!dialect.has(Rule.WORDS_MAY_TOUCH_NUMBERS)) {
      number.setType(SqlLexer.OTHER);
    }
    return word;
  }

  /** A text directly behind a name: with some products a label, and not the value of a type. */
  private static boolean isLabel(Token token, List<Token> before, Dialect dialect) {
    if (token.getType() != STRING || before.isEmpty() || !dialect.has(Rule.TEXTS_AS_LABELS)) {
      return false;
    }
    Token last = before.get(before.size() - 1);
    boolean escape =
        before.size() > 1 && before.get(before.size() - 2).getType() == SqlLexer.LEFT_BRACE;
    return (last.getType() == SqlLexer.NAME || last.getType() == SqlLexer.NAME_WORD)
        && !escape
        && !last.getText().startsWith("_")
        && last.getStopIndex() + 1 < token.getStartIndex();
  }

  /** Some signs mean different things to different products. */
  private static Token meant(CommonToken token, Dialect dialect) {
    boolean barsAreOr = dialect.has(Rule.BARS_ARE_OR);
    if (token.getType() == SqlLexer.NAME
        && dialect == Dialect.MARIADB
        && token.getText().equalsIgnoreCase("DISTINCTROW")) {
      token.setType(SqlLexer.DISTINCT);
    }
    if (token.getType() == AND_SIGN) {
      token.setType(barsAreOr ? AND : OPERATOR_SIGN);
    } else if (token.getType() == CONCAT && barsAreOr) {
      token.setType(OR);
    } else if (TEXTS.contains(token.getType())) {
      TextConstants.plain(token, dialect)
          .ifPresentOrElse(token::setText, () -> token.setType(SqlLexer.OTHER));
      boolean text = token.getType() != QUOTED_NAME && token.getType() != SqlLexer.OTHER;
      token.setType(text ? STRING : token.getType());
    } else if (token.getType() == SqlLexer.NUMBER && !isNumber(token.getText(), dialect)) {
      token.setType(SqlLexer.OTHER);
    }
    return token;
  }

  /** What one product takes for a number, another takes for a number and a label behind it. */
  private static boolean isNumber(String text, Dialect dialect) {
    boolean otherBase = text.length() > 1 && "xXoObB".indexOf(text.charAt(1)) >= 0;
    return (!otherBase || dialect.has(Rule.NUMBERS_OF_OTHER_BASES))
        && (text.indexOf('_') < 0 || dialect.has(Rule.UNDERSCORES_IN_NUMBERS));
  }

  /**
   * Gives a JOIN without a condition a type of its own. The grammar could not tell it from one
   * whose condition comes further on without looking through the whole FROM at every join.
   */
  private static void markBareJoins(List<Token> tokens, Dialect dialect) {
    Deque<Deque<Token>> open = new ArrayDeque<>();
    open.push(new ArrayDeque<>());
    int before = Token.EOF;
    Token cross = null;
    // Only there is a comma a join: ON stands in the columns of CREATE TABLE too.
    Deque<Boolean> around = new ArrayDeque<>();
    boolean inFrom = false;
    for (Token token : tokens) {
      int type = token.getType();
      Deque<Token> joins = open.element();
      inFrom = type == FROM || (inFrom && type != SEMICOLON && !END_OF_FROM.contains(type));
      if (type == LEFT_PAREN) {
        around.push(inFrom);
        open.push(new ArrayDeque<>());
      } else if (type == RIGHT_PAREN || END_OF_FROM.contains(type)) {
        joins.forEach(Tokens::markBare);
        joins.clear();
        if (type == RIGHT_PAREN && open.size() > 1) {
          open.pop();
          inFrom = around.pop();
        }
      } else if (needsCondition(type, before)) {
        joins.push(token);
        cross = null;
      } else if (type == CROSS || (type == SqlLexer.COMMA && inFrom && dialect == Dialect.SQLITE)) {
        cross = token;
      } else if (type == ON || type == USING) {
        if (joins.poll() == null) {
          // CROSS JOIN with a condition is an inner join, and so is SQLite's comma with one.
          if (cross != null) {
            ((WritableToken) cross).setType(cross.getType() == CROSS ? SqlLexer.INNER : JOIN);
          }
        }
        cross = null;
      }
      before = before == NATURAL && KINDS.contains(type) ? NATURAL : type;
    }
    open.forEach(joins -> joins.forEach(Tokens::markBare));
  }

  private static boolean needsCondition(int type, int before) {
    return (type == STRAIGHT_JOIN && !BEFORE_SELECT_LIST.contains(before))
        || (type == JOIN && before != CROSS && before != NATURAL && before != SqlLexer.FOR);
  }

  private static void markBare(Token join) {
    ((WritableToken) join).setType(BARE_JOIN);
  }
}
