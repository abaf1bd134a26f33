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
import java.util.stream.IntStream;

/**
 * The claims in the comments of a text: {@code -- claim: one row per station}. One belongs to the
 * statement in which it stands, or on whose last line; else to the next one; at the end of the text
 * to the last one.
 */
public final class ClaimComments {

  private static final String WORD = "claim";
  private static final Pattern LINE = Pattern.compile("[^\\r\\n]+");
  private static final Pattern MARKED =
      Pattern.compile("[\\s*]*+([\\p{L}]{4,7})\\s*+([:;]?)\\s*+(.*?)\\s*+", Pattern.DOTALL);

  private final SourceText source;
  private final Dialect dialect;
  private final List<Claim> claims = new ArrayList<>();
  private final List<ClaimProblem> problems = new ArrayList<>();

  private ClaimComments(SourceText source, Dialect dialect) {
    this.source = source;
    this.dialect = dialect;
  }

  /**
   * Those of a statement.
   *
   * @param statements where all statements of the text stand
   * @param wanted which of them, counted from 0
   */
  public static ClaimComments of(
      SourceText source, List<Span> statements, int wanted, Dialect dialect) {
    ClaimComments found = new ClaimComments(source, dialect);
    for (Span comment : Comments.of(source, dialect)) {
      if (found.owner(comment, statements) == wanted) {
        found.read(comment);
      }
    }
    return found;
  }

  /** What is claimed. */
  public List<Claim> claims() {
    return List.copyOf(claims);
  }

  /** What only looks as if it were a claim. */
  public List<ClaimProblem> problems() {
    return List.copyOf(problems);
  }

  private int owner(Span comment, List<Span> statements) {
    int next =
        IntStream.range(0, statements.size())
            .filter(i -> statements.get(i).end() > comment.start())
            .findFirst()
            .orElse(statements.size());
    boolean within = next < statements.size() && statements.get(next).start() < comment.start();
    boolean behind =
        !within
            && next > 0
            && source.line(statements.get(next - 1).end()) == source.line(comment.start());
    return behind || next == statements.size() ? next - 1 : next;
  }

  private void read(Span comment) {
    Matcher lines = LINE.matcher(source.at(comment));
    while (lines.find()) {
      Matcher marked = MARKED.matcher(lines.group());
      if (marked.matches()) {
        int start = comment.start() + lines.start();
        read(marked, new Span(start + marked.start(1), start + marked.end(3)), start);
      }
    }
  }

  private void read(Matcher marked, Span whole, int start) {
    String word = marked.group(1).toLowerCase(Locale.ROOT);
    boolean colon = marked.group(2).equals(":");
    String text = marked.group(3);
    if (word.equals(WORD) && colon) {
      Span span = new Span(start + marked.start(3), start + marked.end(3));
      claims.add(new Claim(text, Optional.of(source.place(text.isEmpty() ? whole : span))));
    } else if (NearNames.distance(word, WORD) <= 1 && isClaim(text, colon)) {
      problems.add(
          new ClaimProblem(
              new Claim(source.at(whole), Optional.of(source.place(whole))),
              "this is no claim as it is written; it would be: claim: " + text));
    }
  }

  private boolean isClaim(String text, boolean colon) {
    return ClaimReader.isOne(text, dialect) || (colon && ClaimReader.isNearOne(text, dialect));
  }
}
