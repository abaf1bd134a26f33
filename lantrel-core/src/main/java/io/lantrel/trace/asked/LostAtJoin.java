package io.lantrel.trace.asked;

import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
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
    Question<List<List<@Nullable String>>> values =
        followed.values(side, followed.isMarked(side), columns);
    List<Question<?>> all = new ArrayList<>(alone);
    all.addAll(others);
    all.add(values);
    Answers answers = asker.ask(all);
    List<Conjunct> failing = failing(answers);
    List<TracedValue> told =
        Followed.told(followed.columns(failing, own), columns, answers.to(values));
    String condition = followed.print(failing);
    String words = written.steps().get(followed.block().steps().indexOf(step)).words();
    List<String> sentences = new ArrayList<>();
    sentences.add(followed.lostAt("at " + words));
    boolean equation = failing.size() == 1 && failing.get(0).equality().isPresent();
    sentences.add(why(condition, told, equation, isMetByOthers(failing, answers)));
    if (failing.size() == 1) {
      new NearPartner(followed, step, left, failing.get(0), asker)
          .words()
          .ifPresent(sentences::add);
    }
    return followed.lost(
        new Stage(Kind.JOIN, number(), followed.name(), words), condition, told, sentences);
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
    return !never.isEmpty() ? never : last.isEmpty() ? step.conjuncts() : last.subList(0, 1);
  }

  /** Whether some partner meets the failing condition, but not together with the others. */
  private boolean isMetByOthers(List<Conjunct> failing, Answers answers) {
    return failing.size() == 1
        && !alone.isEmpty()
        && answers.to(alone.get(step.conjuncts().indexOf(failing.get(0)))) > 0;
  }

  /**
   * @param equation whether it is the equality of two columns, which NULL makes unknown
   */
  private String why(
      String condition, List<TracedValue> values, boolean equation, boolean besides) {
    String partner =
        Words.list(
            (left ? step.right() : step.left())
                .stream().map(each -> written.uses().get(each.index()).words()).toList());
    for (TracedValue each : values) {
      if (equation && each.value() == null) {
        return each.words() + ", so " + condition + " is unknown for every row of " + partner + ".";
      }
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
