package io.lantrel.ledger.account;

import io.lantrel.edit.OneQuery;
import io.lantrel.edit.QueryEdits;
import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.Naming;
import io.lantrel.ledger.OtherJoin;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Question;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.JoinKind;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.function.Function;
import java.util.function.IntPredicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What joins of another kind would give. Which rows come or go at the step itself the account
 * knows; what is left of them at the end is counted by the changed query.
 */
public final class OtherJoins {

  private final Database database;
  private final Function<String, OneQuery> reader;
  private final OneQuery query;
  private final QueryBlock block;
  private final Naming naming;

  /**
   * @param reader reads a text as the query was read
   * @param query a query that is one SELECT with an account
   * @param naming which rows are named
   */
  public OtherJoins(
      Database database, Function<String, OneQuery> reader, OneQuery query, Naming naming) {
    this.database = database;
    this.reader = reader;
    this.query = query;
    this.block = query.resolution().result().block().orElseThrow();
    this.naming = naming;
  }

  /**
   * Each of some joins as one of another kind; those that are of that kind already are left out.
   *
   * @param steps which, by the numbers of the account: the first join is step 2
   */
  public List<OtherJoin> as(JoinKind kind, IntPredicate steps) {
    return database.inSnapshot(() -> asked(kind, steps));
  }

  private List<OtherJoin> asked(JoinKind kind, IntPredicate steps) {
    Ledger ledger = new LedgerMaker(database, naming).make(block);
    Map<JoinStep, String> refusals = new LinkedHashMap<>();
    Map<JoinStep, Question<Long>> counts = new LinkedHashMap<>();
    for (JoinStep step : block.steps()) {
      if (steps.test(step.number() + 1) && (refuses(step) || !isAlike(step.kind(), kind))) {
        refusals.put(step, refuses(step) ? noCondition() : "");
        if (!refuses(step)) {
          ask(step, kind, refusals, counts);
        }
      }
    }
    Answers answers = new Asker(database).ask(List.copyOf(counts.values()));
    List<OtherJoin> others = new ArrayList<>();
    refusals.forEach(
        (step, refusal) ->
            others.add(other(ledger, step, kind, refusal, counts.get(step), answers)));
    return others;
  }

  private static boolean isAlike(JoinKind one, JoinKind other) {
    return one.keepsLeft() == other.keepsLeft() && one.keepsRight() == other.keepsRight();
  }

  /** A comma and CROSS JOIN have no condition by which a partner could be missing. */
  private static boolean refuses(JoinStep step) {
    return step.join().kind() == JoinKind.COMMA || step.join().kind() == JoinKind.CROSS;
  }

  private static String noCondition() {
    return "a comma and CROSS JOIN have no condition of their own; write JOIN … ON first";
  }

  private void ask(
      JoinStep step,
      JoinKind kind,
      Map<JoinStep, String> refusals,
      Map<JoinStep, Question<Long>> counts) {
    Edit edit = new QueryEdits(query.source(), block).kind(step, kind);
    try {
      OneQuery changed = reader.apply(Edit.apply(query.source().text(), List.of(edit)));
      counts.put(
          step,
          Question.number(Counting.rows(changed.resolution().result().block().orElseThrow())));
    } catch (SyntaxException fault) {
      refusals.put(step, "as " + kind.words() + " the query has an error: " + fault.getMessage());
    }
  }

  private static OtherJoin other(
      Ledger ledger,
      JoinStep step,
      JoinKind kind,
      String refusal,
      @Nullable Question<Long> count,
      Answers answers) {
    Entry entry = ledger.entries().get(step.number());
    OptionalLong other = OptionalLong.empty();
    String why = refusal;
    if (count != null) {
      try {
        other = OptionalLong.of(answers.to(count));
      } catch (DatabaseException failure) {
        why = "the database does not run it as " + kind.words() + ": " + failure.getMessage();
      }
    }
    boolean changes = refusal.isEmpty();
    return new OtherJoin(
        step.number() + 1,
        step.words(),
        kind.words(),
        entry.after(),
        changes ? come(entry, step.kind(), kind) : List.of(),
        changes ? go(entry, step.kind(), kind) : List.of(),
        ledger.result(),
        other,
        why);
  }

  private static List<Change> come(Entry entry, JoinKind now, JoinKind kind) {
    return changes(
        entry,
        !now.keepsLeft() && kind.keepsLeft() ? Figure.DROPPED : null,
        !now.keepsRight() && kind.keepsRight() ? Figure.UNUSED : null);
  }

  private static List<Change> go(Entry entry, JoinKind now, JoinKind kind) {
    return changes(
        entry,
        now.keepsLeft() && !kind.keepsLeft() ? Figure.FILLED : null,
        now.keepsRight() && !kind.keepsRight() ? Figure.ADDED : null);
  }

  private static List<Change> changes(Entry entry, @Nullable Figure left, @Nullable Figure right) {
    return Stream.of(left, right)
        .filter(figure -> figure != null)
        .flatMap(figure -> entry.change(figure).stream())
        .filter(change -> change.rows() > 0)
        .toList();
  }
}
