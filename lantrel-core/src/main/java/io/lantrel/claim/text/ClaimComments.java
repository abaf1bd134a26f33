package io.lantrel.claim.text;

import io.lantrel.claim.Claim;
import io.lantrel.claim.ClaimProblem;
import io.lantrel.sql.Comments;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * The claims in the comments of a text: {@code -- claim: one row per station}. One belongs to the
 * statement in which it stands, or on whose last line; else to the next one; at the end of the text
 * to the last one.
 */
public final class ClaimComments {

  private static final String WORD = "claim";
  private static final Pattern LINE = Pattern.compile("[^\\r\\n]+");
  private static final Pattern MARKED =
      Pattern.compile("[\\s*]*+([\\p{L}]{4,7})\\s*+([:;]?)(.*)", Pattern.DOTALL);

  private final SourceText source;
  private final List<Span> statements;
  private final Dialect dialect;
  private @Nullable List<OfStatement> found;

  /**
   * What stands with a statement.
   *
   * @param claims what is claimed
   * @param problems what only looks as if it were a claim
   */
  public record OfStatement(List<Claim> claims, List<ClaimProblem> problems) {

    /** None so far. */
    OfStatement() {
      this(new ArrayList<>(), new ArrayList<>());
    }
  }

  /**
   * Those of a text, which is looked through once, when the first are asked for.
   *
   * @param statements where its statements stand
   */
  public ClaimComments(SourceText source, List<Span> statements, Dialect dialect) {
    this.source = source;
    this.statements = List.copyOf(statements);
    this.dialect = dialect;
  }

  /** Those of a statement, counted from 0. */
  public synchronized OfStatement of(int statement) {
    if (found == null) {
      found = read();
    }
    return found.get(statement);
  }

  private List<OfStatement> read() {
    List<OfStatement> all = new ArrayList<>();
    for (List<Span> comments : Comments.ofStatements(source, statements, dialect)) {
      OfStatement own = new OfStatement();
      comments.forEach(comment -> read(comment, own));
      all.add(own);
    }
    return all;
  }

  private void read(Span comment, OfStatement own) {
    Matcher lines = LINE.matcher(source.at(comment));
    while (lines.find()) {
      Matcher marked = MARKED.matcher(lines.group());
      if (marked.matches()) {
        read(marked, comment.start() + lines.start(), own);
      }
    }
  }

  private void read(Matcher marked, int start, OfStatement own) {
    String word = marked.group(1).toLowerCase(Locale.ROOT);
    boolean colon = marked.group(2).equals(":");
    String text = marked.group(3).strip();
    int begin = marked.end() - marked.group(3).stripLeading().length();
    Span span = new Span(start + begin, start + begin + text.length());
    Span whole =
        text.isEmpty() ? span(marked, start) : new Span(start + marked.start(1), span.end());
    if (word.equals(WORD) && colon) {
      own.claims().add(new Claim(text, Optional.of(source.place(text.isEmpty() ? whole : span))));
    } else if (NearNames.distance(word, WORD) <= 1 && isClaim(text, colon)) {
      own.problems()
          .add(
              new ClaimProblem(
                  new Claim(source.at(whole), Optional.of(source.place(whole))),
                  "this is no claim as it is written; it would be: claim: " + text));
    }
  }

  private static Span span(Matcher marked, int start) {
    return new Span(start + marked.start(1), start + marked.end(2));
  }

  private boolean isClaim(String text, boolean colon) {
    return ClaimReader.isOne(text, dialect) || (colon && ClaimReader.isNearOne(text, dialect));
  }
}
