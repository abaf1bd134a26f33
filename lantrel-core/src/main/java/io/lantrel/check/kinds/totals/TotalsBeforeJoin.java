package io.lantrel.check.kinds.totals;

import io.lantrel.check.suspicion.Subject;
import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * A table that is only counted and summed up, joined as its own totals instead: one row for each
 * value that it is joined by, so that it repeats nothing. COUNT, SUM, MIN and MAX of a whole can be
 * put together from those of its parts (J. Gray and others: Data Cube, 1997, section 5,
 * distributive and algebraic functions); of others nothing is offered.
 */
final class TotalsBeforeJoin {

  private static final Map<String, String> OUTER =
      Map.of("count", "SUM", "sum", "SUM", "min", "MIN", "max", "MAX");

  private final JoinStep step;
  private final TableUse use;
  private final Subject subject;
  private final QueryBlock block;
  private final QueryEdits edits;
  private final Map<String, String> inner = new LinkedHashMap<>();

  TotalsBeforeJoin(JoinStep step, Subject subject) {
    this.step = step;
    this.use = step.right().get(0);
    this.subject = subject;
    this.block = subject.block();
    this.edits = subject.edits();
  }

  /** The edits; empty if the table is used for anything else than totals of its columns. */
  Optional<List<Edit>> edits() {
    boolean simple =
        step.right().size() == 1
            && use.item() instanceof FromItem.TableName table
            && table.alias() != null
            && (step.kind() == JoinKind.LEFT || step.kind() == JoinKind.INNER);
    Set<String> columns = joinColumns();
    if (!simple || columns.isEmpty() || isUsedOtherwise()) {
      return Optional.empty();
    }
    List<Edit> all = new ArrayList<>();
    calls().forEach(call -> all.add(outer(call)));
    return all.isEmpty() ? Optional.empty() : Optional.of(with(all, columns));
  }

  private List<Edit> with(List<Edit> outer, Set<String> columns) {
    String keys = String.join(", ", columns);
    StringBuilder totals = new StringBuilder("(" + edits.keyword("SELECT") + " " + keys);
    inner.forEach(
        (name, call) ->
            totals
                .append(", ")
                .append(call)
                .append(" ")
                .append(edits.keyword("AS"))
                .append(" ")
                .append(name));
    String table = subject.source().at(use.item().span());
    totals.append(" ").append(edits.keyword("FROM")).append(" ").append(table);
    totals.append(" ").append(edits.keyword("GROUP BY")).append(" ").append(keys).append(") ");
    totals.append(use.written());
    List<Edit> all = new ArrayList<>(outer);
    all.add(new Edit(use.item().span(), totals.toString()));
    return all;
  }

  /** The columns that it is joined by; empty if anything but equalities joins it. */
  private Set<String> joinColumns() {
    Set<String> columns = new LinkedHashSet<>();
    for (Conjunct conjunct : step.conjuncts()) {
      Optional<UseColumn> column = conjunct.equality().flatMap(this::ours);
      if (column.isEmpty() || conjunct.origin() != Conjunct.Origin.ON) {
        return Set.of();
      }
      columns.add(column.get().written());
    }
    return columns;
  }

  private Optional<UseColumn> ours(Equated equated) {
    return equated.of(use);
  }

  private Stream<Expression> values() {
    return Stream.of(
            block.outputs().stream().map(output -> output.value()),
            Stream.ofNullable(block.select().having()),
            block.query().orderBy().stream().map(item -> item.value()))
        .flatMap(each -> each);
  }

  private Stream<FunctionCall> calls() {
    return values()
        .flatMap(Aggregates::in)
        .filter(call -> block.mentioned(call).contains(use))
        .collect(
            Collectors.toMap(call -> call.span().start(), call -> call, (a, b) -> a, TreeMap::new))
        .values()
        .stream();
  }

  private boolean isUsedOtherwise() {
    long all = values().mapToLong(this::columnsOfUse).sum();
    long inTotals =
        values().flatMap(Aggregates::in).filter(this::isTotal).mapToLong(this::columnsOfUse).sum();
    boolean countsRows = values().flatMap(Aggregates::in).anyMatch(FunctionCall::star);
    boolean elsewhere =
        Stream.of(
                block.filters().stream().map(Conjunct::condition),
                block.groupedBy().stream(),
                block.steps().stream()
                    .filter(other -> other.number() != step.number())
                    .flatMap(other -> other.conjuncts().stream())
                    .map(Conjunct::condition))
            .flatMap(each -> each)
            .anyMatch(expression -> block.mentioned(expression).contains(use));
    return all != inTotals || countsRows || elsewhere;
  }

  private boolean isTotal(FunctionCall call) {
    return OUTER.containsKey(call.key())
        && !call.distinct()
        && call.filter() == null
        && call.arguments().size() == 1
        && block.column(call.arguments().get(0)).isPresent();
  }

  private long columnsOfUse(Expression expression) {
    return expression
        .preorder()
        .filter(Expression.class::isInstance)
        .map(node -> block.column((Expression) node))
        .flatMap(Optional::stream)
        .filter(column -> column.use() == use)
        .count();
  }

  /** The total of the totals; a count over nothing is 0, not NULL. */
  private Edit outer(FunctionCall call) {
    UseColumn column = block.column(call.arguments().get(0)).orElseThrow();
    String name = block.dialect().write(call.key() + "_" + column.name());
    inner.put(name, subject.source().at(call.span()));
    String total = OUTER.get(call.key()) + "(" + use.written() + "." + name + ")";
    boolean count = call.key().equals("count");
    return new Edit(call.span(), count ? "COALESCE(" + total + ", 0)" : total);
  }
}
