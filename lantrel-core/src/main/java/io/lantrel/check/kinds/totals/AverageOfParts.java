package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.Reference;
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
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * AVG over the parts of a whole under a heading that names the whole: {@code AVG(pieces * price) AS
 * average_order} over the lines of orders is what a line comes to, not an order.
 */
public final class AverageOfParts implements Check {

  /** Words of a heading that say that it is a mean, or of what of the whole. */
  private static final Set<String> OF_A_MEAN =
      Set.of(
          "avg", "average", "mean", "value", "amount", "total", "sum", "per", "size", "usual", "of",
          "the", "a");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    Optional<JoinedRows> rows = subject.rows();
    if (rows.isEmpty() || subject.block().isCorrelated()) {
      return List.of();
    }
    return subject.block().outputs().stream()
        .flatMap(output -> of(output, subject.block()).stream())
        .limit(1)
        .map(each -> each.suspicion(rows.get(), subject))
        .toList();
  }

  private static Optional<Parts> of(OutputColumn output, QueryBlock block) {
    if (!(output.value() instanceof FunctionCall call)
        || !call.key().equals("avg")
        || call.distinct()
        || call.filter() != null
        || call.over() != null
        || call.arguments().size() != 1) {
      return Optional.empty();
    }
    Expression value = call.arguments().get(0);
    Set<String> ofColumns = new HashSet<>();
    block.columnsIn(value).forEach(each -> ofColumns.addAll(Words.ofName(each.name())));
    Set<UseColumn> grouped = block.groupColumns();
    return Totalled.deciding(block.mentioned(value), block).stream()
        .filter(part -> part.table().isPresent())
        .flatMap(part -> wholes(part, block))
        .filter(whole -> isNamed(output, whole.reference(), ofColumns))
        .filter(whole -> grouped.stream().noneMatch(each -> isNameOf(each, whole.reference())))
        .filter(whole -> !whole.by().stream().allMatch(each -> block.determines(grouped, each)))
        .map(whole -> new Parts(output, call, whole))
        .findFirst();
  }

  /** Whether a group is meant to be one whole, though it goes by what that is called. */
  private static boolean isNameOf(UseColumn column, Reference reference) {
    return column.type().family() == TypeFamily.TEXT
        && column.use().table().filter(reference.to()::equals).isPresent();
  }

  /**
   * A whole of which a row is a part.
   *
   * @param by what the part refers to it by
   */
  private record Whole(Reference reference, List<UseColumn> by) {}

  private static Stream<Whole> wholes(TableUse part, QueryBlock block) {
    return block.catalog().references().stream()
        .filter(each -> part.table().filter(each.from()::equals).isPresent())
        .filter(each -> !each.to().equals(each.from()))
        .flatMap(
            each -> {
              List<UseColumn> by = new ArrayList<>();
              each.fromColumns().forEach(name -> part.columnOfTable(name).ifPresent(by::add));
              return by.size() == each.fromColumns().size()
                  ? Stream.of(new Whole(each, by))
                  : Stream.of();
            });
  }

  /**
   * Whether a heading has no words but those of the whole's name and of a mean, or none since PER.
   */
  private static boolean isNamed(OutputColumn output, Reference reference, Set<String> ofColumns) {
    List<String> ofTable = Words.ofName(reference.to().name());
    List<String> heading = new ArrayList<>(Words.ofName(output.name()));
    int per = heading.lastIndexOf("per");
    if (per >= 0 && heading.subList(per + 1, heading.size()).equals(ofTable)) {
      return true;
    }
    heading.removeIf(each -> !ofTable.contains(each) && OF_A_MEAN.contains(each));
    return heading.equals(ofTable) && ofTable.stream().noneMatch(ofColumns::contains);
  }

  /**
   * A mean of parts.
   *
   * @param whole what the heading says that it is of
   */
  private record Parts(OutputColumn output, FunctionCall call, Whole whole) {

    Suspicion suspicion(JoinedRows rows, Subject subject) {
      Relation kept = rows.kept(whole.by().get(0).use()).relation();
      List<Expression> by =
          Stream.concat(
                  whole.by().stream().map(each -> rows.column(kept, each)),
                  rows.groups(kept).stream())
              .toList();
      return Suspicion.counting(
          Kind.REPEATED_IN_TOTAL,
          call.span(),
          List.of(call.span()),
          Question.groups(
              kept,
              by,
              Sql.all(
                  List.of(
                      Sql.greater(Sql.count(), Sql.number(1)),
                      Sql.isNotNull(FunctionCall.of("MIN", by.get(0)))))),
          count -> conclude(count, subject));
    }

    private Conclusion conclude(long count, Subject subject) {
      String part = whole.by().get(0).use().rowWord();
      String of = whole.reference().to().name();
      return new Conclusion(
          Severity.WARNING,
          subject.text(call)
              + " is the mean of a "
              + part
              + ", and is called "
              + output.name()
              + ": "
              + (subject.block().groupedBy().isEmpty()
                  ? Words.count(count, of) + (count == 1 ? " has" : " have") + " several"
                  : (count == 1 ? "once " : Words.number(count) + " times ")
                      + Words.one(of)
                      + " has several in its group")
              + ". Put the values of each "
              + of
              + " together in a query in FROM, and take the mean of these.",
          new Evidence(
              Map.of("with several", count),
              List.of(),
              List.of("the schema has " + whole.reference().words())),
          List.of());
    }
  }
}
