package io.lantrel.ledger.account;

import io.lantrel.engine.NamedRow;
import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Naming;
import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.ReasonWords;
import io.lantrel.probe.Relation;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.probe.Unmatched;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What is asked about one join step, round by round: who has partners; what is missing of the other
 * side, and why; the names of some rows, where there are any.
 */
final class StepAccount {

  private final JoinedRows rows;
  private final QueryBlock block;
  private final JoinStep step;
  private final Naming naming;
  private final boolean looksRight;
  private final @Nullable Question<Long> askedRight;
  private final @Nullable PartnerCount partners;
  private final @Nullable SideAccount left;
  private @Nullable SideAccount right;
  private @Nullable Question<Long> askedRightAlone;
  private @Nullable Question<Long> askedMet;
  private @Nullable Question<Long> askedSeveral;
  private @Nullable Question<List<NamedRow>> askedRepeated;

  private long before;
  private long alone;
  private long pairs;
  private long rightRows;
  private long rightAlone;
  private OptionalLong several = OptionalLong.empty();
  private boolean firstIntact;
  private boolean askedThird;

  /**
   * No row comes this far: of the other side none is met, which says nothing of any of its rows.
   * They are named only to who asks for them.
   */
  private boolean outOfReach;

  StepAccount(JoinedRows rows, JoinStep step, Naming naming) {
    this(rows, step, naming, true);
  }

  /** What becomes of the rows so far, without a look at what no row of the other side becomes. */
  static StepAccount ofTheLeft(JoinedRows rows, JoinStep step, Naming naming) {
    return new StepAccount(rows, step, naming, false);
  }

  private StepAccount(JoinedRows rows, JoinStep step, Naming naming, boolean looksRight) {
    this.rows = rows;
    this.looksRight = looksRight;
    this.block = rows.block();
    this.step = step;
    this.naming = naming;
    this.askedRight =
        isDependent() || !(looksRight || isProduct())
            ? null
            : Question.count(rows.side(step.join().right()));
    this.partners = isProduct() ? null : new PartnerCount(rows, step);
    this.left =
        partners == null || partners.isOfAll()
            ? null
            : new SideAccount(
                Unmatched.ofTheLeft(rows, step),
                words(true),
                most(onLeft()),
                !partners.looksAtAll());
    if (step.kind().keepsRight() && !isProduct()) {
      lookAtRight(Unmatched.ofTheRight(rows, step));
    }
  }

  JoinStep step() {
    return step;
  }

  /** Every row meets every row: that is reckoned, not counted. */
  private boolean isProduct() {
    return step.conjuncts().isEmpty() && !isDependent();
  }

  /** Whether the right side has no rows but those that each row on the left makes. */
  private boolean isDependent() {
    return step.right().stream().anyMatch(TableUse::isDependent);
  }

  private Figure onLeft() {
    return step.kind().keepsLeft() ? Figure.FILLED : Figure.DROPPED;
  }

  private Figure onRight() {
    return step.kind().keepsRight() ? Figure.ADDED : Figure.UNUSED;
  }

  /** How many rows are named; the first table is step 1. */
  private int most(Figure figure) {
    return naming.most(figure, step.number() + 1);
  }

  private ReasonWords words(boolean ofLeft) {
    return new ReasonWords(block, step, ofLeft);
  }

  private void lookAtRight(Unmatched unmatched) {
    right = new SideAccount(unmatched, words(false), most(onRight()), true);
    askedRightAlone = right.total();
  }

  // ---- first round: who has partners ----

  List<Question<?>> first() {
    List<Question<?>> questions = new ArrayList<>();
    add(questions, askedRight);
    if (partners != null) {
      questions.addAll(partners.questions());
    }
    add(questions, askedRightAlone);
    if (left != null && left.isEasilyTold()) {
      questions.addAll(left.figures());
    }
    return questions;
  }

  private static void add(List<Question<?>> questions, @Nullable Question<?> question) {
    if (question != null) {
      questions.add(question);
    }
  }

