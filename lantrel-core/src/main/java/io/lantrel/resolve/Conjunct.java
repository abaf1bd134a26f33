package io.lantrel.resolve;

import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * One of the conditions that AND connects.
 *
 * @param condition the condition
 * @param part whether it is one of several that stand together in the text, at one place: {@code
 *     (a.x, a.y) = (b.x, b.y)} is two
 * @param origin the clause that it stands in
 * @param uses the table uses of this block that it mentions
 * @param equated the two columns, if it demands that a column of one table use equals a column of
 *     another; null if it is something else
 * @param alikened the two columns, also if it demands only that they are alike, as {@code
 *     LOWER(a.code) = LOWER(b.code)}; null if it is something else
 */
public record Conjunct(
    Expression condition,
    boolean part,
    Origin origin,
    Set<TableUse> uses,
    @Nullable Equated equated,
    @Nullable Equated alikened) {

  public Conjunct {
    uses = Set.copyOf(uses);
  }

  /** Where a condition stands. */
  public enum Origin {
    ON,
    USING,
    NATURAL,
    WHERE
  }

  /** Two columns of two table uses that must be equal. */
  public record Equated(UseColumn left, UseColumn right) {

    /** The one of the two that belongs to the use; empty if none does. */
    public Optional<UseColumn> of(TableUse use) {
      return left.use() == use
          ? Optional.of(left)
          : right.use() == use ? Optional.of(right) : Optional.empty();
    }

    /** Whether it is these two that it sets equal. */
    public boolean isOf(UseColumn one, UseColumn another) {
      return (left.equals(one) && right.equals(another))
          || (left.equals(another) && right.equals(one));
    }

    /** The other one of the two than this one, which must be one of them. */
    public UseColumn other(UseColumn column) {
      return left.equals(column) ? right : left;
    }
  }

  /** Its place in the text. */
  public Span span() {
    return condition.span();
  }

  /** Whether both demand that the same two columns are equal. */
  boolean equatesTheSame(Conjunct other) {
    return equated != null
        && other.equated != null
        && (equated.equals(other.equated)
            || (equated.left().equals(other.equated.right())
                && equated.right().equals(other.equated.left())));
  }

  /** The equated columns, if it is an equality between two table uses. */
  public Optional<Equated> equality() {
    return Optional.ofNullable(equated);
  }

  /**
   * The two columns that are meant to be equal, also where case, blanks or the type are set aside:
   * more than {@link #equality()}, and nothing that keys or references promise anything of.
   */
  public Optional<Equated> likeness() {
    return Optional.ofNullable(alikened);
  }
}
