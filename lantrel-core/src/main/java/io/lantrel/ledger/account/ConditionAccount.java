package io.lantrel.ledger.account;

import io.lantrel.engine.NamedRow;
import io.lantrel.ledger.Cause;
import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value.Literal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * One condition of WHERE: how many rows it is the first to drop, and for how many of them it is not
 * false but unknown (ISO/IEC 9075-2, 8.20: WHERE keeps what is true).
 */
final class ConditionAccount {

  private final JoinedRows rows;
  private final Conjunct condition;
  private final TableUse subject;
  private final int examples;
  private final int number;
  private final Optional<Relation> picked;
  private final Question<Long> dropped;
  private @Nullable Question<Long> askedUnknown;
  private @Nullable Question<List<NamedRow>> namesOfFalse;
  private @Nullable Question<List<NamedRow>> namesOfUnknown;
  private long count;
  private long unknown;
  private boolean isSplit;

  /**
   * @param number which of the conditions of WHERE, from 0
   * @param subject by which table use a row is named
   */
  ConditionAccount(JoinedRows rows, int number, TableUse subject, int examples) {
    this.rows = rows;
    this.condition = rows.block().filters().get(number);
    this.subject = subject;
    this.examples = examples;
    this.number = number;
    this.picked = rows.dropped();
    this.dropped = picked.map(Question::count).orElseGet(() -> Question.count(rows.all(), fails()));
  }

  /** What is known of the joins by now makes it shorter. */
  private Expression fails() {
    return Sql.all(List.of(rows.isJoined(), rows.failsFirst(number)));
  }

  /** Where no subquery is looked up for it, what is unknown is counted along with the rest. */
  List<Question<?>> first() {
    if (canBeUnknown() && !hasQuery()) {
      askedUnknown = unknownOnes();
      return List.of(dropped, askedUnknown);
    }
    return List.of(dropped);
  }

  private boolean hasQuery() {
    return condition.condition().preorder().anyMatch(Query.class::isInstance);
  }

  private Question<Long> unknownOnes() {
    return picked
        .map(each -> Question.count(each, isUnknown(each)))
        .orElseGet(
            () -> Question.count(rows.all(), Sql.all(List.of(fails(), isUnknown(rows.all())))));
  }

  long rows() {
    return count;
  }

  void readFirst(Answers first) {
    count = first.to(dropped);
    isSplit = !canBeUnknown();
    if (askedUnknown != null) {
      readUnknown(first, askedUnknown);
    }
  }

  /** Where no value can be NULL there is nothing to tell apart. */
  private boolean canBeUnknown() {
    Expression whole = condition.condition();
    Expression value = whole instanceof Condition.Not not ? not.value() : whole;
    return !(value instanceof Condition.IsNull || value instanceof Condition.Exists)
        && (!nullables().isEmpty() || value.preorder().anyMatch(this::isOther));
  }

  /** A subquery, or a call: what they give can be NULL. */
  private boolean isOther(Node node) {
    return node instanceof Query
        || node instanceof FunctionCall
        || (node instanceof Expression value && Literal.isNull(value));
  }

  private List<UseColumn> nullables() {
    QueryBlock block = rows.block();
    return block.columnsIn(condition.condition()).stream()
        .filter(block::isOwn)
        .filter(block::isNullable)
        .toList();
  }

  List<Question<?>> second() {
    if (count > 0 && !isSplit) {
      askedUnknown = unknownOnes();
      return List.of(askedUnknown);
    }
    return List.of();
  }

  private Expression isUnknown(Relation of) {
    return Sql.not(rows.holds(of, Sql.not(condition.condition())));
  }

  void readSecond(Answers second) {
    if (!isSplit && askedUnknown != null) {
      readUnknown(second, askedUnknown);
    }
  }

  private void readUnknown(Answers answers, Question<Long> asked) {
    Optional<Long> told = answers.ifAny(asked);
    isSplit = told.isPresent();
    unknown = told.orElse(0L);
  }

  List<Question<?>> names() {
    List<Question<?>> questions = new ArrayList<>();
    if (examples > 0 && count > unknown) {
      namesOfFalse = named(false);
      questions.add(namesOfFalse);
    }
    if (examples > 0 && unknown > 0) {
      namesOfUnknown = named(true);
      questions.add(namesOfUnknown);
    }
    return questions;
  }

  private Question<List<NamedRow>> named(boolean isNull) {
    // Where it is not known which rows are unknown, those of both are named together.
    Optional<Relation> failing = isSplit ? rows.failing(number, isNull) : Optional.empty();
    return failing
        .map(each -> RowNames.ofJoined(rows, each, null, subject, Sql.always(), examples))
        .orElseGet(
            () -> RowNames.ofJoined(rows, rows.all(), null, subject, fails(isNull), examples));
  }

  private Expression fails(boolean isNull) {
    if (!isNull && unknown == 0) {
      return fails();
    }
    Expression neither = isUnknown(rows.all());
    return Sql.all(List.of(fails(), isNull ? neither : Sql.not(neither)));
  }

  List<Cause> causes(Answers names) {
    String text = SqlPrinter.print(condition.condition(), rows.block().dialect());
    List<Cause> causes = new ArrayList<>();
    if (count > unknown) {
      String sense = isSplit ? " is false" : " is not true";
      causes.add(new Cause(text + sense, count - unknown, told(namesOfFalse, names)));
    }
    if (unknown > 0) {
      causes.add(
          new Cause(
              text + " is unknown, since " + empty() + " is NULL",
              unknown,
              told(namesOfUnknown, names)));
    }
    return causes;
  }

  private static List<NamedRow> told(@Nullable Question<List<NamedRow>> asked, Answers names) {
    return asked == null ? List.of() : names.to(asked);
  }

  private String empty() {
    List<UseColumn> columns = nullables();
    boolean only = columns.size() == 1 && condition.condition().preorder().noneMatch(this::isOther);
    return only ? columns.get(0).words() : "a value in it";
  }
}
