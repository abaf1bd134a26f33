package io.lantrel.claim.kinds;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** Where columns and tables come from that a query sees through queries in its FROM. */
final class Origins {

  private Origins() {}

  /** The column, and those that it shows the values of, down to a table's own. */
  static List<UseColumn> of(UseColumn column) {
    List<UseColumn> chain = new ArrayList<>();
    Optional<UseColumn> next = Optional.of(column);
    while (next.isPresent()) {
      UseColumn here = next.get();
      chain.add(here);
      next = here.use().query().flatMap(block -> block.shownAt(here.position()));
    }
    return chain;
  }

  /**
   * The column itself, and those that have its value in every row. Texts that are equal need not be
   * the same, nor need a number and a text; so only columns of one family that is not text count.
   */
  static List<UseColumn> sameAs(UseColumn column, QueryBlock block) {
    TypeFamily family = column.type().family();
    boolean exact = family != TypeFamily.TEXT && family != TypeFamily.OTHER;
    return block.equalTo(column).stream()
        .filter(each -> each.equals(column) || (exact && each.type().family() == family))
        .toList();
  }

  /** The way to a table use through the queries that it stands in, each by its place in FROM. */
  record Path(List<Integer> places, List<TableUse> uses) {
    Path {
      places = List.copyOf(places);
      uses = List.copyOf(uses);
    }

    /** The table use itself. */
    TableUse use() {
      return uses.get(uses.size() - 1);
    }

    private Path to(TableUse use) {
      List<Integer> longer = new ArrayList<>(places);
      longer.add(use.index());
      List<TableUse> all = new ArrayList<>(uses);
      all.add(use);
      return new Path(longer, all);
    }
  }

  /** All table uses that a block's rows come from. */
  static Stream<Path> uses(QueryBlock block) {
    return uses(block, new Path(List.of(), List.of()));
  }

  private static Stream<Path> uses(QueryBlock block, Path path) {
    return block.uses().stream()
        .map(path::to)
        .flatMap(
            each ->
                Stream.concat(
                    Stream.of(each),
                    each.use().query().stream().flatMap(inner -> uses(inner, each))));
  }
}
