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
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A condition that leaves one value out, on a column that is NULL in some rows: these do not have
 * that value either, and are left out all the same (ISO/IEC 9075-2, 8.2). A warning only where more
 * rows go for that than stay.
 */
public final class UnequalToMissing implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (subject.rows().isEmpty()) {
      return List.of();
    }
    return subject.block().filters().stream()
        .filter(each -> !subject.hasParameter(each.condition()))
        .flatMap(each -> of(each, subject).stream())
        .toList();
  }

  private static Optional<Suspicion> of(Conjunct filter, Subject subject) {
    return LeftOutValue.of(filter.condition(), subject.block())
        .flatMap(
            value ->
                subject
                    .ownColumn(value)
                    .filter(column -> isLost(column, filter, subject.block()))
                    .map(column -> suspicion(filter, value, column, subject)));
  }

  /** Whether a column can be NULL, and the condition is not true then. */
  static boolean isLost(UseColumn column, Conjunct filter, QueryBlock block) {
    return canBeMissing(column, filter, block)
        && NullRejection.rejects(filter.condition(), block, column);
  }

  /** Not where an outer join fills it, which is told otherwise, or another condition demands it. */
  private static boolean canBeMissing(UseColumn column, Conjunct filter, QueryBlock block) {
    return column.nullable()
        && block.stepsThatFill(column.use()).isEmpty()
        && block.conjuncts().stream()
            .filter(each -> !each.equals(filter) && each.uses().contains(column.use()))
            .noneMatch(each -> NullRejection.rejects(each.condition(), block, column));
  }

  /** How many rows go for NULL alone, and how many stay. */
  record Rows(long missing, long kept) {

    /**
     * Asks for them.
     *
     * @param filter the condition that a row does not meet for NULL
     * @param isNull whether that is so, in {@link JoinedRows#all}
     */
    static Question<Rows> question(JoinedRows rows, Conjunct filter, Expression isNull) {
      return Question.figures(
          rows.all(),
          List.of(Sql.countIf(rows.isKeptBut(filter, isNull)), Sql.countIf(rows.isKept())),
          answer -> new Rows(answer.figure(0), answer.figure(1)));
    }
  }

  private static Suspicion suspicion(
      Conjunct filter, Expression value, UseColumn column, Subject subject) {
    JoinedRows rows = subject.rows().orElseThrow();
    Question<Rows> question =
        Rows.question(rows, filter, Sql.isNull(rows.column(rows.all(), column)));
    return Suspicion.asking(
        Kind.NULL_COMPARISON,
        filter.span(),
        List.of(filter.span()),
        Optional.of(question),
        found ->
            found
                .filter(each -> each.missing() > 0)
                .map(each -> conclude(filter, subject.text(value), each, subject)));
  }

  private static Conclusion conclude(Conjunct filter, String value, Rows rows, Subject subject) {
    String isNull = value + " " + subject.edits().keyword("IS NULL");
    String open =
        "("
            + subject.text(filter.condition())
            + " "
            + subject.edits().keyword("OR")
            + " "
            + isNull
            + ")";
    return new Conclusion(
        rows.missing() > rows.kept() ? Severity.WARNING : Severity.NOTE,
        "This also leaves out where "
            + value
            + " is NULL: "
            + Words.rows(rows.missing())
            + ", of which nothing says that they have such a value. To keep them, write "
            + open
            + ".",
        new Evidence(
            Map.of("rows with NULL", rows.missing(), "rows that stay", rows.kept()),
            List.of(),
            List.of(value + " can be NULL")),
        List.of(List.of(new Edit(filter.span(), open))));
  }
}
