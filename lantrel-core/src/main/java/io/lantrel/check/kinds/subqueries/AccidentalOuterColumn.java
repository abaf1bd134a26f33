package io.lantrel.check.kinds.subqueries;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A column of a subquery that is written without a table, and that only a table outside has
 * (ISO/IEC 9075-2, 6.6, scope of a column reference): the subquery then compares the outer row with
 * itself.
 */
public final class AccidentalOuterColumn implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (block.outer().isEmpty() || block.uses().isEmpty()) {
      return List.of();
    }
    List<Suspicion> suspicions = new ArrayList<>();
    for (ColumnName name : subject.nodes(ColumnName.class)) {
      Optional<UseColumn> column = block.column(name);
      boolean outside =
          name.qualifier().isEmpty()
              && !name.span().isNowhere()
              && column.isPresent()
              && !block.isOwn(column.get());
      if (outside && !isLink(name, column.orElseThrow(), block)) {
        suspicions.add(suspicion(name, column.orElseThrow(), subject));
      }
    }
    return suspicions;
  }

  /** Compared with an own column along a reference, it is what is meant. */
  private static boolean isLink(ColumnName name, UseColumn outer, QueryBlock block) {
    return block.conjuncts().stream()
        .map(Conjunct::condition)
        .filter(Condition.Comparison.class::isInstance)
        .map(Condition.Comparison.class::cast)
        .filter(each -> each.left().equals(name) || each.right().equals(name))
        .map(each -> each.left().equals(name) ? each.right() : each.left())
        .flatMap(other -> block.column(other).stream())
        .filter(block::isOwn)
        .anyMatch(own -> !block.linksAlong(new Conjunct.Equated(own, outer)).isEmpty());
  }

  private static Suspicion suspicion(ColumnName name, UseColumn column, Subject subject) {
    QueryBlock block = subject.block();
    String own = Words.list(block.uses().stream().map(TableUse::words).toList());
    boolean one = block.uses().size() == 1;
    boolean shown = block.outputs().stream().map(OutputColumn::value).anyMatch(name::equals);
    List<UseColumn> meant = meant(column, block);
    String message =
        own
            + (one ? " has no " : " have no ")
            + subject.text(name)
            + ", so this is "
            + column.words()
            + " of the row outside"
            + (shown ? ": every row here gives its own value back to it." : ".")
            + (meant.size() == 1
                ? " Write " + meant.get(0).written() + "."
                : " Name the table of the column that is meant.");
    List<List<Edit>> repairs =
        Stream.concat(
                meant.stream().limit(meant.size() == 1 ? 1 : 0).map(UseColumn::written),
                shown ? Stream.empty() : Stream.of(column.written()))
            .map(text -> List.of(new Edit(name.span(), text)))
            .toList();
    Conclusion conclusion =
        Conclusion.warning(
            message,
            List.of(column.use().words() + " outside has a column " + column.name()),
            repairs);
    return new Suspicion(
        Kind.ACCIDENTAL_OUTER_COLUMN,
        name.span(),
        List.of(name.span()),
        List.of(),
        answers -> Optional.of(conclusion));
  }

  /** The own columns that refer to it, or to what it refers to. */
  private static List<UseColumn> meant(UseColumn outer, QueryBlock block) {
    return block.uses().stream()
        .flatMap(use -> block.linksBetween(use, outer.use()).stream())
        .flatMap(
            link -> {
              boolean from = block.uses().contains(link.from());
              List<String> own =
                  from ? link.reference().fromColumns() : link.reference().toColumns();
              List<String> other =
                  from ? link.reference().toColumns() : link.reference().fromColumns();
              TableUse use = from ? link.from() : link.to();
              return own.size() == 1 && other.get(0).equals(outer.tableColumn())
                  ? use.columns().stream().filter(each -> each.tableColumn().equals(own.get(0)))
                  : Stream.empty();
            })
        .distinct()
        .toList();
  }
}
