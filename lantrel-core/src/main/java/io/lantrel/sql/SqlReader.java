package io.lantrel.sql;

import static io.lantrel.sql.grammar.SqlLexer.CREATE;
import static io.lantrel.sql.grammar.SqlLexer.LEFT_PAREN;
import static io.lantrel.sql.grammar.SqlLexer.RIGHT_PAREN;
import static io.lantrel.sql.grammar.SqlLexer.SELECT;
import static io.lantrel.sql.grammar.SqlLexer.SEMICOLON;
import static io.lantrel.sql.grammar.SqlLexer.TABLE;
import static io.lantrel.sql.grammar.SqlLexer.VALUES;
import static io.lantrel.sql.grammar.SqlLexer.WITH;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.CreateTable;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.Function;
import org.antlr.v4.runtime.BailErrorStrategy;
import org.antlr.v4.runtime.CharStreams;
import org.antlr.v4.runtime.CommonTokenStream;
import org.antlr.v4.runtime.DefaultErrorStrategy;
import org.antlr.v4.runtime.ListTokenSource;
import org.antlr.v4.runtime.ParserRuleContext;
import org.antlr.v4.runtime.Token;
import org.antlr.v4.runtime.atn.PredictionMode;
import org.antlr.v4.runtime.misc.ParseCancellationException;
import org.jspecify.annotations.Nullable;

/**
 * Reads SQL. A text is cut at its semicolons first, so that a fault in one statement does not hide
 * the next. Parsing tries the fast SLL prediction and falls back to full LL (T. Parr, S. Harwell,
 * K. Fisher: Adaptive LL(*) Parsing, 2014), where alone faults are described.
 */
public final class SqlReader {

  /** Parentheses within parentheses that are still read; deeper ones are refused by a message. */
  static final int DEEPEST_NESTING = 250;

  private static final Set<Integer> QUERY_STARTS = Set.of(SELECT, WITH, VALUES, LEFT_PAREN);

  private SqlReader() {}

  /** The statements of a text, in order; empty ones are passed over. */
  public static List<Statement> read(SourceText source) {
    Offsets offsets = Offsets.of(source.text());
    return split(source).stream().map(tokens -> statement(tokens, source, offsets)).toList();
  }

  /**
   * Reads a text that is one query.
   *
   * @throws SyntaxException if it is not
   */
  public static Query readQuery(String text) {
    List<Statement> statements = read(new SourceText(text));
    if (statements.size() == 1) {
      if (statements.get(0) instanceof Statement.QueryStatement query) {
        return query.query();
      }
      if (statements.get(0) instanceof Statement.UnreadStatement unread) {
        throw new SyntaxException(unread.problem());
      }
    }
    throw new SyntaxException(
        new SyntaxProblem(new Span(0, text.length()), "this is not one query", List.of()));
  }

  /**
   * Reads a schema file: a list of CREATE TABLE statements.
   *
   * @throws SyntaxException at the first statement that is not one
   */
  public static List<CreateTable> readSchema(SourceText source) {
    Offsets offsets = Offsets.of(source.text());
    List<CreateTable> tables = new ArrayList<>();
    for (List<Token> tokens : split(source)) {
      Token first = tokens.get(0);
      if (first.getType() != CREATE || tokens.get(1).getType() != TABLE) {
        throw new SyntaxException(
            new SyntaxProblem(
                offsets.span(first, first),
                "a schema file holds CREATE TABLE statements only, found " + first.getText(),
                List.of()));
      }
      Attempt<CreateTable> attempt =
          parse(
              tokens,
              source,
              offsets,
              SqlParser::createTable,
              (context, builder) -> builder.createTable(context));
      if (attempt.problem() != null) {
        throw new SyntaxException(attempt.problem());
      }
      tables.add(attempt.orThrow());
    }
    return tables;
  }

  private static Statement statement(List<Token> tokens, SourceText source, Offsets offsets) {
    Token first = tokens.get(0);
    Span span = offsets.span(first, tokens.get(tokens.size() - 1));
    if (!QUERY_STARTS.contains(first.getType()) && first.getType() != SqlLexer.OPEN_COMMENT) {
      return notAQuery(tokens, offsets, span);
    }
    Attempt<Query> attempt =
        parse(
            tokens,
            source,
            offsets,
            SqlParser::queryStatement,
            (context, builder) -> builder.query(context.query()));
    SyntaxProblem problem = attempt.problem();
    return problem != null
        ? new Statement.UnreadStatement(span, mended(problem, span, source))
        : new Statement.QueryStatement(span, attempt.orThrow());
  }

  /** A slip of the pen is often not where reading stopped, but where mending it lets it go on. */
  private static SyntaxProblem mended(SyntaxProblem problem, Span statement, SourceText source) {
    for (Edit guess : problem.guesses()) {
      int start = guess.span().start() - statement.start();
      Span within = new Span(start, start + guess.span().length());
      String changed = Edit.apply(source.at(statement), List.of(new Edit(within, guess.text())));
      SourceText text = new SourceText(changed);
      Offsets offsets = Offsets.of(changed);
      boolean readable =
          split(text).size() == 1
              && parse(
                          split(text).get(0),
                          text,
                          offsets,
                          SqlParser::queryStatement,
                          (context, builder) -> builder.query(context.query()))
                      .problem()
                  == null;
      if (readable) {
        return problem.mendedBy(guess, source.text());
      }
    }
    return problem;
  }