  /**
   * @param coming the rows that come in
   */
  void readFirst(Answers answers, long coming) {
    before = coming;
    outOfReach = coming == 0 && right == null && naming.figure() == null;
    rightRows = askedRight == null ? 0 : answers.to(askedRight);
    if (partners == null) {
      alone = rightRows == 0 ? before : 0;
      pairs = multiplied(before, rightRows);
      rightAlone = before == 0 ? rightRows : 0;
      return;
    }
    PartnerCount.Counted counted = partners.read(answers, before);
    alone = counted.alone();
    pairs = counted.pairs();
    several = counted.several();
    rightAlone = askedRightAlone == null ? 0 : answers.to(askedRightAlone);
    if (left != null && left.isEasilyTold()) {
      left.read(answers, alone);
    }
    if (alone == 0) {
      rows.knowComplete(step);
    }
  }

  private static long multiplied(long one, long other) {
    try {
      return Math.multiplyExact(one, other);
    } catch (ArithmeticException tooMany) {
      return Long.MAX_VALUE;
    }
  }

  // ---- second round: the other side, and the reasons ----

  /**
   * @param intact whether no row of the first table was lost before
   */
  List<Question<?>> second(boolean intact) {
    List<Question<?>> questions = new ArrayList<>();
    if (isProduct()) {
      return questions;
    }
    firstIntact = intact;
    if (left != null && alone > 0 && !left.isEasilyTold()) {
      questions.addAll(left.figures());
    }
    if (right == null && looksRight && !isDependent() && !outOfReach && isPairedOnce()) {
      rightAlone = rightRows - pairs;
    } else if (right == null && looksRight && !isDependent() && !outOfReach) {
      askedMet = keysMet().orElse(null);
      if (askedMet == null) {
        lookAtRight(unmatchedOnTheRight());
      }
      add(questions, askedMet == null ? askedRightAlone : askedMet);
    }
    if (right != null) {
      questions.addAll(right.figures());
    }
    if (repeated() > 0) {
      JoinedRows.Repeated repeated = rows.repeated(step);
      if (several.isEmpty()) {
        askedSeveral = repeated.count();
        questions.add(askedSeveral);
      }
      if (most(Figure.REPEATED) > 0) {
        TableUse subject = Unmatched.ofTheLeft(rows, step).subject();
        askedRepeated = RowNames.repeated(rows, repeated, subject, most(Figure.REPEATED));
        questions.add(askedRepeated);
      }
    }
    return questions;
  }

  /** Whether a row of the other side is in one pair at most: then as many have a partner. */
  private boolean isPairedOnce() {
    return block.partnersOnTheLeft(step).isSingle()
        && step.left().size() == 1
        && rows.haveKeys(step);
  }

  /**
   * How many rows of the other side have a partner, by their key: the values that refer to it, if
   * all of these are there, else the keys that were found. To look for each key in all earlier
   * joins would be dearer.
   */
  private Optional<Question<Long>> keysMet() {
    Optional<UseColumn> referring =
        rows.referringColumn(step).filter(column -> left == null || left.allAreEmpty(alone));
    Optional<TableUse> first = Optional.of(step.left().get(0)).filter(use -> firstIntact);
    if (referring.isPresent() && referring.map(UseColumn::use).equals(first)) {
      Relation all = rows.side(first.get().item());
      return Optional.of(different(all, rows.column(all, referring.get())));
    }
    return referring
        .map(column -> rows.column(rows.attempts(step), column))
        .or(() -> rows.keyOfPartner(step))
        .map(key -> Sql.choose(rows.reached(step), key, Sql.nothing()))
        .map(key -> different(rows.attempts(step), key));
  }

  private static Question<Long> different(Relation relation, Expression value) {
    return Question.figures(
        relation, List.of(Sql.countDistinct(value)), answer -> answer.figure(0));
  }

  private Unmatched unmatchedOnTheRight() {
    return onlyPartner()
        .filter(use -> firstIntact && step.left().get(0).equals(use))
        .map(use -> Unmatched.ofTheRight(rows, step, use))
        .orElseGet(() -> Unmatched.ofTheRight(rows, step));
  }

