package io.lantrel.compare.proof;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.compare.proof.Joined.Branch;
import io.lantrel.compare.proof.Joined.Member;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * Brings a shape into its normal form. Every rule keeps the rows for all data that keep the
 * constraints, which are noted as they are used (C. Galindo-Legaria and A. Rosenthal, Outerjoin
 * simplification and reordering for query optimization, 1997, for what outer joins allow).
 */
final class Rules {

  private static final int ROUNDS = 50;

  private final Catalog catalog;
  private final Set<Constraint> used;

  /**
   * @param used takes the constraints that are relied on
   */
  Rules(Catalog catalog, Set<Constraint> used) {
    this.catalog = catalog;
    this.used = used;
  }

  Shape normal(Shape shape) {
    return normal(shape, false);
  }

  /**
   * @param asSet whether it does not matter how often a row comes
   */
  private Shape normal(Shape shape, boolean asSet) {
    if (shape instanceof Shape.Together together) {
      boolean sets = !together.operation().endsWith("ALL");
      return new Shape.Together(
          together.operation(),
          together.symmetric(),
          together.parts().stream().map(part -> normal(part, asSet || sets)).toList());
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
    innerFromOuter(rows, List.of());
    missing(rows, block.made().toList());
    openExists(rows, block.grouped() || often);
    block = openValues(block);
    block = withoutNeedlessTables(block, block.grouped() || often);
    block = counting(block);
    block = havingAsWhere(block);
    return distinct(block, asSet);
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
      return normal(
          new Shape.Block(block.rows(), false, List.of(), List.of(), false, List.of()), true);
    }
    return normal(query, true);
  }

  // ---- conditions ----

  private void simplify(Joined rows) {
    List<Term> all = new ArrayList<>();
    rows.conditions.forEach(
        term -> (term.is(Term.AND) ? term.parts() : List.of(term)).forEach(all::add));
    Set<Integer> own = new HashSet<>();
    rows.members.forEach(member -> own.add(member.id()));
    all.removeIf(term -> isAlwaysTrue(term, rows));
    rows.conditions.clear();
    all.forEach(term -> rows.conditions.add(notIn(term, rows)));
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
    return term.is(Term.IS_NOT_NULL) && isNeverNull(term.parts().get(0), rows);
  }

