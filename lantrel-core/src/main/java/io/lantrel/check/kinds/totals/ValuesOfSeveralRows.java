package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.words.WhichEnd;
import io.lantrel.words.Words;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * MIN or MAX of two columns under headings that speak of one row, {@code last_on} and {@code
 * last_kind}: each aggregate takes its value from a row of its own, and mostly there is none that
 * has both. MIN or MAX of a reference says no more by itself than which row it is of.
 */
public final class ValuesOfSeveralRows implements Check {

  /** Words of a heading that name the aggregate, or nothing. */
  private static final Set<String> OF_NO_ROW =
      Set.of("min", "max", "minimum", "maximum", "of", "the", "a", "in", "at", "on", "by", "");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || !block.isGrouped() || block.isCorrelated()) {
      return List.of();
    }
    Set<UseColumn> grouped = new HashSet<>();
    block.groupedBy().forEach(each -> subject.ownColumn(each).ifPresent(grouped::add));
    List<Extreme> extremes =
        block.outputs().stream()
            .flatMap(each -> Extreme.of(each, grouped, subject).stream())
            .filter(each -> !block.determines(grouped, each.column()))
            .toList();
    for (Extreme one : extremes) {
      for (Extreme other : extremes) {
        Optional<Boolean> leads =
            one.equals(other)
                ? Optional.empty()
                : one.leads(other).or(() -> one.picks(other, block));
        if (leads.isPresent()) {
          return List.of(
              leads.get() ? suspicion(one, other, subject) : suspicion(other, one, subject));
        }
      }
    }
    return List.of();
  }

  /**
   * An output that is the least or the greatest value of a column.
   *
   * @param isRow whether it tells the rows of a group apart
   */
  private record Extreme(OutputColumn output, FunctionCall call, UseColumn column, boolean isRow) {

    static Optional<Extreme> of(OutputColumn output, Set<UseColumn> grouped, Subject subject) {
      return output.value() instanceof FunctionCall call && Aggregates.isExtreme(call)
          ? subject
              .ownColumn(call.arguments().get(0))
              .map(
                  column ->
                      new Extreme(output, call, column, isRow(column, grouped, subject.block())))
          : Optional.empty();
    }

    private static boolean isRow(UseColumn column, Set<UseColumn> grouped, QueryBlock block) {
      List<UseColumn> key = column.use().keyColumns();
      return key.contains(column)
          && key.stream()
              .filter(each -> !each.equals(column))
              .allMatch(each -> block.determines(grouped, each));
    }

    /**
     * Whether the headings say that the other is a value of the row where this is found; false if
     * it is the other way round, empty if they say nothing.
     */
    Optional<Boolean> leads(Extreme other) {
      TypeFamily mine = column.type().family();
      TypeFamily theirs = other.column.type().family();
      boolean ranked = mine.isOfTime() ? !theirs.isOfTime() : theirs == TypeFamily.TEXT || isRow;
      if (!column.use().equals(other.column.use()) || (mine == theirs && !isRow) || !ranked) {
        return Optional.empty();
      }
      Set<String> shared = new LinkedHashSet<>(words(output.name()));
      boolean ordered = (mine.isOfTime() || isRow) && WhichEnd.in(output.name()).isPresent();
      shared.retainAll(words(other.output.name()));
      shared.removeAll(words(other.column.name()));
      if (!mine.isOfTime()) {
        shared.removeAll(words(column.name()));
      }
      if (isRow && theirs.isOfTime()) {
        // Under a heading of its own it is an extreme of its own.
        shared.clear();
      }
      boolean plain =
          (theirs == TypeFamily.TEXT || isRow)
              && other.output.name().equalsIgnoreCase(other.column.name());
      return shared.isEmpty() && !(ordered && plain)
          ? Optional.empty()
          : Optional.of(ordered || !mine.isOfTime());
    }

    /**
     * Whether the other tells of what row this is: a reference out of it, under its own name, or
     * its key under the name of the table.
     */
    Optional<Boolean> picks(Extreme other, QueryBlock block) {
      TableUse use = column.use();
      boolean refers =
          other.output.name().equalsIgnoreCase(other.column.name())
              && isReference(other.column, block);
      boolean names =
          use.keyColumns().equals(List.of(other.column))
              && use.table().isPresent()
              && Totalled.isNamed(other.output, use.tableName());
      return use.equals(other.column.use())
              && (refers || names)
              && !isReference(column, block)
              && column.type().family() != TypeFamily.TEXT
          ? Optional.of(true)
          : Optional.empty();
    }

    private static boolean isReference(UseColumn column, QueryBlock block) {
      return !BaseColumn.referred(column, block.catalog()).isEmpty();
    }

    private static Set<String> words(String name) {
      Set<String> words = new LinkedHashSet<>(Words.ofName(name));
      words.removeAll(OF_NO_ROW);
      return words;
    }
  }

  private static Suspicion suspicion(Extreme one, Extreme other, Subject subject) {
    return Suspicion.asking(
        Kind.VALUES_OF_SEVERAL_ROWS,
        other.call().span(),
        List.of(other.call().span()),
        Optional.of(
            ExtremesOfGroups.question(
                subject.rows().orElseThrow(),
                List.of(one.call().key(), other.call().key()),
                List.of(one.column(), other.column()))),
        found ->
            found
                .filter(each -> each.apart() > 0)
                .map(each -> conclude(one, other, each, subject)));
  }

  private static Conclusion conclude(
      Extreme one, Extreme other, ExtremesOfGroups.Found found, Subject subject) {
    String row = one.column().use().rowWord();
    boolean alone = subject.block().groupedBy().isEmpty();
    String message =
        subject.text(other.call())
            + " is not the "
            + other.column().name()
            + " of the "
            + row
            + " that "
            + subject.text(one.call())
            + " is of: each takes its own value, and "
            + (alone
                ? "no " + row + " has both"
                : "in "
                    + found.apart()
                    + " of "
                    + Words.count(found.all(), "group")
                    + " no "
                    + row
                    + " has both")
            + ". Number the rows of a group by ROW_NUMBER() in the order of "
            + one.column().written()
            + (one.call().key().equals("max") ? " DESC" : "")
            + " and take the values of the first.";
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            Map.of("groups in which no row has both", found.apart()),
            List.of(),
            List.of(
                one.leads(other).isPresent()
                    ? "the headings "
                        + one.output().name()
                        + " and "
                        + other.output().name()
                        + " speak of one row"
                    : other.column().name() + " only tells whose row it is")),
        List.of());
  }
}
