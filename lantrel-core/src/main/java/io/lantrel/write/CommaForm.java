package io.lantrel.write;

import io.lantrel.probe.Words;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A comma of FROM as a JOIN; what connects its two sides goes from WHERE into its ON. */
final class CommaForm {

  private static final Pattern AND = Pattern.compile("(?i)\\band\\b[ \\t]*");
  private static final Pattern COMMENT = Pattern.compile("(?s)--[^\\n]*|#[^\\n]*|/\\*.*?\\*/");

  private final SourceText source;
  private final QueryBlock block;

  CommaForm(SourceText source, QueryBlock block) {
    this.source = source;
    this.block = block;
  }

  List<Edit> edits() {
    return block.steps().stream()
        .filter(step -> step.join().kind() == JoinKind.COMMA)
        .findFirst()
        .map(this::edits)
        .orElse(List.of());
  }

  private List<Edit> edits(JoinStep step) {
    if (step.conjuncts().stream()
        .flatMap(each -> each.condition().preorder())
        .anyMatch(Value.OuterMark.class::isInstance)) {
      throw new WishException("the old mark (+) is not rewritten yet");
    }
    List<Expression> terms = terms();
    List<Expression> moved =
        step.conjuncts().stream().map(Conjunct::condition).filter(terms::contains).toList();
    FromItem right = step.join().right();
    String word = moved.isEmpty() ? "CROSS JOIN " : "JOIN ";
    boolean group = right instanceof FromItem.Join;
    List<Edit> edits = new ArrayList<>();
    edits.add(new Edit(step.join().keyword(), needsBlank(step) ? " " : ""));
    edits.add(Edit.insert(right.span().start(), like(word) + (group ? "(" : "")));
    String on =
        moved.isEmpty()
            ? ""
            : " " + like("ON") + " " + String.join(" " + like("AND") + " ", texts(moved));
    if (group || !on.isEmpty()) {
      edits.add(Edit.insert(right.span().end(), (group ? ")" : "") + on));
    }
    edits.addAll(removed(terms, moved));
    return edits;
  }

  /** Between a,b there is nothing but the comma. */
  private boolean needsBlank(JoinStep step) {
    int end = step.join().keyword().end();
    return end < source.text().length() && !Character.isWhitespace(source.text().charAt(end));
  }

  private String like(String word) {
    Span start = new Span(block.select().span().start(), block.select().span().start() + 6);
    return Words.like(source.at(start), word);
  }

  private List<String> texts(List<Expression> conditions) {
    List<String> texts = new ArrayList<>();
    for (Expression each : conditions) {
      String text = source.at(each.span());
      texts.add(each instanceof Condition.Or ? Parentheses.around(text) : text);
    }
    return texts;
  }

  /** What WHERE consists of. */
  private List<Expression> terms() {
    Expression where = block.select().where();
    if (where == null) {
      return List.of();
    }
    return where instanceof Condition.And and ? and.terms() : List.of(where);
  }

  private List<Edit> removed(List<Expression> terms, List<Expression> moved) {
    if (moved.isEmpty()) {
      return List.of();
    }
    if (moved.size() == terms.size()) {
      int from = Objects.requireNonNull(block.select().from()).span().end();
      int end = terms.get(terms.size() - 1).span().end();
      String gap = source.text().substring(from, terms.get(0).span().start());
      int word = gap.toLowerCase(Locale.ROOT).lastIndexOf("where");
      int start = from + (gap.substring(0, word).isBlank() ? 0 : word);
      return List.of(new Edit(new Span(start, end), ""));
    }
    List<Edit> edits = new ArrayList<>();
    boolean kept = false;
    for (int i = 0; i < terms.size(); i++) {
      Span span = terms.get(i).span();
      if (!moved.contains(terms.get(i))) {
        kept = true;
      } else if (kept) {
        removeAnd(terms.get(i - 1).span().end(), span.start(), edits);
        edits.add(new Edit(span, ""));
      } else {
        edits.add(new Edit(span, ""));
        removeAnd(span.end(), terms.get(i + 1).span().start(), edits);
      }
    }
    return edits;
  }

  /** The AND between two conditions and the space around it; comments there stay. */
  private void removeAnd(int from, int to, List<Edit> edits) {
    String between = source.text().substring(from, to);
    if (!between.contains("--") && !between.contains("/*") && !between.contains("#")) {
      edits.add(new Edit(new Span(from, to), ""));
      return;
    }
    Matcher and = AND.matcher(masked(between));
    if (and.find()) {
      edits.add(new Edit(new Span(from + and.start(), from + and.end()), ""));
    }
  }

  /** The same text with its comments blanked out. */
  private static String masked(String text) {
    return COMMENT.matcher(text).replaceAll(found -> " ".repeat(found.group().length()));
  }
}
