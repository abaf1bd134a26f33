package io.lantrel.ledger.account;

import io.lantrel.engine.Database;
import io.lantrel.ledger.WithoutJoin;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Counting;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;

/** What a join does to the joined rows at all: their number with it and without it. */
public final class JoinLeftOut {

  private final Database database;
  private final QueryBlock block;

  /**
   * @param block a block that has an account
   */
  public JoinLeftOut(Database database, QueryBlock block) {
    this.database = database;
    this.block = block;
  }

  /**
   * Without one join, and what is joined to it.
   *
   * @param number of the step, as the account numbers them: the first join is step 2
   */
  public WithoutJoin at(int number) {
    JoinStep step = block.steps().get(number - 2);
    Set<TableUse> gone = new HashSet<>(step.right());
    List<String> along = new ArrayList<>();
    for (JoinStep later : block.steps().subList(number - 1, block.steps().size())) {
      if (needs(later, gone) && gone.addAll(later.right())) {
        along.add(later.words());
      }
    }
    List<Conjunct> kept =
        block.filters().stream()
            .filter(each -> each.uses().stream().noneMatch(gone::contains))
            .toList();
    JoinedRows rows = JoinedRows.of(block, Promises.KEYS).orElseThrow();
    Question<Long> with = Question.number(Counting.joinedRows(block));
    Question<Long> without = Question.count(rows.without(gone, kept));
    Answers answers = database.inSnapshot(() -> new Asker(database).ask(List.of(with, without)));
    return new WithoutJoin(
        number,
        step.words(),
        along,
        block.filters().stream()
            .filter(each -> !kept.contains(each))
            .map(each -> SqlPrinter.print(each.condition(), block.dialect()))
            .toList(),
        uses(gone),
        answers.to(with),
        answers.to(without));
  }

  /** Whether a join finds its partners, or makes its rows, by columns of what is left out. */
  private boolean needs(JoinStep step, Set<TableUse> gone) {
    Stream<TableUse> conditions = step.conjuncts().stream().flatMap(each -> each.uses().stream());
    Stream<TableUse> rows =
        step.right().stream()
            .filter(TableUse::isDependent)
            .flatMap(use -> block.mentioned(use.item()).stream());
    return Stream.concat(conditions, rows).anyMatch(gone::contains);
  }

  /** The clauses that name columns of what is left out. */
  private List<String> uses(Set<TableUse> gone) {
    QueryBody.Select select = block.select();
    Map<Integer, String> clauses = new TreeMap<>();
    note(select.items(), 0, "SELECT", gone, clauses);
    note(Node.nodes(select.where()), 1, "WHERE", gone, clauses);
    note(select.groupBy(), 2, "GROUP BY", gone, clauses);
    note(Node.nodes(select.having()), 3, "HAVING", gone, clauses);
    note(block.query().orderBy(), 4, "ORDER BY", gone, clauses);
    return List.copyOf(clauses.values());
  }

  private void note(
      List<? extends Node> nodes,
      int place,
      String clause,
      Set<TableUse> gone,
      Map<Integer, String> clauses) {
    boolean all = nodes.stream().anyMatch(SelectItem.AllColumns.class::isInstance);
    Stream<TableUse> mentioned = nodes.stream().flatMap(node -> block.mentioned(node).stream());
    if (all || mentioned.anyMatch(gone::contains)) {
      clauses.put(place, clause);
    }
  }
}
