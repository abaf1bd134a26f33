package io.lantrel.draft;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.edit.OneQuery;
import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.QueryBody;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A query of somebody's with one thing more to show. What is there stays as it is; what is added is
 * written the way the rest is: keywords, aliases, lines.
 */
final class Continuation {

  private final Catalog catalog;
  private final Paths paths;
  private final int way;
  private final SourceText source;
  private final QueryBlock block;
  private int ways = 1;

  /**
   * @param way which of several ways to a table is taken, from 0
   * @throws WishException if the text is not one plain query without errors
   */
  Continuation(String sql, Catalog catalog, Paths paths, int way) {
    this.catalog = catalog;
    this.paths = paths;
    this.way = way;
    OneQuery read = read(sql, catalog);
    this.source = read.source();
    if (!(read.query().body() instanceof QueryBody.Select select) || select.from() == null) {
      throw new WishException(
          "a query of several parts, as a UNION, is not continued: each part would need the column");
    }
    this.block = read.resolution().root();
  }

  private static OneQuery read(String sql, Catalog catalog) {
    try {
      return OneQuery.read(sql, catalog);
    } catch (SyntaxException fault) {
      throw new WishException("this query cannot be continued: " + fault.getMessage());
    }
  }

  /** How many ways there are to what was asked for. */
  int ways() {
    return ways;
  }

  /** The query with the item. */
  Draft with(Item item) {
    List<TableUse> uses = there(item.use());
    if (uses.size() > 1) {
      String names = String.join(" and ", uses.stream().map(TableUse::name).toList());
      throw new WishException(
          item.use()
              + " is there several times, as "
              + names
              + "; say which, as "
              + item.text().replace(item.use(), uses.get(0).name()));
    }
    if (!item.isAggregate() && uses.size() == 1) {
      return shown(item, uses.get(0));
    }
    Grown grown = new Grown(block, catalog);
    return item.isAggregate() ? figure(item, grown) : joined(item, grown);
  }

  /** The table uses of FROM that a name means: by alias, else by table, else by role. */
  private List<TableUse> there(String name) {
    List<TableUse> byAlias =
        block.uses().stream().filter(use -> use.name().equalsIgnoreCase(name)).toList();
    if (!byAlias.isEmpty()) {
      return byAlias;
    }
    List<TableUse> byTable =
        block.uses().stream().filter(use -> use.tableName().equalsIgnoreCase(name)).toList();
    return byTable.isEmpty() ? inRole(name) : byTable;
  }

  private List<TableUse> inRole(String name) {
    return links()
        .filter(link -> Uses.isRole(name, link.reference()))
        .map(Link::to)
        .distinct()
        .toList();
  }

  // ---- a column of a table that is there ----

  private Draft shown(Item item, TableUse use) {
    UseColumn column =
        use.column(item.column())
            .orElseThrow(() -> Use.unknown(use.name(), item.column(), names(use)));
    for (OutputColumn output : block.outputs()) {
      if (block.column(output.value()).filter(column::equals).isPresent()) {
        throw new WishException(item.text() + " is shown already, as " + output.name());
      }
    }
    QueryExtension extension = new QueryExtension(source, block);
    String value = use.isNamed() ? column.written() : catalog.dialect().write(column.name());
    extension.show(value, heading(item.use(), use, column));
    extension.group(value, Set.of(column), item.text());
    return extension.draft(item, List.of(item.text() + ": " + use.words() + " is there already"));
  }

  private static List<String> names(TableUse use) {
    return use.columns().stream().map(UseColumn::name).toList();
  }

  /** Its own name, or one that tells whose it is where another column has that name. */
  private String heading(String asked, TableUse use, UseColumn column) {
    String name = column.name();
    boolean taken = block.outputs().stream().anyMatch(each -> each.name().equalsIgnoreCase(name));
    boolean other =
        block.uses().stream().anyMatch(each -> each != use && each.column(name).isPresent());
    return taken || other ? whose(asked, use) + "_" + name : "";
  }

  /** The role that was asked for, or that a reference gives it; else the table. */
  private String whose(String asked, TableUse use) {
    if (!asked.equalsIgnoreCase(use.name())) {
      return asked;
    }
    return links()
        .filter(link -> link.to() == use)
        .map(link -> link.reference().role())
        .findFirst()
        .orElse(use.tableName());
  }

  private Stream<Link> links() {
    return block.conjuncts().stream()
        .flatMap(conjunct -> conjunct.equality().stream())
        .flatMap(equated -> block.linksAlong(equated).stream());
  }

  // ---- a column of a table that is not ----

  private Draft joined(Item item, Grown grown) {
    List<JoinAlongReference> route = route(item, grown);
    Use last = route.get(route.size() - 1).to();
    String value = last.column(item.column());
    QueryExtension extension = new QueryExtension(source, block);
    List<String> reasons = new ArrayList<>();
    List<String> joins = new ArrayList<>();
    boolean sure = grown.isAlwaysThere(route.get(0).from());
    boolean repeats = false;
    Set<JoinAlongReference> kept = paths.sure(route);
    for (JoinAlongReference join : route) {
      sure &= kept.contains(join);
      repeats |= !join.up();
      String word = sure ? "JOIN" : "LEFT JOIN";
      joins.add(extension.join(join, word));
      reasons.add(join.reason(word) + (sure ? "" : "; rows without one stay"));
    }
    if (repeats && block.isGrouped()) {
      throw new WishException(
          item.text()
              + " is not the same for all rows of a group; ask for a figure, as greatest "
              + item.text());
    }
    if (repeats) {
      reasons.add("a row now comes once for every " + last.name() + " that it has");
    }
    extension.from(grown.use(route.get(0).from()), joins);
    extension.show(value, last.heading(item.column()));
    extension.group(value, grown.referring(route.get(0)), item.text());
    return extension.draft(item, reasons);
  }

