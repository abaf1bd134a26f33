package io.lantrel.claim.kinds;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Value;
import java.util.List;
import java.util.Optional;

/**
 * The rows come in an order. Only ORDER BY sees to that (ISO/IEC 9075-2, 14.3): what order rows
 * have without it is chance.
 */
final class Ordered implements Meaning {

  private final List<Integer> positions;
  private final List<Boolean> descending;
  private final String words;

  Ordered(List<Integer> positions, List<Boolean> descending, String words) {
    this.positions = List.copyOf(positions);
    this.descending = List.copyOf(descending);
    this.words = words;
  }

  @Override
  public boolean follows(Resolution resolution) {
    List<OrderItem> order = resolution.result().query().orderBy();
    if (order.size() < positions.size()) {
      return false;
    }
    for (int i = 0; i < positions.size(); i++) {
      if (order.get(i).descending() != descending.get(i)
          || !isOf(order.get(i).value(), positions.get(i), resolution)) {
        return false;
      }
    }
    return true;
  }

  private static boolean isOf(Expression value, int position, Resolution resolution) {
    Optional<QueryBlock> block = resolution.result().block();
    if (block.isPresent()) {
      return block.get().outputsOf(value).stream().anyMatch(each -> each.position() == position);
    }
    return value instanceof Value.ColumnName name
        && name.qualifier().isEmpty()
        && resolution
            .root()
            .dialect()
            .means(name.name(), resolution.result().outputs().get(position).name());
  }

  @Override
  public Shown shownByPart() {
    return Shown.BREACH;
  }

  @Override
  public Inquiry inquiry(ResultRows rows) {
    boolean any = !rows.names().resolution().result().query().orderBy().isEmpty();
    return new Inquiry(
        List.of(),
        answers ->
            Outcome.broken(
                any
                    ? "the query orders its rows by something else than " + words
                    : "the query has no ORDER BY, so its rows come in any order"));
  }
}
