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
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
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
    Stream<Suspicion> problems =
        subject
            .problems(NameProblem.NotVisibleYet.class)
            .map(problem -> suspicion(problem, subject));
    return Stream.concat(problems, beyondComma(subject)).toList();
  }

  /** Where the engine lets an ON see what stands before a comma, which binds like a join then. */
  private static Stream<Suspicion> beyondComma(Subject subject) {
    return joins(subject)
        .filter(join -> join.kind() != JoinKind.COMMA)
        .flatMap(
            join -> Stream.ofNullable(join.condition()).flatMap(on -> beyond(join, on, subject)))
        .limit(1);
  }

  private static Stream<Suspicion> beyond(
      FromItem.Join join, JoinCondition condition, Subject subject) {
    List<FromItem> before = beforeComma(join);
    return condition
        .preorder()
        .filter(Value.ColumnName.class::isInstance)
        .map(Value.ColumnName.class::cast)
        .flatMap(
            name ->
                subject.block().column(name).stream()
                    .filter(column -> before.contains(column.use().item()))
                    .map(column -> suspicion(name.span(), column.use(), subject)));
  }

  /** The items before the last comma that a join has on its left. */
  private static List<FromItem> beforeComma(FromItem.Join join) {
    FromItem next = join.left();
    while (next instanceof FromItem.Join left && !left.inParentheses()) {
      if (left.kind() == JoinKind.COMMA) {
        return left.left()
            .preorder()
            .filter(FromItem.class::isInstance)
            .map(FromItem.class::cast)
            .toList();
      }
      next = left.left();
    }
    return List.of();
  }

  private static Suspicion suspicion(NameProblem.NotVisibleYet problem, Subject subject) {
    return suspicion(problem.place(), problem.use(), subject);
  }

  private static Suspicion suspicion(Span place, TableUse use, Subject subject) {
    boolean earlier = use.nameSpan().start() < place.start();
    String message =
        earlier
            ? use.words()
                + " stands before a comma, and JOIN binds more tightly than the"
                + " comma: this ON does not see it. Write joins throughout."
            : use.words()
                + " is joined further on, so this ON does not see it yet; move"
                + " the condition there.";
    List<List<Edit>> repairs =
        earlier ? List.of(commas(subject).map(join -> crossed(join, subject)).toList()) : List.of();
    boolean outer =
        subject.block().dialect().has(Rule.INNER_ON_SEES_ALL_TABLES)
            && !InnerConditions.hasOne(subject.block().select().from(), place);
    Severity severity =
        outer
            ? Severity.ERROR
            : subject.errorUnless(earlier ? Rule.ON_SEES_BEYOND_COMMA : Rule.ON_SEES_LATER_TABLES);
    return Suspicion.certain(
        Kind.NOT_VISIBLE_YET,
        place,
        new Conclusion(
            severity, message, severity == Severity.ERROR ? Evidence.NONE : LET_THROUGH, repairs));
  }

  private static Stream<FromItem.Join> commas(Subject subject) {
    return joins(subject).filter(join -> join.kind() == JoinKind.COMMA);
  }

  private static Stream<FromItem.Join> joins(Subject subject) {
    return Stream.ofNullable(subject.block().select().from())
        .flatMap(from -> from.preorder())
        .filter(FromItem.Join.class::isInstance)
        .map(FromItem.Join.class::cast);
  }

  /** The same rows, and everything before it stays visible. */
  private static Edit crossed(FromItem.Join join, Subject subject) {
    return new Edit(join.keyword(), " " + subject.edits().keyword("CROSS JOIN"));
  }
}