  /**
   * Whether a column of a member is never NULL, by its table or since a condition needs a value.
   */
  private boolean isNeverNull(Term column, Joined rows) {
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
  private boolean isGiven(Term column, Joined rows) {
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

  /** Where neither side can be NULL, NOT IN is that there is no such row. */
  private Term notIn(Term term, Joined rows) {
    if (!term.is(Term.NOT_IN)
        || !(term.query() instanceof Shape.Block asked)
        || asked.grouped()
        || !isNeverNull(term.parts().get(0), rows)
        || !isGiven(asked.outputs().get(0), asked.rows())) {
      return term;
    }
    Joined inner = asked.rows().withColumns(column -> column);
    inner.conditions.add(Term.of(Term.EQUAL, term.parts().get(0), asked.outputs().get(0)));
    return Term.asking(
        Term.NOT_EXISTS, new Shape.Block(inner, false, List.of(), List.of(), false, List.of()));
  }

  // ---- outer joins ----

  /** A branch whose row is needed by a condition is a member. */
  private void innerFromOuter(Joined rows, List<Term> further) {
    boolean changed = true;
    while (changed) {
      changed = false;
      for (Branch branch : List.copyOf(rows.branches)) {
        Set<Integer> filled = branch.rows().uses();
        Predicate<Term> isFilled = column -> filled.contains(column.use());
        boolean needed =
            Stream.concat(rows.conditions.stream(), further.stream())
                .anyMatch(term -> Nulls.rejects(term, isFilled));
        if (needed) {
          rows.branches.remove(branch);
          rows.members.addAll(branch.rows().members);
          rows.branches.addAll(branch.rows().branches);
          rows.conditions.addAll(branch.rows().conditions);
          rows.conditions.addAll(branch.conditions());
          changed = true;
        }
      }
    }
    for (Branch branch : List.copyOf(rows.branches)) {
      innerFromOuter(branch.rows(), branch.conditions());
      flatten(rows, branch);
    }
  }

  /**
   * A branch of a branch that only needs the latter's members is a branch beside it; and conditions
   * of a branch without branches are all conditions of its join.
   */
  private static void flatten(Joined rows, Branch branch) {
    Joined inner = branch.rows();
    List<Branch> beside = new ArrayList<>();
    Set<Integer> members = new HashSet<>();
    inner.members.forEach(member -> members.add(member.id()));
    for (Branch each : inner.branches) {
      Set<Integer> uses = each.rows().uses();
      boolean needsMembers =
          each.conditions().stream()
              .anyMatch(term -> Nulls.rejects(term, column -> members.contains(column.use())));
      boolean named =
          Stream.of(
                  branch.conditions().stream(),
                  inner.conditions.stream(),
                  inner.branches.stream()
                      .filter(other -> !other.isSame(each))
                      .flatMap(other -> other.conditions().stream()))
              .flatMap(terms -> terms)
              .anyMatch(term -> term.mentions(uses));
      if (needsMembers && !named) {
        beside.add(each);
      }
    }
    List<Term> conditions = new ArrayList<>(branch.conditions());
    inner.branches.removeAll(beside);
    if (inner.branches.isEmpty()) {
      conditions.addAll(inner.conditions);
      inner.conditions.clear();
    }
    rows.branches.remove(branch);
    rows.branches.add(new Branch(inner, conditions));
    rows.branches.addAll(beside);
  }

  // ---- EXISTS and joins ----

  /** Rows that found nothing in a branch are those for which there is no such row. */
  private void missing(Joined rows, List<Term> made) {
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
                      .flatMap(Rules::termsOf))
              .flatMap(terms -> terms)
              .anyMatch(term -> term.mentions(uses));
      Joined found = together(branch);
      if (!mentioned
          && !tests.isEmpty()
          && tests.stream().allMatch(test -> isGiven(test.parts().get(0), found))) {
        rows.branches.remove(branch);
        rows.conditions.removeAll(tests);
        rows.conditions.add(
            Term.asking(
                Term.NOT_EXISTS,
                new Shape.Block(found, false, List.of(), List.of(), false, List.of())));
      }
    }
  }

