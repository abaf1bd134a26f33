package io.lantrel.sql;

import io.lantrel.sql.SqlReader.Attempt;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.antlr.v4.runtime.Token;
import org.jspecify.annotations.Nullable;

/**
 * Tells slips of the pen from text that is beyond the grammar: a slip is what one small change
 * mends. A statement may have several; each is told with the change that mends it.
 */
final class Slips {

  /** Slips in one statement that are sought. */
  private static final int MOST = 4;

  /** Longer statements, in characters, are not tried again with changes. */
  private static final int LONGEST = 100_000;

  private static final Pattern FROM = Pattern.compile("\\bFROM\\b", Pattern.CASE_INSENSITIVE);

  private final Dialect dialect;

  private Slips(Dialect dialect) {
    this.dialect = dialect;
  }

  /** The problem alone, or all slips of the statement, each with its mending. */
  static List<SyntaxProblem> of(
      SyntaxProblem problem, Span statement, SourceText source, Dialect dialect) {
    if (statement.length() > LONGEST) {
      return List.of(problem);
    }
    int start = statement.start();
    String text = source.at(statement);
    List<SyntaxProblem> found = new Slips(dialect).mend(text, problem.movedBy(-start), MOST);
    return found == null
        ? List.of(problem)
        : found.stream().map(each -> each.movedBy(start)).toList();
  }

  /** A slip is often not where reading stopped, but where mending it lets reading go on. */
  private @Nullable List<SyntaxProblem> mend(String text, SyntaxProblem problem, int left) {
    List<Further> further = new ArrayList<>();
    for (Edit guess : problem.guesses()) {
      String changed = Edit.apply(text, List.of(guess));
      Attempt attempt = read(changed);
      if (attempt == null) {
        continue;
      }
      if (attempt.problem() == null) {
        return List.of(problem.mendedBy(guess, text, isSure(guess, text)));
      }
      int gained =
          attempt.problem().place().start() - guess.text().length() + guess.span().length();
      if (gained > problem.place().end()) {
        further.add(new Further(guess, changed, attempt.problem()));
      }
    }
    for (Further each : left > 1 ? further : List.<Further>of()) {
      List<SyntaxProblem> rest = mend(each.text(), each.next(), left - 1);
      if (rest != null) {
        List<SyntaxProblem> all = new ArrayList<>();
        all.add(problem.mendedBy(each.guess(), text, isSure(each.guess(), text)));
        rest.forEach(later -> all.add(later.before(each.guess())));
        return all;
      }
    }
    return null;
  }

  /**
   * Behind a table products have clauses without end, so a comma that would fit there need not be
   * what is missing.
   */
  private static boolean isSure(Edit guess, String text) {
    return !guess.text().equals(",")
        || !FROM.matcher(text.substring(0, guess.span().start())).find();
  }

  /** A change that lets reading go on to another problem. */
  private record Further(Edit guess, String text, SyntaxProblem next) {}

  private @Nullable Attempt read(String text) {
    SourceText source = new SourceText(text);
    List<List<Token>> statements = Tokens.statements(source, dialect);
    return statements.size() == 1
        ? SqlReader.parse(statements.get(0), source, Offsets.of(text), dialect)
        : null;
  }
}
