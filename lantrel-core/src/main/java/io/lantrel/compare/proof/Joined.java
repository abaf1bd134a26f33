package io.lantrel.compare.proof;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Table;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.IntUnaryOperator;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Joined rows without the order in which they were written: members of which each row has one,
 * branches of which it may have none, and what must hold. Branches that do not need each other can
 * be joined in any order; one that needs another names its columns.
 */
final class Joined {

  final List<Member> members = new ArrayList<>();
  final List<Branch> branches = new ArrayList<>();
  final List<Term> conditions = new ArrayList<>();

  /**
   * A table, or a query that is taken as it is.
   *
   * @param id its number among all of the two queries
   * @param table the table; null for a query
   * @param query the query; null for a table
   */
  record Member(int id, @Nullable Table table, @Nullable Shape query) {

    Optional<Table> ifTable() {
      return Optional.ofNullable(table);
    }

    Column column(int position) {
      if (table == null) {
        throw new IllegalStateException("a query has no columns of a table");
      }
      return table.columns().get(position);
    }

    String text(IntUnaryOperator names) {
      return (table != null ? table.schema() + "." + table.name() : "")
          + (query != null ? "{" + query.text(names, true) + "}" : "")
          + "#"
          + names.applyAsInt(id);
    }
  }

  /**
   * What is joined by LEFT JOIN.
   *
   * @param rows what is joined
   * @param conditions of the join
   */
  record Branch(Joined rows, List<Term> conditions) {

    /** The rows of those that find something: those of a join. */
    Joined found() {
      Joined found = new Joined();
      found.add(rows);
      found.conditions.addAll(conditions);
      return found;
    }

    /** Its conditions, and those within it. */
    Stream<Term> terms() {
      return Stream.concat(conditions.stream(), rows.terms());
    }

    /** Whether it is this one: no two have the same table uses. */
    boolean isSame(Branch other) {
      return rows.uses().equals(other.rows.uses());
    }

    String text(IntUnaryOperator names) {
      return "[" + rows.text(names) + " on " + sorted(conditions.stream(), names) + "]";
    }
  }

  /** Has all that another one has, besides. */
  void add(Joined other) {
    members.addAll(other.members);
    branches.addAll(other.branches);
    conditions.addAll(other.conditions);
  }

  /** The table uses in it, those of branches too. */
  Set<Integer> uses() {
    Set<Integer> uses = new HashSet<>();
    members.forEach(member -> uses.add(member.id()));
    branches.forEach(branch -> uses.addAll(branch.rows().uses()));
    return uses;
  }

  /** All members, those of branches and of queries too. */
  Stream<Member> everyMember() {
    return Stream.of(
            members.stream()
                .flatMap(
                    member ->
                        member.query() == null
                            ? Stream.of(member)
                            : Stream.concat(Stream.of(member), member.query().everyMember())),
            branches.stream().flatMap(branch -> branch.rows().everyMember()),
            terms().flatMap(Shape::membersAskedBy))
        .flatMap(each -> each);
  }

  /** All conditions, those of branches too. */
  Stream<Term> terms() {
    return Stream.concat(
        conditions.stream(),
        branches.stream()
            .flatMap(branch -> Stream.concat(branch.conditions().stream(), branch.rows().terms())));
  }

  Joined withColumns(Function<Term, Term> replacement) {
    Joined copy = new Joined();
    members.forEach(
        member ->
            copy.members.add(
                member.query() == null
                    ? member
                    : new Member(member.id(), null, member.query().withColumns(replacement))));
    branches.forEach(
        branch ->
            copy.branches.add(
                new Branch(
                    branch.rows().withColumns(replacement),
                    branch.conditions().stream()
                        .map(term -> term.withColumns(replacement))
                        .toList())));
    conditions.forEach(term -> copy.conditions.add(term.withColumns(replacement)));
    return copy;
  }

  String text(IntUnaryOperator names) {
    return members.stream().map(member -> member.text(names)).sorted().toList()
        + branches.stream().map(branch -> branch.text(names)).sorted().toList().toString()
        + " where "
        + sorted(conditions.stream(), names);
  }

  private static List<String> sorted(Stream<Term> terms, IntUnaryOperator names) {
    return terms.map(term -> term.text(names)).distinct().sorted().toList();
  }
}
