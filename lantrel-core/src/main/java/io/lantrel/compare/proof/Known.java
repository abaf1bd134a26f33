package io.lantrel.compare.proof;

import io.lantrel.catalog.Constraint;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.compare.proof.Joined.Branch;
import io.lantrel.compare.proof.Joined.Member;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;

/** What keys and NOT NULL tell of joined rows; it notes the constraints that it relied on. */
final class Known {

  private final Set<Constraint> used;

  /**
   * @param used takes the constraints that are relied on
   */
  Known(Set<Constraint> used) {
    this.used = used;
  }

  /**
   * Whether a column of a member is never NULL, by its table or since a condition needs a value.
   */
  boolean isNeverNull(Term column, Joined rows) {
    if (!column.isColumn()) {
      return false;
    }
    boolean needed =
        rows.conditions.stream()
            .filter(term -> !term.is(Term.IS_NOT_NULL))
            .anyMatch(term -> Nulls.rejects(term, column::isSame));
    return needed || isDeclaredNotNull(column, rows);
  }

  /** Whether a column is never NULL in the rows that meet all conditions. */
  boolean isGiven(Term column, Joined rows) {
    return rows.conditions.stream()
            .anyMatch(term -> term.is(Term.IS_NOT_NULL) && term.parts().get(0).isSame(column))
        || isNeverNull(column, rows);
  }

  private boolean isDeclaredNotNull(Term column, Joined rows) {
    Optional<Table> table = member(rows, column.use()).flatMap(Member::ifTable);
    if (table.isEmpty() || table.get().columns().get(column.position()).nullable()) {
      return false;
    }
    used.add(Constraint.notNull(table.get(), table.get().columns().get(column.position()).name()));
    return true;
  }

  private static Optional<Member> member(Joined rows, int use) {
    return rows.members.stream().filter(member -> member.id() == use).findFirst();
  }

  /**
   * Whether no two rows agree in the known columns: the row of each table is found by a key.
   *
   * @param known columns of these rows whose values are given; those of other tables always are
   */
  boolean isDetermined(Joined rows, Predicate<Term> known) {
    Set<Constraint> needed = new LinkedHashSet<>();
    Set<Integer> open = rows.uses();
    boolean found = true;
    while (found && !open.isEmpty()) {
      found = false;
      for (Member member : rows.members) {
        if (open.contains(member.id()) && isFound(member, rows.conditions, known, open, needed)) {
          open.remove(member.id());
          found = true;
        }
      }
      for (Branch branch : rows.branches) {
        for (Member member : branch.rows().members) {
          List<Term> conditions = new ArrayList<>(branch.conditions());
          conditions.addAll(branch.rows().conditions);
          if (open.contains(member.id())
              && branch.rows().branches.isEmpty()
              && isFound(member, conditions, known, open, needed)) {
            open.remove(member.id());
            found = true;
          }
        }
      }
    }
    if (open.isEmpty()) {
      used.addAll(needed);
    }
    return open.isEmpty();
  }

  private boolean isFound(
      Member member,
      List<Term> conditions,
      Predicate<Term> known,
      Set<Integer> open,
      Set<Constraint> needed) {
    Optional<Table> table = member.ifTable();
    if (table.isEmpty()) {
      return false;
    }
    for (Key key : table.get().keys()) {
      boolean all = !key.columns().isEmpty();
      List<Constraint> notNull = new ArrayList<>();
      for (String name : key.columns()) {
        int position = position(table.get(), name);
        Term column = Term.column(member.id(), position, true);
        boolean given = known.test(column) && !table.get().columns().get(position).nullable();
        if (given) {
          notNull.add(Constraint.notNull(table.get(), name));
        }
        all &= given || isEquated(column, conditions, known, open);
      }
      if (all) {
        needed.add(Constraint.key(table.get(), key.columns()));
        needed.addAll(notNull);
        return true;
      }
    }
    return false;
  }

  private static boolean isEquated(
      Term column, List<Term> conditions, Predicate<Term> known, Set<Integer> open) {
    for (Term term : conditions) {
      if (term.is(Term.EQUAL)) {
        for (int i = 0; i < 2; i++) {
          Term other = term.parts().get(1 - i);
          boolean given =
              other.query() == null
                  && other
                      .columns()
                      .allMatch(each -> !open.contains(each.use()) || known.test(each));
          if (term.parts().get(i).isSame(column) && given) {
            return true;
          }
        }
      }
    }
    return false;
  }

  static int position(Table table, String name) {
    List<String> names = table.columns().stream().map(each -> each.name()).toList();
    return names.indexOf(name);
  }
}
