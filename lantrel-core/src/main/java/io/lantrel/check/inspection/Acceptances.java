package io.lantrel.check.inspection;

import io.lantrel.check.CheckRules;
import io.lantrel.check.Excepted;
import io.lantrel.check.Finding;
import io.lantrel.check.Inspection;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.sql.Comments;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What the comments of a text accept: {@code -- accepted: unordered-limit, any three will do}. One
 * belongs to the statement that it stands in or before, and says why.
 */
public final class Acceptances {

  private static final Pattern LINE = Pattern.compile("[^\\r\\n]+");
  private static final Pattern MARKED =
      Pattern.compile("[\\s*]*+accepted\\s*+:\\s*+([\\p{L}-]*+)\\s*+[,:;]?+\\s*+(.*)");

  private final SourceText source;
  private final List<Span> statements;
  private final Dialect dialect;
  private @Nullable List<List<Acceptance>> found;

  /** One comment: a kind as it is written, and a reason. */
  private record Acceptance(String kind, String reason, int line) {}

  /**
   * Those of a text, which is looked through once.
   *
   * @param statements where its statements stand
   */
  public Acceptances(SourceText source, List<Span> statements, Dialect dialect) {
    this.source = source;
    this.statements = List.copyOf(statements);
    this.dialect = dialect;
  }

  private synchronized List<Acceptance> of(int statement) {
    if (found == null) {
      List<List<Acceptance>> all = new ArrayList<>();
      for (List<Span> comments : Comments.ofStatements(source, statements, dialect)) {
        List<Acceptance> own = new ArrayList<>();
        comments.forEach(comment -> read(comment, own));
        all.add(own);
      }
      found = all;
    }
    return found.get(statement);
  }

  private void read(Span comment, List<Acceptance> own) {
    Matcher lines = LINE.matcher(source.at(comment));
    while (lines.find()) {
      Matcher marked = MARKED.matcher(lines.group());
      if (marked.matches()) {
        int line = source.line(comment.start() + lines.start());
        own.add(new Acceptance(marked.group(1), marked.group(2).strip(), line));
      }
    }
  }

  /**
   * What is told of a statement: judged by the rules of the project, and without what its comments
   * accept.
   *
   * @param statement which one, from 0
   */
  public Inspection judged(Inspection inspection, int statement, CheckRules rules) {
    List<Finding> told = new ArrayList<>();
    List<Excepted> excepted = new ArrayList<>();
    List<Acceptance> used = new ArrayList<>();
    for (Finding finding : inspection.findings()) {
      Optional<Finding> judged = rules.judge(finding);
      Optional<Acceptance> accepted =
          of(statement).stream()
              .filter(each -> isUsable(each) && each.kind().equals(finding.kind().id()))
              .filter(each -> finding.severity() != Severity.ERROR)
              .findFirst();
      if (accepted.isPresent()) {
        used.add(accepted.get());
        judged.ifPresent(each -> excepted.add(new Excepted(each, accepted.get().reason())));
      } else {
        judged.ifPresent(told::add);
      }
    }
    List<String> remarks = new ArrayList<>(inspection.remarks());
    for (Acceptance each : of(statement)) {
      remark(each, used.contains(each), inspection.isComplete()).ifPresent(remarks::add);
    }
    return new Inspection(
        inspection.understood(),
        told,
        inspection.refusal(),
        inspection.unchecked(),
        remarks,
        inspection.unrelated(),
        excepted);
  }

  private static boolean isUsable(Acceptance acceptance) {
    return !acceptance.reason().isEmpty();
  }

  private static Optional<String> remark(Acceptance each, boolean used, boolean complete) {
    String where = "the exception in line " + each.line();
    if (Kind.of(each.kind()).isEmpty()) {
      List<String> near = NearNames.of(each.kind(), Kind.ids());
      return Optional.of(
          where
              + " names no kind of finding"
              + (near.isEmpty() ? "" : "; near it is " + near.get(0)));
    }
    if (!isUsable(each)) {
      return Optional.of(
          where + " says no reason, so it is not taken; write accepted: " + each.kind() + ", why");
    }
    return used || !complete
        ? Optional.empty()
        : Optional.of(where + " accepts nothing: there is no " + each.kind() + " any more");
  }
}
