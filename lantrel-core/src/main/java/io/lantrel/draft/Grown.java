package io.lantrel.draft;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Table;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
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
              Use start = new Use(use.rowWord(), table, use.written(), catalog.dialect());
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
    Set<String> aliases = new HashSet<>();
    Use at = start;
    for (Paths.Hop hop : hops) {
      String name = hop.up() ? hop.reference().toTable() : hop.reference().fromTable();
      Table table = catalog.table(name).orElseThrow();
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
    Set<String> others = new HashSet<>();
    route.forEach(join -> others.add(join.to().alias()));
    others.remove(last.to().alias());
    String alias = role && isFree(called, others) ? called : last.to().alias();
    List<JoinAlongReference> named = new ArrayList<>(route.subList(0, route.size() - 1));
    Use use = new Use(called, table, alias, catalog.dialect());
    named.add(new JoinAlongReference(last.from(), use, last.reference(), last.up()));
    return named;
  }

  /** Initials where the query has aliases; else the table's own name, if it is free. */
  private String alias(String table, Set<String> others) {
    String plain = catalog.dialect().write(table);
    boolean aliases = block.uses().stream().anyMatch(TableUse::hasAlias);
    String own = aliases ? "" : plain;
    String lower = table.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9_ ]", "");
    String initials = lower.replaceAll("(?<=[a-z0-9])[a-z0-9]+|[^a-z0-9]", "");
    List<String> wanted = new ArrayList<>(List.of(own, initials));
    for (int length = 1; length <= lower.length(); length++) {
      wanted.add(lower.substring(0, length));
    }
    String alias =
        wanted.stream()
            .filter(each -> each.equals(plain) ? !isTaken(each, others) : isFree(each, others))
            .findFirst()
            .orElseGet(() -> numbered(others));
    others.add(alias);
    return alias;
  }

  private String numbered(Set<String> others) {
    int number = 2;
    while (!isFree("t" + number, others)) {
      number++;
    }
    return "t" + number;
  }

  private boolean isFree(String alias, Set<String> others) {
    return alias.matches("[a-z][a-z0-9_]*")
        && catalog.dialect().write(alias).equals(alias)
        && catalog.table(alias).isEmpty()
        && !isTaken(alias, others);
  }

  private boolean isTaken(String alias, Set<String> others) {
    return alias.isEmpty()
        || others.contains(alias)
        || block.uses().stream().anyMatch(use -> use.written().equalsIgnoreCase(alias));
  }

  /** Whether no outer join fills this table with NULLs. */
  boolean isAlwaysThere(Use start) {
    return block.stepsThatFill(use(start)).isEmpty();
  }

  /** Whether the schema promises that every row has one partner. */
  boolean hasOne(JoinAlongReference join) {
    return join.up()
        && join.reference().basis() == Basis.DECLARED
        && join.reference().fromColumns().stream()
            .allMatch(
                name ->
                    join.from().table().column(name).filter(each -> !each.nullable()).isPresent());
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
