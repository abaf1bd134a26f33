package io.lantrel.rewrite.forms;

import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import java.util.ArrayList;
import java.util.List;

/** The commas of FROM as JOIN; what connects the two sides goes from WHERE into ON. */
final class CommaForm {

  private final Reading reading;
  private final QueryBlock block;
  private final QueryEdits queryEdits;

  CommaForm(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
    this.queryEdits = reading.edits(block);
  }

  List<Edit> edits() {
    List<Edit> edits = new ArrayList<>();
    List<Expression> moved = new ArrayList<>();
    for (JoinStep step : block.writtenSteps()) {
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
            : " " + queryEdits.keyword("ON") + " " + reading.conjunction(block, moved);
    if (group || !on.isEmpty()) {
      edits.add(Edit.insert(right.span().end(), (group ? ")" : "") + on));
    }
    return edits;
  }

  /** Between a,b there is nothing but the comma. */
  private boolean needsBlank(JoinStep step) {
    int end = step.join().keyword().end();
    return end < reading.source().text().length()
        && !Character.isWhitespace(reading.source().text().charAt(end));
  }
}
