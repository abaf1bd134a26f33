package io.lantrel.check.kinds.names;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.InnerConditions;
import io.lantrel.resolve.NameProblem;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import java.util.List;
import java.util.stream.Stream;

/**
 * A condition that mentions a table which is joined further on, or which stands on the other side
 * of a comma: JOIN binds more tightly than the comma (ISO/IEC 9075-2, 7.5 and 7.10).
 */
public final class NotVisibleYet implements Check {

  private static final Evidence LET_THROUGH =
      Evidence.facts(List.of("this engine lets it through; PostgreSQL and MariaDB do not"));

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject
        .problems(NameProblem.NotVisibleYet.class)
        .map(problem -> suspicion(problem, subject))
        .toList();
  }

  private static Suspicion suspicion(NameProblem.NotVisibleYet problem, Subject subject) {
    boolean earlier = problem.use().nameSpan().start() < problem.place().start();
    String message =
        earlier
            ? problem.use().words()
                + " stands before a comma, and JOIN binds more tightly than the"
                + " comma: this ON does not see it. Write joins throughout."
            : problem.use().words()
                + " is joined further on, so this ON does not see it yet; move"
                + " the condition there.";
    List<List<Edit>> repairs =
        earlier ? List.of(commas(subject).map(join -> crossed(join, subject)).toList()) : List.of();
    boolean outer =
        subject.block().dialect().has(Rule.INNER_ON_SEES_ALL_TABLES)
            && !InnerConditions.hasOne(subject.block().select().from(), problem.place());
    Severity severity =
        outer
            ? Severity.ERROR
            : subject.errorUnless(earlier ? Rule.ON_SEES_BEYOND_COMMA : Rule.ON_SEES_LATER_TABLES);
    return Suspicion.certain(
        Kind.NOT_VISIBLE_YET,
        problem.place(),
        new Conclusion(
            severity, message, severity == Severity.ERROR ? Evidence.NONE : LET_THROUGH, repairs));
  }

  private static Stream<FromItem.Join> commas(Subject subject) {
    return Stream.ofNullable(subject.block().select().from())
        .flatMap(from -> from.preorder())
        .filter(FromItem.Join.class::isInstance)
        .map(FromItem.Join.class::cast)
        .filter(join -> join.kind() == JoinKind.COMMA);
  }

  /** The same rows, and everything before it stays visible. */
  private static Edit crossed(FromItem.Join join, Subject subject) {
    return new Edit(join.keyword(), " " + subject.edits().keyword("CROSS JOIN"));
  }
}
