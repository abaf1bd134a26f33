package io.lantrel.rows.asked;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.Database;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.Naming;
import io.lantrel.ledger.account.LedgerMaker;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.rows.ShownRows;
import io.lantrel.rows.ShownRows.Cell;
import io.lantrel.rows.ShownRows.Heading;
import io.lantrel.rows.StepRows;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntPredicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** The rows of a block as they stand after each step of its FROM. */
public final class RowsOfSteps {

  private final Database database;
  private final int most;

  /**
   * @param most how many rows of each step are wanted at most
   */
  public RowsOfSteps(Database database, int most) {
    this.database = database;
    this.most = most;
  }

  /**
   * Some steps, with their figures: rows and figures are of one snapshot.
   *
   * @param block a block that has an account
   * @param wanted whether a step is wanted, by its number: 1 for the first table, then each join
   * @throws io.lantrel.engine.DatabaseException if the database does not tell the rows
   */
  public List<StepRows> make(QueryBlock block, IntPredicate wanted) {
    return database.inSnapshot(() -> accounted(block, wanted));
  }

  private List<StepRows> accounted(QueryBlock block, IntPredicate wanted) {
    Ledger ledger = new LedgerMaker(database, Naming.some(0)).make(block);
    Map<Integer, Step> steps = new LinkedHashMap<>();
    JoinedRows rows = JoinedRows.of(block, Promises.KEYS).orElseThrow();
    Set<UseColumn> mentioned = mentioned(block);
    for (int number = 1; number <= block.steps().size() + 1; number++) {
      if (wanted.test(number)) {
        steps.put(number, step(rows, number, mentioned));
      }
    }
    Answers answers = new Asker(database).ask(steps.values().stream().map(Step::question).toList());
    List<StepRows> all = new ArrayList<>();
    steps.forEach(
        (number, step) -> {
          Entry entry = ledger.entries().get(number - 1);
          ShownRows shown =
              new ShownRows(step.headings(), answers.to(step.question()), entry.after());
          all.add(new StepRows(number, entry, shown));
        });
    return all;
  }

  private Step step(JoinedRows rows, int number, Set<UseColumn> mentioned) {
    if (number == 1) {
      TableUse first = rows.block().uses().get(0);
      return step(rows, first.item(), List.of(), List.of(first), mentioned);
    }
    JoinStep step = rows.block().steps().get(number - 2);
    return step(rows, step.join(), step.left(), step.right(), mentioned);
  }

  private record Step(List<Heading> headings, Question<List<List<Cell>>> question) {}

  private Step step(
      JoinedRows rows,
      FromItem item,
      List<TableUse> before,
      List<TableUse> added,
      Set<UseColumn> mentioned) {
    Relation relation = rows.side(item);
    List<Heading> headings = new ArrayList<>();
    List<UseColumn> columns = new ArrayList<>();
    List<SelectItem> items = new ArrayList<>();
    List<TableUse> uses = Stream.concat(before.stream(), added.stream()).toList();
    for (TableUse use : uses) {
      for (UseColumn column : shown(use, mentioned)) {
        columns.add(column);
        headings.add(
            new Heading(
                column.name(),
                use.name(),
                isNumber(column),
                added.contains(use) && !before.isEmpty()));
        items.add(Sql.as(rows.column(relation, column), "c" + items.size()));
      }
    }
    for (TableUse use : uses) {
      Expression there = Sql.choose(rows.isThere(relation, use), Sql.number(1), Sql.number(0));
      items.add(Sql.as(there, "c" + items.size()));
    }
    List<Expression> order = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      if (columns.get(i).type().isUnordered()) {
        continue;
      }
      order.add(new ColumnName(Span.NOWHERE, List.of(), Identifier.of("c" + i)));
    }
    Question<List<List<Cell>>> question =
        Question.values(
            relation,
            Sql.first(relation.select(items, null), order, most),
            items.size(),
            answer -> cells(answer, columns, uses));
    return new Step(headings, question);
  }

  private static List<List<Cell>> cells(Rows answer, List<UseColumn> columns, List<TableUse> uses) {
    List<List<Cell>> rows = new ArrayList<>();
    for (List<@Nullable Object> row : answer.rows()) {
      List<Cell> cells = new ArrayList<>();
      for (int i = 0; i < columns.size(); i++) {
        Object there = row.get(columns.size() + uses.indexOf(columns.get(i).use()));
        boolean filled = "0".equals(String.valueOf(there));
        cells.add(new Cell(filled ? null : value(row.get(i), columns.get(i)), filled));
      }
      rows.add(cells);
    }
    return rows;
  }

  private static @Nullable Object value(@Nullable Object value, UseColumn column) {
    String text = ValueText.of(value, column.type());
    boolean whole =
        column.type().family() == TypeFamily.INTEGER
            || column.type().family() == TypeFamily.DECIMAL;
    return text != null && whole && text.matches("-?[0-9]+(\\.[0-9]+)?")
        ? new BigDecimal(text)
        : text;
  }

  private static boolean isNumber(UseColumn column) {
    return switch (column.type().family()) {
      case INTEGER, DECIMAL, FLOAT -> true;
      case TEXT, TRUTH, DATE, TIME, TIMESTAMP, OTHER -> false;
    };
  }

  /** By which its rows are known, and what the query names, in the order of the table. */
  private static List<UseColumn> shown(TableUse use, Set<UseColumn> mentioned) {
    List<UseColumn> known = RowNames.identifyingColumns(use);
    return use.columns().stream()
        .filter(column -> known.contains(column) || mentioned.contains(column))
        .toList();
  }

  private static Set<UseColumn> mentioned(QueryBlock block) {
    Set<UseColumn> mentioned = new LinkedHashSet<>();
    block
        .select()
        .preorder()
        .filter(ColumnName.class::isInstance)
        .map(node -> block.column((ColumnName) node))
        .flatMap(Optional::stream)
        .forEach(mentioned::add);
    for (JoinStep step : block.steps()) {
      step.conjuncts().stream()
          .flatMap(each -> each.equality().stream())
          .forEach(
              each -> {
                mentioned.add(each.left());
                mentioned.add(each.right());
              });
    }
    return mentioned;
  }
}
