package io.lantrel.check.kinds.outer;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Value.Case;
import io.lantrel.sql.tree.Value.When;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * IS NULL in a value of the result, on a column of an optional table that is NULL in its rows too:
 * a row without a partner is told as one whose partner has no value. Not where the missing partner
 * is told apart elsewhere in the result, nor where a CASE only puts something in for NULL.
 */
public final class MissingAsEmpty implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty()) {
      return List.of();
    }
    return subject.nodes(Condition.IsNull.class).stream()
        .filter(test -> !test.negated() && isShown(test, block))
        .flatMap(
            test -> tested(test, subject).map(column -> suspicion(test, column, subject)).stream())
        .limit(1)
        .toList();
  }

  private static boolean isShown(Node test, QueryBlock block) {
    return block.outputs().stream().anyMatch(each -> each.value().span().contains(test.span()));
  }

  private static Optional<UseColumn> tested(Condition.IsNull test, Subject subject) {
    QueryBlock block = subject.block();
    return subject
        .ownColumn(test.value())
        .filter(column -> column.nullable() && !PartnerTestOnNullable.isDemanded(column, block))
        .filter(column -> isListed(column.use(), block) && !isToldApart(column.use(), subject))
        .filter(column -> !onlyPutsIn(test, column.use(), subject));
  }

  /** Whether there can be several partners: of one, being missing and having nothing are alike. */
  private static boolean isListed(TableUse use, QueryBlock block) {
    return block.stepsThatFill(use).stream()
        .anyMatch(
            step ->
                step.right().contains(use)
                    ? !block.partnersOnTheRight(step).isSingle()
                    : !block.partnersOnTheLeft(step).isSingle());
  }

  /** Whether the result looks at a column that is NULL only where there is no partner. */
  private static boolean isToldApart(TableUse use, Subject subject) {
    QueryBlock block = subject.block();
    return subject.nodes(Condition.IsNull.class).stream()
            .flatMap(test -> subject.ownColumn(test.value()).stream())
            .anyMatch(column -> column.use().equals(use) && isSure(column, block))
        || block.outputs().stream()
            .map(OutputColumn::value)
            .flatMap(value -> subject.ownColumn(value).stream())
            .anyMatch(column -> column.use().equals(use) && isSure(column, block));
  }

  private static boolean isSure(UseColumn column, QueryBlock block) {
    return !column.nullable() || PartnerTestOnNullable.isMet(column, block);
  }

  /** Whether the CASE around it shows what the table has, and else a value for nothing. */
  private static boolean onlyPutsIn(Condition.IsNull test, TableUse use, Subject subject) {
    QueryBlock block = subject.block();
    return subject.nodes(Case.class).stream()
        .filter(each -> each.span().contains(test.span()))
        .anyMatch(each -> results(each).anyMatch(value -> block.mentioned(value).contains(use)));
  }

  private static Stream<Expression> results(Case each) {
    return Stream.concat(
        each.whens().stream().map(When::then), Stream.ofNullable(each.otherwise()));
  }

  private static Suspicion suspicion(Condition.IsNull test, UseColumn column, Subject subject) {
    JoinedRows rows = subject.rows().orElseThrow();
    Expression isThere = rows.isThere(rows.all(), column.use());
    Expression isNull = Sql.isNull(rows.column(rows.all(), column));
    Question<Long> missing = Question.count(rows.all(), rows.isKept(Sql.not(isThere)));
    Question<Long> empty = Question.count(rows.all(), rows.isKept(isThere, isNull));
    return new Suspicion(
        Kind.PARTNER_TEST_ON_NULLABLE,
        test.span(),
        List.of(test.span()),
        List.of(missing, empty),
        answers -> {
          long alone = answers.ifAny(missing).orElse(0L);
          long without = answers.ifAny(empty).orElse(0L);
          return alone > 0 && without > 0
              ? Optional.of(conclude(column, alone, without, subject))
              : Optional.empty();
        });
  }

  private static Conclusion conclude(UseColumn column, long alone, long without, Subject subject) {
    TableUse use = column.use();
    String row = use.rowWord();
    String message =
        column.words()
            + " is NULL in "
            + Words.rows(alone)
            + " without "
            + Words.one(row)
            + ", and in "
            + Words.number(without)
            + " whose "
            + row
            + " has no value there: the result takes the two for one."
            + PartnerTestOnNullable.neverEmpty(use, subject.block())
                .map(each -> " " + each.words() + " tells them apart.")
                .orElse("");
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            Map.of("rows without a partner", alone, "rows with one", without),
            List.of(),
            List.of()),
        List.of());
  }
}
