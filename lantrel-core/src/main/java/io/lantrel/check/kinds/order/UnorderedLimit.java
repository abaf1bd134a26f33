package io.lantrel.check.kinds.order;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Question;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/** LIMIT or FETCH without ORDER BY: which rows come is left to the engine. */
public final class UnorderedLimit implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    Query query = block.query();
    Limit limit = query.limit();
    if (limit == null || !query.body().equals(block.select()) || !query.orderBy().isEmpty()) {
      return List.of();
    }
    if (limit.withTies()) {
      return List.of(Suspicion.certain(Kind.UNORDERED_LIMIT, limit.span(), tiesOfNothing(subject)));
    }
    if (block.isOnlyAskedForARow()
        || block.uses().isEmpty()
        || isNone(limit)
        || block.keys().stream().anyMatch(key -> key.columns().isEmpty())
        || (!block.isGrouped() && block.determinedBy(Set.of()).containsAll(block.uses()))) {
      return List.of();
    }
    boolean alone = !block.isCorrelated() && subject.rows().isPresent();
    Optional<Question<Long>> all =
        alone ? Optional.of(Question.number(Counting.rowsBeforeLimit(block))) : Optional.empty();
    return List.of(
        Suspicion.asking(
            Kind.UNORDERED_LIMIT,
            limit.span(),
            List.of(limit.span()),
            all,
            count -> conclude(limit, count, subject)));
  }

  /** Nearly every engine that knows WITH TIES refuses it without an order. */
  private static Conclusion tiesOfNothing(Subject subject) {
    return new Conclusion(
        subject.errorUnless(Rule.TIES_NEED_NO_ORDER),
        "WITH TIES adds the rows that equal the last one in the order, and there is no ORDER BY."
            + " Say the order.",
        Evidence.NONE,
        key(subject).map(each -> ordered(subject, each)).stream().toList());
  }

  private static String taken(long count, boolean percent) {
    return percent ? count + " % come" : count == 1 ? "row comes" : Words.rows(count) + " come";
  }

  private static boolean isNone(Limit limit) {
    return limit.count() instanceof Value.Literal literal && literal.text().equals("0");
  }

  private static Optional<Conclusion> conclude(Limit limit, Optional<Long> count, Subject subject) {
    Optional<Long> taken =
        limit.count() instanceof Value.Literal literal && literal.text().matches("[0-9]{1,15}")
            ? Optional.of(Long.parseLong(literal.text()))
            : Optional.empty();
    boolean all =
        count.isPresent()
            && taken.isPresent()
            && limit.skip() == null
            && !limit.percent()
            && count.get() <= taken.get();
    if (all) {
      return Optional.empty();
    }
    Optional<String> key = key(subject);
    String message =
        "Without ORDER BY it is left to the engine which "
            + taken.map(rows -> taken(rows, limit.percent())).orElse("rows come")
            + count.map(rows -> " of " + Words.number(rows)).orElse("")
            + ", and it may be others next time. Say an order"
            + key.map(each -> ", at least by " + each).orElse("")
            + ".";
    List<List<Edit>> repairs = key.map(each -> ordered(subject, each)).stream().toList();
    return Optional.of(
        new Conclusion(
            Severity.WARNING,
            message,
            new Evidence(
                count.map(rows -> Map.of("rows to choose from", rows)).orElse(Map.of()),
                List.of(),
                List.of("the rows of a table have no order of their own")),
            repairs));
  }

  private static List<Edit> ordered(Subject subject, String by) {
    int limit = Objects.requireNonNull(subject.block().query().limit()).span().start();
    return List.of(Edit.insert(limit, subject.edits().keyword("ORDER BY") + " " + by + " "));
  }

  /** What fixes an order without choosing one: the key of the first table, or the groups. */
  private static Optional<String> key(Subject subject) {
    QueryBlock block = subject.block();
    if (block.select().distinct() || block.isGrouped()) {
      return Optional.of("1");
    }
    return Written.key(block.uses().get(0));
  }
}
