package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition.InQuery;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A row looked for among the greatest or least values of all groups, whichever group it belongs to:
 * the last reading of a station also meets the last day of another.
 */
public final class TotalOfAnyGroup implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.block().filters().stream()
        .map(Conjunct::condition)
        .flatMap(each -> each instanceof InQuery in ? of(in, subject).stream() : Stream.of())
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<Among> of(InQuery in, Subject subject) {
    QueryBlock block = subject.block();
    Optional<QueryBlock> inner = Blocks.of(in.query(), subject);
    Optional<UseColumn> value = block.column(in.value()).filter(block::isOwn);
    if (in.negated() || inner.isEmpty() || value.isEmpty() || inner.get().isCorrelated()) {
      return Optional.empty();
    }
    QueryBlock groups = inner.get();
    Optional<UseColumn> end =
        groups.outputs().stream()
            .map(each -> each.value())
            .flatMap(
                each ->
                    each instanceof FunctionCall call ? end(call, groups).stream() : Stream.of())
            .findFirst();
    boolean same =
        end.isPresent()
            && groups.outputs().size() == 1
            && isOneColumn(end.get(), value.get())
            && !References.isKey(value.get());
    if (!same) {
      return Optional.empty();
    }
    List<Expression> by = new ArrayList<>();
    List<UseColumn> own = new ArrayList<>();
    for (Expression each : groups.select().groupBy()) {
      Optional<UseColumn> mine =
          groups
              .column(each)
              .filter(column -> isOneTable(column, value.get()))
              .flatMap(column -> value.get().use().columnOfTable(column.tableColumn()))
              .filter(column -> !block.determines(Set.of(), column));
      if (mine.isPresent()) {
        by.add(each);
        own.add(mine.get());
      }
    }
    boolean whole =
        by.size() == groups.groupedBy().size()
            && groups.uses().stream().allMatch(use -> use.table().isPresent());
    return by.isEmpty() || !whole
        ? Optional.empty()
        : Optional.of(new Among(in, value.get(), by, own));
  }

  private static Optional<UseColumn> end(FunctionCall call, QueryBlock groups) {
    boolean plain = Aggregates.isExtreme(call);
    return plain ? groups.column(call.arguments().get(0)) : Optional.empty();
  }

  private static boolean isOneColumn(UseColumn one, UseColumn other) {
    return isOneTable(one, other) && one.tableColumn().equals(other.tableColumn());
  }

  private static boolean isOneTable(UseColumn one, UseColumn other) {
    return one.use().isOfTable(other.use()) && BaseColumn.of(one).isPresent();
  }

  /**
   * A value looked for among those of all groups.
   *
   * @param value the column of it
   * @param by what the groups are made by
   * @param own the same columns of the row that is looked for
   */
  private record Among(InQuery in, UseColumn value, List<Expression> by, List<UseColumn> own) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.asking(
          Kind.PARTIAL_KEY,
          in.span(),
          List.of(in.span()),
          subject.rows().map(this::strangers),
          found -> Optional.of(conclude(found, subject)));
    }

    /** The rows that meet the value of another group alone. */
    private Question<Long> strangers(JoinedRows rows) {
      List<Expression> values = new ArrayList<>(List.of(rows.column(rows.all(), value)));
      own.forEach(each -> values.add(rows.column(rows.all(), each)));
      QueryBody.Select select = (QueryBody.Select) in.query().body();
      List<SelectItem> items = new ArrayList<>(select.items());
      by.forEach(each -> items.add(new SelectItem.Output(Span.NOWHERE, each, null)));
      // All of it but the list: its conditions say which rows and groups there are.
      QueryBody.Select grouped =
          new QueryBody.Select(
              Span.NOWHERE,
              false,
              items,
              select.from(),
              select.where(),
              select.groupBy(),
              select.having());
      Expression ofOwn =
          new InQuery(
              Span.NOWHERE,
              new Value.RowValue(Span.NOWHERE, false, values),
              Query.of(grouped),
              false);
      // H2 does not know whether a row is among others where one of these has NULL.
      List<Expression> apart = new ArrayList<>();
      own.forEach(each -> apart.add(Sql.isNotNull(rows.column(rows.all(), each))));
      apart.add(Sql.equal(Sql.choose(ofOwn, Sql.number(1), Sql.number(0)), Sql.number(0)));
      return Question.count(rows.all(), rows.isKept(Sql.all(apart)));
    }

    private Conclusion conclude(Optional<Long> found, Subject subject) {
      String row = value.use().rowWord();
      String groups = Words.list(own.stream().map(UseColumn::name).toList());
      String shown = String.join(", ", by.stream().map(subject::text).toList());
      String compared =
          "("
              + subject.text(in.value())
              + ", "
              + String.join(", ", own.stream().map(UseColumn::written).toList())
              + ")";
      SelectItem last = ((QueryBody.Select) in.query().body()).items().get(0);
      boolean none = found.filter(each -> each == 0).isPresent();
      return new Conclusion(
          none ? Severity.NOTE : Severity.WARNING,
          "This IN looks among the values of all groups: "
              + Words.one(row)
              + (none ? " would also meet that of another " : " also meets that of another ")
              + groups
              + found
                  .map(
                      rows ->
                          none
                              ? ", though none does here"
                              : ", as " + Words.rows(rows) + (rows == 1 ? " does" : " do"))
                  .orElse("")
              + ". Compare "
              + compared
              + ", and show "
              + shown
              + " behind the value.",
          new Evidence(
              found.map(rows -> Map.of("rows that meet another group", rows)).orElse(Map.of()),
              List.of(),
              List.of("the subquery has a row for each " + groups)),
          List.of(
              List.of(
                  new Edit(in.value().span(), compared),
                  Edit.insert(last.span().end(), ", " + shown))));
    }
  }
}
