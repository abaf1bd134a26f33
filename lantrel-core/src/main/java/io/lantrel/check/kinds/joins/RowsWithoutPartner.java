package io.lantrel.check.kinds.joins;

import io.lantrel.catalog.Reference;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.engine.NamedRow;
import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Reason;
import io.lantrel.probe.ReasonWords;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Unmatched;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * An inner join that loses rows. A warning if rows are lost that should have a partner: their
 * reference is empty, leads to nothing, or was filled by an outer join before. A parent without
 * children, and a row of the newly joined side, are worth a note. Rows that WHERE drops anyway do
 * not count, nor do those that a further condition of the join keeps out on purpose.
 */
public final class RowsWithoutPartner implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    Optional<JoinedRows> rows = subject.rows();
    // Within EXISTS a join is a condition, and a recursion ends where no partner is left: there
    // rows are meant to go.
    boolean meant = subject.block().isOnlyAskedForARow() || subject.block().isRecursive();
    if (rows.isEmpty() || meant) {
      return List.of();
    }
    return subject.block().steps().stream()
        .filter(step -> !step.kind().isOuter())
        .filter(step -> isLinked(step) && !isByTotal(step))
        .flatMap(
            step ->
                Stream.of(
                    new Side(step, true, rows.get(), subject).suspicion(),
                    new Side(step, false, rows.get(), subject).suspicion()))
        .flatMap(Optional::stream)
        .toList();
  }

  private static boolean isLinked(JoinStep step) {
    return step.conjuncts().stream()
        .flatMap(each -> each.likeness().stream())
        .anyMatch(each -> !isPairing(each));
  }

  /** Joined to a total, as to the largest of each group: that picks rows. */
  private static boolean isByTotal(JoinStep step) {
    return step.conjuncts().stream()
        .flatMap(each -> each.likeness().stream())
        .flatMap(pair -> Stream.of(pair.left(), pair.right()))
        .anyMatch(RowsWithoutPartner::isTotal);
  }

  private static boolean isTotal(UseColumn column) {
    return column
        .use()
        .query()
        .filter(QueryBlock::isGrouped)
        .map(query -> query.outputs().get(column.position()).value())
        .filter(Aggregates::containsOne)
        .isPresent();
  }

  /** Two rows of one table that share a value: neither is the other's partner by a reference. */
  private static boolean isPairing(Equated equated) {
    return equated.left().use().isOfTable(equated.right().use())
        && equated.left().position() == equated.right().position();
  }

  /** Whether WHERE needs a partner on the other side: then it would drop these rows anyway. */
  private static boolean isDemanded(QueryBlock block, List<TableUse> partners) {
    return block.filters().stream()
        .filter(each -> each.uses().stream().anyMatch(partners::contains))
        .anyMatch(each -> NullRejection.rejects(each.condition(), block, Set.copyOf(partners)));
  }

  /** One side of a step, whose rows may be lost. */
  private static final class Side {
    private final JoinStep step;
    private final boolean left;
    private final Subject subject;
    private final JoinedRows rows;
    private final Unmatched unmatched;
    private final Optional<Reference> reference;
    private final boolean refers;

    Side(JoinStep step, boolean left, JoinedRows rows, Subject subject) {
      this.step = step;
      this.left = left;
      this.subject = subject;
      this.rows = rows;
      this.unmatched =
          left
              ? Unmatched.ofTheLeft(rows, step)
              : step.left().size() == 1
                  ? Unmatched.ofTheRight(rows, step)
                  : Unmatched.emptyOnTheRight(rows, step);
      List<TableUse> side = left ? step.left() : step.right();
      List<Link> links =
          step.conjuncts().stream()
              .flatMap(conjunct -> conjunct.likeness().stream())
              .flatMap(equated -> subject.block().linksAlong(equated).stream())
              .toList();
      this.reference = links.stream().map(Link::reference).findFirst();
      this.refers = links.stream().anyMatch(link -> side.contains(link.from()));
    }

    Optional<Suspicion> suspicion() {
      boolean demanded = isDemanded(subject.block(), left ? beyond() : step.left()) || isChosen();
      if (demanded
          || (!left && !refers)
          || (left && rows.isComplete(step))
          || isATest()
          || (!refers && isAddedUpAside())) {
        return Optional.empty();
      }
      Map<Reason, Question<Long>> counts = new EnumMap<>(Reason.class);
      losses().forEach(reason -> counts.put(reason, unmatched.count(reason, this::otherFilters)));
      return Optional.of(
          new Suspicion(
              Kind.ROWS_WITHOUT_PARTNER,
              step.place(),
              List.of(step.place()),
              List.copyOf(counts.values()),
              answers -> conclude(counts, answers)));
    }

    /** What is joined here, and behind: a condition on that needs a partner here. */
    private List<TableUse> beyond() {
      List<TableUse> beyond = new ArrayList<>(step.right());
      for (JoinStep later : subject.block().steps()) {
        if (later.number() > step.number() && !later.kind().isOuter()) {
          beyond.addAll(later.right());
        }
      }
      return beyond;
    }

    /**
     * A parent joined to its children: a list of children leaves out who has none, and so does one
     * who only asks whether there is a child, or for those with a number of them. Where children
     * are counted for each parent, those with 0 are missing.
     */
    private boolean isATest() {
      QueryBlock block = subject.block();
      boolean counts =
          !block.groupedBy().isEmpty()
              && (block.select().having() == null
                  ? block.outputs().stream().anyMatch(each -> Aggregates.containsOne(each.value()))
                  : asksForFew(block.select().having()));
      return !refersFromTheLeft() && (!counts || isOnTheWay());
    }

    /** Whether it keeps groups of a few, or of little: to have none is to have a few. */
    private static boolean asksForFew(Expression having) {
      return having instanceof Comparison comparison
          && (isFew(comparison.left(), comparison.operator(), comparison.right())
              || isFew(comparison.right(), comparison.operator().turned(), comparison.left()));
    }

    private static boolean isFew(Expression total, ComparisonOperator operator, Expression number) {
      boolean counted =
          number instanceof Literal literal
              && literal.text().matches("[0-9]+")
              && !(operator == ComparisonOperator.LESS && literal.text().matches("0+"));
      return total instanceof FunctionCall call
          && operator.isBelow()
          && (call.key().equals("count") ? counted : call.key().equals("sum"));
    }

    /** The condition of HAVING that keeps groups of a few. */
    private Optional<String> few() {
      return Optional.ofNullable(subject.block().select().having())
          .filter(Side::asksForFew)
          .filter(having -> Aggregates.in(having).allMatch(this::countsPartners))
          .map(subject::text);
    }

    private boolean countsPartners(FunctionCall call) {
      Set<TableUse> counted = subject.block().mentioned(call);
      return call.key().equals("count")
          && (call.star() || counted.stream().anyMatch(step.right()::contains));
    }

    /** A row that is filled in is none: what is counted is a column that each partner has. */
    private List<Edit> partnersCounted() {
      Optional<UseColumn> partner =
          step.right().stream().flatMap(use -> step.nullIfMissing(use).stream()).findFirst();
      return subject.nodes(FunctionCall.class).stream()
          .filter(call -> call.star() && call.over() == null)
          .map(call -> new LexedText(subject.source(), call.span(), subject.block().dialect()))
          .flatMap(text -> text.first("*").stream())
          .flatMap(star -> partner.map(column -> new Edit(star, column.written())).stream())
          .toList();
    }

    /** Whether nothing is grouped by the parents or reckoned of them: they only lead further. */
    private boolean isOnTheWay() {
      QueryBlock block = subject.block();
      Set<TableUse> parents =
          step.conjuncts().stream()
              .flatMap(each -> each.likeness().stream())
              .flatMap(pair -> Stream.of(pair.left().use(), pair.right().use()))
              .filter(use -> (left ? step.left() : step.right()).contains(use))
              .collect(Collectors.toSet());
      return Stream.concat(
              block.groupedBy().stream(),
              block.outputs().stream().flatMap(each -> Aggregates.in(each.value())))
          .flatMap(each -> block.mentioned(each).stream())
          .noneMatch(parents::contains);
    }

    /**
     * Totals of the partners, which an outer join adds to rows of another query: a group that lacks
     * them is there all the same, without a total.
     */
    private boolean isAddedUpAside() {
      QueryBlock block = subject.block();
      List<TableUse> partners = left ? step.right() : step.left();
      List<FunctionCall> totals =
          block.outputs().stream().flatMap(each -> Aggregates.in(each.value())).toList();
      List<QueryBlock> all = subject.resolution().blocks();
      return block.isGrouped()
          && !totals.isEmpty()
          && totals.stream()
              .allMatch(each -> block.mentioned(each).stream().anyMatch(partners::contains))
          && all.stream().anyMatch(outer -> usesOf(block, outer).findAny().isPresent())
          && all.stream()
              .allMatch(
                  outer ->
                      usesOf(block, outer).noneMatch(use -> outer.stepsThatFill(use).isEmpty()));
    }

    private static Stream<TableUse> usesOf(QueryBlock query, QueryBlock outer) {
      return outer.uses().stream().filter(use -> use.query().filter(query::equals).isPresent());
    }

    /**
     * A further condition on the partners alone, in the join or in the query in FROM that they are
     * of: only some rows are asked for.
     */
    private boolean isChosen() {
      List<TableUse> partners = left ? step.right() : step.left();
      boolean within =
          partners.stream()
              .allMatch(
                  use ->
                      use.query()
                          .filter(query -> !query.isGrouped() && !query.filters().isEmpty())
                          .isPresent());
      return within
          || step.conjuncts().stream()
              .filter(each -> each.likeness().isEmpty())
              .anyMatch(each -> !each.uses().isEmpty() && partners.containsAll(each.uses()));
    }

    /** By a reference, or as if by one that is not declared: what is joined is found by its key. */
    private boolean refersFromTheLeft() {
      return subject.block().partnersOnTheRight(step).isSingle()
          || isByRange()
          || step.conjuncts().stream()
              .flatMap(conjunct -> conjunct.likeness().stream())
              .flatMap(equated -> subject.block().linksAlong(equated).stream())
              .anyMatch(link -> step.left().contains(link.from()));
    }

    /** Whether all of a key is compared, as the kind of a fee and the day that it is valid from. */
    private boolean isByRange() {
      QueryBlock block = subject.block();
      Set<UseColumn> compared = new HashSet<>();
      step.conjuncts().stream()
          .filter(each -> each.uses().size() > 1)
          .forEach(each -> compared.addAll(block.columnsIn(each.condition())));
      return step.right().size() == 1
          && step.right().get(0).keys().stream()
              .filter(key -> key.columns().size() > 1)
              .anyMatch(
                  key ->
                      key.columns().stream()
                          .flatMap(name -> step.right().get(0).column(name).stream())
                          .allMatch(compared::contains));
    }

    /** Some of the rows that are lost, those of each reason. */
    private List<Question<List<NamedRow>>> names(Collection<Reason> reasons) {
      List<Question<List<NamedRow>>> names = new ArrayList<>();
      reasons.forEach(reason -> names.add(unmatched.names(reason, this::otherFilters, SHOWN)));
      return names;
    }

    /**
     * A row of the joined side whose partner was lost at an earlier step is not told again: what
     * happened to the partner is.
     */
    private List<Reason> losses() {
      boolean first = step.left().size() == 1;
      return unmatched.reasons().stream()
          .filter(reason -> reason != Reason.FURTHER_CONDITION)
          .filter(reason -> left || first || reason == Reason.EMPTY_REFERENCE)
          .toList();
    }

    /** The conditions of WHERE that only concern this side. */
    private Expression otherFilters(Relation relation) {
      List<TableUse> side = left ? step.left() : step.right();
      return rows.holdsOfFilters(relation, side);
    }

    private Optional<Conclusion> conclude(Map<Reason, Question<Long>> counts, Answers answers) {
      Map<String, Long> figures = new LinkedHashMap<>();
      List<Reason> having = new ArrayList<>();
      long lost = 0;
      for (Map.Entry<Reason, Question<Long>> each : counts.entrySet()) {
        long count = answers.to(each.getValue());
        if (count > 0) {
          lost += count;
          having.add(each.getKey());
          figures.put(words(each.getKey(), count), count);
        }
      }
      if (lost == 0) {
        return Optional.empty();
      }
      boolean belongs = !having.equals(List.of(Reason.EMPTY_REFERENCE)) || !isOfGroupsBeyond();
      Optional<String> few = left && !refers ? few() : Optional.empty();
      Severity severity =
          few.isPresent() || (left && refers && belongs) ? Severity.WARNING : Severity.NOTE;
      String row = unmatched.subject().rowWord();
      String message =
          "This "
              + sign()
              + " loses "
              + (left && isRepeatedBefore() ? Words.rows(lost) : Words.count(lost, row))
              + ": "
              + reasons(figures)
              + few.map(each -> ", and to have none meets " + each + " too").orElse("")
              + "."
              + (left ? " Write LEFT JOIN to keep " + (lost == 1 ? "it" : "them") + "." : "");
      List<String> facts =
          reference.map(each -> "the schema has " + each.words()).stream().toList();
      List<Question<List<NamedRow>>> names = names(having);
      return Optional.of(
          new Conclusion(
              severity,
              message,
              List.copyOf(names),
              named -> new Evidence(figures, shown(names, named), facts),
              left ? repairs() : List.of()));
    }

    /** Whether the groups are of the partners alone: what belongs to none of them has no group. */
    private boolean isOfGroupsBeyond() {
      List<TableUse> partners = beyond();
      List<Expression> grouping = subject.block().groupedBy();
      return !grouping.isEmpty()
          && grouping.stream()
              .map(subject.block()::mentioned)
              .allMatch(uses -> !uses.isEmpty() && partners.containsAll(uses));
    }

    /** Whether a join before this one may have repeated the rows that are lost. */
    private boolean isRepeatedBefore() {
      QueryBlock block = subject.block();
      TableUse use = unmatched.subject();
      return block.steps().stream()
          .takeWhile(each -> !each.equals(step))
          .anyMatch(
              each ->
                  (each.left().contains(use) && !block.partnersOnTheRight(each).isSingle())
                      || (each.right().contains(use) && !block.partnersOnTheLeft(each).isSingle()));
    }

    private static List<NamedRow> shown(List<Question<List<NamedRow>>> names, Answers answers) {
      Map<String, NamedRow> shown = new LinkedHashMap<>();
      names.stream()
          .flatMap(each -> answers.to(each).stream())
          .forEach(row -> shown.putIfAbsent(row.words(), row));
      return shown.values().stream().limit(SHOWN).toList();
    }

    /** With several reasons, each says how many rows it is about. */
    private static String reasons(Map<String, Long> figures) {
      return figures.size() == 1
          ? figures.keySet().iterator().next()
          : Words.list(
              figures.entrySet().stream()
                  .map(each -> "for " + each.getValue() + ", " + each.getKey())
                  .toList());
    }

    private String sign() {
      return step.kind() == JoinKind.COMMA ? "comma join" : step.kind().words();
    }

    private String words(Reason reason, long rows) {
      boolean top =
          reason == Reason.EMPTY_REFERENCE
              && refers
              && reference.filter(Reference::isSelfReference).isPresent();
      return new ReasonWords(subject.block(), step, left).of(reason, rows)
          + (top ? " (the top of the hierarchy)" : "");
    }

    /** Once one link is optional, every link behind it has to be that would drop the row. */
    private List<List<Edit>> repairs() {
      if (step.kind() != JoinKind.INNER) {
        return List.of();
      }
      QueryBlock block = subject.block();
      QueryEdits edits = subject.edits();
      List<Edit> chainOfEdits = new ArrayList<>();
      Set<TableUse> optional = new HashSet<>(step.right());
      chainOfEdits.add(edits.kind(step, JoinKind.LEFT));
      for (JoinStep later : block.steps()) {
        boolean drops =
            later.number() > step.number()
                && later.kind() == JoinKind.INNER
                && later.conjuncts().stream()
                    .anyMatch(each -> NullRejection.rejects(each.condition(), block, optional));
        if (drops) {
          chainOfEdits.add(edits.kind(later, JoinKind.LEFT));
          optional.addAll(later.right());
        }
      }
      if (!refers && few().isPresent()) {
        chainOfEdits.addAll(partnersCounted());
      }
      return List.of(chainOfEdits);
    }
  }
}
