package io.lantrel.sql;

import io.lantrel.sql.SyntaxProblem.Cause;
import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.antlr.v4.runtime.BaseErrorListener;
import org.antlr.v4.runtime.CommonToken;
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

  /** What goes on with a value: signs, tests, AND. */
  private static final IntervalSet OPERATORS =
      IntervalSet.of(SqlLexer.AND)
          .or(IntervalSet.of(SqlLexer.OR))
          .or(IntervalSet.of(SqlLexer.XOR))
          .or(IntervalSet.of(SqlLexer.COLLATE))
          .or(IntervalSet.of(SqlLexer.AT))
          .or(IntervalSet.of(SqlLexer.LEFT_BRACKET))
          .or(IntervalSet.of(SqlLexer.TYPE_MARK))
          .or(IntervalSet.of(SqlLexer.DIV))
          .or(IntervalSet.of(SqlLexer.MOD))
          .or(startOf(SqlParser.RULE_operatorSign))
          .or(startOf(SqlParser.RULE_otherSign))
          .or(startOf(SqlParser.RULE_test))
          .or(startOf(SqlParser.RULE_rangeTest));

  private static final IntervalSet VALUE_STARTS = startOf(SqlParser.RULE_notExpression);

  /** What few would think of: products' own words, and signs that the reader makes up. */
  private static final Set<Integer> RARE =
      Set.of(
          SqlLexer.ANTI,
          SqlLexer.ASOF,
          SqlLexer.BARE_JOIN,
          SqlLexer.FORCE,
          SqlLexer.FORMAT,
          SqlLexer.IGNORE,
          SqlLexer.INDEXED,
          SqlLexer.LEFT_BRACE,
          SqlLexer.LOCK,
          SqlLexer.MINUS_WORD,
          SqlLexer.OUTER_MARK,
          SqlLexer.POSITIONAL,
          SqlLexer.QUALIFY,
          SqlLexer.SEMI,
          SqlLexer.STRAIGHT_JOIN,
          SqlLexer.TABLESAMPLE,
          SqlLexer.USE,
          SqlLexer.WINDOW);

  /** Reserved words that people like as names. */
  private static final Set<Integer> QUOTABLE =
      Set.of(
          SqlLexer.ANY,
          SqlLexer.ASC,
          SqlLexer.CASE,
          SqlLexer.CROSS,
          SqlLexer.DESC,
          SqlLexer.END,
          SqlLexer.FETCH,
          SqlLexer.FOR,
          SqlLexer.FULL,
          SqlLexer.GROUP,
          SqlLexer.INTO,
          SqlLexer.LIMIT,
          SqlLexer.ORDER,
          SqlLexer.TABLE,
          SqlLexer.VALUES,
          SqlLexer.WINDOW);

  /** Behind these only a value can stand. */
  private static final IntervalSet BEFORE_VALUES =
      IntervalSet.of(SqlLexer.AND)
          .or(IntervalSet.of(SqlLexer.OR))
          .or(IntervalSet.of(SqlLexer.NOT))
          .or(IntervalSet.of(SqlLexer.WHERE))
          .or(IntervalSet.of(SqlLexer.HAVING))
          .or(IntervalSet.of(SqlLexer.ON))
          .or(IntervalSet.of(SqlLexer.LIKE))
          .or(IntervalSet.of(SqlLexer.ILIKE))
          .or(IntervalSet.of(SqlLexer.BETWEEN))
          .or(IntervalSet.of(SqlLexer.WHEN))
          .or(IntervalSet.of(SqlLexer.THEN))
          .or(IntervalSet.of(SqlLexer.ELSE))
          .or(IntervalSet.of(SqlLexer.LIMIT))
          .or(startOf(SqlParser.RULE_comparisonSign));

  private static final Set<Integer> CLAUSES =
      Set.of(SqlLexer.ORDER, SqlLexer.LIMIT, SqlLexer.UNION);

  private static final Set<Integer> OTHER_CLAUSES =
      Set.of(
          SqlLexer.EXCEPT,
          SqlLexer.INTERSECT,
          SqlLexer.FETCH,
          SqlLexer.FOR,
          SqlLexer.GROUP,
          SqlLexer.HAVING,
          SqlLexer.OFFSET,
          SqlLexer.WHERE);

  private static final Set<Integer> JOINS =
      Set.of(
          SqlLexer.CROSS,
          SqlLexer.FULL,
          SqlLexer.INNER,
          SqlLexer.JOIN,
          SqlLexer.LEFT,
          SqlLexer.NATURAL,
          SqlLexer.RIGHT);

  private static final Set<Integer> CLOSING =
      Set.of(
          SqlLexer.AND,
          SqlLexer.OR,
          SqlLexer.FROM,
          SqlLexer.WHERE,
          SqlLexer.GROUP,
          SqlLexer.HAVING,
          SqlLexer.ORDER,
          SqlLexer.JOIN,
          SqlLexer.ON,
          SqlLexer.THEN,
          SqlLexer.ELSE,
          SqlLexer.END,
          SqlLexer.RIGHT_PAREN,
          SqlLexer.COMMA);

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
    if (token.getType() == SqlLexer.OPEN_COMMENT && isRun(token)) {
      return new SyntaxProblem(
          quote,
          "MariaDB runs what stands in this comment, so it is no comment; leave it out, or write it"
              + " without the signs of a comment",
          List.of(),
          Cause.UNKNOWN);
    }
    return new SyntaxProblem(quote, what, closings(token), Cause.SLIP);
  }

  private boolean isRun(Token token) {
    int next = tokens.indexOf(token) + 1;
    return next < tokens.size()
        && tokens.get(next).getStartIndex() == token.getStopIndex() + 1
        && tokens.get(next).getText().matches("!.*|M");
  }

  /** A quote is most likely meant to close at the end of its line, or of the first word. */
  private List<Edit> closings(Token token) {
    String text = token.getText();
    if (token.getType() == SqlLexer.OPEN_COMMENT) {
      return List.of();
    }
    int start = offsets.of(token.getStartIndex());
    String quote = text.substring(0, 1);
    String line = text.lines().findFirst().orElse(text);
    String word = line.split("(?<=\\w)(?=\\W)", 2)[0];
    return Stream.of(line.replaceFirst("[\\s;]+$", ""), word)
        .distinct()
        .map(each -> Edit.insert(start + each.length(), quote))
        .toList();
  }

  private static boolean isBrokenNumber(Token token) {
    return token.getType() == SqlLexer.OTHER
        && token.getText().matches("[0-9.]+(?:[eE][+-]?[0-9]+)?");
  }

  private SyntaxProblem at(Token fault, Set<Integer> expected) {
    Token last = tokens.get(tokens.size() - 1);
    // Behind a last sign it is what follows that is missing, and not the sign that is wrong.
    boolean lacksValue = fault == last && BEFORE_VALUES.contains(fault.getType());
    Token token = lacksValue ? new CommonToken(Token.EOF) : fault;
    boolean atEnd = token.getType() == Token.EOF;
    int end = offsets.of(last.getStopIndex() + 1);
    Span place = atEnd ? new Span(end, end) : offsets.span(token, token);
    String found = atEnd ? "the statement ends here" : "found " + token.getText();
    if (isBrokenNumber(token)) {
      return new SyntaxProblem(
          place,
          "the number "
              + token.getText()
              + " runs into the word behind it; write a blank between, or put a name in quotes",
          List.of(),
          Cause.SLIP);
    }
    int open = open();
    if (open != 0) {
      return unbalanced(open, token, end);
    }
    Token before = before(token);
    if (before != null && BEFORE_VALUES.contains(before.getType())) {
      Cause cause = atEnd || isCertain(token) ? Cause.SLIP : Cause.UNKNOWN;
      return new SyntaxProblem(
          place, found + "; expected a value", guesses(token, place, expected), cause);
    }
    if (isBehindText(token)) {
      return new SyntaxProblem(
          place,
          found + " behind a text; a quote within a text is written twice",
          List.of(),
          Cause.SLIP);
    }
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
    return new SyntaxProblem(
        place,
        found + wanted,
        guesses(token, place, expected),
        atEnd || isCertain(token) ? Cause.SLIP : Cause.UNKNOWN);
  }

  /** Behind a sign, nothing goes on with a word that ends a value. */
  private boolean isCertain(Token token) {
    Token before = before(token);
    boolean afterSign =
        before != null && startOf(SqlParser.RULE_comparisonSign).contains(before.getType());
    return afterSign && CLOSING.contains(token.getType());
  }

  /** A parenthesis too many or too few; where one is missing is tried where it is likely. */
  private SyntaxProblem unbalanced(int open, Token fault, int end) {
    Deque<Token> opened = new ArrayDeque<>();
    Token tooMany = null;
    for (Token each : tokens) {
      if (each.getType() == SqlLexer.LEFT_PAREN) {
        opened.push(each);
      } else if (each.getType() == SqlLexer.RIGHT_PAREN && opened.poll() == null) {
        tooMany = each;
        break;
      }
    }
    if (tooMany != null) {
      Span place = offsets.span(tooMany, tooMany);
      return new SyntaxProblem(
          place, "this parenthesis closes nothing", List.of(new Edit(place, "")), Cause.SLIP);
    }
    String missing = ")".repeat(open);
    List<Edit> guesses = new ArrayList<>();
    Token before = before(fault);
    if (before != null) {
      guesses.add(Edit.insert(offsets.of(before.getStopIndex() + 1), missing));
    }
    int from = tokens.indexOf(opened.element());
    for (int i = from + 1; i < tokens.size(); i++) {
      if (CLOSING.contains(tokens.get(i).getType())) {
        guesses.add(Edit.insert(offsets.of(tokens.get(i - 1).getStopIndex() + 1), missing));
      }
    }
    guesses.add(Edit.insert(end, missing));
    return new SyntaxProblem(
        offsets.span(opened.element(), opened.element()),
        "this parenthesis is never closed",
        guesses.stream().limit(8).toList(),
        Cause.SLIP);
  }

  /** Whether a word touches the end of a text, and another text is never closed. */
  private boolean isBehindText(Token token) {
    Token before = before(token);
    return before != null
        && before.getType() == SqlLexer.STRING
        && before.getStopIndex() + 1 == token.getStartIndex()
        && tokens.stream().anyMatch(each -> each.getType() == SqlLexer.OPEN_STRING);
  }

  /** Parentheses that stay open in the whole statement; below 0 if one too many is closed. */
  private int open() {
    int open = 0;
    int least = 0;
    for (Token each : tokens) {
      open += each.getType() == SqlLexer.LEFT_PAREN ? 1 : 0;
      open -= each.getType() == SqlLexer.RIGHT_PAREN ? 1 : 0;
      least = Math.min(least, open);
    }
    return least < 0 ? least : open;
  }

  /** Parentheses around a token. */
  private int depth(Token token) {
    int open = 0;
    for (Token each : tokens) {
      if (each == token) {
        return open;
      }
      open += each.getType() == SqlLexer.LEFT_PAREN ? 1 : 0;
      open -= each.getType() == SqlLexer.RIGHT_PAREN ? 1 : 0;
    }
    return open;
  }

  /** A name, a number or a parenthesis begins a new item; a text may belong to what is before. */
  private static boolean isItem(Token token) {
    return Keywords.isName(token.getType())
        || Keywords.isReserved(token.getType())
        || token.getType() == SqlLexer.NUMBER
        || token.getType() == SqlLexer.LEFT_PAREN;
  }

  /**
   * What could stand there, sorted. The many beginnings of a value are one word, and so are the
   * many signs that could go on with one.
   */
  private static List<String> words(Set<Integer> expected) {
    boolean value = expected.contains(SqlLexer.NUMBER) && expected.contains(SqlLexer.NAME);
    boolean name = expected.contains(SqlLexer.NAME);
    boolean operator =
        (expected.contains(SqlLexer.PLUS) && expected.contains(SqlLexer.STAR))
            || (expected.contains(SqlLexer.BETWEEN) && expected.contains(SqlLexer.LIKE))
            || (expected.contains(SqlLexer.EQUAL) && expected.contains(SqlLexer.LESS));
    TreeSet<String> words = new TreeSet<>();
    if (value) {
      words.add("a value");
    } else if (name) {
      words.add("a name");
    }
    if (operator) {
      words.add("an operator");
    }
    boolean join = expected.contains(SqlLexer.JOIN) && expected.contains(SqlLexer.NATURAL);
    if (join) {
      words.add("a join");
    }
    boolean clause = expected.containsAll(CLAUSES);
    if (clause) {
      words.add("the next clause");
    }
    boolean anyWord = name && expected.contains(SqlLexer.SELECT) && expected.contains(SqlLexer.AND);
    for (int type : expected) {
      boolean covered =
          (value && startsValue(type))
              || (name && isName(type))
              || (operator && OPERATORS.contains(type))
              || (join && JOINS.contains(type))
              || (clause && (CLAUSES.contains(type) || OTHER_CLAUSES.contains(type)))
              || (anyWord && Keywords.isKeyword(type));
      if (!covered && !RARE.contains(type)) {
        words.add(word(type));
      }
    }
    return List.copyOf(words);
  }

  private static IntervalSet startOf(int rule) {
    return SqlParser._ATN.nextTokens(SqlParser._ATN.ruleToStartState[rule]);
  }

  private static boolean isName(int type) {
    return Keywords.isName(type);
  }

  private static boolean startsValue(int type) {
    return isName(type) || VALUE_STARTS.contains(type);
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
    if (type == SqlLexer.EQUAL) {
      return "=";
    }
    if (type == SqlLexer.COMMA) {
      return "a comma";
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
    if (token.getType() == SqlLexer.COMMA) {
      guesses.add(new Edit(place, ""));
    }
    int gap = before == null ? place.start() : offsets.of(before.getStopIndex() + 1);
    if (expected.contains(SqlLexer.COMMA) && depth(token) == 0 && isItem(token)) {
      guesses.add(Edit.insert(gap, ","));
    }
    Token earlier = before == null ? null : before(before);
    if (earlier != null && token.getType() == SqlLexer.DOT) {
      // In "a b.c" the b was taken for a label; a comma is missing before it.
      guesses.add(Edit.insert(offsets.of(earlier.getStopIndex() + 1), ","));
    }
    if (expected.contains(SqlLexer.ON) && expected.contains(SqlLexer.USING)) {
      guesses.add(Edit.insert(gap, SyntaxProblem.ANY_CONDITION));
    }
    if (QUOTABLE.contains(token.getType())) {
      guesses.add(new Edit(place, "\"" + token.getText() + "\""));
    }
    if (earlier != null && earlier.getType() == SqlLexer.COMMA) {
      guesses.add(new Edit(offsets.span(earlier, earlier), ""));
    }
    for (int word :
        List.of(
            SqlLexer.BY, SqlLexer.JOIN, SqlLexer.FROM, SqlLexer.THEN, SqlLexer.END, SqlLexer.AND)) {
      if (expected.contains(word)) {
        guesses.add(Edit.insert(gap, " " + word(word)));
      }
    }
    if (before != null && QUOTABLE.contains(before.getType())) {
      guesses.add(new Edit(offsets.span(before, before), "\"" + before.getText() + "\""));
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
    for (int type = SqlLexer.ABSENT; type < SqlLexer.COMMA; type++) {
      String keyword = word(type);
      if (keyword.length() > 1 && NearNames.distance(key, Identifier.key(keyword)) == 1) {
        guesses.add(new Edit(offsets.span(token, token), keyword));
      }
    }
  }
}
