package io.lantrel.check.kinds.outer;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.NamedRow;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** IS NULL that looks for rows without a partner, on a column that is NULL in some partners too. */
public final class PartnerTestOnNullable implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (Conjunct filter : subject.block().filters()) {
      if (filter.condition() instanceof Condition.IsNull test && !test.negated()) {
        subject
            .ownColumn(test.value())
            .filter(column -> column.nullable() && !isDemanded(column, subject.block()))
            .filter(column -> CancelledForSome.step(filter, subject.block()).isEmpty())
            .ifPresent(column -> suspicions.add(suspicion(filter, test, column, subject)));
      }
    }
    return suspicions;
  }

  /** Whether no outer join fills it, or a partner must have a value there to be one. */
  static boolean isDemanded(UseColumn column, QueryBlock block) {
    List<JoinStep> steps = block.stepsThatFill(column.use());
    return steps.isEmpty()
        || steps.stream()
            .flatMap(step -> step.conjuncts().stream())
            .filter(each -> each.uses().contains(column.use()))
            .anyMatch(each -> NullRejection.rejects(each.condition(), block, column));
  }

  private static Suspicion suspicion(
      Conjunct filter, Condition.IsNull test, UseColumn column, Subject subject) {
    Optional<Question<Long>> partners =
        subject.rows().map(rows -> Question.count(rows.all(), withPartner(rows, filter, column)));
    return Suspicion.asking(
        Kind.PARTNER_TEST_ON_NULLABLE,
        filter.span(),
        List.of(filter.span()),
        partners,
        count -> Optional.of(conclude(filter, test, column, count, subject)));
  }

  private static Expression withPartner(JoinedRows rows, Conjunct filter, UseColumn column) {
    return rows.isKeptBut(
        filter,
        rows.isThere(rows.all(), column.use()),
        Sql.isNull(rows.column(rows.all(), column)));
  }

  private static Conclusion conclude(
      Conjunct filter,
      Condition.IsNull test,
      UseColumn column,
      Optional<Long> count,
      Subject subject) {
    TableUse use = column.use();
    Optional<UseColumn> better = neverEmpty(use, subject.block());
    long partners = count.orElse(0L);
    String message =
        column.words()
            + " is NULL without "
            + Words.one(use.rowWord())
            + ", and also in "
            + Words.plural(use.rowWord())
            + " that have no value there"
            + (partners > 0
                ? ": " + Words.rows(partners) + " with " + Words.one(use.rowWord()) + " pass too."
                : ".")
            + better
                .map(each -> " Test " + each.words() + ", which every " + use.rowWord() + " has.")
                .orElse("");
    List<List<Edit>> repairs =
        better.stream()
            .map(each -> List.of(new Edit(test.value().span(), each.written())))
            .toList();
    if (partners == 0) {
      List<String> facts =
          count.isPresent()
              ? List.of(
                  "the sample has no such row: no " + use.rowWord() + " that is met has NULL there")
              : List.of("the schema lets " + column.words() + " be NULL");
      return count.isPresent()
          ? Conclusion.note(message, facts, repairs)
          : Conclusion.warning(message, facts, repairs);
    }
    JoinedRows rows = subject.rows().orElseThrow();
    Question<List<NamedRow>> names =
        RowNames.question(rows, rows.all(), use, withPartner(rows, filter, column), SHOWN);
    return Conclusion.asking(
        Severity.WARNING,
        message,
        names,
        named -> new Evidence(Map.of("rows that have a partner", partners), named, List.of()),
        repairs);
  }

  /** A column that is only NULL where there is no partner: one of the key, or one it is met by. */
  static Optional<UseColumn> neverEmpty(TableUse use, QueryBlock block) {
    List<UseColumn> sure = use.columns().stream().filter(each -> !each.nullable()).toList();
    List<String> key = use.keys().isEmpty() ? List.of() : use.keys().get(0).columns();
    return sure.stream()
        .filter(each -> key.contains(each.name()))
        .findFirst()
        .or(() -> use.columns().stream().filter(each -> isMet(each, block)).findFirst())
        .or(() -> sure.stream().findFirst());
  }

  static boolean isMet(UseColumn column, QueryBlock block) {
    return block.stepsThatFill(column.use()).stream()
        .flatMap(step -> step.conjuncts().stream())
        .filter(each -> each.uses().contains(column.use()))
        .anyMatch(each -> NullRejection.rejects(each.condition(), block, column));
  }
}
