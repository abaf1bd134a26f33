package io.lantrel.ledger;

import io.lantrel.engine.Rows;
import io.lantrel.probe.Chain;
import io.lantrel.probe.Reason;
import io.lantrel.probe.Sql;
import io.lantrel.probe.Unmatched;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** All figures of a block in one statement: one-row queries side by side, read back by name. */
final class StepFigures {

  private final Chain chain;
  private final List<FromItem> parts = new ArrayList<>();
  private final List<SelectItem> items = new ArrayList<>();
  private final List<String> names = new ArrayList<>();

  StepFigures(Chain chain) {
    this.chain = chain;
    QueryBlock block = chain.block();
    block.uses().forEach(use -> count("rows of " + use.index(), chain.relation(use.item())));
    block.steps().forEach(this::addStep);
    addFilters();
    if (block.isGrouped()) {
      addGroups();
    }
    if (block.select().distinct()) {
      addDistinct();
    }
  }

  /** The statement. */
  Query ask() {
    FromItem from = parts.get(0);
    for (FromItem part : parts.subList(1, parts.size())) {
      from = FromItem.Join.of(from, JoinKind.CROSS, part, null);
    }
    return chain.probe(Sql.select(items, from, null));
  }

  /** Its answer by name. */
  Map<String, Long> read(Rows answer) {
    Map<String, Long> figures = new HashMap<>();
    for (int i = 0; i < names.size(); i++) {
      figures.put(names.get(i), answer.figure(i));
    }
    return figures;
  }

  /** Adds one one-row query; its columns are called c0, c1… in the order of the names. */
  private void add(QueryBody row, String... columns) {
    String alias = Chain.PREFIX + "f" + parts.size();
    parts.add(Sql.derived(row, alias));
    for (int i = 0; i < columns.length; i++) {
      items.add(Sql.as(Sql.column(alias, "c" + i), "f" + names.size()));
      names.add(columns[i]);
    }
  }

  private static List<SelectItem> columns(Expression... values) {
    List<SelectItem> columns = new ArrayList<>();
    for (Expression value : values) {
      columns.add(Sql.as(value, "c" + columns.size()));
    }
    return columns;
  }

  private void count(String name, String relation) {
    add(Sql.select(columns(Sql.count()), Sql.table(relation), null), name);
  }

  private void addStep(JoinStep step) {
    String n = " of step " + step.number();
    Expression left = chain.leftRow(step);
    Expression right = chain.rightRow(step);
    Expression leftWithPartner = Sql.choose(Sql.isNotNull(right), left, Sql.nothing());
    add(
        Sql.select(
            columns(
                Sql.countDistinct(left),
                Sql.count(right),
                Sql.countDistinct(leftWithPartner),
                Sql.countDistinct(right)),
            Sql.table(chain.pairs(step)),
            null),
        "before" + n,
        "pairs" + n,
        "left with partner" + n,
        "right with partner" + n);
    count("right" + n, chain.relation(step.join().right()));
    reasons("left", n, Unmatched.ofTheLeft(chain, step));
    reasons("right", n, Unmatched.ofTheRight(chain, step));
  }

  private void reasons(String side, String n, Unmatched unmatched) {
    List<SelectItem> counts = new ArrayList<>();
    List<String> called = new ArrayList<>();
    for (Reason reason : Reason.values()) {
      counts.add(Sql.as(Sql.countIf(unmatched.because(reason)), "c" + counts.size()));
      called.add(side + " " + reason + n);
    }
    add(unmatched.select(counts, null), called.toArray(String[]::new));
  }

  private void addFilters() {
    int filters = chain.block().filters().size();
    List<Expression> values = new ArrayList<>();
    List<String> called = new ArrayList<>();
    for (int i = 0; i <= filters; i++) {
      values.add(Sql.countIf(Sql.equal(chain.failed(), Sql.number(i))));
      called.add("failed " + i);
    }
    add(
        Sql.select(columns(values.toArray(Expression[]::new)), Sql.table(chain.flagged()), null),
        called.toArray(String[]::new));
  }

  private void addGroups() {
    List<Expression> grouping = chain.groupingOver(chain.kept());
    Expression having = chain.havingOver(chain.kept());
    add(countOf(groups(grouping, null)), "groups");
    if (having != null) {
      add(countOf(groups(grouping, having)), "groups after having");
    }
  }

  private QueryBody groups(List<Expression> grouping, @Nullable Expression having) {
    return Sql.grouped(
        List.of(Sql.as(Sql.count(), "x")), Sql.table(chain.kept()), grouping, having);
  }

  private void addDistinct() {
    QueryBlock block = chain.block();
    String kept = chain.kept();
    add(
        countOf(
            new QueryBody.Select(
                Span.NOWHERE,
                true,
                chain.outputsOver(kept),
                Sql.table(kept),
                null,
                chain.groupingOver(kept),
                block.isGrouped() ? chain.havingOver(kept) : null)),
        "distinct");
  }

  private static QueryBody countOf(QueryBody body) {
    return Sql.select(columns(Sql.count()), Sql.derived(body, Chain.PREFIX + "g"), null);
  }
}
