package io.lantrel.compare.proof;

import io.lantrel.compare.proof.Joined.Branch;
import io.lantrel.compare.proof.Joined.Member;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/** Rows that must exist, or must not, and rows that are joined. */
final class Asking {

  private final Known known;

  Asking(Known known) {
    this.known = known;
  }

  /** Where neither side can be NULL, NOT IN is that there is no such row. */
  Term notIn(Term term, Joined rows) {
    if (!term.is(Term.NOT_IN)
        || !(term.query() instanceof Shape.Block asked)
        || asked.grouped()
        || !known.isNeverNull(term.parts().get(0), rows)
        || !known.isGiven(asked.outputs().get(0), asked.rows())) {
      return term;
    }
    Joined inner = asked.rows().withColumns(column -> column);
    inner.conditions.add(Term.of(Term.EQUAL, term.parts().get(0), asked.outputs().get(0)));
    return Term.asking(Term.NOT_EXISTS, Shape.Block.ofRows(inner));
  }

  /** Rows that found nothing in a branch are those for which there is no such row. */
  void missing(Joined rows, List<Term> made) {
    for (Branch branch : List.copyOf(rows.branches)) {
      Set<Integer> uses = branch.rows().uses();
      List<Term> tests =
          rows.conditions.stream()
              .filter(term -> term.is(Term.IS_NULL) && term.parts().get(0).isColumn())
              .filter(term -> term.mentions(uses))
              .toList();
      boolean mentioned =
          Stream.of(
                  made.stream(),
                  rows.conditions.stream().filter(term -> !tests.contains(term)),
                  rows.branches.stream()
                      .filter(other -> !other.isSame(branch))
                      .flatMap(Branch::terms))
              .flatMap(terms -> terms)
              .anyMatch(term -> term.mentions(uses));
      Joined found = branch.found();
      if (!mentioned
          && !tests.isEmpty()
          && tests.stream().allMatch(test -> known.isGiven(test.parts().get(0), found))) {
        rows.branches.remove(branch);
        rows.conditions.removeAll(tests);
        rows.conditions.add(Term.asking(Term.NOT_EXISTS, Shape.Block.ofRows(found)));
      }
    }
  }

  /** A query for one value of a row, of which there is one at most, is a branch. */
  Shape.Block openValues(Shape.Block block) {
    if (block.grouped()) {
      return block;
    }
    List<Term> outputs = block.outputs().stream().map(term -> opened(term, block.rows())).toList();
    return new Shape.Block(
        block.rows(), false, block.groups(), block.having(), block.distinct(), outputs);
  }

  private Term opened(Term term, Joined rows) {
    if (term.is(Term.VALUE_OF)
        && term.query() instanceof Shape.Block asked
        && !asked.grouped()
        && asked.outputs().get(0).isColumn()
        && asked.rows().uses().contains(asked.outputs().get(0).use())
        && known.isDetermined(asked.rows(), column -> false)) {
      rows.branches.add(new Branch(asked.rows(), List.of()));
      return asked.outputs().get(0);
    }
    return term.withParts(part -> opened(part, rows));
  }

  /** A row that must exist, and of which there is one at most, may as well be joined. */
  void openExists(Joined rows, boolean often) {
    for (Term term : List.copyOf(rows.conditions)) {
      if (!term.is(Term.EXISTS)
          || !(term.query() instanceof Shape.Block asked)
          || asked.grouped()
          || asked.rows().members.isEmpty()) {
        continue;
      }
      Joined inner = asked.rows();
      if (!often || known.isDetermined(inner, column -> false)) {
        rows.conditions.remove(term);
        rows.add(inner);
      }
    }
  }

  /** The rows with members that nothing is shown of as rows that must exist. */
  static Joined withUnshownAsked(Shape.Block block) {
    Joined rows = block.rows().withColumns(column -> column);
    Set<Integer> unshown = new HashSet<>();
    for (Member member : rows.members) {
      Set<Integer> own = Set.of(member.id());
      boolean mentioned =
          Stream.concat(block.made(), rows.branches.stream().flatMap(Branch::terms))
              .anyMatch(term -> term.mentions(own));
      if (!mentioned) {
        unshown.add(member.id());
      }
    }
    while (!unshown.isEmpty()) {
      Set<Integer> linked = linked(unshown, rows.conditions);
      Joined inner = new Joined();
      rows.members.stream()
          .filter(member -> linked.contains(member.id()))
          .forEach(inner.members::add);
      rows.members.removeIf(member -> linked.contains(member.id()));
      rows.conditions.stream().filter(term -> term.mentions(linked)).forEach(inner.conditions::add);
      rows.conditions.removeIf(term -> term.mentions(linked));
      rows.conditions.add(Term.asking(Term.EXISTS, Shape.Block.ofRows(inner)));
      unshown.removeAll(linked);
    }
    return rows;
  }

  /** One of them, and those that conditions link to it. */
  private static Set<Integer> linked(Set<Integer> uses, List<Term> conditions) {
    Set<Integer> linked = new HashSet<>(Set.of(uses.iterator().next()));
    int before = 0;
    while (before < linked.size()) {
      before = linked.size();
      for (Term term : conditions) {
        if (term.mentions(linked)) {
          term.columns().map(Term::use).filter(uses::contains).forEach(linked::add);
        }
      }
    }
    return linked;
  }
}
