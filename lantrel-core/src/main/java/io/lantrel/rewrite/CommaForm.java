package io.lantrel.rewrite;

import io.lantrel.check.QueryEdits;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.Parentheses;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import java.util.ArrayList;
import java.util.List;

/** The commas of FROM as JOIN; what connects the two sides goes from WHERE into ON. */
final class CommaForm {

  private final SourceText source;
  private final QueryBlock block;
  private final QueryEdits queryEdits;

  CommaForm(SourceText source, QueryBlock block) {
    this.source = source;
    this.block = block;
    this.queryEdits = new QueryEdits(source, block);
  }

  List<Edit> edits() {
    List<Edit> edits = new ArrayList<>();
    List<Expression> moved = new ArrayList<>();
    for (JoinStep step : block.steps()) {
      if (step.join().kind() == JoinKind.COMMA) {
        List<Expression> on = on(step);
        moved.addAll(on);
        edits.addAll(edits(step, on));
      }
    }
    if (!moved.isEmpty()) {
      edits.addAll(queryEdits.removeTerms(moved));
    }
    return edits;
  }

  /** What of WHERE connects the two sides. */
  private List<Expression> on(JoinStep step) {
    List<Expression> terms = queryEdits.terms();
    return step.conjuncts().stream().map(Conjunct::condition).filter(terms::contains).toList();
  }

  private List<Edit> edits(JoinStep step, List<Expression> moved) {
    FromItem right = step.join().right();
    String word = moved.isEmpty() ? "CROSS JOIN " : "JOIN ";
    boolean group = right instanceof FromItem.Join;
    List<Edit> edits = new ArrayList<>();
    edits.add(new Edit(step.join().keyword(), needsBlank(step) ? " " : ""));
    edits.add(Edit.insert(right.span().start(), queryEdits.keyword(word) + (group ? "(" : "")));
    String on =
        moved.isEmpty()
            ? ""
            : " "
                + queryEdits.keyword("ON")
                + " "
                + String.join(" " + queryEdits.keyword("AND") + " ", texts(moved));
    if (group || !on.isEmpty()) {
      edits.add(Edit.insert(right.span().end(), (group ? ")" : "") + on));
    }
    return edits;
  }

  /** Between a,b there is nothing but the comma. */
  private boolean needsBlank(JoinStep step) {
    int end = step.join().keyword().end();
    return end < source.text().length() && !Character.isWhitespace(source.text().charAt(end));
  }

  private List<String> texts(List<Expression> conditions) {
    List<String> texts = new ArrayList<>();
    for (Expression each : conditions) {
      String text = source.at(each.span());
      texts.add(each instanceof Condition.Or ? Parentheses.around(text) : text);
    }
    return texts;
  }
}
