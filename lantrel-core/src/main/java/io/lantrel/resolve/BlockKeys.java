package io.lantrel.resolve;

import io.lantrel.catalog.Key;
import io.lantrel.sql.tree.Expression;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The keys of a block's result. Groups are told apart by what they are grouped by; DISTINCT leaves
 * no two equal rows; an aggregate without GROUP BY gives one row (ISO/IEC 9075-2, 4.18.13 to
 * 4.18.15, known functional dependencies); a single table keeps its keys.
 */
final class BlockKeys {

  private BlockKeys() {}

  static List<Key> of(QueryBlock block) {
    if (block.isGrouped()) {
      return block.grouping().isEmpty()
          ? List.of(new Key(List.of(), false))
          : namesOf(block, block.grouping()).map(List::of).orElse(List.of());
    }
    List<Key> keys = new ArrayList<>();
    if (block.select().distinct()) {
      keys.add(new Key(block.outputs().stream().map(OutputColumn::name).toList(), false));
    }
    if (block.uses().size() == 1) {
      TableUse use = block.uses().get(0);
      for (Key key : use.keys()) {
        kept(block, use, key).ifPresent(keys::add);
      }
    }
    return keys;
  }

  private static Optional<Key> kept(QueryBlock block, TableUse use, Key key) {
    List<String> names = new ArrayList<>();
    for (String column : key.columns()) {
      UseColumn wanted = use.column(column).orElseThrow();
      Optional<OutputColumn> shown =
          block.outputs().stream()
              .filter(output -> block.column(output.value()).filter(wanted::equals).isPresent())
              .findFirst();
      if (shown.isEmpty()) {
        return Optional.empty();
      }
      names.add(shown.get().name());
    }
    return Optional.of(new Key(names, key.primary()));
  }

  private static Optional<Key> namesOf(QueryBlock block, List<Expression> expressions) {
    List<String> names = new ArrayList<>();
    for (Expression expression : expressions) {
      Optional<OutputColumn> shown =
          block.outputs().stream()
              .filter(
                  output ->
                      output.value() == expression
                          || (block.column(expression).isPresent()
                              && block.column(expression).equals(block.column(output.value()))))
              .findFirst();
      if (shown.isEmpty()) {
        return Optional.empty();
      }
      names.add(shown.get().name());
    }
    return Optional.of(new Key(names, false));
  }
}
