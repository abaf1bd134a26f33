package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.Between;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.Case;
import io.lantrel.words.Words;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A CASE whose branches go from below to above and leave out a value between, as {@code WHEN x < 6
 * … WHEN x > 6}: without ELSE it gives NULL there (ISO/IEC 9075-2, 6.12).
 */
public final class GapInCase implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    Optional<JoinedRows> rows = subject.rows();
    QueryBlock block = subject.block();
    if (rows.isEmpty() || block.isCorrelated()) {
      return List.of();
    }
    return subject.nodes(Case.class).stream()
        .filter(each -> each.operand() == null && each.otherwise() == null)
        .filter(each -> !isWithinAnother(each, subject) && !isOfOrder(each, block))
        .flatMap(each -> ladder(each, subject).stream())
        .map(each -> each.suspicion(rows.get()))
        .toList();
  }

  /**
   * An aggregate adds up what it picks, and NULL is what is left out; COALESCE says what NULL
   * stands for; and another CASE says for which rows it is.
   */
  private static boolean isWithinAnother(Case choice, Subject subject) {
    return Stream.concat(
            subject.nodes(FunctionCall.class).stream(),
            subject.nodes(Case.class).stream().filter(each -> !each.equals(choice)))
        .map(Node::span)
        .anyMatch(each -> each.contains(choice.span()));
  }

  /** In an order NULL is a place like another. */
  private static boolean isOfOrder(Case choice, QueryBlock block) {
    return block.query().orderBy().stream().anyMatch(each -> each.span().contains(choice.span()));
  }

  private static Optional<Ladder> ladder(Case choice, Subject subject) {
    QueryBlock block = subject.block();
    Set<UseColumn> columns = new HashSet<>();
    Set<String> limits = new HashSet<>();
    boolean down = false;
    boolean up = false;
    boolean between = false;
    for (Value.When when : choice.whens()) {
      for (Expression each : terms(when.when())) {
        Optional<UseColumn> tested = Optional.empty();
        if (each instanceof Between range
            && !range.negated()
            && range.low() instanceof Value.Literal
            && range.high() instanceof Value.Literal) {
          tested = block.column(range.value());
          between = true;
        } else if (each instanceof Comparison comparison) {
          Optional<ConstantTest> test =
              ConstantTest.in(List.of(comparison), subject).stream().findFirst();
          tested = test.flatMap(it -> block.column(it.tested()));
          test.ifPresent(it -> limits.add(it.constant().text()));
          up |= test.filter(it -> it.operator().isAbove()).isPresent();
          down |= test.filter(it -> it.operator().isBelow()).isPresent();
        }
        if (tested.isEmpty()) {
          return Optional.empty();
        }
        columns.add(tested.get());
      }
    }
    // Two branches that lie apart mark what is low and what is high, and nothing else.
    boolean goesUp = between || choice.whens().size() > 2 || limits.size() == 1;
    return up && down && goesUp && columns.size() == 1 && block.isOwn(columns.iterator().next())
        ? Optional.of(new Ladder(choice, columns.iterator().next()))
        : Optional.empty();
  }

  private static List<Expression> terms(Expression condition) {
    return condition instanceof Condition.And and ? and.terms() : List.of(condition);
  }

  /**
   * Branches by the value of a column.
   *
   * @param column what they all compare
   */
  private record Ladder(Case choice, UseColumn column) {

    Suspicion suspicion(JoinedRows rows) {
      Relation relation = rows.kept(column.use()).relation();
      List<Expression> met =
          choice.whens().stream().map(each -> rows.holds(relation, each.when())).toList();
      Expression value = rows.column(relation, column);
      Question<Long> left =
          Question.count(relation, Sql.all(List.of(Sql.isNotNull(value), Sql.not(Sql.any(met)))));
      return Suspicion.counting(
          Kind.GAP_IN_CASE, choice.span(), List.of(choice.span()), left, this::conclude);
    }

    private Conclusion conclude(long count) {
      String row = column.use().rowWord();
      return new Conclusion(
          Severity.WARNING,
          "The branches of this CASE compare "
              + column.written()
              + " from below to above, and leave out "
              + Words.count(count, row)
              + " with a value in none of them: it gives NULL there. Let the branches meet, or write ELSE.",
          new Evidence(Map.of("rows in no branch", count), List.of(), List.of("it has no ELSE")),
          List.of());
    }
  }
}
