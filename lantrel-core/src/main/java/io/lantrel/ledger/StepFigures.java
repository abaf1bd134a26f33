package io.lantrel.ledger;

import io.lantrel.engine.Rows;
import io.lantrel.probe.Chain;
import io.lantrel.probe.Reason;
import io.lantrel.probe.Sql;
import io.lantrel.probe.Unmatched;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * All figures of a block in one statement: one row for each step and side, one below the other, and
 * read back by name. (Side by side, as a join of one-row queries, an optimizer would search for the
 * best order of that join, which takes longer than everything else.)
 */
final class StepFigures {

  private final Chain chain;
  private final List<Part> parts = new ArrayList<>();

  /** One row of figures: their names and values, and the rows that they are counted over. */
  private record Part(Map<String, Expression> figures, FromItem from, @Nullable Expression where) {}

  StepFigures(Chain chain) {
    this.chain = chain;
    QueryBlock block = chain.block();
    for (TableUse use : block.uses()) {
      boolean comesFirst =
          block.steps().isEmpty()
              || block.steps().stream().anyMatch(step -> step.join().left() == use.item());
      if (comesFirst) {
        count("rows of " + use.index(), Sql.table(chain.relation(use.item())));
      }
    }
    block.steps().forEach(this::addStep);
    if (!block.filters().isEmpty()) {
      addFilters();
    }
    if (block.isGrouped()) {
      addGroups();
    }
    if (block.select().distinct()) {
      addDistinct();
    }
  }

  /** The statement. */
  Query ask() {
    int width = parts.stream().mapToInt(part -> part.figures().size()).max().orElseThrow();
    List<QueryBody> rows = new ArrayList<>();
    for (Part part : parts) {
      List<SelectItem> items = new ArrayList<>(List.of(Sql.as(Sql.number(rows.size()), "part")));
      part.figures().values().forEach(value -> items.add(Sql.as(value, "c" + items.size())));
      while (items.size() <= width) {
        items.add(Sql.as(Sql.number(0), "c" + items.size()));
      }
      rows.add(Sql.select(items, part.from(), part.where()));
    }
    return chain.probe(QueryBody.SetOperation.unionAll(rows));
  }

  /** Its answer by name. */
  Map<String, Long> read(Rows answer) {
    Map<String, Long> figures = new HashMap<>();
    for (int row = 0; row < answer.size(); row++) {
      Part part = parts.get((int) answer.figure(row, 0));
      int column = 1;
      for (String name : part.figures().keySet()) {
        figures.put(name, answer.figure(row, column++));
      }
    }
    return figures;
  }

  private void count(String name, FromItem from) {
    parts.add(new Part(Map.of(name, Sql.count()), from, null));
  }

  private void addStep(JoinStep step) {
    String n = " of step " + step.number();
    // A row without a partner stands in the pairs once, so that nothing need be counted as
    // distinct.
    Unmatched leftAlone = Unmatched.ofTheLeft(chain, step);
    Map<String, Expression> pairs = new LinkedHashMap<>();
    pairs.put("pairs" + n, Sql.count(chain.rightRow(step)));
    pairs.put("left alone" + n, Sql.countIf(leftAlone.condition()));
    for (Reason reason : leftAlone.reasons()) {
      Expression alone = Sql.all(List.of(leftAlone.condition(), leftAlone.because(reason)));
      pairs.put("left " + reason + n, Sql.countIf(alone));
    }
    parts.add(new Part(pairs, Sql.table(chain.pairs(step)), null));

    countRows("several partners" + n, chain.severalPartners(step));

    Unmatched rightAlone = Unmatched.ofTheRight(chain, step);
    Map<String, Expression> rest = new LinkedHashMap<>();
    rest.put("right alone" + n, Sql.count());
    for (Reason reason : rightAlone.reasons()) {
      rest.put("right " + reason + n, Sql.countIf(rightAlone.because(reason)));
    }
    parts.add(new Part(rest, Sql.table(rightAlone.relation()), rightAlone.condition()));
  }

  private void addFilters() {
    Map<String, Expression> failed = new LinkedHashMap<>();
    for (int i = 0; i <= chain.block().filters().size(); i++) {
      failed.put("failed " + i, Sql.countIf(Sql.equal(chain.failed(), Sql.number(i))));
    }
    parts.add(new Part(failed, Sql.table(chain.flagged()), null));
  }

  private void addGroups() {
    List<Expression> grouping = chain.groupingOver(chain.kept());
    Expression having = chain.havingOver(chain.kept());
    countRows("groups", groups(grouping, null));
    if (having != null) {
      countRows("groups after having", groups(grouping, having));
    }
  }

  private QueryBody groups(List<Expression> grouping, @Nullable Expression having) {
    return Sql.grouped(
        List.of(Sql.as(Sql.count(), "x")), Sql.table(chain.kept()), grouping, having);
  }

  private void addDistinct() {
    String kept = chain.kept();
    countRows(
        "distinct",
        new QueryBody.Select(
            Span.NOWHERE,
            true,
            chain.outputsOver(kept),
            Sql.table(kept),
            null,
            chain.groupingOver(kept),
            chain.havingOver(kept)));
  }

  private void countRows(String name, QueryBody body) {
    count(name, Sql.derived(body, Chain.PREFIX + "g"));
  }
}
