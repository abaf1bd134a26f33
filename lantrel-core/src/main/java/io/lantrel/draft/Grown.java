package io.lantrel.draft;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.edit.FreeAliases;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/** The tables of a query that is continued, and those that come to them. */
final class Grown {

  private final QueryBlock block;
  private final Catalog catalog;
  private final Map<Use, TableUse> starts = new LinkedHashMap<>();

  Grown(QueryBlock block, Catalog catalog) {
    this.block = block;
    this.catalog = catalog;
  }

  /** A table use of the query as the start of a way; empty for a query in FROM. */
  Optional<Use> start(TableUse use) {
    return use.table()
        .map(
            table -> {
              Use start = new Use(use.tableName(), table, use.written(), catalog.dialect());
              starts.put(start, use);
              return start;
            });
  }

  TableUse use(Use start) {
    return Objects.requireNonNull(starts.get(start));
  }

  /** A way over tables that the query does not have; empty if it leads over one that it has. */
  Optional<List<JoinAlongReference>> route(Use start, List<Paths.Hop> hops) {
    List<JoinAlongReference> route = new ArrayList<>();
    FreeAliases aliases = aliases();
    Use at = start;
    for (Paths.Hop hop : hops) {
      Table table = hop.up() ? hop.reference().to() : hop.reference().from();
      boolean last = route.size() == hops.size() - 1;
      boolean known =
          block.uses().stream().anyMatch(use -> use.table().filter(table::equals).isPresent());
      if (known && !last) {
        return Optional.empty();
      }
      Use next = new Use(table.name(), table, alias(table.name(), aliases), catalog.dialect());
      route.add(new JoinAlongReference(at, next, hop.reference(), hop.up()));
      at = next;
    }
    return Optional.of(route);
  }

  /** The same way, its last table under the name that it was asked for by, if that is a role. */
  List<JoinAlongReference> named(List<JoinAlongReference> route, String name) {
    JoinAlongReference last = route.get(route.size() - 1);
    Table table = last.to().table();
    boolean role = !name.equalsIgnoreCase(table.name());
    boolean told = !last.reference().role().equalsIgnoreCase(table.name());
    String called = role ? (told ? last.reference().role() : name) : table.name();
    FreeAliases aliases = aliases();
    route.forEach(join -> aliases.give(join.to().alias()));
    String alias = role && aliases.isFree(called) ? called : last.to().alias();
    List<JoinAlongReference> named = new ArrayList<>(route.subList(0, route.size() - 1));
    Use use = new Use(called, table, alias, catalog.dialect());
    named.add(new JoinAlongReference(last.from(), use, last.reference(), last.up()));
    return named;
  }

  private FreeAliases aliases() {
    return new FreeAliases(
        catalog.dialect(), alias -> catalog.table(alias).isPresent() || isTaken(alias));
  }

  /** Short where the query has aliases; else the table's own name, if nothing goes by it. */
  private String alias(String table, FreeAliases aliases) {
    String plain = catalog.dialect().write(table);
    boolean hasAliases = block.uses().stream().anyMatch(TableUse::hasAlias);
    return hasAliases || isTaken(plain) || aliases.isGiven(plain)
        ? aliases.shortFor(table)
        : aliases.give(plain);
  }

  private boolean isTaken(String alias) {
    return block.uses().stream().anyMatch(use -> use.written().equalsIgnoreCase(alias));
  }

  /** Whether no outer join fills this table with NULLs. */
  boolean isAlwaysThere(Use start) {
    return block.stepsThatFill(use(start)).isEmpty();
  }

  /** The columns of the query's own tables that a way starts from. */
  Set<UseColumn> referring(JoinAlongReference first) {
    TableUse use = use(first.from());
    List<String> columns =
        first.up() ? first.reference().fromColumns() : first.reference().toColumns();
    Set<UseColumn> found = new LinkedHashSet<>();
    columns.forEach(
        name ->
            use.columns().stream()
                .filter(each -> each.tableColumn().equals(name))
                .forEach(found::add));
    return found;
  }
}
