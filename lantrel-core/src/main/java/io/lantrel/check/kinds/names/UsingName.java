package io.lantrel.check.kinds.names;

import io.lantrel.check.suspicion.Subject;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A name in USING, or one that NATURAL made of the columns; it cannot be qualified there.
 *
 * @param join the join
 * @param using its USING; empty for NATURAL
 * @param name the name
 */
record UsingName(FromItem.Join join, Optional<JoinCondition.Using> using, Identifier name) {

  /** The one at this place, if it is one. */
  static Optional<UsingName> at(Span place, Identifier name, Subject subject) {
    return Stream.ofNullable(subject.block().select().from())
        .flatMap(from -> from.preorder())
        .filter(FromItem.Join.class::isInstance)
        .map(FromItem.Join.class::cast)
        .filter(
            join ->
                (join.natural() && join.keyword().contains(place))
                    || (join.condition() instanceof JoinCondition.Using using
                        && using.span().contains(place)))
        .findFirst()
        .map(
            join ->
                new UsingName(
                    join,
                    Optional.ofNullable(join.condition())
                        .filter(JoinCondition.Using.class::isInstance)
                        .map(JoinCondition.Using.class::cast),
                    name));
  }

  /** An ON in place of USING for each pair of columns that could be meant. */
  List<List<Edit>> conditions(Subject subject) {
    if (using.isEmpty() || using.get().columns().size() > 1) {
      return List.of();
    }
    List<List<Edit>> conditions = new ArrayList<>();
    for (UseColumn left : columns(join.left(), subject)) {
      for (UseColumn right : columns(join.right(), subject)) {
        String on = subject.edits().keyword("ON");
        String text = on + " " + left.written() + " = " + right.written();
        conditions.add(List.of(new Edit(using.get().span(), text)));
      }
    }
    return conditions;
  }

  private List<UseColumn> columns(FromItem side, Subject subject) {
    return subject.block().uses().stream()
        .filter(use -> side.span().contains(use.item().span()))
        .flatMap(use -> use.column(name.text()).stream())
        .toList();
  }

  /** Whether a table is joined from the same side as another. */
  boolean onOneSide(TableUse one, TableUse other) {
    return join.left().span().contains(one.item().span())
        == join.left().span().contains(other.item().span());
  }

  /** Whether the engine looks only at the first table of each side. */
  boolean looksAtFirstTables(Subject subject) {
    return using.isPresent()
        && subject.block().dialect().has(Dialect.Rule.USING_LOOKS_AT_FIRST_TABLES);
  }
}
