package io.lantrel.rewrite.forms;

import io.lantrel.rewrite.Caveat;
import io.lantrel.rewrite.Rewritten;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;

/**
 * The parameters of a query that are question marks. A program gives them values by their order, so
 * that it must be told where a change of the text gives them another one. While the text is
 * changed, each has a name.
 *
 * @param named the text with names in place of question marks
 * @param count how many there are
 */
record QuestionMarks(String named, int count) {

  private static final String MARK = "?";
  private static final String NAME = ":question_mark_";

  static QuestionMarks of(Reading reading) {
    List<Span> places =
        parameters(reading).stream()
            .filter(each -> each.text().equals(MARK))
            .map(Value.Parameter::span)
            .toList();
    List<Edit> edits =
        IntStream.range(0, places.size())
            .mapToObj(i -> new Edit(places.get(i), NAME + (i + 1)))
            .toList();
    return new QuestionMarks(Edit.apply(reading.source().text(), edits), places.size());
  }

  /** In the order of the text; a node can be in the tree more than once. */
  private static List<Value.Parameter> parameters(Reading reading) {
    return reading
        .query()
        .preorder()
        .filter(Value.Parameter.class::isInstance)
        .map(Value.Parameter.class::cast)
        .sorted((one, other) -> Integer.compare(one.span().start(), other.span().start()))
        .distinct()
        .toList();
  }

  /** The question marks again, and a word on their order if it is another one. */
  Rewritten given(Rewritten rewritten, Reading reading) {
    List<Edit> edits = new ArrayList<>();
    List<String> order = new ArrayList<>();
    for (Value.Parameter each : parameters(reading)) {
      if (each.text().startsWith(NAME)) {
        edits.add(new Edit(each.span(), MARK));
        order.add(each.text().substring(NAME.length()));
      }
    }
    List<String> usual = IntStream.rangeClosed(1, count).mapToObj(String::valueOf).toList();
    List<Caveat> caveats = new ArrayList<>();
    for (Caveat each : rewritten.caveats()) {
      caveats.add(new Caveat(unnamed(each.words()), unnamed(each.example()), unnamed(each.row())));
    }
    if (!order.equals(usual)) {
      String words = "the parameters ? stand in another order now: " + String.join(", ", order);
      caveats.add(new Caveat(words, "", ""));
    }
    return new Rewritten(Edit.apply(rewritten.sql(), edits), caveats);
  }

  private static String unnamed(String text) {
    return text.replaceAll(NAME + "\\d+", MARK);
  }
}
