package io.lantrel.sql;

import static io.lantrel.sql.grammar.SqlLexer.FROM;
import static io.lantrel.sql.grammar.SqlLexer.LEFT_PAREN;
import static io.lantrel.sql.grammar.SqlLexer.RIGHT_PAREN;
import static io.lantrel.sql.grammar.SqlLexer.SELECT;
import static io.lantrel.sql.grammar.SqlLexer.TABLE;
import static io.lantrel.sql.grammar.SqlLexer.VALUES;
import static io.lantrel.sql.grammar.SqlLexer.WITH;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.grammar.SqlParser;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.antlr.v4.runtime.BailErrorStrategy;
import org.antlr.v4.runtime.CommonTokenStream;
import org.antlr.v4.runtime.DefaultErrorStrategy;
import org.antlr.v4.runtime.ListTokenSource;
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

  /** Words and signs of one statement that are still read. */
  static final int LONGEST_STATEMENT = 300_000;

  /** Queries of WITH: engines have been seen to end their process on some hundreds. */
  static final int MOST_COMMON_TABLES = 150;

  /** Nodes above each other in a tree. */
  static final int DEEPEST_TREE = 1_500;

  private static final Set<Integer> OPENING =
      Set.of(LEFT_PAREN, SqlLexer.LEFT_BRACKET, SqlLexer.LEFT_BRACE);

  private static final Set<Integer> CLOSING =
      Set.of(RIGHT_PAREN, SqlLexer.RIGHT_BRACKET, SqlLexer.RIGHT_BRACE);

  private static final Set<Integer> QUERY_STARTS =
      Set.of(SELECT, WITH, VALUES, LEFT_PAREN, TABLE, FROM);

  private SqlReader() {}

  /** The statements of a text, in order; empty ones are passed over. */
  public static List<Statement> read(SourceText source, Dialect dialect) {
    Offsets offsets = Offsets.of(source.text());
    return Tokens.statements(source, dialect).stream()
        .map(tokens -> statement(tokens, source, offsets, dialect))
        .toList();
  }

  /**
   * Reads a text that is one query.
   *
   * @throws SyntaxException if it is not
   */
  public static Query readQuery(String text, Dialect dialect) {
    List<Statement> statements = read(new SourceText(text), dialect);
    if (statements.size() == 1) {
      if (statements.get(0) instanceof Statement.QueryStatement query) {
        return query.query();
      }
      if (statements.get(0) instanceof Statement.UnreadStatement unread) {
        throw new SyntaxException(unread.problems().get(0));
      }
    }
    throw new SyntaxException(
        new SyntaxProblem(new Span(0, text.length()), "this is not one query", List.of()));
  }

  /**
   * Reads a text that is one condition, or one value.
   *
   * @throws SyntaxException if it is not
   */
  public static Expression readCondition(String text, Dialect dialect) {
    SourceText source = new SourceText(text);
    List<List<Token>> statements = Tokens.statements(source, dialect);
    if (statements.size() != 1) {
      throw new SyntaxException(
          new SyntaxProblem(new Span(0, text.length()), "this is not one condition", List.of()));
    }
    List<Token> tokens = statements.get(0);
    Offsets offsets = Offsets.of(text);
    SyntaxProblem tooMuch = tooMuch(tokens, offsets);
    if (tooMuch != null) {
      throw new SyntaxException(tooMuch);
    }
    SqlParser parser = parser(tokens);
    FirstFault fault = new FirstFault(tokens, offsets);
    parser.removeErrorListeners();
    parser.addErrorListener(fault);
    SqlParser.ConditionAloneContext context = parser.conditionAlone();
    SyntaxProblem problem = fault.problem();
    if (problem != null) {
      throw new SyntaxException(problem);
    }
    return new TreeBuilder(source, offsets, dialect).expression(context.expression());
  }

  static Statement statement(
      List<Token> tokens, SourceText source, Offsets offsets, Dialect dialect) {
    Token first = tokens.get(0);
    Span span = offsets.span(first, tokens.get(tokens.size() - 1));
    if (!QUERY_STARTS.contains(first.getType()) && first.getType() != SqlLexer.OPEN_COMMENT) {
      return notAQuery(tokens, offsets, span);
    }
    Attempt attempt = parse(tokens, source, offsets, dialect);
    SyntaxProblem problem = attempt.problem();
    if (problem == null) {
      return new Statement.QueryStatement(span, attempt.orThrow());
    }
    Statement changing = Changes.in(tokens, offsets, span);
    return changing != null
        ? changing
        : new Statement.UnreadStatement(span, Slips.of(problem, span, source, dialect));
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
      return new Statement.UnreadStatement(span, List.of(problem.asMended()));
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

  /** The tree of one statement, or where reading stopped. */
  static Attempt parse(List<Token> tokens, SourceText source, Offsets offsets, Dialect dialect) {
    SyntaxProblem tooMuch = tooMuch(tokens, offsets);
    if (tooMuch != null) {
      return Attempt.failed(tooMuch);
    }
    TreeBuilder builder = new TreeBuilder(source, offsets, dialect);
    try {
      return bounded(builder.query(fast(tokens).queryStatement().query()));
    } catch (ParseCancellationException unreadable) {
      return thorough(tokens, offsets, builder);
    } catch (SyntaxException complaint) {
      return Attempt.failed(complaint.problem());
    } catch (StackOverflowError deep) {
      return Attempt.failed(nestedTooDeep(offsets.span(tokens.get(0), tokens.get(0))));
    }
  }

  /** What goes down the tree calls itself at each level, and must come back up. */
  private static Attempt bounded(Query query) {
    Deque<Node> open = new ArrayDeque<>(List.of(query));
    Deque<Node> next = new ArrayDeque<>();
    int depth = 0;
    int commonTables = 0;
    while (!open.isEmpty()) {
      Node node = open.pop();
      next.addAll(node.children());
      commonTables += node instanceof CommonTable ? 1 : 0;
      if (commonTables > MOST_COMMON_TABLES) {
        return Attempt.failed(
            SyntaxProblem.limit(
                node.span(), "here are more than " + MOST_COMMON_TABLES + " queries in WITH"));
      }
      if (open.isEmpty()) {
        Deque<Node> done = open;
        open = next;
        next = done;
        if (++depth > DEEPEST_TREE) {
          return Attempt.failed(
              SyntaxProblem.limit(
                  node.span(),
                  "here more than " + DEEPEST_TREE + " signs or joins depend on each other"));
        }
      }
    }
    return Attempt.of(query);
  }

  private static Attempt thorough(List<Token> tokens, Offsets offsets, TreeBuilder builder) {
    SqlParser parser = parser(tokens);
    FirstFault fault = new FirstFault(tokens, offsets);
    parser.removeErrorListeners();
    parser.addErrorListener(fault);
    parser.setErrorHandler(new DefaultErrorStrategy());
    parser.getInterpreter().setPredictionMode(PredictionMode.LL);
    try {
      SqlParser.QueryStatementContext context = parser.queryStatement();
      SyntaxProblem problem = fault.problem();
      return problem != null ? Attempt.failed(problem) : Attempt.of(builder.query(context.query()));
    } catch (SyntaxException complaint) {
      return Attempt.failed(complaint.problem());
    } catch (StackOverflowError deep) {
      return Attempt.failed(nestedTooDeep(offsets.span(tokens.get(0), tokens.get(0))));
    }
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

  private static @Nullable SyntaxProblem tooMuch(List<Token> tokens, Offsets offsets) {
    if (tokens.size() > LONGEST_STATEMENT) {
      Token first = tokens.get(LONGEST_STATEMENT);
      return SyntaxProblem.limit(
          offsets.span(first, first),
          "this statement has more than " + LONGEST_STATEMENT + " words and signs");
    }
    int depth = 0;
    for (Token token : tokens) {
      if (OPENING.contains(token.getType()) && ++depth > DEEPEST_NESTING) {
        return nestedTooDeep(offsets.span(token, token));
      }
      if (CLOSING.contains(token.getType())) {
        depth--;
      }
    }
    return null;
  }

  private static SyntaxProblem nestedTooDeep(Span place) {
    return SyntaxProblem.limit(place, "this is nested more than " + DEEPEST_NESTING + " deep");
  }

  /** Either a tree or the reason why there is none. */
  record Attempt(@Nullable Query value, @Nullable SyntaxProblem problem) {
    static Attempt of(Query value) {
      return new Attempt(value, null);
    }

    static Attempt failed(SyntaxProblem problem) {
      return new Attempt(null, problem);
    }

    Query orThrow() {
      if (value == null) {
        throw new IllegalStateException("asked for a tree that was not read");
      }
      return value;
    }
  }
}
