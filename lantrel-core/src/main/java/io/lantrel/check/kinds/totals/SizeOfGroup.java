package io.lantrel.check.kinds.totals;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Optional;

/**
 * COUNT compared with what no group has, or every one: each has a row at least, and 0 values. Of
 * COUNT(*), what is true for every group does harm only where an outer join keeps what has no
 * partner.
 */
public final class SizeOfGroup implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    Expression having = block.select().having();
    if (having == null || block.groupedBy().isEmpty()) {
      return List.of();
    }
    return subject.nodes(Comparison.class).stream()
        .filter(each -> having.span().contains(each.span()))
        .flatMap(each -> suspicion(each, subject).stream())
        .toList();
  }

  private static Optional<Suspicion> suspicion(Comparison comparison, Subject subject) {
    if (!(comparison.left() instanceof FunctionCall count)
        || !isCount(count)
        || !(comparison.right() instanceof Literal number)) {
      return Optional.empty();
    }
    if (!count.star()) {
      return belowZero(comparison, number.text())
          .map(
              kind -> Suspicion.certain(kind, comparison.span(), ofAny(kind, comparison, subject)));
    }
    boolean harmless = partner(subject.block()).isEmpty();
    return kind(comparison, number.text())
        .filter(kind -> kind == Kind.NEVER_TRUE || !harmless)
        .map(
            kind ->
                Suspicion.certain(
                    kind, comparison.span(), conclude(kind, comparison, count, subject)));
  }

  /** COUNT of all rows that there are, or of all values. */
  static boolean isCount(FunctionCall count) {
    return count.key().equals("count") && count.filter() == null && count.over() == null;
  }

  /** Whether a count of values, which may be 0, is asked to be below that, or not to be. */
  private static Optional<Kind> belowZero(Comparison comparison, String number) {
    return switch (comparison.operator()) {
      case LESS -> number.equals("0") ? Optional.of(Kind.NEVER_TRUE) : Optional.empty();
      case GREATER_OR_EQUAL ->
          number.equals("0") ? Optional.of(Kind.ALWAYS_TRUE) : Optional.empty();
      default -> Optional.empty();
    };
  }

  private static Conclusion ofAny(Kind kind, Comparison comparison, Subject subject) {
    return Conclusion.warning(
        "A count is 0 or more, so "
            + subject.text(comparison)
            + (kind == Kind.NEVER_TRUE ? " is true for no group." : " is true for each group.")
            + " Compare it with 1, or leave it out.",
        List.of("COUNT of no value is 0"),
        List.of());
  }

  private static Optional<Kind> kind(Comparison comparison, String number) {
    boolean zero = number.equals("0");
    boolean one = number.equals("1");
    return switch (comparison.operator()) {
      case EQUAL, LESS_OR_EQUAL -> zero ? Optional.of(Kind.NEVER_TRUE) : Optional.empty();
      case LESS -> zero || one ? Optional.of(Kind.NEVER_TRUE) : Optional.empty();
      case GREATER, NOT_EQUAL -> zero ? Optional.of(Kind.ALWAYS_TRUE) : Optional.empty();
      case GREATER_OR_EQUAL -> zero || one ? Optional.of(Kind.ALWAYS_TRUE) : Optional.empty();
      default -> Optional.empty();
    };
  }

  private static Conclusion conclude(
      Kind kind, Comparison comparison, FunctionCall count, Subject subject) {
    Optional<UseColumn> partner = partner(subject.block());
    String message =
        "A group has one row at least, so "
            + subject.text(comparison)
            + (kind == Kind.NEVER_TRUE ? " is true for none." : " is true for each.")
            + partner
                .map(
                    column ->
                        " Count "
                            + Words.plural(column.use().rowWord())
                            + " with COUNT("
                            + column.written()
                            + ").")
                .orElse("");
    List<List<Edit>> repairs =
        partner
            .map(
                column ->
                    List.of(
                        List.of(
                            new Edit(
                                count.span(),
                                subject.edits().keyword("COUNT") + "(" + column.written() + ")"))))
            .orElse(List.of());
    return Conclusion.warning(message, List.of("groups are made of rows"), repairs);
  }

  /**
   * A column that is only NULL where an outer join found no partner, of which there can be many.
   */
  private static Optional<UseColumn> partner(QueryBlock block) {
    return block.steps().stream()
        .flatMap(
            step ->
                CountOfMissing.children(step, block).stream()
                    .flatMap(missing -> step.nullIfMissing(missing).stream()))
        .findFirst();
  }
}
