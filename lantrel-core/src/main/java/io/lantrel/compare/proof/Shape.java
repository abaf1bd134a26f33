package io.lantrel.compare.proof;

import io.lantrel.compare.proof.Joined.Member;
import java.util.List;
import java.util.function.Function;
import java.util.function.IntUnaryOperator;
import java.util.stream.Stream;

/** What a query does, without its spelling. */
sealed interface Shape {

  /** Every table or query that rows come from, at any depth. */
  Stream<Member> everyMember();

  /** Every column that is named, at any depth. */
  Stream<Term> columns();

  Shape withColumns(Function<Term, Term> replacement);

  /**
   * What it is, as a text.
   *
   * @param outputs whether it matters what is shown of its rows
   */
  String text(IntUnaryOperator names, boolean outputs);

  /** The queries that a term asks, without those within them. */
  static Stream<Shape> askedBy(Term term) {
    Stream<Shape> below = term.parts().stream().flatMap(Shape::askedBy);
    return term.query() == null ? below : Stream.concat(below, Stream.of(term.query()));
  }

  /** The tables of the queries that a term asks. */
  static Stream<Member> membersAskedBy(Term term) {
    return askedBy(term).flatMap(Shape::everyMember);
  }

  /**
   * One SELECT.
   *
   * @param rows the joined rows
   * @param grouped whether rows are put together
   * @param groups what by; empty also if all are put together
   * @param having what a group must meet
   * @param distinct whether equal rows become one
   * @param outputs what is shown
   */
  record Block(
      Joined rows,
      boolean grouped,
      List<Term> groups,
      List<Term> having,
      boolean distinct,
      List<Term> outputs)
      implements Shape {

    public Block {
      groups = List.copyOf(groups);
      having = List.copyOf(having);
      outputs = List.copyOf(outputs);
    }

    /** Rows of which nothing is shown: it is only asked whether there is one. */
    static Block ofRows(Joined rows) {
      return new Block(rows, false, List.of(), List.of(), false, List.of());
    }

    /** What is shown, grouped by or asked of groups: all that is made of the joined rows. */
    Stream<Term> made() {
      return Stream.of(groups.stream(), having.stream(), outputs.stream()).flatMap(each -> each);
    }

    @Override
    public Stream<Member> everyMember() {
      return Stream.concat(rows.everyMember(), made().flatMap(Shape::membersAskedBy));
    }

    @Override
    public Stream<Term> columns() {
      return Stream.concat(
          Stream.concat(rows.terms(), made()).flatMap(Term::columns),
          rows.members.stream()
              .filter(member -> member.query() != null)
              .flatMap(
                  member ->
                      member.query() == null ? Stream.<Term>empty() : member.query().columns()));
    }

    @Override
    public Block withColumns(Function<Term, Term> replacement) {
      return new Block(
          rows.withColumns(replacement),
          grouped,
          groups.stream().map(term -> term.withColumns(replacement)).toList(),
          having.stream().map(term -> term.withColumns(replacement)).toList(),
          distinct,
          outputs.stream().map(term -> term.withColumns(replacement)).toList());
    }

    @Override
    public String text(IntUnaryOperator names, boolean shown) {
      return equalColumns(names).plainText(names, shown);
    }

    /** With one column in the place of all that are equal to it, and exactly so. */
    private Block equalColumns(IntUnaryOperator names) {
      EqualColumns equal = EqualColumns.of(rows.conditions, names);
      Block one = withColumns(equal::first);
      one.rows.conditions.removeIf(term -> term.is(Term.EQUAL) && term.hasEqualParts());
      one.rows.conditions.addAll(equal.conditions());
      return one;
    }

    private String plainText(IntUnaryOperator names, boolean shown) {
      return rows.text(names)
          + (grouped ? " by " + sorted(groups, names) + " having " + sorted(having, names) : "")
          + (distinct && shown ? " distinct" : "")
          + (shown ? " shown " + outputs.stream().map(term -> term.text(names)).toList() : "");
    }

    private static List<String> sorted(List<Term> terms, IntUnaryOperator names) {
      return terms.stream().map(term -> term.text(names)).distinct().sorted().toList();
    }
  }

  /**
   * Several put together.
   *
   * @param operation UNION, INTERSECT or EXCEPT, with ALL
   * @param symmetric whether the order of the parts does not matter
   * @param parts what is put together
   */
  record Together(String operation, boolean symmetric, List<Shape> parts) implements Shape {

    public Together {
      parts = List.copyOf(parts);
    }

    /** Whether it does not matter how often a row comes in the parts. EXCEPT ALL counts. */
    boolean isOfSets() {
      return !operation.endsWith("ALL");
    }

    @Override
    public Stream<Member> everyMember() {
      return parts.stream().flatMap(Shape::everyMember);
    }

    @Override
    public Stream<Term> columns() {
      return parts.stream().flatMap(Shape::columns);
    }

    @Override
    public Together withColumns(Function<Term, Term> replacement) {
      return new Together(
          operation, symmetric, parts.stream().map(part -> part.withColumns(replacement)).toList());
    }

    @Override
    public String text(IntUnaryOperator names, boolean shown) {
      Stream<String> texts = parts.stream().map(part -> part.text(names, true));
      return operation + (symmetric ? texts.sorted() : texts).toList();
    }
  }
}