  private List<JoinAlongReference> route(Item item, Grown grown) {
    List<List<JoinAlongReference>> all = new ArrayList<>();
    for (TableUse use : block.uses()) {
      grown.start(use).ifPresent(start -> all.addAll(ways(start, item.use(), grown)));
    }
    if (all.isEmpty()) {
      throw unconnected(item);
    }
    List<List<JoinAlongReference>> best = shortest(all, item.isAggregate());
    ways = Math.max(ways, best.size());
    List<JoinAlongReference> chosen = best.get(Math.min(way, best.size() - 1));
    return item.isAggregate() ? chosen : grown.named(chosen, item.use());
  }

  private List<List<JoinAlongReference>> ways(Use start, String name, Grown grown) {
    List<List<JoinAlongReference>> found = new ArrayList<>();
    Optional<Table> table = catalog.table(name);
    if (table.isPresent()) {
      List<List<Paths.Hop>> between =
          start.table().equals(table.get()) ? List.of() : paths.between(start.table(), table.get());
      for (List<Paths.Hop> hops : between) {
        grown.route(start, hops).ifPresent(found::add);
      }
      return found;
    }
    for (Reference reference : catalog.references()) {
      if (Uses.isRole(name, reference) && reference.from().equals(start.table())) {
        grown.route(start, List.of(new Paths.Hop(reference, true))).ifPresent(found::add);
      }
    }
    return found;
  }

  /** The shortest. For a column those that repeat no row, if there are any; not so for a figure. */
  private static List<List<JoinAlongReference>> shortest(
      List<List<JoinAlongReference>> all, boolean figure) {
    List<List<JoinAlongReference>> fit =
        all.stream()
            .filter(each -> each.stream().allMatch(JoinAlongReference::up) != figure)
            .toList();
    List<List<JoinAlongReference>> some = fit.isEmpty() ? all : fit;
    int least = some.stream().mapToInt(List::size).min().orElse(0);
    return some.stream()
        .filter(each -> each.size() == least)
        .sorted(Comparator.comparingLong(each -> each.stream().filter(join -> !join.up()).count()))
        .toList();
  }

  private WishException unconnected(Item item) {
    if (catalog.table(item.use()).isEmpty()) {
      Uses known = new Uses(catalog);
      block.uses().stream().flatMap(use -> use.table().stream()).forEach(known::of);
      known.named(item.use());
    }
    return WishException.ofReferences(
        "no reference connects "
            + item.use()
            + " with the tables of the query, as they stand in its outermost FROM");
  }

  // ---- a figure ----

  private Draft figure(Item item, Grown grown) {
    if (!block.select().groupBy().isEmpty() && there(item.use()).size() == 1) {
      Optional<Draft> own = overOwnRows(item, there(item.use()).get(0));
      if (own.isPresent()) {
        return own.get();
      }
    }
    List<JoinAlongReference> route = route(item, grown);
    QueryExtension extension = new QueryExtension(source, block);
    extension.show(
        new AggregateQuery(item, route, List.of(), extension).text(), DraftBuilder.heading(item));
    for (UseColumn column : grown.referring(route.get(0))) {
      extension.groupOnce(column, item.text());
    }
    String reason =
        item.text()
            + ": worked out in a query of its own for every "
            + route.get(0).from().name()
            + ", so that no row comes twice ("
            + DraftBuilder.words(route)
            + ")";
    return extension.draft(item, List.of(reason));
  }

  /** Over the rows of a group, if each row of the table is there once at most. */
  private Optional<Draft> overOwnRows(Item item, TableUse use) {
    Optional<Table> table = use.table();
    Optional<Key> key = table.flatMap(Table::key);
    if (key.isEmpty()) {
      return Optional.empty();
    }
    if (!isThereOnce(use, key.get())) {
      return Optional.empty();
    }
    Use counted = new Use(use.tableName(), table.get(), use.written(), catalog.dialect());
    QueryExtension extension = new QueryExtension(source, block);
    extension.show(DraftBuilder.call(item, counted, extension), DraftBuilder.heading(item));
    String reason = item.text() + ": over the rows of the group, each " + use.tableName() + " once";
    return Optional.of(extension.draft(item, List.of(reason)));
  }

  /** Whether no row of a table use comes twice: its key tells all other rows beside it. */
  private boolean isThereOnce(TableUse use, Key key) {
    // Where it is missing there is nothing to count: as if it were joined by JOIN.
    QueryEdits edits = new QueryEdits(source, block);
    List<Edit> inner =
        block.stepsThatFill(use).stream().map(step -> edits.kind(step, JoinKind.INNER)).toList();
    String sql = Edit.apply(source.text(), inner);
    QueryBlock there = read(sql, catalog).resolution().root();
    TableUse same = there.uses().get(use.index());
    Set<UseColumn> columns = new LinkedHashSet<>();
    key.columns().forEach(each -> same.column(each).ifPresent(columns::add));
    return there.determinedBy(columns).containsAll(there.uses());
  }
}
