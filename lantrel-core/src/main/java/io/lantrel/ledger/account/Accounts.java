package io.lantrel.ledger.account;

import io.lantrel.ledger.Naming;
import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.probe.ResultLines;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Subquery;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/** The accounts of a query and of all queries in it, each once. */
final class Accounts {

  private final List<QueryBlock> blocks;
  private final Naming naming;
  private final Map<QueryBlock, JoinedRows> rows = new IdentityHashMap<>();
  private final List<Account> all = new ArrayList<>();
  private final Set<Query> seen = Collections.newSetFromMap(new IdentityHashMap<>());

  /**
   * @param blocks those that can have an account
   * @param promises which promises of the schema can be relied on
   */
  Accounts(List<QueryBlock> blocks, Promises promises, Naming naming) {
    this.blocks = blocks;
    this.naming = naming;
    for (QueryBlock block : blocks) {
      if (Obstacles.of(block).isEmpty() && !block.isCorrelated()) {
        JoinedRows.of(block, promises).ifPresent(each -> rows.put(block, each));
      }
    }
  }

  List<Question<?>> lossTests() {
    return rows.values().stream()
        .<Question<?>>flatMap(
            each -> Stream.concat(each.lossTests().stream(), each.partnerTests().stream()))
        .toList();
  }

  void readLossTests(Answers answers) {
    rows.values()
        .forEach(
            each -> {
              each.readLossTests(answers);
              each.readPartnerTests(answers);
            });
  }

  /** All that were made, those in a query before that of the query. */
  List<Account> all() {
    return all;
  }

  /** The account of the whole query. */
  Account ofWhole(Query query, List<String> headings) {
    boolean clear = blocks.stream().allMatch(QueryBlock::hasClearCommonTables);
    Account account =
        clear && (query.body() instanceof QueryBody.Select || width(query).isPresent())
            ? of("", query)
            : added(
                new WholeAccount(
                    query,
                    headings,
                    clear ? "not all its columns are known" : "a name of WITH means two things"));
    return account;
  }

  private Account added(Account account) {
    all.add(account);
    return account;
  }

  private Account of(String name, Query query) {
    seen.add(query);
    if (query.body() instanceof QueryBody.Select select) {
      return ofBlock(name, block(select).orElseThrow());
    }
    List<QueryBlock> leaves = leaves(query.body());
    List<Account> parts = new ArrayList<>();
    for (int i = 0; i < leaves.size(); i++) {
      String whose = name.isEmpty() ? "" : " of " + name;
      parts.add(ofBlock(BodyAccount.ordinal(i + 1) + whose, leaves.get(i)));
    }
    List<CommonTable> with = leaves.isEmpty() ? query.with() : leaves.get(0).commonTables();
    boolean recursive = leaves.isEmpty() ? query.recursive() : leaves.get(0).hasRecursiveTables();
    BodyAccount.Columns columns =
        new BodyAccount.Columns(width(query).orElseThrow(), headings(leaves));
    return added(new BodyAccount(name, query, columns, with, recursive, naming(name), parts));
  }

  private Optional<QueryBlock> block(QueryBody.Select select) {
    return blocks.stream().filter(each -> each.select().span().equals(select.span())).findFirst();
  }

  /** The blocks whose rows a body puts together. */
  private List<QueryBlock> leaves(QueryBody body) {
    if (body instanceof QueryBody.Select select) {
      return block(select).map(List::of).orElse(List.of());
    }
    if (body instanceof QueryBody.Nested nested) {
      return leaves(nested.query().body());
    }
    return body instanceof QueryBody.SetOperation operation
        ? operation.parts().stream().flatMap(each -> leaves(each).stream()).toList()
        : List.of();
  }

  /** How many columns a query gives; empty if that is not known. */
  private Optional<Integer> width(Query query) {
    QueryBody body = query.body();
    while (!(body instanceof QueryBody.Select || body instanceof QueryBody.Values)) {
      body =
          body instanceof QueryBody.SetOperation operation
              ? operation.parts().get(0)
              : ((QueryBody.Nested) body).query().body();
    }
    return body instanceof QueryBody.Values values
        ? Optional.of(values.rows().get(0).values().size())
        : block((QueryBody.Select) body)
            .filter(QueryBlock::hasAllOutputs)
            .map(each -> each.outputs().size());
  }

