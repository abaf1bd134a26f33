package io.lantrel.claim.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.claim.kinds.UndecidedException;
import io.lantrel.engine.Database;
import io.lantrel.ledger.RowShare;
import io.lantrel.probe.Asker;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Obstacle;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.RowPart;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.Resolver;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A query for a part of the rows of its first table. Each of its rows is one of the whole result
 * too, so that what these rows break is broken.
 *
 * @param resolution what the names in it mean
 * @param table the table whose rows they are, as {@code reading d}
 * @param looked how many of its rows are looked at
 * @param of how many it has
 */
record PartOfResult(Resolution resolution, String table, long looked, long of) {

  /**
   * A part of a query's result.
   *
   * @throws UndecidedException if a part of the rows tells nothing of its result; why
   */
  static PartOfResult of(Resolution whole, RowShare share, Catalog catalog, Database database) {
    QueryBlock block = whole.result().block().orElseThrow(() -> onlyAll("UNION, EXCEPT or VALUES"));
    Optional<String> unclear = Obstacle.of(block);
    if (unclear.isPresent()) {
      throw new UndecidedException(
          "a part of the rows tells nothing of this query: " + unclear.get());
    }
    Optional<String> obstacle = obstacle(block);
    if (obstacle.isPresent()) {
      throw onlyAll(obstacle.get());
    }
    TableUse first = block.uses().get(0);
    Relation rows = JoinedRows.of(block, Promises.KEYS).orElseThrow().side(first.item());
    Asker asker = new Asker(database);
    long all = asker.ask(Question.count(rows));
    RowPart part =
        RowPart.of(first, share.of(all))
            .orElseThrow(() -> new UndecidedException(RowPart.missing(first)));
    long looked =
        asker.ask(Question.count(rows, part.condition(column -> rows.named(Sql.column(column)))));
    Query reduced = reduced(whole.result().query(), part.condition(Sql::column));
    return new PartOfResult(Resolver.resolve(reduced, catalog), first.words(), looked, all);
  }

  private static UndecidedException onlyAll(String words) {
    return new UndecidedException("only all rows tell what " + words + " gives");
  }

  /** What makes a row of the result depend on other rows; empty if nothing does. */
  private static Optional<String> obstacle(QueryBlock block) {
    Optional<JoinStep> keeping =
        block.steps().stream().filter(step -> step.kind().keepsRight()).findFirst();
    if (keeping.isPresent()) {
      return keeping.map(JoinStep::words);
    }
    if (block.isGrouped()) {
      return Optional.of(block.select().groupBy().isEmpty() ? "an aggregate" : "GROUP BY");
    }
    if (!block.select().distinctOn().isEmpty()) {
      return Optional.of("DISTINCT ON");
    }
    if (block.query().limit() != null) {
      return Optional.of("LIMIT");
    }
    boolean windows =
        Stream.concat(
                block.outputs().stream().map(each -> each.value()),
                Stream.ofNullable(block.select().qualify()))
            .flatMap(Expression::preorder)
            .anyMatch(node -> node instanceof FunctionCall call && call.over() != null);
    return windows ? Optional.of("OVER") : Optional.empty();
  }

  private static Query reduced(Query query, Expression part) {
    QueryBody.Select select = (QueryBody.Select) query.body();
    Expression where = select.where();
    return query.withBody(select.withWhere(where == null ? part : Sql.all(List.of(part, where))));
  }

  /** How many rows were looked at, as it stands behind "in" or "by". */
  String words() {
    return Words.number(looked) + " of " + Words.count(of, "row") + " of " + table;
  }

  boolean isWhole() {
    return looked == of;
  }
}
