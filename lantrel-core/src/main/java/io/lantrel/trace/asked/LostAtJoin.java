package io.lantrel.trace.asked;

import io.lantrel.engine.Rows;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import io.lantrel.trace.Answer;
import io.lantrel.trace.Answer.Kind;
import io.lantrel.trace.Answer.Stage;
import io.lantrel.trace.Answer.TracedValue;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** A row that has no partner at a join: which condition no partner meets. */
final class LostAtJoin {

  private final Followed followed;
  private final JoinStep step;
  private final QueryBlock written;
  private final Asker asker;
  private final boolean left;
  private final List<TableUse> own;
  private final List<Question<Long>> alone = new ArrayList<>();
  private final List<Question<Long>> others = new ArrayList<>();

  /**
   * @param written the block as the user wrote it, by which its tables are called
   */
  LostAtJoin(Followed followed, JoinStep step, QueryBlock written, Asker asker) {
    this.followed = followed;
    this.step = step;
    this.written = written;
    this.asker = asker;
    this.left = step.left().contains(followed.use());
    this.own = left ? step.left() : step.right();
  }

  Answer answer() {
    Relation side = followed.rows().side(left ? step.join().left() : step.join().right());
    // A condition that is alone is the one that no partner meets.
    if (step.conjuncts().size() > 1) {
      for (Conjunct each : step.conjuncts()) {
        alone.add(almost(List.of(each)));
        others.add(almost(step.conjuncts().stream().filter(one -> !one.equals(each)).toList()));
      }
    }
    List<UseColumn> columns = followed.columns(step.conjuncts(), own);
    Question<Rows> values = followed.values(side, followed.isMarked(side), columns);
    List<Question<?>> all = new ArrayList<>(alone);
    all.addAll(others);
    all.add(values);
    Answers answers = asker.ask(all);
    List<Conjunct> failing = failing(answers);
    Rows found = answers.to(values);
    List<TracedValue> told = Followed.told(followed.columns(failing, own), columns, found);
    String condition = followed.print(failing);
    String words = written.steps().get(followed.block().steps().indexOf(step)).words();
    List<String> sentences = new ArrayList<>();
    sentences.add(followed.lostAt("at " + words));
    // What the row does not meet by itself is told apart from what no partner meets.
    List<Conjunct> itself =
        failing.stream()
            .filter(each -> !each.uses().isEmpty() && own.containsAll(each.uses()))
            .toList();
    List<Conjunct> together = failing.stream().filter(each -> !itself.contains(each)).toList();
    for (Conjunct each : itself) {
      List<UseColumn> mine = followed.columns(List.of(each), own);
      List<TracedValue> of = Followed.told(mine, columns, found);
      boolean unknown =
          IntStream.range(0, of.size())
              .filter(i -> of.get(i).value() == null)
              .anyMatch(
                  i -> NullRejection.isNullWith(each.condition(), followed.block(), mine.get(i)));
      sentences.add(Followed.notTrue(of, followed.print(List.of(each)), unknown));
    }
    if (itself.isEmpty() || !together.isEmpty()) {
      List<TracedValue> shared = Followed.told(followed.columns(together, own), columns, found);
      sentences.add(why(together, shared, isMetByOthers(together, answers)));
    }
    if (!together.isEmpty() && found.size() == 1 && !isUnknown(together, told)) {
      List<@Nullable String> texts =
          RowValues.texts(found, columns.stream().map(UseColumn::type).toList()).get(0);
      SubqueryRows.Outside row =
          column ->
              Optional.of(columns.indexOf(column))
                  .filter(at -> at >= 0)
                  .map(
                      at -> Constants.of(texts.get(at), column.type(), followed.block().dialect()));
      new NearPartner(followed.block(), step, left, withOthers(), row)
          .words(asker.database())
          .ifPresent(sentences::add);
    }
    return followed.lost(
        new Stage(Kind.JOIN, number(), followed.name(), words), condition, told, sentences);
  }

  private List<Conjunct> withOthers() {
    return step.conjuncts().stream().filter(each -> !own.containsAll(each.uses())).toList();
  }

  private Question<Long> almost(List<Conjunct> some) {
    List<Expression> conditions = some.stream().map(Conjunct::condition).toList();
    Relation almost = followed.rows().almostMet(step, left, conditions, true);
    return followed.count(almost);
  }

  /** The conditions that no partner meets; or the first without which there would be one. */
  private List<Conjunct> failing(Answers answers) {
    if (alone.isEmpty()) {
      return step.conjuncts();
    }
    List<Conjunct> never = new ArrayList<>();
    List<Conjunct> last = new ArrayList<>();
    for (int i = 0; i < step.conjuncts().size(); i++) {
      if (answers.to(alone.get(i)) == 0) {
        never.add(step.conjuncts().get(i));
      }
      if (answers.to(others.get(i)) > 0) {
        last.add(step.conjuncts().get(i));
      }
    }
    // Of several that would do, the references hold as a rule, and the rest is what drops rows.
    Optional<Conjunct> further =
        last.stream().filter(each -> each.equality().isEmpty()).findFirst();
    return !never.isEmpty()
        ? never
        : last.isEmpty() ? step.conjuncts() : List.of(further.orElse(last.get(0)));
  }

  /** Whether some partner meets the failing condition, but not together with the others. */
  private boolean isMetByOthers(List<Conjunct> failing, Answers answers) {
    return failing.size() == 1
        && !alone.isEmpty()
        && answers.to(alone.get(step.conjuncts().indexOf(failing.get(0)))) > 0;
  }

  /** Whether it is the equality of two columns, of which that of the row is NULL. */
  private static boolean isUnknown(List<Conjunct> failing, List<TracedValue> values) {
    return failing.size() == 1
        && failing.get(0).equality().isPresent()
        && values.stream().anyMatch(each -> each.value() == null);
  }

  private String why(List<Conjunct> failing, List<TracedValue> values, boolean besides) {
    String condition = followed.print(failing);
    List<TableUse> others = left ? step.right() : step.left();
    List<TableUse> concerned =
        others.stream()
            .filter(use -> failing.stream().anyMatch(each -> each.uses().contains(use)))
            .toList();
    String partner =
        Words.list(
            (concerned.isEmpty() ? others : concerned)
                .stream().map(each -> written.uses().get(each.index()).words()).toList());
    if (isUnknown(failing, values)) {
      return Followed.words(values)
          + ", so "
          + condition
          + " is unknown for every row of "
          + partner
          + ".";
    }
    return (values.isEmpty() ? "" : Followed.words(values) + ", and ")
        + "no row of "
        + partner
        + (besides ? ", of those that meet the rest of ON," : "")
        + " meets "
        + (condition.isEmpty() ? "the join" : condition)
        + ".";
  }

  /** A comma list may be joined in another order than it is written. */
  private int number() {
    List<JoinStep> steps = followed.block().writtenSteps();
    for (int i = 0; i < steps.size(); i++) {
      if (steps.get(i).right().equals(step.right())) {
        return i + 1;
      }
    }
    return step.number();
  }
}
