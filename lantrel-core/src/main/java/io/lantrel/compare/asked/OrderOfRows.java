package io.lantrel.compare.asked;

import io.lantrel.engine.ValueText;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.OrderItem;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Whether two results of the same rows have them in the same order, as far as their ORDER BY fixes
 * it: rows that agree in what they are ordered by may come in any order.
 */
final class OrderOfRows {

  /** So many rows are compared in order at most, since both orders are held. */
  static final int MOST = 200_000;

  private final Side first;
  private final Side second;
  private final Columns columns;
  private final List<Likeness> likeness;

  OrderOfRows(Side first, Side second, Columns columns) {
    this.first = first;
    this.second = second;
    this.columns = columns;
    this.likeness = columns.likeness();
  }

  /** Where the order differs, in a sentence; empty if it does not. */
  Optional<String> difference() {
    if (isOfOneOrder()) {
      return Optional.empty();
    }
    Optional<List<Key>> here = keys(first);
    Optional<List<Key>> there = keys(second).map(this::inFirst);
    List<List<@Nullable Object>> these = rows(first, IntStream.range(0, likeness.size()).toArray());
    List<List<@Nullable Object>> those =
        rows(second, columns.place().stream().mapToInt(each -> each).toArray());
    Optional<Integer> at = place(these, those, all());
    boolean free =
        at.isEmpty()
            || here.filter(keys -> place(these, those, positions(keys)).isEmpty()).isPresent()
            || there.filter(keys -> place(these, those, positions(keys)).isEmpty()).isPresent();
    return free
        ? Optional.empty()
        : at.map(
            row ->
                "row "
                    + (row + 1)
                    + " is "
                    + ValueText.row(these.get(row))
                    + " in "
                    + first.name()
                    + " and "
                    + ValueText.row(those.get(row))
                    + " in "
                    + second.name());
  }

  /** Whether both are ordered by the same columns, whatever their rows. */
  boolean isOfOneOrder() {
    Optional<List<Key>> here = keys(first);
    return here.isPresent() && here.equals(keys(second).map(this::inFirst));
  }

  /** What a result is ordered by. */
  private record Key(int position, boolean descending, @Nullable Boolean nullsFirst) {}

  private List<Integer> all() {
    return IntStream.range(0, likeness.size()).boxed().toList();
  }

  private static List<Integer> positions(List<Key> keys) {
    return keys.stream().map(Key::position).toList();
  }

  private List<Key> inFirst(List<Key> keys) {
    return keys.stream()
        .map(key -> new Key(columns.partnerOf(key.position()), key.descending(), key.nullsFirst()))
        .toList();
  }

  /** The columns of the result that it is ordered by; empty if it is by anything else. */
  private static Optional<List<Key>> keys(Side side) {
    List<Key> keys = new ArrayList<>();
    Optional<QueryBlock> block = side.query().flatMap(each -> each.resolution().result().block());
    if (block.isEmpty()) {
      return Optional.empty();
    }
    for (OrderItem item : block.get().query().orderBy()) {
      Optional<Integer> position =
          block.get().outputsOf(item.value()).stream().findFirst().map(OutputColumn::position);
      if (position.isEmpty()) {
        return Optional.empty();
      }
      keys.add(new Key(position.get(), item.descending(), item.nullsFirst()));
    }
    return Optional.of(keys);
  }

  private List<List<@Nullable Object>> rows(Side side, int[] place) {
    List<List<@Nullable Object>> rows = new ArrayList<>();
    side.each(
        values -> {
          List<@Nullable Object> row = new ArrayList<>();
          for (int i = 0; i < place.length; i++) {
            row.add(likeness.get(i).of(values.get(place[i])));
          }
          rows.add(row);
        });
    return rows;
  }

  private static Optional<Integer> place(
      List<List<@Nullable Object>> these,
      List<List<@Nullable Object>> those,
      List<Integer> positions) {
    return IntStream.range(0, Math.min(these.size(), those.size()))
        .filter(
            row ->
                positions.stream()
                    .anyMatch(i -> !Objects.equals(these.get(row).get(i), those.get(row).get(i))))
        .boxed()
        .findFirst();
  }
}