  /** A first word close to SELECT is a slip of the pen, not another kind of statement. */
  private static Statement notAQuery(List<Token> tokens, Offsets offsets, Span span) {
    Token first = tokens.get(0);
    Span keyword = offsets.span(first, first);
    if (NearNames.distance(Identifier.key(first.getText()), "select") <= 2) {
      SyntaxProblem problem =
          new SyntaxProblem(
              keyword,
              "found " + first.getText() + "; expected SELECT",
              List.of(new Edit(keyword, "SELECT")));
      return new Statement.UnreadStatement(span, problem);
    }
    Span query =
        tokens.stream()
            .filter(token -> token.getType() == SELECT || token.getType() == WITH)
            .findFirst()
            .map(token -> new Span(offsets.of(token.getStartIndex()), span.end()))
            .orElse(new Span(span.end(), span.end()));
    return new Statement.OtherStatement(
        span, keyword, first.getText().toUpperCase(Locale.ROOT), query);
  }

  /** The visible tokens of each statement, without the semicolon; each list has at least one. */
  private static List<List<Token>> split(SourceText source) {
    SqlLexer lexer = new SqlLexer(CharStreams.fromString(source.text()));
    lexer.removeErrorListeners();
    List<List<Token>> statements = new ArrayList<>();
    List<Token> current = new ArrayList<>();
    for (Token token : lexer.getAllTokens()) {
      if (token.getChannel() != Token.DEFAULT_CHANNEL) {
        continue;
      }
      if (token.getType() != SEMICOLON) {
        current.add(token);
      } else if (!current.isEmpty()) {
        statements.add(current);
        current = new ArrayList<>();
      }
    }
    if (!current.isEmpty()) {
      statements.add(current);
    }
    return statements;
  }

  private static <C extends ParserRuleContext, T> Attempt<T> parse(
      List<Token> tokens,
      SourceText source,
      Offsets offsets,
      Function<SqlParser, C> rule,
      BiFunction<C, TreeBuilder, T> build) {
    SyntaxProblem tooDeep = tooDeep(tokens, offsets);
    if (tooDeep != null) {
      return Attempt.failed(tooDeep);
    }
    try {
      return Attempt.of(build.apply(rule.apply(fast(tokens)), new TreeBuilder(source, offsets)));
    } catch (ParseCancellationException unreadable) {
      return thorough(tokens, source, offsets, rule, build);
    } catch (StackOverflowError deep) {
      return Attempt.failed(nestedTooDeep(offsets.span(tokens.get(0), tokens.get(0))));
    }
  }

  private static <C extends ParserRuleContext, T> Attempt<T> thorough(
      List<Token> tokens,
      SourceText source,
      Offsets offsets,
      Function<SqlParser, C> rule,
      BiFunction<C, TreeBuilder, T> build) {
    SqlParser parser = parser(tokens);
    FirstFault fault = new FirstFault(tokens, offsets);
    parser.removeErrorListeners();
    parser.addErrorListener(fault);
    parser.setErrorHandler(new DefaultErrorStrategy());
    parser.getInterpreter().setPredictionMode(PredictionMode.LL);
    C context = rule.apply(parser);
    SyntaxProblem problem = fault.problem();
    return problem != null
        ? Attempt.failed(problem)
        : Attempt.of(build.apply(context, new TreeBuilder(source, offsets)));
  }

  private static SqlParser fast(List<Token> tokens) {
    SqlParser parser = parser(tokens);
    parser.removeErrorListeners();
    parser.setErrorHandler(new BailErrorStrategy());
    parser.getInterpreter().setPredictionMode(PredictionMode.SLL);
    return parser;
  }

  private static SqlParser parser(List<Token> tokens) {
    return new SqlParser(new CommonTokenStream(new ListTokenSource(tokens)));
  }

  private static @Nullable SyntaxProblem tooDeep(List<Token> tokens, Offsets offsets) {
    int depth = 0;
    for (Token token : tokens) {
      if (token.getType() == LEFT_PAREN && ++depth > DEEPEST_NESTING) {
        return nestedTooDeep(offsets.span(token, token));
      }
      if (token.getType() == RIGHT_PAREN) {
        depth--;
      }
    }
    return null;
  }

  private static SyntaxProblem nestedTooDeep(Span place) {
    return new SyntaxProblem(
        place, "this is nested more than " + DEEPEST_NESTING + " deep", List.of());
  }

  /** Either a tree or the reason why there is none. */
  private record Attempt<T>(@Nullable T value, @Nullable SyntaxProblem problem) {
    static <T> Attempt<T> of(T value) {
      return new Attempt<>(value, null);
    }

    static <T> Attempt<T> failed(SyntaxProblem problem) {
      return new Attempt<>(null, problem);
    }

    T orThrow() {
      if (value == null) {
        throw new IllegalStateException("asked for a tree that was not read");
      }
      return value;
    }
  }
}
