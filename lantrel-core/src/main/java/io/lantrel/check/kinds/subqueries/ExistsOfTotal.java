package io.lantrel.check.kinds.subqueries;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Optional;

/**
 * EXISTS of an aggregate without GROUP BY: that gives one row even of nothing (ISO/IEC 9075-2,
 * 7.16), so there always is one.
 */
public final class ExistsOfTotal implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.nodes(Condition.Exists.class).stream()
        .flatMap(
            exists ->
                Blocks.of(exists.query(), subject)
                    .filter(ExistsOfTotal::isOneRow)
                    .map(inner -> suspicion(exists, inner, subject))
                    .stream())
        .toList();
  }

  private static boolean isOneRow(QueryBlock inner) {
    return inner.isGrouped()
        && inner.select().groupBy().isEmpty()
        && inner.select().having() == null
        && inner.query().limit() == null
        && inner.query().body().equals(inner.select());
  }

  private static Suspicion suspicion(Condition.Exists exists, QueryBlock inner, Subject subject) {
    boolean negated =
        subject.nodes(Condition.Not.class).stream().anyMatch(not -> not.value().equals(exists));
    List<SelectItem> items = inner.select().items();
    Span shown = items.get(0).span();
    Optional<Edit> one =
        shown.isNowhere()
            ? Optional.empty()
            : Optional.of(new Edit(shown.to(items.get(items.size() - 1).span()), "1"));
    Conclusion conclusion =
        Conclusion.warning(
            (shown.isNowhere() ? "An aggregate" : subject.source().at(shown))
                + " gives one row even where there is nothing to put together, so EXISTS is always"
                + " true"
                + (negated ? " and NOT EXISTS never" : "")
                + ". Select 1 to ask whether there is a row.",
            List.of("an aggregate without GROUP BY gives exactly one row"),
            one.map(edit -> List.of(List.of(edit))).orElse(List.of()));
    return Suspicion.certain(
        negated ? Kind.NEVER_TRUE : Kind.ALWAYS_TRUE, exists.span(), conclusion);
  }
}
