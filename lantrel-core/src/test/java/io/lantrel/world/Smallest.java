package io.lantrel.world;

import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * A world and a query that fail in some way, made as small as they can be and still fail.
 *
 * @param world its rows
 * @param query what is asked of them
 */
public record Smallest(World world, WorldQuery query) {

  private static final int TRIES = 400;

  /**
   * Leaves out whatever can be left out.
   *
   * @param fails whether a smaller case still fails
   */
  public static Smallest of(World world, WorldQuery query, Predicate<Smallest> fails) {
    Smallest found = new Smallest(world, query);
    int tries = TRIES;
    Optional<Smallest> next = Optional.of(found);
    while (next.isPresent() && tries-- > 0) {
      found = next.get();
      next = found.smaller().filter(fails).findFirst();
    }
    return found;
  }

  private Stream<Smallest> smaller() {
    return Stream.concat(
        query.smaller().map(each -> new Smallest(world, each)),
        world.smaller().map(each -> new Smallest(each, query)));
  }

  /** For a failure's message. */
  public String words() {
    return query.sql() + "\n" + world.words();
  }
}
