package io.lantrel.check.kinds.order;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** DISTINCT ON without an order by more: which row of each comes is left to the engine. */
public final class UnorderedDistinctOn implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Expression> parts = block.select().distinctOn();
    if (parts.isEmpty()) {
      return List.of();
    }
    Query query = block.query();
    // The order must go on behind what the rows are divided by, for one of each to be chosen.
    if (query.orderBy().size() > parts.size()
        || !query.body().equals(block.select())
        || Written.fixes(parts.stream(), block)) {
      return List.of();
    }
    Span place = parts.get(0).span().to(parts.get(parts.size() - 1).span());
    Optional<Question<Long>> several =
        block.isGrouped() ? Optional.empty() : subject.rows().map(rows -> several(parts, rows));
    return List.of(
        Suspicion.asking(
            Kind.UNORDERED_LIMIT,
            place,
            List.of(place),
            several,
            count ->
                count.isPresent() && count.get() == 0
                    ? Optional.empty()
                    : Optional.of(conclude(place, count, subject))));
  }

  /** Of how many there are several rows. */
  private static Question<Long> several(List<Expression> parts, JoinedRows rows) {
    Relation kept = rows.kept(rows.block().uses().get(0)).relation();
    List<Expression> values = parts.stream().map(value -> rows.value(kept, value)).toList();
    List<SelectItem> items = List.of(Sql.as(Sql.count(), "n"));
    Expression more = Sql.greater(Sql.count(), Sql.number(1));
    String name = SampleData.RESERVED + "parts";
    FromItem grouped = Sql.derived(kept.select(false, items, null, values, more), name);
    Query query = Query.of(Sql.select(List.of(Sql.as(Sql.count(), "c0")), grouped, null));
    return Question.numbers(kept, query, 1, row -> row.figure(0));
  }

  private static Conclusion conclude(Span place, Optional<Long> count, Subject subject) {
    String parts = subject.source().at(place);
    Optional<String> key = Written.key(subject.block());
    Query query = subject.block().query();
    boolean isLast = query.limit() == null && query.orderBy().isEmpty();
    String order =
        parts + key.filter(columns -> !columns.equals(parts)).map(each -> ", " + each).orElse("");
    return new Conclusion(
        Severity.WARNING,
        "Without an order it is left to the engine which row of each "
            + parts
            + " comes"
            + count.map(each -> ", and " + Words.number(each) + " have several").orElse("")
            + ". Order by "
            + parts
            + ", then by what the row should be chosen by.",
        new Evidence(
            count.map(each -> Map.of("with several rows", each)).orElse(Map.of()),
            List.of(),
            List.of("the rows of a table have no order of their own")),
        isLast
            ? List.of(
                List.of(
                    Edit.insert(
                        query.span().end(),
                        " " + subject.edits().keyword("ORDER BY") + " " + order)))
            : List.of());
  }
}
