package io.lantrel.check.kinds.subqueries;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.EqualSides;
import io.lantrel.check.kinds.conditions.ScopedKey;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.ScalarQuery;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A number that counts within each parent, equated with the greatest or least of all parents
 * together: the last line of an order is looked for, and only the longest orders have one.
 */
public final class NumberOfAnyGroup implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (subject.rows().isEmpty()) {
      return List.of();
    }
    return subject.block().conjuncts().stream()
        .map(Conjunct::condition)
        .flatMap(
            each -> EqualSides.of(each, (bare, query) -> of(each, bare, query, subject)).stream())
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<Sought> of(
      Expression comparison, Expression bare, Expression query, Subject subject) {
    UseColumn number = subject.ownColumn(bare).orElse(null);
    if (number == null || !(query instanceof ScalarQuery scalar)) {
      return Optional.empty();
    }
    Optional<UseColumn> parent = parent(number, subject);
    return Blocks.of(scalar.query(), subject)
        .filter(inner -> !inner.isCorrelated() && inner.filters().isEmpty())
        .filter(inner -> inner.uses().size() == 1 && inner.groupedBy().isEmpty())
        .filter(inner -> inner.uses().get(0).isOfTable(number.use()) && isExtreme(inner, number))
        .flatMap(inner -> parent.map(each -> new Sought(comparison, inner, number, each)));
  }

  private static boolean isExtreme(QueryBlock inner, UseColumn number) {
    return inner.outputs().size() == 1
        && inner.outputs().get(0).value() instanceof FunctionCall call
        && Aggregates.isExtreme(call)
        && inner
            .column(call.arguments().get(0))
            .filter(column -> column.name().equals(number.name()))
            .isPresent();
  }

  /** The rest of a key that the number is a part of, if it is one column and refers to a parent. */
  private static Optional<UseColumn> parent(UseColumn number, Subject subject) {
    TableUse use = number.use();
    boolean counts =
        use.table().isPresent()
            && number.type().family() == TypeFamily.INTEGER
            && BaseColumn.referred(number, subject.catalog()).isEmpty()
            && !ScopedKey.isOfCalendar(number);
    return use.keys().stream()
        .filter(key -> counts && key.columns().size() == 2)
        .filter(key -> key.columns().contains(number.name()))
        .flatMap(key -> key.columns().stream().flatMap(name -> use.column(name).stream()))
        .filter(column -> !column.equals(number))
        .filter(column -> !BaseColumn.referred(column, subject.catalog()).isEmpty())
        .findFirst();
  }

  /**
   * A number that is looked for.
   *
   * @param inner the subquery
   * @param parent within which the number counts
   */
  private record Sought(
      Expression comparison, QueryBlock inner, UseColumn number, UseColumn parent) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.counting(
          Kind.UNCORRELATED_EXISTS,
          comparison.span(),
          List.of(comparison.span()),
          without(subject.rows().orElseThrow()),
          count -> conclude(count, subject));
    }

    /** How many parents have no row with that number. */
    private Question<Long> without(JoinedRows rows) {
      Relation side = rows.side(number.use().item());
      Expression value = rows.column(side, parent);
      Expression met = Sql.choose(rows.holds(side, comparison), value, Sql.nothing());
      return Question.figures(
          side,
          List.of(Sql.countDistinct(value), Sql.countDistinct(met)),
          row -> row.figure(0) - row.figure(1));
    }

    private Conclusion conclude(long count, Subject subject) {
      TableUse use = inner.uses().get(0);
      String link = use.column(parent.name()).orElseThrow().written() + " = " + parent.written();
      boolean clear = !use.name().equals(parent.use().name());
      String message =
          "This subquery looks at all "
              + Words.plural(use.rowWord())
              + " together, and "
              + number.name()
              + " counts within each "
              + parent.name()
              + ": "
              + Words.number(count)
              + (count == 1 ? " of these has" : " of these have")
              + " no row with that number."
              + (clear ? " Connect the two: " + link + "." : " Connect the two by an alias.");
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              Map.of("without such a row", count),
              List.of(),
              List.of(
                  Words.one(use.rowWord())
                      + " is told apart by "
                      + Words.list(List.of(parent.name(), number.name())))),
          clear ? List.of(new QueryEdits(subject.source(), inner).addFilter(link)) : List.of());
    }
  }
}
