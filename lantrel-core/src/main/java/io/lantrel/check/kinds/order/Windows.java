package io.lantrel.check.kinds.order;

import io.lantrel.check.suspicion.Subject;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Window;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** What the windows of calls are, written there or under a name in the clause WINDOW. */
final class Windows {

  private Windows() {}

  /**
   * The window of a call with all that it takes from those that it goes by. Its place is where its
   * PARTITION BY is or would be written. Empty if the call has none, or goes by one that is not
   * there.
   */
  static Optional<Window> of(FunctionCall call, QueryBlock block) {
    return whole(call.over(), block, new HashSet<>());
  }

  /** A call and its window, with all that this takes from others. */
  record Ordered(FunctionCall call, Window window) {}

  /** The calls over windows with an order in which rows of a part can be alike. */
  static Stream<Ordered> withTies(Subject subject) {
    QueryBlock block = subject.block();
    return subject.rows().isEmpty() || block.isGrouped() || block.isCorrelated()
        ? Stream.of()
        : subject.nodes(FunctionCall.class).stream()
            .flatMap(call -> of(call, block).map(each -> new Ordered(call, each)).stream())
            .filter(each -> !each.window().orderBy().isEmpty())
            .filter(each -> !isFixed(each.window(), block));
  }

  private static boolean isFixed(Window window, QueryBlock block) {
    return Written.fixes(
        Stream.concat(
            window.partitionBy().stream(), window.orderBy().stream().map(OrderItem::value)),
        block);
  }

  private static Optional<Window> whole(
      @Nullable Window window, QueryBlock block, Set<String> met) {
    if (window == null || window.base() == null) {
      return Optional.ofNullable(window);
    }
    String name = block.dialect().key(window.base());
    if (!met.add(name)) {
      return Optional.empty();
    }
    return block.select().windows().stream()
        .filter(each -> block.dialect().key(each.name()).equals(name))
        .findFirst()
        .flatMap(named -> whole(named.window(), block, met))
        .map(base -> on(base, window));
  }

  private static Window on(Window base, Window window) {
    return new Window(
        base.span(),
        null,
        false,
        base.partitionBy(),
        window.orderBy().isEmpty() ? base.orderBy() : window.orderBy(),
        window.frame() == null ? base.frame() : window.frame());
  }
}
