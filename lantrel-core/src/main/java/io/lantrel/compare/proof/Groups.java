package io.lantrel.compare.proof;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;

/** GROUP BY, HAVING and DISTINCT. */
final class Groups {

  private static final Set<String> AGGREGATES =
      Set.of(
          "count",
          "count distinct",
          "sum",
          "sum distinct",
          "min",
          "max",
          "avg",
          "avg distinct",
          "filtered",
          Term.COUNT_ROWS);

  private final Known known;

  Groups(Known known) {
    this.known = known;
  }

  /** Counting a column that is never NULL is counting rows. */
  Shape.Block counting(Shape.Block block) {
    if (!block.grouped()) {
      return block;
    }
    return new Shape.Block(
        block.rows(),
        true,
        needed(block),
        block.having().stream().map(term -> counted(term, block.rows())).toList(),
        block.distinct(),
        block.outputs().stream().map(term -> counted(term, block.rows())).toList());
  }

  private Term counted(Term term, Joined rows) {
    if (term.is(Term.COUNT) && known.isNeverNull(term.parts().get(0), rows)) {
      return Term.of(Term.COUNT_ROWS);
    }
    return term.withParts(part -> counted(part, rows));
  }

  /** The groups without columns of a row that the others tell already. */
  private List<Term> needed(Shape.Block block) {
    List<Term> groups = new ArrayList<>(block.groups());
    for (int i = groups.size() - 1; i >= 0; i--) {
      Term column = groups.get(i);
      List<Term> others = new ArrayList<>(groups);
      others.remove(i);
      Joined one = new Joined();
      block
          .rows()
          .everyMember()
          .filter(member -> column.isColumn() && member.id() == column.use())
          .forEach(one.members::add);
      if (!one.members.isEmpty()
          && known.isDetermined(one, each -> others.stream().anyMatch(each::isSame))) {
        groups = others;
      }
    }
    return groups;
  }

  /** What HAVING asks of what is grouped by may be asked of the rows. */
  static Shape.Block havingAsWhere(Shape.Block block) {
    List<Term> having = new ArrayList<>();
    for (Term term : block.having()) {
      boolean ofGroup =
          !block.groups().isEmpty()
              && !hasAggregate(term)
              && term.columns()
                  .allMatch(column -> block.groups().stream().anyMatch(column::isSame));
      (ofGroup ? block.rows().conditions : having).add(term);
    }
    return new Shape.Block(
        block.rows(), block.grouped(), block.groups(), having, block.distinct(), block.outputs());
  }

  private static boolean hasAggregate(Term term) {
    return AGGREGATES.contains(term.operation())
        || term.parts().stream().anyMatch(Groups::hasAggregate);
  }

  Shape.Block distinct(Shape.Block block, boolean asSet) {
    Predicate<Term> shown = term -> block.outputs().stream().anyMatch(term::isSame);
    boolean plainGroups =
        block.grouped()
            && !block.groups().isEmpty()
            && block.having().isEmpty()
            && block.outputs().stream().noneMatch(Groups::hasAggregate)
            && block.groups().stream().allMatch(shown)
            && block.outputs().stream()
                .allMatch(output -> block.groups().stream().anyMatch(output::isSame));
    boolean grouped = block.grouped() && !plainGroups;
    boolean distinct = (block.distinct() || plainGroups) && !asSet;
    Joined rows = block.rows();
    if (distinct && grouped) {
      distinct = block.groups().isEmpty() || !block.groups().stream().allMatch(shown);
    } else if (distinct && known.isDetermined(rows, shown)) {
      distinct = false;
    } else if (distinct) {
      Joined asked = Asking.withUnshownAsked(block);
      if (known.isDetermined(asked, shown)) {
        distinct = false;
        rows = asked;
      }
    }
    return new Shape.Block(
        rows,
        grouped,
        plainGroups ? List.of() : block.groups(),
        block.having(),
        distinct,
        block.outputs());
  }
}