  /** The one table use on the left that the step mentions. */
  private Optional<TableUse> onlyPartner() {
    Set<TableUse> uses = new HashSet<>();
    step.conjuncts().forEach(each -> uses.addAll(each.uses()));
    step.right().forEach(uses::remove);
    return uses.size() == 1 ? uses.stream().findFirst() : Optional.empty();
  }

  void readSecond(Answers answers) {
    if (left != null && alone > 0 && !left.isEasilyTold()) {
      left.read(answers, alone);
    }
    if (outOfReach) {
      rightAlone = rightRows;
    } else if (askedMet != null) {
      rightAlone = rightRows - answers.to(askedMet);
    } else if (right != null && askedRightAlone != null) {
      rightAlone = step.kind().keepsRight() ? rightAlone : answers.to(askedRightAlone);
      right.read(answers, rightAlone);
    }
    if (askedSeveral != null) {
      several = OptionalLong.of(answers.to(askedSeveral));
    }
  }

  // ---- third round: why rows of the other side were not met, if only now it is known ----

  List<Question<?>> third() {
    List<Question<?>> questions = new ArrayList<>();
    if (right == null && looksRight && rightAlone > 0 && !outOfReach && !isProduct()) {
      lookAtRight(unmatchedOnTheRight());
      if (right != null) {
        questions.addAll(right.figures());
        askedThird = true;
      }
    }
    return questions;
  }

  void readThird(Answers answers) {
    if (right != null && askedThird) {
      right.read(answers, rightAlone);
    }
  }

  // ---- fourth round: names ----

  List<Question<?>> names() {
    List<Question<?>> questions = new ArrayList<>();
    if (left != null) {
      questions.addAll(left.names());
    }
    if (right != null) {
      questions.addAll(right.names());
    }
    return questions;
  }

  // ---- the account ----

  long after() {
    return pairs
        + (step.kind().keepsLeft() ? alone : 0)
        + (step.kind().keepsRight() ? rightAlone : 0);
  }

  long dropped() {
    return step.kind().keepsLeft() ? 0 : alone;
  }

  private long repeated() {
    return pairs - (before - alone);
  }

  Entry entry(Answers second, Answers names) {
    List<Change> changes = new ArrayList<>();
    changes.add(new Change(onLeft(), alone, left == null ? emptyRight() : left.causes(names)));
    changes.add(new Change(Figure.REPEATED, repeated(), severalPartners(second)));
    if (looksRight) {
      changes.add(
          new Change(onRight(), rightAlone, right == null ? notReached() : right.causes(names)));
    }
    return new Entry(
        Entry.Kind.JOIN,
        step.words(),
        step.place(),
        before,
        changes,
        after(),
        block.partnersOnTheRight(step).words(),
        new Entry.Partners(
            String.join(", ", step.right().stream().map(TableUse::words).toList()),
            new Entry.Share(before - alone, before),
            isDependent() || !looksRight
                ? null
                : new Entry.Share(rightRows - rightAlone, rightRows)));
  }

  private List<Cause> notReached() {
    return rightAlone == 0
        ? List.of()
        : List.of(new Cause("no row comes this far", rightAlone, List.of()));
  }

  /** Every row meets every row: then one is alone only if there is none. */
  private List<Cause> emptyRight() {
    String joined = String.join(", ", step.right().stream().map(TableUse::words).toList());
    return alone == 0 ? List.of() : List.of(new Cause(joined + " has no row", alone, List.of()));
  }

  private List<Cause> severalPartners(Answers second) {
    if (repeated() == 0) {
      return List.of();
    }
    long count = isProduct() ? before : several.orElse(0);
    List<NamedRow> named = askedRepeated == null ? List.of() : second.to(askedRepeated);
    String rowsHave = count == 1 ? "1 row has" : count + " rows have";
    String reason =
        // Of a part of the rows the number says nothing.
        (looksRight ? rowsHave + " several partners" : "rows have several partners")
            + (count > named.size() && !named.isEmpty() ? ", among them" : "");
    return List.of(new Cause(reason, repeated(), named));
  }
}
