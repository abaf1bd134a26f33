package io.lantrel.check.kinds.subqueries;

import io.lantrel.catalog.Table;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.SetOperations;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Parts of UNION and the like that show the same two columns the other way round, or what refers to
 * one table in different places: they are put below each other by their places, whatever they are
 * called (ISO/IEC 9075-2, 7.17).
 */
public final class SwappedColumns implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    SetOperations.of(subject).stream()
        .map(ResolvedQuery::parts)
        .forEach(
            parts ->
                parts.stream()
                    .skip(1)
                    .flatMap(part -> swapped(parts.get(0), part, subject).stream())
                    .forEach(suspicions::add));
    return suspicions;
  }

  /** Of one table the two are put below each other on purpose: pairs that hold both ways. */
  private static Optional<Suspicion> swapped(QueryBlock first, QueryBlock other, Subject subject) {
    int width = Math.min(first.outputs().size(), other.outputs().size());
    for (int i = 0; i < width; i++) {
      for (int j = i + 1; j < width; j++) {
        List<OutputColumn> here = List.of(other.outputs().get(i), other.outputs().get(j));
        List<Optional<String>> names =
            List.of(
                name(first.outputs().get(i), first),
                name(first.outputs().get(j), first),
                name(here.get(0), other),
                name(here.get(1), other));
        boolean byName =
            names.stream().allMatch(Optional::isPresent)
                && !names.get(0).equals(names.get(1))
                && names.get(0).equals(names.get(3))
                && names.get(1).equals(names.get(2));
        boolean swapped =
            (byName || isMisplaced(i, j, first, other) || isMisplaced(j, i, first, other))
                && here.stream().noneMatch(each -> each.value().span().isNowhere())
                && !isOfSameTable(first.outputs().get(i), first, here.get(0), other);
        if (swapped) {
          return Optional.of(suspicion(here, first.outputs().get(i), subject));
        }
      }
    }
    return Optional.empty();
  }

  /**
   * Whether a reference of the first part stands in another place of the other one, while neither
   * shows a reference to that table in both places.
   */
  private static boolean isMisplaced(int at, int instead, QueryBlock first, QueryBlock other) {
    Set<Table> meant = referred(first.outputs().get(at), first);
    Set<Table> above = referred(first.outputs().get(instead), first);
    Set<Table> below = referred(other.outputs().get(at), other);
    Set<Table> there = referred(other.outputs().get(instead), other);
    return meant.size() == 1
        && there.equals(meant)
        && above.isEmpty()
        && below.isEmpty()
        && Stream.of(first, other)
            .allMatch(
                part ->
                    part.outputs().stream()
                            .filter(each -> referred(each, part).equals(meant))
                            .count()
                        == 1)
        && first.column(first.outputs().get(instead).value()).isPresent()
        && other.column(other.outputs().get(at).value()).isPresent();
  }

  /** The tables that a column refers to. */
  private static Set<Table> referred(OutputColumn output, QueryBlock block) {
    return block
        .column(output.value())
        .flatMap(BaseColumn::of)
        .map(column -> BaseColumn.referred(column, block.catalog()))
        .orElse(Set.of());
  }

  /** Whether two columns show the same rows of a table. */
  private static boolean isOfSameTable(
      OutputColumn one, QueryBlock first, OutputColumn two, QueryBlock other) {
    Optional<TableUse> base = other.column(two.value()).flatMap(BaseColumn::of).map(UseColumn::use);
    return first
        .column(one.value())
        .flatMap(BaseColumn::of)
        .filter(column -> base.filter(column.use()::isOfTable).isPresent())
        .isPresent();
  }

  /** What a column is called in its table: a heading of a further part means nothing. */
  private static Optional<String> name(OutputColumn output, QueryBlock block) {
    return block.column(output.value()).map(UseColumn::name).map(SwappedColumns::lower);
  }

  private static String lower(String name) {
    return name.toLowerCase(Locale.ROOT);
  }

  private static Suspicion suspicion(
      List<OutputColumn> swapped, OutputColumn above, Subject subject) {
    Span one = swapped.get(0).value().span();
    Span other = swapped.get(1).value().span();
    String text = subject.source().at(one);
    String instead = subject.source().at(other);
    String message =
        text
            + " stands below "
            + above.name()
            + ", and "
            + instead
            + " where "
            + text
            + " belongs: columns are put below each other by their places, not by their names."
            + " Change the two.";
    return Suspicion.certain(
        Kind.SWAPPED_COLUMNS,
        one,
        new Conclusion(
            Severity.WARNING,
            message,
            new Evidence(
                Map.of(), List.of(), List.of("the first part shows them in another order")),
            List.of(List.of(new Edit(one, instead), new Edit(other, text)))));
  }
}
