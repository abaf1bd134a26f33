package io.lantrel.rewrite.forms;

import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.words.Words;
import java.util.List;

/** RIGHT JOIN as LEFT JOIN: the kept side first. */
final class RightForm {

  private final Reading reading;
  private final QueryBlock block;

  RightForm(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  List<Edit> edits() {
    // From the outside in, so that the text of a side is moved as a whole.
    for (int i = block.steps().size() - 1; i >= 0; i--) {
      JoinStep step = block.steps().get(i);
      if (step.join().kind() == JoinKind.RIGHT) {
        return edits(step);
      }
    }
    return List.of();
  }

  private List<Edit> edits(JoinStep step) {
    // * shows the columns in the order of the tables.
    if (NameForms.hasStar(block)) {
      return NameForms.columns(reading, block);
    }
    FromItem left = step.join().left();
    boolean merges =
        block.steps().stream()
            .anyMatch(each -> each.mergesColumns() && left.span().contains(each.join().span()));
    // Not every product finds a merged column within parentheses again.
    if (merges || step.mergesColumns()) {
      return new UsingForm(reading, block).edits();
    }
    FromItem right = step.join().right();
    String words = reading.source().at(step.join().keyword());
    String turned = words.replaceFirst("(?i)right(\\s+outer)?", Words.like(words, "LEFT") + "$1");
    return List.of(
        new Edit(left.span(), reading.source().at(right.span())),
        new Edit(step.join().keyword(), turned),
        new Edit(
            right.span(),
            left instanceof FromItem.Join
                ? "(" + reading.source().at(left.span()) + ")"
                : reading.source().at(left.span())));
  }
}
