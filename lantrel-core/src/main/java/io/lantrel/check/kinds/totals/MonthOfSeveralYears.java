package io.lantrel.check.kinds.totals;

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
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Totals by month, quarter or week, and the rows are of several years: this March and the last are
 * one group.
 */
public final class MonthOfSeveralYears implements Check {

  /** What adds up over the years; an average of the months of all years is a mean month. */
  private static final Set<String> ADDING = Set.of("sum", "count");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    boolean adds =
        block.outputs().stream()
            .flatMap(each -> Aggregates.in(each.value()))
            .anyMatch(call -> ADDING.contains(call.key()));
    if (subject.rows().isEmpty() || block.isCorrelated() || !adds) {
      return List.of();
    }
    // Month and quarter of one date have one cause.
    return block.groupedBy().stream()
        .filter(each -> !YearOfMonth.isSaid(each, block))
        .flatMap(each -> YearOfMonth.of(each).map(year -> suspicion(each, year, subject)).stream())
        .limit(1)
        .toList();
  }

  private static Suspicion suspicion(Expression month, Expression year, Subject subject) {
    JoinedRows rows = subject.rows().orElseThrow();
    Span place = place(month, subject.block());
    return Suspicion.asking(
        Kind.MONTH_OF_SEVERAL_YEARS,
        place,
        List.of(place),
        Optional.of(mixed(rows, year)),
        found ->
            found
                .filter(each -> each.several() > 0)
                .map(each -> conclude(place, month, each, subject)));
  }

  /** GROUP BY 1 stands for what is written in SELECT. */
  private static Span place(Expression month, QueryBlock block) {
    return block.select().groupBy().stream()
        .filter(month::equals)
        .map(Node::span)
        .findFirst()
        .orElse(month.span());
  }

  /**
   * Groups.
   *
   * @param several those with rows of several years
   */
  private record Mixed(long all, long several) {}

  private static Question<Mixed> mixed(JoinedRows rows, Expression year) {
    String groups = SampleData.RESERVED + "groups";
    Relation kept = rows.kept(rows.block().uses().get(0)).relation();
    Expression value = rows.value(kept, year);
    FromItem each =
        Sql.derived(
            kept.select(
                false,
                List.of(
                    Sql.as(FunctionCall.of("MIN", value), "c0"),
                    Sql.as(FunctionCall.of("MAX", value), "c1")),
                null,
                rows.groups(kept),
                null),
            groups);
    Expression several = Sql.greater(Sql.column(groups, "c1"), Sql.column(groups, "c0"));
    Query query =
        Query.of(
            Sql.select(
                List.of(Sql.as(Sql.count(), "c0"), Sql.as(Sql.countIf(several), "c1")),
                each,
                null));
    return Question.numbers(kept, query, 2, row -> new Mixed(row.figure(0), row.figure(1)));
  }

  private static Conclusion conclude(Span place, Expression month, Mixed mixed, Subject subject) {
    String written = subject.source().at(month.span().isNowhere() ? place : month.span());
    Optional<String> asText = YearOfMonth.text(month, subject);
    return new Conclusion(
        Severity.NOTE,
        written
            + " is the same in every year: "
            + mixed.several()
            + " of "
            + Words.count(mixed.all(), "group")
            + (mixed.several() == 1 ? " has" : " have")
            + " rows of several years. If each year counts for itself, group by "
            + asText.orElse("the year")
            + " too.",
        new Evidence(
            Map.of("groups", mixed.all(), "of several years", mixed.several()),
            List.of(),
            List.of()),
        repair(place, month, asText, subject));
  }

  /** The year beside the month, where both are written out. */
  private static List<List<Edit>> repair(
      Span place, Expression month, Optional<String> year, Subject subject) {
    QueryBlock block = subject.block();
    boolean byPosition =
        block.select().groupBy().stream().anyMatch(Literal.class::isInstance)
            || block.query().orderBy().stream().anyMatch(each -> each.value() instanceof Literal);
    boolean grouped = block.select().groupBy().stream().anyMatch(month::equals);
    if (year.isEmpty() || byPosition || !grouped) {
      return List.of();
    }
    Optional<SelectItem> shown =
        block.select().items().stream()
            .filter(
                item ->
                    item instanceof SelectItem.Output output
                        && subject.text(output.value()).equalsIgnoreCase(subject.text(month)))
            .findFirst();
    return shown.stream()
        .map(
            item ->
                List.of(
                    Edit.insert(
                        item.span().start(),
                        year.get() + " " + subject.edits().keyword("AS") + " in_year, "),
                    Edit.insert(place.start(), year.get() + ", ")))
        .toList();
  }
}
