package io.lantrel.rewrite.forms;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import java.util.List;
import java.util.Objects;

/** The tables of a subquery in the FROM around it: what must be done before, and the join. */
final class JoinedSubquery {

  private final Reading reading;
  private final QueryBlock block;
  private final QueryBlock inner;

  /**
   * @param block the query around the subquery
   * @param inner the subquery, which has a FROM
   */
  JoinedSubquery(Reading reading, QueryBlock block, QueryBlock inner) {
    this.reading = reading;
    this.block = block;
    this.inner = inner;
  }

  static boolean hasComma(QueryBlock block) {
    return block.writtenSteps().stream().anyMatch(step -> step.join().kind() == JoinKind.COMMA);
  }

  /** The {@code *} of the query around written out; empty if it has none. */
  List<Edit> stars() {
    // * would show the columns of the joined table too.
    return NameForms.hasStar(block) ? NameForms.columns(reading, block) : List.of();
  }

  /** JOIN for commas: what is joined behind one would not be seen by what stands before it. */
  List<Edit> commas() {
    for (QueryBlock each : List.of(inner, block)) {
      if (hasComma(each)) {
        return new CommaForm(reading, each).edits();
      }
    }
    return List.of();
  }

  /** Names that tell the tables of both apart; empty if they are. */
  List<Edit> names() {
    List<Edit> aliases = Absence.apart(reading, inner, block.uses());
    return aliases.isEmpty() ? NameForms.apart(block, inner) : aliases;
  }

  /** Neither {@code *} nor commas; empty if there are none. */
  List<Edit> starsAndCommas() {
    List<Edit> stars = stars();
    return stars.isEmpty() ? commas() : stars;
  }

  /** All that must be done before the tables of both can stand in one FROM; empty if nothing. */
  List<Edit> before() {
    List<Edit> first = starsAndCommas();
    return first.isEmpty() ? names() : first;
  }

  /** The FROM of the subquery as one item of another FROM. */
  String tables() {
    FromItem from = Objects.requireNonNull(inner.select().from());
    boolean several = from instanceof FromItem.Join join && !join.inParentheses();
    return several ? "(" + reading.text(from) + ")" : reading.text(from);
  }

  /** Joins something behind all tables. */
  Edit add(String words, String joined, String condition) {
    FromItem from = Objects.requireNonNull(block.select().from());
    return reading.edits(block).addToFrom(words, joined, condition, from.span().end());
  }
}
