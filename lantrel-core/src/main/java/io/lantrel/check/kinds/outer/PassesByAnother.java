package io.lantrel.check.kinds.outer;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.LeftOutValue;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What has no partner, or a partner without a value: {@code g.species_id IS NULL OR g.species_id <>
 * 7} of a LEFT JOIN of which nothing is shown. If it looks for what has none with that value, each
 * that has another one besides passes too, since WHERE looks at one line at a time. What has any
 * other one may be meant as well, so that it is a note.
 */
public final class PassesByAnother implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    return subject.rows().stream()
        .flatMap(
            rows ->
                block.filters().stream()
                    .flatMap(
                        filter ->
                            of(filter, block).map(each -> each.suspicion(rows, subject)).stream()))
        .toList();
  }

  private static Optional<Sought> of(Conjunct filter, QueryBlock block) {
    if (filter.uses().size() != 1
        || !(filter.condition() instanceof Condition.Or or)
        || or.terms().size() != 2) {
      return Optional.empty();
    }
    TableUse use = filter.uses().iterator().next();
    List<Expression> terms = or.terms();
    return OptionalPartners.isShown(use, block)
        ? Optional.empty()
        : sought(terms.get(0), terms.get(1), block)
            .or(() -> sought(terms.get(1), terms.get(0), block))
            .flatMap(
                unlike ->
                    OptionalPartners.severalFrom(use, block)
                        .map(step -> new Sought(filter, unlike, use, step)));
  }

  /** The condition that leaves a value out, beside one that lets a missing row pass. */
  private static Optional<Expression> sought(
      Expression missing, Expression unlike, QueryBlock block) {
    return OptionalPartners.emptyColumn(missing, block).isPresent()
            && LeftOutValue.of(unlike, block).isPresent()
        ? Optional.of(unlike)
        : Optional.empty();
  }

  /**
   * What is sought.
   *
   * @param unlike the condition that leaves a value out
   */
  private record Sought(Conjunct filter, Expression unlike, TableUse use, JoinStep step) {

    Suspicion suspicion(JoinedRows rows, Subject subject) {
      JoinedRows.Kept lines = rows.keptBut(filter, OptionalPartners.kept(step));
      Expression passes =
          Sql.choose(
              rows.holds(lines.relation(), filter.condition()), Sql.number(1), Sql.number(0));
      Expression first = lines.identity().get(0);
      return Suspicion.counting(
          Kind.OUTER_JOIN_CANCELLED,
          filter.span(),
          List.of(filter.span()),
          Question.groups(
              lines.relation(),
              lines.identity(),
              Sql.all(
                  List.of(
                      Sql.isNotNull(FunctionCall.of("MIN", first)),
                      Sql.equal(FunctionCall.of("MAX", passes), Sql.number(1)),
                      Sql.equal(FunctionCall.of("MIN", passes), Sql.number(0))))),
          count -> conclude(count, subject));
    }

    private Conclusion conclude(long count, Subject subject) {
      String kept = OptionalPartners.kept(step).rowWord();
      String partner = use.rowWord();
      String message =
          "WHERE looks at one line at a time: "
              + Words.count(count, kept)
              + (count == 1 ? " passes" : " pass")
              + " by "
              + Words.one(partner)
              + " that meets "
              + subject.text(unlike)
              + ", and "
              + (count == 1 ? "has" : "have")
              + " another that does not. If none may fail it, ask with NOT EXISTS for "
              + Words.one(partner)
              + " that does.";
      return new Conclusion(
          Severity.NOTE,
          message,
          new Evidence(
              Map.of("rows that pass by another", count),
              List.of(),
              List.of("nothing of " + use.words() + " is shown")),
          List.of());
    }
  }
}
