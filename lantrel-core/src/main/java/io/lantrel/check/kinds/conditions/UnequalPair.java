package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A condition that two columns differ, where one of them is NULL in some rows and the other is not:
 * these differ as well, and are left out all the same (ISO/IEC 9075-2, 8.2). A note, since NULL may
 * stand for what is not there yet.
 */
public final class UnequalPair implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (subject.rows().isEmpty()) {
      return List.of();
    }
    return subject.block().filters().stream().flatMap(each -> of(each, subject).stream()).toList();
  }

  private static Optional<Suspicion> of(Conjunct filter, Subject subject) {
    QueryBlock block = subject.block();
    return differing(filter.condition(), subject)
        .filter(each -> !each.left().use().isOfTable(each.right().use()))
        .map(
            each ->
                new Pair(
                    filter,
                    each,
                    UnequalToMissing.isLost(each.left(), filter, block),
                    UnequalToMissing.isLost(each.right(), filter, block)))
        .filter(each -> each.leftCan() || each.rightCan())
        .map(each -> each.suspicion(subject));
  }

  /** The columns of a condition that two differ: by {@code <>}, or by an equality under NOT. */
  private static Optional<Equated> differing(Expression condition, Subject subject) {
    if (condition instanceof Condition.Not not) {
      return subject
          .block()
          .alike(not.value())
          .filter(
              each -> subject.block().isOwn(each.left()) && subject.block().isOwn(each.right()));
    }
    return condition instanceof Condition.Comparison comparison
            && comparison.operator() == ComparisonOperator.NOT_EQUAL
        ? subject
            .ownColumn(comparison.left())
            .flatMap(
                left ->
                    subject.ownColumn(comparison.right()).map(right -> new Equated(left, right)))
        : Optional.empty();
  }

  private record Pair(Conjunct filter, Equated differing, boolean leftCan, boolean rightCan) {

    Suspicion suspicion(Subject subject) {
      JoinedRows rows = subject.rows().orElseThrow();
      Expression one = rows.column(rows.all(), differing.left());
      Expression other = rows.column(rows.all(), differing.right());
      Expression either =
          Sql.any(
              List.of(
                  Sql.all(List.of(Sql.isNull(one), Sql.isNotNull(other))),
                  Sql.all(List.of(Sql.isNotNull(one), Sql.isNull(other)))));
      return Suspicion.asking(
          Kind.NULL_COMPARISON,
          filter.span(),
          List.of(filter.span()),
          Optional.of(UnequalToMissing.Rows.question(rows, filter, either)),
          found -> found.filter(each -> each.missing() > 0).map(each -> conclude(each, subject)));
    }

    private Conclusion conclude(UnequalToMissing.Rows rows, Subject subject) {
      String isNull = " " + subject.edits().keyword("IS NULL");
      String isNotNull = " " + subject.edits().keyword("IS NOT NULL");
      String and = " " + subject.edits().keyword("AND") + " ";
      String one = differing.left().written();
      String other = differing.right().written();
      List<String> sides = new ArrayList<>(List.of(subject.text(filter.condition())));
      if (leftCan) {
        sides.add(rightCan ? "(" + one + isNull + and + other + isNotNull + ")" : one + isNull);
      }
      if (rightCan) {
        sides.add(leftCan ? "(" + one + isNotNull + and + other + isNull + ")" : other + isNull);
      }
      String open = "(" + String.join(" " + subject.edits().keyword("OR") + " ", sides) + ")";
      return new Conclusion(
          Severity.NOTE,
          "This also leaves out where only one of "
              + one
              + " and "
              + other
              + " is NULL, which differ too: "
              + Words.rows(rows.missing())
              + ". To keep them, write "
              + open
              + ".",
          new Evidence(
              Map.of("rows with one NULL", rows.missing(), "rows that stay", rows.kept()),
              List.of(),
              List.of(Words.list(nullable()) + " can be NULL")),
          List.of(List.of(new Edit(filter.span(), open))));
    }

    private List<String> nullable() {
      List<String> names = new ArrayList<>();
      if (leftCan) {
        names.add(differing.left().words());
      }
      if (rightCan) {
        names.add(differing.right().words());
      }
      return names;
    }
  }
}
