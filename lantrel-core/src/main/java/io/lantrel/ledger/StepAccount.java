package io.lantrel.ledger;

import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.NamedRow;
import io.lantrel.probe.Question;
import io.lantrel.probe.ReasonWords;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.probe.Unmatched;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Expression;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
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
  private final int examples;

  private final Question<Long> askedRight;
  private @Nullable Question<Long> askedAlone;
  private @Nullable Question<Long> askedPairs;
  private @Nullable Question<Long> askedMet;
  private @Nullable Question<Long> askedSeveral;
  private @Nullable Question<List<NamedRow>> askedRepeated;
  private @Nullable Question<Long> askedRightAlone;
  private @Nullable SideAccount left;
  private @Nullable SideAccount right;

  private long before;
  private long alone;
  private long pairs;
  private long rightRows;
  private long rightAlone;
  private long several;

  StepAccount(JoinedRows rows, JoinStep step, int examples) {
    this.rows = rows;
    this.block = rows.block();
    this.step = step;
    this.examples = examples;
    this.askedRight = Question.count(rows.side(step.join().right()));
  }

  JoinStep step() {
    return step;
  }

  /** Every row meets every row: that is reckoned, not counted. */
  private boolean isProduct() {
    return step.conjuncts().isEmpty();
  }

  // ---- first round: who has partners ----

  List<Question<?>> first() {
    List<Question<?>> questions = new ArrayList<>(List.of(askedRight));
    if (!isProduct()) {
      SideAccount side = new SideAccount(Unmatched.ofTheLeft(rows, step), words(true), examples);
      left = side;
      askedAlone = side.total();
      questions.add(askedAlone);
      if (side.isEasilyTold()) {
        questions.addAll(side.figures());
      }
      if (rows.isFirst(step)) {
        askedPairs = Question.count(rows.attempts(step), Sql.not(rows.isAlone(step)));
        questions.add(askedPairs);
      }
      if (step.kind().keepsRight()) {
        questions.add(askRight(Unmatched.ofTheRight(rows, step)));
      } else if (countsKeysMet()) {
        askedMet = keysMet();
        questions.add(askedMet);
      }
    }
    return questions;
  }

  private ReasonWords words(boolean ofLeft) {
    return new ReasonWords(block, step, ofLeft);
  }

  /** In a long chain, looking at all earlier joins again for every step would be too dear. */
  private boolean countsKeysMet() {
    return rows.keyOfPartner(step).isPresent();
  }

  private Question<Long> keysMet() {
    Expression key = rows.keyOfPartner(step).orElseThrow();
    Expression there = Sql.choose(rows.reached(step), key, Sql.nothing());
    return Question.figures(
        rows.attempts(step), List.of(Sql.countDistinct(there)), answer -> answer.figure(0));
  }

  /** The one table use on the left that the step mentions. */
  private Optional<TableUse> onlyPartner() {
    Set<TableUse> uses = new HashSet<>();
    step.conjuncts().forEach(each -> uses.addAll(each.uses()));
    step.right().forEach(uses::remove);
    return uses.size() == 1 ? uses.stream().findFirst() : Optional.empty();
  }

  private boolean isFirstOfAll(TableUse use) {
    return step.left().get(0) == use;
  }

  /**
   * @param coming the rows that come in
   */
  void readFirst(Answers answers, long coming) {
    before = coming;
    rightRows = answers.to(askedRight);
    alone = askedAlone == null ? (rightRows == 0 ? before : 0) : answers.to(askedAlone);
    if (isProduct()) {
      pairs = multiplied(before, rightRows);
    } else {
      pairs = askedPairs == null ? before - alone : answers.to(askedPairs);
    }
    if (left != null && left.isEasilyTold()) {
      left.read(answers, alone);
    }
    if (alone == 0) {
      rows.knowComplete(step);
    }
    if (askedRightAlone != null) {
      rightAlone = answers.to(askedRightAlone);
    } else if (askedMet != null) {
      rightAlone = rightRows - answers.to(askedMet);
    } else if (isProduct()) {
      rightAlone = before == 0 ? rightRows : 0;
    }
  }

  private static long multiplied(long one, long other) {
    try {
      return Math.multiplyExact(one, other);
    } catch (ArithmeticException tooMany) {
      return Long.MAX_VALUE;
    }
  }

  long after() {
    return pairs
        + (step.kind().keepsLeft() ? alone : 0)
        + (step.kind().keepsRight() ? rightAlone : 0);
  }

  // ---- second round: the other side, and the reasons ----

  /**
   * @param intact whether no row of the first table was lost before
   */
  List<Question<?>> second(boolean intact) {
    List<Question<?>> questions = new ArrayList<>();
    if (left != null && alone > 0 && !left.isEasilyTold()) {
      questions.addAll(left.figures());
    }
    if (!isProduct() && (askedMet == null || rightAlone > 0)) {
      questions.addAll(secondOfRight(intact));
    }
    if (repeated() > 0 && !isProduct()) {
      questions.addAll(askRepeated());
    }
    return questions;
  }

  /** How many rows of the other side have no partner, if that is not known, and why. */
  private List<Question<?>> secondOfRight(boolean intact) {
    List<Question<?>> questions = new ArrayList<>();
    boolean known = askedMet != null;
    if (right == null) {
      Optional<TableUse> partner = onlyPartner().filter(use -> intact && isFirstOfAll(use));
      Question<Long> total =
          askRight(
              partner
                  .map(use -> Unmatched.ofTheRight(rows, step, use))
                  .orElseGet(() -> Unmatched.ofTheRight(rows, step)));
      if (!known) {
        questions.add(total);
      }
    }
    if (right != null) {
      questions.addAll(right.figures());
    }
    return questions;
  }

  private Question<Long> askRight(Unmatched unmatched) {
    SideAccount side = new SideAccount(unmatched, words(false), examples);
    Question<Long> total = side.total();
    right = side;
    askedRightAlone = total;
    return total;
  }

  private List<Question<?>> askRepeated() {
    JoinedRows.Repeated repeated = rows.repeated(step);
    Question<Long> counted = repeated.count();
    askedSeveral = counted;
    List<Question<?>> questions = new ArrayList<>(List.of(counted));
    if (examples > 0) {
      TableUse subject = Unmatched.ofTheLeft(rows, step).subject();
      askedRepeated = RowNames.repeated(rows, repeated, subject, examples);
      questions.add(askedRepeated);
    }
    return questions;
  }

  void readSecond(Answers answers) {
    if (left != null && alone > 0 && !left.isEasilyTold()) {
      left.read(answers, alone);
    }
    if (right != null) {
      if (askedMet == null && !step.kind().keepsRight() && askedRightAlone != null) {
        rightAlone = answers.to(askedRightAlone);
      }
      right.read(answers, rightAlone);
    }
    if (askedSeveral != null) {
      several = answers.to(askedSeveral);
    }
  }

  // ---- third round: names ----

  List<Question<?>> third() {
    List<Question<?>> questions = new ArrayList<>();
    if (left != null) {
      questions.addAll(left.names());
    }
    if (right != null) {
      questions.addAll(right.names());
    }
    return questions;
  }

  long before() {
    return before;
  }

  long dropped() {
    return step.kind().keepsLeft() ? 0 : alone;
  }

  private long repeated() {
    return pairs - (before - alone);
  }

  Entry entry(Answers second, Answers third) {
    Figure onLeft = step.kind().keepsLeft() ? Figure.FILLED : Figure.DROPPED;
    Figure onRight = step.kind().keepsRight() ? Figure.ADDED : Figure.UNUSED;
    List<Change> changes = new ArrayList<>();
    changes.add(new Change(onLeft, alone, left == null ? List.of() : left.causes(third)));
    changes.add(new Change(Figure.REPEATED, repeated(), severalPartners(second)));
    changes.add(new Change(onRight, rightAlone, right == null ? List.of() : right.causes(third)));
    return new Entry(
        Entry.Kind.JOIN,
        step.words(),
        step.place(),
        before,
        changes,
        after(),
        block.partnersOnTheRight(step).words());
  }

  private List<Cause> severalPartners(Answers second) {
    if (repeated() == 0) {
      return List.of();
    }
    long rowsRepeated = isProduct() ? before : several;
    List<NamedRow> named = askedRepeated == null ? List.of() : second.to(askedRepeated);
    String reason =
        (rowsRepeated == 1
                ? "1 row has several partners"
                : rowsRepeated + " rows have several partners")
            + (rowsRepeated > named.size() && !named.isEmpty() ? ", among them" : "");
    return List.of(new Cause(reason, repeated(), named));
  }
}
