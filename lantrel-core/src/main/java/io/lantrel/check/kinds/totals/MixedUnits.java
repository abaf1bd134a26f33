package io.lantrel.check.kinds.totals;

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
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A total of values whose unit stands beside them, and is not the same in all rows of a group:
 * milligrams added to millilitres, or one money to another.
 */
public final class MixedUnits implements Check {

  private static final Set<String> UNITS = Set.of("unit", "units");

  private static final Set<String> MONEYS = Set.of("currency", "currencies");

  /** A name of nothing else. */
  private static final Set<String> IN_PLAIN_WORDS = Set.of("unit", "currency", "code");

  /** What is counted in money, whatever unit the goods are counted in. */
  private static final Set<String> OF_MONEY =
      Set.of(
          "price",
          "cost",
          "costs",
          "fee",
          "fees",
          "paid",
          "due",
          "revenue",
          "salary",
          "wage",
          "wages",
          "rent",
          "charge",
          "tax",
          "net",
          "gross",
          "income",
          "budget",
          "spent",
          "rebate",
          "discount",
          "premium");

  /** What may be money as well as anything else. */
  private static final Set<String> OF_EITHER = Set.of("amount", "total", "value", "sum", "balance");

  /** What has been turned into one, or turns it. */
  private static final Set<String> OF_ONE =
      Set.of("rate", "rates", "factor", "exchange", "base", "home", "converted");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || !block.isGrouped() || block.isCorrelated()) {
      return List.of();
    }
    return block.outputs().stream()
        .map(OutputColumn::value)
        .flatMap(Aggregates::in)
        .filter(call -> call.over() == null && call.filter() == null)
        .filter(call -> call.key().equals("sum") || call.key().equals("avg"))
        .flatMap(call -> Mixed.of(call, subject).stream())
        .limit(1)
        .map(each -> each.suspicion(subject))
        .toList();
  }

  /**
   * A total, and what its values are in.
   *
   * @param unit the column that says it
   */
  private record Mixed(FunctionCall call, UseColumn unit) {

    static Optional<Mixed> of(FunctionCall call, Subject subject) {
      QueryBlock block = subject.block();
      Set<UseColumn> added = new LinkedHashSet<>();
      call.arguments().forEach(each -> added.addAll(block.columnsIn(each)));
      Set<String> words = new HashSet<>();
      added.forEach(each -> words.addAll(Words.ofName(each.name())));
      boolean money = words.stream().anyMatch(OF_MONEY::contains);
      boolean either = words.stream().anyMatch(OF_EITHER::contains);
      Set<UseColumn> grouped = new HashSet<>();
      block.groupedBy().forEach(each -> grouped.addAll(block.columnsIn(each)));
      return added.stream()
          .map(UseColumn::use)
          .distinct()
          .flatMap(use -> Stream.concat(own(use), besides(use, block)))
          .filter(each -> isNamed(each, MONEYS) ? money || either : !money)
          .findFirst()
          .filter(each -> !added.contains(each) && !block.determines(grouped, each))
          .filter(each -> !isSpokenOf(each, block) && words.stream().noneMatch(OF_ONE::contains))
          .map(each -> new Mixed(call, each));
    }

    /** Of the row that is added itself, as {@code dose_unit}. */
    private static Stream<UseColumn> own(TableUse use) {
      return use.columns().stream().filter(each -> isNamed(each, UNITS) || isNamed(each, MONEYS));
    }

    /** Of the rows of which it has one each: a unit of what, as of a firm, these could say. */
    private static Stream<UseColumn> besides(TableUse use, QueryBlock block) {
      Set<TableUse> fixed = block.determinedBy(Set.copyOf(use.columns()));
      return block.uses().stream()
          .filter(each -> !each.equals(use) && fixed.contains(each))
          .flatMap(MixedUnits.Mixed::own)
          .filter(each -> Words.ofName(each.name()).stream().allMatch(IN_PLAIN_WORDS::contains));
    }

    private static boolean isNamed(UseColumn column, Set<String> words) {
      List<String> name = new ArrayList<>(Words.ofName(column.name()));
      name.remove("code");
      return column.type().family() == TypeFamily.TEXT
          && !name.isEmpty()
          && words.contains(name.get(name.size() - 1));
    }

    /**
     * Whether the query deals with it: picks rows or groups by it, or reckons with it. One picked
     * value beside the total says of all of them what holds of one.
     */
    private static boolean isSpokenOf(UseColumn unit, QueryBlock block) {
      List<Expression> picked =
          block.outputs().stream()
              .map(OutputColumn::value)
              .filter(each -> isOneOfThem(each, unit, block))
              .toList();
      Expression having = block.select().having();
      return Stream.of(
              block.conjuncts().stream().map(Conjunct::condition),
              Stream.ofNullable(having),
              block.groupedBy().stream(),
              block.outputs().stream()
                  .map(OutputColumn::value)
                  .filter(each -> picked.size() > 1 || !picked.contains(each)))
          .flatMap(parts -> parts)
          .anyMatch(each -> block.columnsIn(each).contains(unit));
    }

    private static boolean isOneOfThem(Expression value, UseColumn unit, QueryBlock block) {
      return value instanceof FunctionCall call
          && (Aggregates.isExtreme(call) || call.key().equals("any_value"))
          && block.columnsIn(call).contains(unit);
    }

    Suspicion suspicion(Subject subject) {
      JoinedRows rows = subject.rows().orElseThrow();
      Relation kept = rows.kept(unit.use()).relation();
      List<Expression> by = rows.groups(kept);
      Expression value = rows.column(kept, unit);
      Expression several =
          Sql.greater(FunctionCall.of("MAX", value), FunctionCall.of("MIN", value));
      return Suspicion.counting(
          Kind.MIXED_UNITS,
          call.span(),
          List.of(),
          Question.groups(kept, by, several),
          count -> conclude(count, subject));
    }

    private Conclusion conclude(long count, Subject subject) {
      boolean whole = subject.block().groupedBy().isEmpty();
      return new Conclusion(
          Severity.WARNING,
          subject.text(call)
              + (call.key().equals("sum") ? " adds up " : " is the mean of ")
              + "values that are not of one "
              + unit.name()
              + ": "
              + (whole
                  ? "there are several of " + unit.written()
                  : Words.count(count, "group")
                      + (count == 1 ? " has" : " have")
                      + " several of "
                      + unit.written())
              + ". "
              + (whole ? "Group by it" : "Group by " + unit.written() + " too")
              + ", or turn all of them into one first.",
          new Evidence(
              Map.of(whole ? "totals" : "groups with several", count),
              List.of(),
              List.of(unit.words() + " says what the values are in")),
          List.of());
    }
  }
}
