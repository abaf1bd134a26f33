package io.lantrel.compare.proof;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.IntUnaryOperator;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A value or a condition, without its spelling: an operation on terms, a column of a table use, or
 * a constant.
 *
 * @param operation what is done; {@value #COLUMN} for a column
 * @param parts what it is done to
 * @param use the table use of a column; -1 for anything else
 * @param position the position of a column in its table
 * @param query the query that it asks; null if it asks none
 */
record Term(String operation, List<Term> parts, int use, int position, @Nullable Shape query) {

  static final String COLUMN = "column";
  static final String LOOSE_COLUMN = "column of another type";
  static final String AND = "and";
  static final String OR = "or";
  static final String EQUAL = "=";
  static final String NOT_EQUAL = "<>";
  static final String VALUE_OF = "value of";
  static final String NOT_IN = "not in";
  static final String EXISTS = "exists";
  static final String NOT_EXISTS = "not exists";
  static final String IS_NULL = "is null";
  static final String IS_NOT_NULL = "is not null";
  static final String COUNT_ROWS = "count rows";
  static final String COUNT = "count";

  /** The order of their parts does not matter. */
  private static final Set<String> SYMMETRIC = Set.of(AND, OR, EQUAL, NOT_EQUAL, "+", "*");

  /** Parts that come twice count once. */
  private static final Set<String> IDEMPOTENT = Set.of(AND, OR);

  Term {
    parts = List.copyOf(parts);
  }

  static Term of(String operation, List<Term> parts) {
    return new Term(operation, parts, -1, -1, null);
  }

  static Term of(String operation, Term... parts) {
    return of(operation, List.of(parts));
  }

  /**
   * A column.
   *
   * @param exact whether two values of it that are equal are the same, as numbers without a
   *     fraction and days are, and texts need not be
   */
  static Term column(int use, int position, boolean exact) {
    return new Term(exact ? COLUMN : LOOSE_COLUMN, List.of(), use, position, null);
  }

  static Term constant(String text) {
    return of("constant " + text);
  }

  static Term asking(String operation, Shape query, Term... parts) {
    return new Term(operation, List.of(parts), -1, -1, query);
  }

  boolean is(String wanted) {
    return operation.equals(wanted);
  }

  boolean isColumn() {
    return is(COLUMN) || is(LOOSE_COLUMN);
  }

  boolean isExactColumn() {
    return is(COLUMN);
  }

  /** Whether it compares something with itself. */
  boolean hasEqualParts() {
    return parts.size() == 2 && parts.get(0).isSame(parts.get(1));
  }

  boolean isSame(Term other) {
    return text(use -> use).equals(other.text(use -> use));
  }

  /** The columns in it, also within the queries that it asks. */
  Stream<Term> columns() {
    Stream<Term> own = isColumn() ? Stream.of(this) : parts.stream().flatMap(Term::columns);
    return query == null ? own : Stream.concat(own, query.columns());
  }

  /** Whether it uses a column of one of some table uses. */
  boolean mentions(Set<Integer> uses) {
    return columns().anyMatch(column -> uses.contains(column.use()));
  }

  /** The same with other terms in the place of its parts. */
  Term withParts(UnaryOperator<Term> replacement) {
    return new Term(operation, parts.stream().map(replacement).toList(), use, position, query);
  }

  /** The same with other queries in the place of those that it asks. */
  Term withQueries(BiFunction<Term, Shape, Shape> replacement) {
    return new Term(
        operation,
        parts.stream().map(part -> part.withQueries(replacement)).toList(),
        use,
        position,
        query == null ? null : replacement.apply(this, query));
  }

  /** The same with other terms in the place of its columns. */
  Term withColumns(Function<Term, Term> replacement) {
    if (isColumn()) {
      return replacement.apply(this);
    }
    List<Term> replaced = parts.stream().map(part -> part.withColumns(replacement)).toList();
    return new Term(
        operation, replaced, use, position, query == null ? null : query.withColumns(replacement));
  }

  /**
   * What it is, as a text: the same for terms that are the same but for the order of what may stand
   * in any.
   *
   * @param names what each table use is called
   */
  String text(IntUnaryOperator names) {
    if (isColumn()) {
      return names.applyAsInt(use) + "." + position;
    }
    List<String> texts = new ArrayList<>(parts.stream().map(part -> part.text(names)).toList());
    if (IDEMPOTENT.contains(operation)) {
      texts = new ArrayList<>(new TreeSet<>(texts));
    } else if (SYMMETRIC.contains(operation)) {
      texts.sort(null);
    }
    return operation
        + (texts.isEmpty() ? "" : "(" + String.join(", ", texts) + ")")
        + (query == null ? "" : "{" + query.text(names, !operation.endsWith("exists")) + "}");
  }
}