  /** What the columns of a query are called and hold; none if its first part does not tell. */
  private static List<ResultLines.Heading> headings(List<QueryBlock> leaves) {
    return leaves.isEmpty() || !leaves.get(0).hasAllOutputs()
        ? List.of()
        : ResultLines.headings(leaves.get(0));
  }

  // ---- one SELECT ----

  private Account ofBlock(String name, QueryBlock block) {
    JoinedRows own = rows.get(block);
    Inner inner = inner(block, own != null);
    Naming named = naming(name);
    return added(
        own == null
            ? new PlainAccount(name, block, named, inner)
            : new BlockAccount(name, own, named, inner));
  }

  /** All rows of one figure are those of the whole query. */
  private Naming naming(String name) {
    return name.isEmpty() ? naming : naming.inner();
  }

  private Inner inner(QueryBlock block, boolean told) {
    List<Account> accounts = new ArrayList<>();
    for (TableUse use : block.uses()) {
      use.queryOfText()
          .ifPresent(each -> inFrom(block, use, each.query()).ifPresent(accounts::add));
    }
    List<QueryBlock> lookingOutside = new ArrayList<>();
    List<String> untold = new ArrayList<>();
    List<Subquery> subqueries = Subquery.of(block);
    for (Subquery each : subqueries) {
      String words = each.words(subqueries);
      List<QueryBlock> within = within(each.query());
      if (within.isEmpty() || seen.contains(each.query())) {
        continue;
      }
      boolean outside = within.stream().anyMatch(inner -> looksOutsideOf(inner, each.query()));
      if (!outside && isTold(each.query())) {
        accounts.add(of(words, each.query()));
      } else if (outside && told && each.isOfJoinedRows() && looksOnlyAt(block, each.query())) {
        lookingOutside.add(within.get(0));
      } else {
        untold.add(
            words
                + (outside
                    ? " is looked at for each row, and what it finds is not told"
                    : " has columns that are not known, and is not told"));
      }
    }
    return new Inner(accounts, lookingOutside, untold);
  }

  private boolean isTold(Query query) {
    return query.body() instanceof QueryBody.Select || width(query).isPresent();
  }

  /** All blocks in a query. */
  private List<QueryBlock> within(Query query) {
    return blocks.stream().filter(each -> contains(query, each)).toList();
  }

  private static boolean contains(Query query, QueryBlock block) {
    return query.span().contains(block.select().span());
  }

  /** Whether a block uses columns of one that is not in a query. */
  private static boolean looksOutsideOf(QueryBlock block, Query query) {
    if (!block.isCorrelated()) {
      return false;
    }
    Optional<QueryBlock> outer = block.outer();
    return outer.isEmpty() || !contains(query, outer.get()) || looksOutsideOf(outer.get(), query);
  }

  /** Whether a subquery is one SELECT whose rows outside are those of a block. */
  private boolean looksOnlyAt(QueryBlock block, Query query) {
    return !block.isCorrelated()
        && query.with().isEmpty()
        && query.body() instanceof QueryBody.Select select
        && select.from() != null
        && block(select).isPresent();
  }

  private Optional<Account> inFrom(QueryBlock block, TableUse use, Query query) {
    List<QueryBlock> within = within(query);
    boolean outside = within.stream().anyMatch(each -> looksOutsideOf(each, query));
    if (seen.contains(query) || within.isEmpty() || outside || !isTold(query)) {
      return Optional.empty();
    }
    String name =
        use.item() instanceof FromItem.TableName table
            ? table.last().text()
            : use.isNamed() ? use.name() : "the query in FROM";
    Optional<CommonTable> member =
        block.commonTables().stream()
            .filter(each -> each.query().span().equals(query.span()))
            .findFirst();
    boolean recursive = leaves(query.body()).stream().anyMatch(QueryBlock::isRecursive);
    return Optional.of(
        recursive && member.isPresent() ? ofRecursion(name, member.get()) : of(name, query));
  }

  private Account ofRecursion(String name, CommonTable table) {
    Query query = table.query();
    seen.add(query);
    List<QueryBlock> leaves = leaves(query.body());
    List<Account> parts = new ArrayList<>();
    for (QueryBlock leaf : leaves) {
      parts.add(ofBlock((leaf.isRecursive() ? "all steps of " : "the start of ") + name, leaf));
    }
    return added(new RecursionAccount(name, table, leaves, naming.inner(), parts));
  }
}
