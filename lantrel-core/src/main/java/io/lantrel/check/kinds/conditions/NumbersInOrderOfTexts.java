package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.TypeFamily;
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
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Cast;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Numbers made texts and then sorted, or the greatest or least of them taken: texts are sorted
 * letter by letter (ISO/IEC 9075-2, 8.2), so that '9' comes behind '10'. Told where the greatest or
 * the least is another one for that.
 */
public final class NumbersInOrderOfTexts implements Check {

  private static final Set<TypeFamily> NUMBERS =
      Set.of(TypeFamily.INTEGER, TypeFamily.DECIMAL, TypeFamily.FLOAT);

  private static final Set<String> EXTREMES = Set.of("min", "max");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (subject.rows().isEmpty()) {
      return List.of();
    }
    Stream<Expression> sorted = subject.nodes(OrderItem.class).stream().map(OrderItem::value);
    Stream<Expression> extremes =
        subject.nodes(FunctionCall.class).stream()
            .filter(call -> EXTREMES.contains(call.key()) && call.arguments().size() == 1)
            .map(call -> call.arguments().get(0));
    return Stream.concat(sorted, extremes)
        .filter(Cast.class::isInstance)
        .map(Cast.class::cast)
        .flatMap(cast -> suspicion(cast, subject).stream())
        .toList();
  }

  private static Optional<Suspicion> suspicion(Cast cast, Subject subject) {
    return subject
        .ownColumn(cast.value())
        .filter(column -> subject.block().type(cast).family() == TypeFamily.TEXT)
        .filter(column -> NUMBERS.contains(column.type().family()))
        .map(
            column ->
                Suspicion.counting(
                    Kind.TYPE_MISMATCH,
                    cast.span(),
                    List.of(cast.span()),
                    others(cast, column, subject.rows().orElseThrow()),
                    count -> conclude(cast, column, count, subject)));
  }

  /** How many of the greatest and the least are not the same by letters and by numbers. */
  private static Question<Long> others(Cast cast, UseColumn column, JoinedRows rows) {
    Relation kept = rows.kept(column.use()).relation();
    List<Expression> unlike =
        EXTREMES.stream()
            .sorted()
            .map(
                each -> {
                  Expression byLetters = FunctionCall.of(each, rows.value(kept, cast));
                  Expression byNumber =
                      new Cast(
                          Span.NOWHERE,
                          FunctionCall.of(each, rows.column(kept, column)),
                          cast.type(),
                          false);
                  return Sql.choose(Sql.equal(byLetters, byNumber), Sql.number(0), Sql.number(1));
                })
            .toList();
    return Question.figures(
        kept,
        Stream.concat(unlike.stream(), Stream.of(Sql.count())).toList(),
        row -> row.figure(2) == 0 ? 0 : row.figure(0) + row.figure(1));
  }

  private static Conclusion conclude(Cast cast, UseColumn column, long count, Subject subject) {
    return new Conclusion(
        Severity.WARNING,
        subject.text(cast)
            + " is sorted letter by letter, where '10' comes before '9', and not by the numbers:"
            + " the greatest or the least is another one. Sort by "
            + column.written()
            + ", and make it a text where it is shown.",
        new Evidence(
            Map.of("extremes that differ", count),
            List.of(),
            List.of(column.words() + " is of type " + column.type().text())),
        List.of(List.of(new Edit(cast.span(), subject.text(cast.value())))));
  }
}
