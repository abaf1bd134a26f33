package io.lantrel.rewrite.forms;

import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.rewrite.Caveat;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** On which data NOT IN and NOT EXISTS do not give the same rows. */
final class ListCaveat {

  private final Reading reading;
  private final QueryBlock block;

  ListCaveat(Reading reading, QueryBlock block) {
    this.reading = reading;
    this.block = block;
  }

  /** Of a NOT IN; null if there are none. */
  @Nullable Caveat of(Condition.InQuery in) {
    List<Expression> values = NotInToNotExists.values(in);
    Optional<QueryBlock> inner = reading.block(in.query());
    List<OutputColumn> listed = reading.outputs(in.query());
    List<String> empty = new ArrayList<>();
    for (OutputColumn column : listed) {
      if (inner.isEmpty() || inner.get().isNullable(column)) {
        empty.add(inner.isEmpty() ? column.name() : name(inner.get(), column));
      }
    }
    List<String> left =
        values.stream().filter(this::canBeNull).map(each -> reading.text(each)).toList();
    if (empty.isEmpty() && left.isEmpty()) {
      return null;
    }
    List<String> words = new ArrayList<>();
    if (!empty.isEmpty()) {
      words.add(
          "with one empty "
              + String.join(" or ", empty)
              + " in its list NOT IN gives no row at all, and the others pass over it");
    }
    if (!left.isEmpty()) {
      words.add(
          "where "
              + String.join(" or ", left)
              + " is empty NOT IN is never true, and the others keep the row");
    }
    boolean plain = !empty.isEmpty() && Absence.plain(reading, in.query()).isPresent();
    return new Caveat(
        "the two differ where NULL comes in: " + String.join("; ", words),
        plain ? example(in, listed) : empty.isEmpty() ? example(in) : "",
        empty.isEmpty()
            ? "an empty " + String.join(" or ", left) + " in every row"
            : "one more row in the list, whose " + empty.get(0) + " is empty");
  }

  private String name(QueryBlock inner, OutputColumn column) {
    return inner.column(column.value()).map(UseColumn::words).orElse(column.name());
  }

  /** Unless its table, or another condition of WHERE, rules NULL out. */
  private boolean canBeNull(Expression value) {
    Optional<UseColumn> column = block.column(value).filter(block::isOwn);
    if (value instanceof Value.Literal || column.isEmpty()) {
      return !(value instanceof Value.Literal);
    }
    return block.isNullable(column.get())
        && reading.edits(block).terms().stream()
            .filter(term -> !term.span().contains(value.span()))
            .noneMatch(term -> NullRejection.rejects(term, block, column.get()));
  }

  /** The query with NULL, of the right type, on the left. */
  private String example(Condition.InQuery in) {
    String value = reading.text(in.value());
    return in.value() instanceof Value.RowValue
        ? ""
        : Edit.apply(
            reading.source().text(),
            List.of(new Edit(in.value().span(), "NULLIF(" + value + ", " + value + ")")));
  }

  /** The query with a NULL of the right type in the list, which every row of it adds. */
  private String example(Condition.InQuery in, List<OutputColumn> listed) {
    String query = reading.text(in.query());
    Span first = listed.get(0).value().span();
    if (first.equals(Span.NOWHERE)) {
      return "";
    }
    int start = first.start() - in.query().span().start();
    String value = reading.text(listed.get(0).value());
    String twin =
        query.substring(0, start)
            + "NULLIF("
            + value
            + ", "
            + value
            + ")"
            + query.substring(start + first.length());
    return Edit.apply(
        reading.source().text(),
        List.of(Edit.insert(in.query().span().end(), "\nUNION ALL\n" + twin)));
  }
}
