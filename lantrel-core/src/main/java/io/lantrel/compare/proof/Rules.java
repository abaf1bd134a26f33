package io.lantrel.compare.proof;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Constraint;
import io.lantrel.compare.proof.Joined.Branch;
import io.lantrel.compare.proof.Joined.Member;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * Brings a shape into its normal form. Every rule keeps the rows for all data that keep the
 * constraints, which are noted as they are used (C. Galindo-Legaria and A. Rosenthal, Outerjoin
 * simplification and reordering for query optimization, 1997, for what outer joins allow).
 */
final class Rules {

  private static final int ROUNDS = 50;

  private final Known known;
  private final Asking asking;
  private final NeedlessTables needless;
  private final Groups groups;

  /**
   * @param used takes the constraints that are relied on
   */
  Rules(Catalog catalog, Set<Constraint> used) {
    this.known = new Known(used);
    this.asking = new Asking(known);
    this.needless = new NeedlessTables(catalog, known, used);
    this.groups = new Groups(known);
  }

  Shape normal(Shape shape) {
    return normal(shape, false);
  }

  /**
   * @param asSet whether it does not matter how often a row comes
   */
  private Shape normal(Shape shape, boolean asSet) {
    if (shape instanceof Shape.Together together) {
      boolean sets = together.isOfSets() || (asSet && together.symmetric());
      return new Shape.Together(
          together.operation(),
          together.symmetric(),
          together.parts().stream().map(part -> normal(part, sets)).toList());
    }
    Shape.Block block = (Shape.Block) shape;
    String before = "";
    for (int round = 0; round < ROUNDS; round++) {
      String now = block.text(use -> use, true);
      if (now.equals(before)) {
        return block;
      }
      before = now;
      block = once(block, asSet);
    }
    return block;
  }

  private Shape.Block once(Shape.Block given, boolean asSet) {
    Shape.Block block = withNormalQueries(given);
    Joined rows = block.rows();
    boolean often = !asSet && !(block.distinct() && !block.grouped());
    simplify(rows);
    OuterJoins.innerFromOuter(rows, List.of());
    asking.missing(rows, block.made().toList());
    asking.openExists(rows, block.grouped() || often);
    block = asking.openValues(block);
    block = needless.withoutNeedlessTables(block, block.grouped() || often);
    block = groups.counting(block);
    block = Groups.havingAsWhere(block);
    return groups.distinct(block, asSet);
  }

  // ---- queries within ----

  private Shape.Block withNormalQueries(Shape.Block block) {
    Joined rows = withNormalQueries(block.rows());
    return new Shape.Block(
        rows,
        block.grouped(),
        normal(block.groups()),
        normal(block.having()),
        block.distinct(),
        normal(block.outputs()));
  }

  private Joined withNormalQueries(Joined rows) {
    Joined copy = new Joined();
    rows.members.forEach(
        member ->
            copy.members.add(
                member.query() == null
                    ? member
                    : new Member(member.id(), null, normal(member.query(), false))));
    rows.branches.forEach(
        branch ->
            copy.branches.add(
                new Branch(withNormalQueries(branch.rows()), normal(branch.conditions()))));
    copy.conditions.addAll(normal(rows.conditions));
    return copy;
  }

  private List<Term> normal(List<Term> terms) {
    return terms.stream()
        .map(
            term ->
                term.withQueries(
                    (asking, query) ->
                        asking.operation().endsWith("exists")
                            ? existing(query)
                            : normal(query, asking.is(Term.NOT_IN))))
        .toList();
  }

  /** Of what is only asked whether it has a row: nothing matters but its rows. */
  private Shape existing(Shape query) {
    if (query instanceof Shape.Block block && !block.grouped()) {
      return normal(Shape.Block.ofRows(block.rows()), true);
    }
    return normal(query, true);
  }

  // ---- conditions ----

  private void simplify(Joined rows) {
    List<Term> all = new ArrayList<>();
    rows.conditions.forEach(
        term -> (term.is(Term.AND) ? term.parts() : List.of(term)).forEach(all::add));
    all.removeIf(term -> isAlwaysTrue(term, rows));
    rows.conditions.clear();
    all.forEach(term -> rows.conditions.add(asking.notIn(term, rows)));
    rows.branches.forEach(branch -> simplify(branch.rows()));
  }

  private boolean isAlwaysTrue(Term term, Joined rows) {
    if (term.is(Term.EQUAL)
        && term.parts().stream().allMatch(part -> part.operation().startsWith("constant "))) {
      return term.hasEqualParts() && !term.parts().get(0).operation().contains("NULL");
    }
    if (term.operation().equalsIgnoreCase("constant truth true")) {
      return true;
    }
    return term.is(Term.IS_NOT_NULL) && known.isNeverNull(term.parts().get(0), rows);
  }
}
