package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.NameProblem.MisplacedAggregate;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SqlPrinter;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** An aggregate in a clause that is carried out before there are groups. */
public final class AggregateInWhere implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject
        .problems(MisplacedAggregate.class)
        .map(problem -> suspicion(problem, subject))
        .toList();
  }

  private static Suspicion suspicion(MisplacedAggregate problem, Subject subject) {
    String call = SqlPrinter.print(problem.call(), subject.block().dialect());
    String message =
        problem.clause()
            + " is carried out before rows are put together, so "
            + call
            + " has no value there; "
            + advice(problem.clause());
    List<List<Edit>> repairs =
        problem.clause().equals("WHERE") ? intoHaving(problem, subject) : List.of();
    return Suspicion.certain(
        Kind.AGGREGATE_IN_WHERE,
        problem.place(),
        new Conclusion(Severity.ERROR, message, Evidence.NONE, repairs));
  }

  private static String advice(String clause) {
    return switch (clause) {
      case "WHERE" -> "a condition on groups belongs into HAVING.";
      case "GROUP BY" -> "leave it out of GROUP BY.";
      default -> "work it out in a subquery first.";
    };
  }

  private static List<List<Edit>> intoHaving(MisplacedAggregate problem, Subject subject) {
    if (subject.block().select().from() == null) {
      return List.of();
    }
    QueryEdits edits = subject.edits();
    Optional<Conjunct> condition =
        subject.block().filters().stream()
            .filter(each -> each.span().contains(problem.place()))
            .findFirst();
    Optional<List<Edit>> removed = condition.flatMap(each -> edits.removeFilter(each.condition()));
    if (condition.isEmpty() || removed.isEmpty()) {
      return List.of();
    }
    List<Edit> all = new ArrayList<>(removed.get());
    all.addAll(edits.addHaving(subject.source().at(condition.get().span())));
    boolean apart = all.get(0).span().end() <= all.get(1).span().start();
    return apart ? List.of(all) : List.of();
  }
}
