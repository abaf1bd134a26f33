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
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Call.WordedCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Totals by month, quarter or week, and the rows are of several years: this March and the last are
 * one group.
 */
public final class MonthOfSeveralYears implements Check {

  private static final Set<String> PARTS = Set.of("month", "quarter", "week");

  /** Functions whose first or second argument says which part, and what says the year there. */
  private static final Map<String, Map<String, String>> FORMATS =
      Map.of(
          "strftime", Map.of("'%m'", "'%Y'", "'%W'", "'%Y'"),
          "to_char", Map.of("'MM'", "'YYYY'", "'Q'", "'YYYY'", "'WW'", "'YYYY'"),
          "date_format", Map.of("'%m'", "'%Y'", "'%c'", "'%Y'"));

  private static final Pattern YEAR = Pattern.compile("(?i)%y|yyyy|year");

  private static final Set<String> TAKING_PARTS = Set.of("date_part", "datepart");

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
    List<Suspicion> found = new ArrayList<>();
    for (Expression each : block.grouping()) {
      year(each)
          .filter(year -> !saysYear(each, block))
          .map(year -> suspicion(each, year, subject))
          .ifPresent(found::add);
    }
    return found;
  }

  /** The year of what a value takes the month of; empty if it takes none. */
  private static Optional<Expression> year(Expression value) {
    if (value instanceof WordedCall call
        && call.key().equals("extract")
        && PARTS.contains(part(call).toLowerCase(Locale.ROOT))) {
      return Optional.of(
          new WordedCall(Span.NOWHERE, call.name(), call.values(), List.of("YEAR FROM", "")));
    }
    if (!(value instanceof FunctionCall call)) {
      return Optional.empty();
    }
    List<Expression> arguments = call.arguments();
    if (PARTS.contains(call.key()) && arguments.size() == 1) {
      return Optional.of(FunctionCall.of("YEAR", arguments.get(0)));
    }
    if (arguments.size() != 2) {
      return Optional.empty();
    }
    for (int i = 0; i < 2; i++) {
      Optional<String> format =
          arguments.get(i) instanceof Literal literal ? yearly(call, literal) : Optional.empty();
      if (format.isPresent()) {
        List<Expression> others = new ArrayList<>(arguments);
        others.set(i, Literal.string(format.get().substring(1, format.get().length() - 1)));
        return Optional.of(
            FunctionCall.of(call.name().get(0).text(), others.toArray(Expression[]::new)));
      }
    }
    return Optional.empty();
  }

  private static String part(WordedCall call) {
    return call.words().get(0).replaceFirst(" FROM$", "").replace("'", "");
  }

  private static Optional<String> yearly(FunctionCall call, Literal literal) {
    boolean part =
        TAKING_PARTS.contains(call.key())
            && PARTS.contains(literal.text().replace("'", "").toLowerCase(Locale.ROOT));
    return part
        ? Optional.of("'year'")
        : Optional.ofNullable(FORMATS.getOrDefault(call.key(), Map.of()).get(literal.text()));
  }

  /** Whether the query says the year anywhere, or groups by the day itself. */
  private static boolean saysYear(Expression month, QueryBlock block) {
    Set<UseColumn> days = new HashSet<>(block.columnsIn(month));
    block.grouping().forEach(each -> block.column(each).ifPresent(days::remove));
    return days.isEmpty()
        || block
            .select()
            .preorder()
            .anyMatch(
                node ->
                    (node instanceof Literal literal && YEAR.matcher(literal.text()).find())
                        || (node instanceof WordedCall call && part(call).equalsIgnoreCase("year"))
                        || (node instanceof FunctionCall call && call.key().contains("year")));
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
                rows.block().grouping().stream().map(it -> rows.value(kept, it)).toList(),
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
    Optional<String> asText = yearText(month, written);
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

  private static Optional<String> yearText(Expression month, String written) {
    if (month instanceof WordedCall call) {
      return Optional.of(
          call.name()
              + "(YEAR FROM "
              + written.substring(written.toUpperCase(Locale.ROOT).indexOf(" FROM ") + 6));
    }
    return Optional.empty();
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
