package io.lantrel.compare.proof;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Constraint;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.compare.proof.Joined.Branch;
import io.lantrel.compare.proof.Joined.Member;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/** Leaves out tables of which nothing is used but that there is a row. */
final class NeedlessTables {

  private final Catalog catalog;
  private final Known known;
  private final Set<Constraint> used;

  NeedlessTables(Catalog catalog, Known known, Set<Constraint> used) {
    this.catalog = catalog;
    this.known = known;
    this.used = used;
  }

  Shape.Block withoutNeedlessTables(Shape.Block block, boolean often) {
    Joined rows = block.rows();
    for (Branch branch : List.copyOf(rows.branches)) {
      Set<Integer> uses = branch.rows().uses();
      boolean mentioned =
          Stream.of(
                  block.made(),
                  rows.conditions.stream(),
                  rows.branches.stream()
                      .filter(other -> !other.isSame(branch))
                      .flatMap(other -> other.terms()))
              .flatMap(terms -> terms)
              .anyMatch(term -> term.mentions(uses));
      if (!mentioned && (!often || isSingle(branch))) {
        rows.branches.remove(branch);
      }
    }
    Shape.Block left = block;
    for (Member member : List.copyOf(rows.members)) {
      left = withoutReferred(left, member);
    }
    return left;
  }

  private boolean isSingle(Branch branch) {
    return known.isDetermined(branch.found(), column -> false);
  }

  /** A table to whose key another one refers, and of which nothing else is used. */
  private Shape.Block withoutReferred(Shape.Block block, Member referred) {
    Joined rows = block.rows();
    Set<String> known = new HashSet<>();
    rows.conditions.forEach(term -> known.add(term.text(use -> use)));
    for (Member member : rows.members) {
      if (member.id() == referred.id()) {
        continue;
      }
      for (Reference reference : references(member, referred)) {
        List<Term> links = links(reference, member, referred);
        boolean linked = links.stream().allMatch(link -> known.contains(link.text(use -> use)));
        if (!linked) {
          continue;
        }
        Shape.Block without = without(block, links, referred);
        boolean gone =
            Stream.concat(without.rows().terms(), without.made())
                .noneMatch(term -> term.mentions(Set.of(referred.id())));
        if (gone) {
          used.add(Constraint.of(reference));
          used.add(Constraint.key(reference.to(), reference.toColumns()));
          return without;
        }
      }
    }
    return block;
  }

  private List<Reference> references(Member from, Member to) {
    if (from.table() == null || to.table() == null) {
      return List.of();
    }
    return catalog.references().stream()
        .filter(each -> each.from().equals(from.table()) && each.to().equals(to.table()))
        .filter(each -> isKey(each.to(), each.toColumns()))
        .toList();
  }

  private static boolean isKey(Table table, List<String> columns) {
    return table.keys().stream()
        .anyMatch(key -> new HashSet<>(key.columns()).equals(new HashSet<>(columns)));
  }

  private static List<Term> links(Reference reference, Member from, Member to) {
    List<Term> links = new ArrayList<>();
    for (int i = 0; i < reference.fromColumns().size(); i++) {
      links.add(
          Term.of(
              Term.EQUAL,
              Term.column(
                  from.id(),
                  Known.position(reference.from(), reference.fromColumns().get(i)),
                  true),
              Term.column(
                  to.id(), Known.position(reference.to(), reference.toColumns().get(i)), true)));
    }
    return links;
  }

  /** With the referring columns in the place of those referred to, where these are the same. */
  private static Shape.Block without(Shape.Block block, List<Term> links, Member referred) {
    Shape.Block replaced =
        block.withColumns(
            column ->
                links.stream()
                    .filter(link -> link.parts().get(1).isSame(column) && column.isExactColumn())
                    .map(link -> link.parts().get(0))
                    .findFirst()
                    .orElse(column));
    Joined rows = replaced.rows();
    rows.members.removeIf(member -> member.id() == referred.id());
    for (Term link : links) {
      Term from = link.parts().get(0);
      rows.conditions.removeIf(
          term -> term.isSame(link) || term.isSame(Term.of(Term.EQUAL, from, from)));
      rows.conditions.add(Term.of(Term.IS_NOT_NULL, from));
    }
    return replaced;
  }
}
