package io.lantrel.rewrite.forms;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Functions;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.rewrite.Caveat;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/**
 * What may be NULL in a text that is put together counts as an empty text, where otherwise the
 * whole would be NULL (ISO/IEC 9075-2, 6.29).
 */
final class CoalesceForm {

  /** A number or a date as a text is no longer. */
  private static final int LONGEST = 50;

  private final Reading reading;
  private final QueryBlock block;

  CoalesceForm(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  FormEdits change() {
    List<Expression> parts =
        block.select().items().stream()
            .filter(SelectItem.Output.class::isInstance)
            .map(item -> ((SelectItem.Output) item).value())
            .flatMap(Aggregates::withoutQueries)
            .flatMap(this::parts)
            .filter(this::isMissingText)
            .sorted(Comparator.comparingInt(part -> part.span().start()))
            .toList();
    if (parts.isEmpty()) {
      return FormEdits.NONE;
    }
    // What stands within another part comes when the text is read anew.
    List<Expression> outer =
        parts.stream()
            .filter(
                part ->
                    parts.stream()
                        .noneMatch(
                            other ->
                                other.span().contains(part.span())
                                    && !other.span().equals(part.span())))
            .toList();
    List<Edit> edits = new ArrayList<>();
    for (Expression part : outer) {
      edits.add(new Edit(part.span(), "COALESCE(" + asText(part) + ", '')"));
    }
    List<String> names = outer.stream().map(reading::text).distinct().toList();
    return new FormEdits(
        edits,
        new Caveat(
            "where "
                + String.join(" or ", names)
                + " is NULL the whole text was NULL, and is now what the rest of it gives",
            "",
            ""));
  }

  /** What a node puts together, if it is such a text as a whole. */
  private Stream<Expression> parts(Node node) {
    boolean bars = !reading.dialect().has(Rule.BARS_ARE_OR);
    if (bars && node instanceof Value.Arithmetic sum && isConcat(sum)) {
      return Stream.of(sum.left(), sum.right()).filter(each -> !isConcat(each));
    }
    // Where || means OR, texts are put together by a function, and one NULL makes all NULL.
    return !bars && node instanceof Call.FunctionCall call && call.key().equals("concat")
        ? call.arguments().stream()
        : Stream.empty();
  }

  private static boolean isConcat(Expression value) {
    return value instanceof Value.Arithmetic sum && sum.operator() == ArithmeticOperator.CONCAT;
  }

  private boolean isMissingText(Expression part) {
    boolean settled =
        part instanceof Value.Literal
            || part instanceof Value.Parameter
            || (part instanceof Call.FunctionCall call && Functions.fillsNull(call));
    return !settled && !reading.columns(part).isEmpty() && block.isNullable(part);
  }

  /** A number or a date is none yet, and has no value in common with an empty text. */
  private String asText(Expression part) {
    TypeFamily family = block.type(part).family();
    boolean text = family == TypeFamily.TEXT || family == TypeFamily.OTHER;
    return text
        ? reading.text(part)
        : "CAST("
            + reading.text(part)
            + " AS "
            + reading.dialect().textType()
            + "("
            + LONGEST
            + "))";
  }
}