  /** A query for one value of a row, of which there is one at most, is a branch. */
  private Shape.Block openValues(Shape.Block block) {
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
        && isDetermined(asked.rows(), column -> false)) {
      rows.branches.add(new Branch(asked.rows(), List.of()));
      return asked.outputs().get(0);
    }
    return new Term(
        term.operation(),
        term.parts().stream().map(part -> opened(part, rows)).toList(),
        term.use(),
        term.position(),
        term.query());
  }

  private static Joined together(Branch branch) {
    Joined rows = new Joined();
    rows.members.addAll(branch.rows().members);
    rows.branches.addAll(branch.rows().branches);
    rows.conditions.addAll(branch.rows().conditions);
    rows.conditions.addAll(branch.conditions());
    return rows;
  }

  /** A row that must exist, and of which there is one at most, may as well be joined. */
  private void openExists(Joined rows, boolean often) {
    for (Term term : List.copyOf(rows.conditions)) {
      if (!term.is(Term.EXISTS)
          || !(term.query() instanceof Shape.Block asked)
          || asked.grouped()
          || asked.rows().members.isEmpty()) {
        continue;
      }
      Joined inner = asked.rows();
      if (!often || isDetermined(inner, column -> false)) {
        rows.conditions.remove(term);
        rows.members.addAll(inner.members);
        rows.branches.addAll(inner.branches);
        rows.conditions.addAll(inner.conditions);
      }
    }
  }

  /**
   * Whether no two rows agree in the known columns: the row of each table is found by a key.
   *
   * @param known columns of these rows whose values are given; those of other tables always are
   */
  private boolean isDetermined(Joined rows, Predicate<Term> known) {
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

  private static int position(Table table, String name) {
    List<String> names = table.columns().stream().map(each -> each.name()).toList();
    return names.indexOf(name);
  }

  // ---- tables that are not needed ----

  private Shape.Block withoutNeedlessTables(Shape.Block block, boolean often) {
    Joined rows = block.rows();
    for (Branch branch : List.copyOf(rows.branches)) {
      Set<Integer> uses = branch.rows().uses();
      boolean mentioned =
          Stream.of(
                  block.made(),
                  rows.conditions.stream(),
                  rows.branches.stream()
                      .filter(other -> !other.isSame(branch))
                      .flatMap(other -> termsOf(other)))
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

  private static Stream<Term> termsOf(Branch branch) {
    return Stream.concat(branch.conditions().stream(), branch.rows().terms());
  }

  private boolean isSingle(Branch branch) {
    return isDetermined(together(branch), column -> false);
  }

  /** A table to whose key another one refers, and of which nothing else is used. */
  private Shape.Block withoutReferred(Shape.Block block, Member referred) {
    Joined rows = block.rows();
    for (Member member : rows.members) {
      if (member.id() == referred.id()) {
        continue;
      }
      for (Reference reference : references(member, referred)) {
        List<Term> links = links(reference, member, referred);
        boolean linked =
            links.stream().allMatch(link -> rows.conditions.stream().anyMatch(link::isSame));
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
                  from.id(), position(reference.from(), reference.fromColumns().get(i)), true),
              Term.column(to.id(), position(reference.to(), reference.toColumns().get(i)), true)));
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

  // ---- groups ----

  /** Counting a column that is never NULL is counting rows. */
  private Shape.Block counting(Shape.Block block) {
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
    if (term.is(Term.COUNT) && isNeverNull(term.parts().get(0), rows)) {
      return Term.of(Term.COUNT_ROWS);
    }
    return new Term(
        term.operation(),
        term.parts().stream().map(part -> counted(part, rows)).toList(),
        term.use(),
        term.position(),
        term.query());
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
          && isDetermined(one, each -> others.stream().anyMatch(each::isSame))) {
        groups = others;
      }
    }
    return groups;
  }

  /** What HAVING asks of what is grouped by may be asked of the rows. */
  private static Shape.Block havingAsWhere(Shape.Block block) {
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

  private static boolean hasAggregate(Term term) {
    return AGGREGATES.contains(term.operation())
        || term.parts().stream().anyMatch(Rules::hasAggregate);
  }

  private Shape.Block distinct(Shape.Block block, boolean asSet) {
    boolean plainGroups =
        block.grouped()
            && !block.groups().isEmpty()
            && block.having().isEmpty()
            && block.outputs().stream().noneMatch(Rules::hasAggregate)
            && block.groups().stream()
                .allMatch(group -> block.outputs().stream().anyMatch(group::isSame))
            && block.outputs().stream()
                .allMatch(output -> block.groups().stream().anyMatch(output::isSame));
    boolean grouped = block.grouped() && !plainGroups;
    boolean distinct = (block.distinct() || plainGroups) && !asSet;
    Predicate<Term> shown = column -> block.outputs().stream().anyMatch(column::isSame);
    Joined rows = block.rows();
    if (distinct && grouped) {
      distinct = block.groups().isEmpty() || !block.groups().stream().allMatch(shown);
    } else if (distinct && isDetermined(rows, shown)) {
      distinct = false;
    } else if (distinct) {
      Joined asked = withUnshownAsked(block);
      if (isDetermined(asked, shown)) {
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

  /** The rows with members that nothing is shown of as rows that must exist. */
  private static Joined withUnshownAsked(Shape.Block block) {
    Joined rows = block.rows().withColumns(column -> column);
    Set<Integer> unshown = new HashSet<>();
    for (Member member : rows.members) {
      Set<Integer> own = Set.of(member.id());
      boolean mentioned =
          Stream.concat(block.made(), rows.branches.stream().flatMap(Rules::termsOf))
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
      rows.conditions.add(
          Term.asking(
              Term.EXISTS, new Shape.Block(inner, false, List.of(), List.of(), false, List.of())));
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
