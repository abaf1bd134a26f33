package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Window;
import io.lantrel.words.Words;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * A row joined to the next one of its group by the key of the table, {@code b.id = a.id + 1}: keys
 * are given over all groups, so that the next of a group mostly has another number.
 */
public final class NextByKey implements Check {

  private static final Set<ArithmeticOperator> STEPS =
      EnumSet.of(ArithmeticOperator.PLUS, ArithmeticOperator.MINUS);

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty()) {
      return List.of();
    }
    return block.conjuncts().stream()
        .flatMap(each -> next(each, block).stream())
        .limit(1)
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<Next> next(Conjunct conjunct, QueryBlock block) {
    return EqualSides.of(
        conjunct.condition(), (bare, counted) -> next(bare, counted, conjunct, block));
  }

  private static Optional<Next> next(
      Expression bare, Expression counted, Conjunct conjunct, QueryBlock block) {
    Optional<UseColumn> one = block.column(bare).filter(block::isOwn);
    Optional<UseColumn> other =
        counted instanceof Arithmetic step
                && STEPS.contains(step.operator())
                && step.right() instanceof Literal by
                && by.text().equals("1")
            ? block.column(step.left()).filter(block::isOwn)
            : Optional.empty();
    if (one.isEmpty() || other.isEmpty() || !isKeyOfBoth(one.get(), other.get())) {
      return Optional.empty();
    }
    List<UseColumn> shared =
        block.conjuncts().stream()
            .flatMap(each -> each.likeness().stream())
            .filter(
                pair ->
                    pair.of(one.get().use()).isPresent() && pair.of(other.get().use()).isPresent())
            .filter(pair -> pair.left().position() == pair.right().position())
            .map(pair -> pair.of(other.get().use()).orElseThrow())
            .toList();
    return shared.isEmpty()
        ? Optional.empty()
        : Optional.of(new Next(conjunct, one.get(), other.get(), shared));
  }

  private static boolean isKeyOfBoth(UseColumn one, UseColumn other) {
    return one.use().table().isPresent()
        && one.use().isOfTable(other.use())
        && !one.use().equals(other.use())
        && one.position() == other.position()
        && one.type().family() == TypeFamily.INTEGER
        && one.use().keyColumns().equals(List.of(one));
  }

  /**
   * A condition that goes to the next row.
   *
   * @param shared the columns that the two have in common
   */
  private record Next(Conjunct conjunct, UseColumn one, UseColumn other, List<UseColumn> shared) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.counting(
          Kind.NOT_A_REFERENCE,
          conjunct.span(),
          List.of(conjunct.span()),
          further(subject.rows().orElseThrow()),
          this::conclude);
    }

    /** How many rows of the table have a next one in their group, and not by the next number. */
    private Question<Long> further(JoinedRows rows) {
      Relation side = rows.side(other.use().item());
      Expression key = rows.column(side, other);
      Window groups =
          new Window(
              Span.NOWHERE,
              null,
              false,
              shared.stream().map(each -> rows.column(side, each)).toList(),
              List.of(new OrderItem(Span.NOWHERE, key, false, null)),
              null);
      String name = SampleData.RESERVED + "next";
      FromItem each =
          Sql.derived(
              side.select(
                  List.of(Sql.as(key, "k"), Sql.as(FunctionCall.over("LEAD", groups, key), "n")),
                  Sql.all(
                      shared.stream().map(it -> Sql.isNotNull(rows.column(side, it))).toList())),
              name);
      Expression further =
          Sql.greater(
              Sql.column(name, "n"),
              new Arithmetic(
                  Span.NOWHERE, ArithmeticOperator.PLUS, Sql.column(name, "k"), Sql.number(1)));
      return Question.numbers(
          side,
          Query.of(Sql.select(List.of(Sql.as(Sql.countIf(further), "c0")), each, null)),
          1,
          row -> row.figure(0));
    }

    private Conclusion conclude(long count) {
      String row = other.use().rowWord();
      String group = Words.list(shared.stream().map(UseColumn::name).toList());
      return new Conclusion(
          Severity.WARNING,
          other.name()
              + " does not count within "
              + group
              + ": the next "
              + row
              + " of the same "
              + group
              + " has a further number in "
              + Words.number(count)
              + (count == 1 ? " case" : " cases")
              + ", and is not met. Find the next by LEAD or LAG over PARTITION BY "
              + Words.list(shared.stream().map(UseColumn::written).toList())
              + ".",
          new Evidence(
              Map.of("rows whose next one is not met", count),
              List.of(),
              List.of(other.name() + " is the key of " + other.use().tableName())),
          List.of());
    }
  }
}
