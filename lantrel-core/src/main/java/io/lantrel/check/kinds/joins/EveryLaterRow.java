package io.lantrel.check.kinds.joins;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * A table joined to itself by the order of a column, under names that speak of the next or the
 * previous row: it meets every later one, and not the nearest alone.
 */
public final class EveryLaterRow implements Check {

  private static final Pattern NEAREST =
      Pattern.compile(
          "(?i)(.*[_ ])?(next|following|successor|prev|previous|prior|preceding|predecessor)"
              + "([_ ].*)?");

  private static final Pattern CHANGE =
      Pattern.compile("(?i)(.*[_ ])?(change|growth|increase|decrease|delta|rise)([_ ].*)?");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    boolean lists =
        subject.rows().isPresent()
            && isWhole(block)
            && readers(subject).allMatch(EveryLaterRow::counts);
    if (!lists) {
      return List.of();
    }
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : block.steps()) {
      later(step, block).map(each -> suspicion(each, subject)).ifPresent(suspicions::add);
    }
    return suspicions;
  }

  /** Whether it shows the joined rows as they are. */
  private static boolean isWhole(QueryBlock block) {
    return !block.isGrouped()
        && !block.select().distinct()
        && block.query().limit() == null
        && block.outputs().stream()
            .noneMatch(each -> Aggregates.containsOne(each.value()) || isOverWindow(each.value()));
  }

  private static boolean isOverWindow(Expression value) {
    return value
        .preorder()
        .anyMatch(node -> node instanceof FunctionCall call && call.over() != null);
  }

  /** The blocks that have this one in FROM. */
  private static Stream<QueryBlock> readers(Subject subject) {
    return subject.resolution().blocks().stream()
        .filter(
            reader ->
                reader.uses().stream()
                    .flatMap(use -> use.queryOfText().stream())
                    .anyMatch(read -> read.parts().contains(subject.block())));
  }

  /** Whether a reader only shows or counts them, and may not look for the nearest itself. */
  private static boolean counts(QueryBlock reader) {
    return reader.groupedBy().isEmpty()
        && reader.filters().isEmpty()
        && !reader.select().distinct()
        && reader.query().limit() == null
        && reader.outputs().stream()
            .noneMatch(
                each ->
                    isOverWindow(each.value())
                        || Aggregates.in(each.value()).anyMatch(it -> !it.key().equals("count")));
  }

  /**
   * A step that meets every later row.
   *
   * @param to the later or earlier rows
   * @param order the column that puts them in order
   * @param behind whether they are later
   */
  private record Later(JoinStep step, TableUse to, UseColumn order, boolean behind) {}

  private static Optional<Later> later(JoinStep step, QueryBlock block) {
    if (step.right().size() != 1 || !isCalledNearest(step.right().get(0), block)) {
      return Optional.empty();
    }
    TableUse to = step.right().get(0);
    List<UseColumn> orders = new ArrayList<>();
    boolean behind = false;
    for (Conjunct each : block.conjuncts()) {
      if (!each.uses().contains(to)) {
        continue;
      }
      Optional<UseColumn> own = likeItself(each, to, block);
      if (own.isEmpty() || !step.conjuncts().contains(each)) {
        return Optional.empty();
      }
      if (each.likeness().isEmpty()) {
        orders.add(own.get());
        behind = isBehind((Comparison) each.condition(), own.get(), block);
      }
    }
    return orders.size() == 1
        ? Optional.of(new Later(step, to, orders.get(0), behind))
        : Optional.empty();
  }

  private static boolean isBehind(Comparison comparison, UseColumn own, QueryBlock block) {
    boolean first = block.column(comparison.left()).filter(own::equals).isPresent();
    ComparisonOperator operator = first ? comparison.operator() : comparison.operator().turned();
    return operator.isAbove();
  }

  private static boolean isCalledNearest(TableUse use, QueryBlock block) {
    return NEAREST.matcher(use.name()).matches()
        || block.outputs().stream().anyMatch(each -> isChange(each, use, block))
        || block.outputs().stream()
            .filter(each -> block.mentioned(each.value()).contains(use))
            .map(OutputColumn::name)
            .anyMatch(name -> NEAREST.matcher(name).matches());
  }

  /** What is called a change, and is the difference of one column in two rows. */
  private static boolean isChange(OutputColumn output, TableUse use, QueryBlock block) {
    if (!(output.value() instanceof Arithmetic difference)
        || difference.operator() != ArithmeticOperator.MINUS
        || !CHANGE.matcher(output.name()).matches()) {
      return false;
    }
    Optional<UseColumn> one = block.column(difference.left());
    Optional<UseColumn> other = block.column(difference.right());
    return one.isPresent()
        && other.isPresent()
        && one.get().use().isOfTable(other.get().use())
        && one.get().position() == other.get().position()
        && one.get().use().equals(use) != other.get().use().equals(use);
  }

  /** The column, where a condition compares it with the same of another row of the table. */
  private static Optional<UseColumn> likeItself(Conjunct each, TableUse use, QueryBlock block) {
    Optional<UseColumn> left = each.likeness().map(Equated::left);
    Optional<UseColumn> right = each.likeness().map(Equated::right);
    if (each.condition() instanceof Comparison comparison && comparison.operator().isOrder()) {
      left = block.column(comparison.left());
      right = block.column(comparison.right());
    }
    return left.isPresent()
            && right.isPresent()
            && left.get().name().equals(right.get().name())
            && left.get().use().isOfTable(right.get().use())
            && !left.get().use().equals(right.get().use())
        ? Optional.of(left.get().use().equals(use) ? left.get() : right.get())
        : Optional.empty();
  }

  private static Suspicion suspicion(Later later, Subject subject) {
    return Suspicion.counting(
        Kind.ROWS_REPEATED,
        later.step().place(),
        List.of(later.step().place()),
        subject.rows().orElseThrow().repeated(later.step()).count(),
        count -> conclude(later, count));
  }

  private static Conclusion conclude(Later later, long count) {
    String row = later.to().rowWord();
    String order = later.order().written();
    String message =
        later.to().name()
            + " is each "
            + (later.behind() ? "later " : "earlier ")
            + row
            + " by "
            + later.order().name()
            + ", and not the nearest alone: "
            + Words.count(count, row)
            + (count == 1 ? " meets" : " meet")
            + " several. Take "
            + (later.behind() ? "MIN(" : "MAX(")
            + order
            + ") for each, or look with "
            + (later.behind() ? "LEAD." : "LAG.");
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            Map.of("rows that meet several", count),
            List.of(),
            List.of("the name speaks of one " + row + ", and nothing says that none is nearer")),
        List.of());
  }
}
