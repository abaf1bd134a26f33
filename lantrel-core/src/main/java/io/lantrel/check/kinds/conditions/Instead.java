package io.lantrel.check.kinds.conditions;

import io.lantrel.check.suspicion.Subject;
import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.resolve.JoinStep;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.IsDistinct;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/** Another condition in the place of the one of a join. */
final class Instead {

  private Instead() {}

  /** Where an inner join by it would lose rows, the second one keeps them. */
  static List<List<Edit>> of(Conjunct conjunct, JoinStep step, String condition, Subject subject) {
    QueryEdits edits = subject.edits();
    List<List<Edit>> repairs = new ArrayList<>();
    repairs.add(instead(conjunct, step, condition, subject, edits));
    if (step.kind() == JoinKind.INNER) {
      List<Edit> keeping = new ArrayList<>(repairs.get(0));
      keeping.removeIf(edit -> edit.span().equals(step.place()));
      String words = subject.source().at(step.place()).replaceFirst("(?i)^natural\\s+", "");
      keeping.add(new Edit(step.place(), Words.like(words, JoinKind.LEFT.words())));
      repairs.add(keeping);
    }
    return repairs;
  }

  private static List<Edit> instead(
      Conjunct conjunct, JoinStep step, String condition, Subject subject, QueryEdits edits) {
    String on = edits.keyword("ON") + " " + condition;
    if (conjunct.origin() == Origin.USING
        && step.join().condition() instanceof JoinCondition.Using using) {
      return List.of(new Edit(using.span(), on));
    }
    if (conjunct.origin() == Origin.NATURAL) {
      FromItem.Join join = step.join();
      Span keyword = join.keyword();
      String words = subject.source().at(keyword).replaceFirst("(?i)^natural\\s+", "");
      return List.of(new Edit(keyword, words), Edit.insert(join.right().span().end(), " " + on));
    }
    return List.of(new Edit(conjunct.span(), text(conjunct, condition, subject)));
  }

  /** The other condition, and with it those that stand in the place of the first one too. */
  static String text(Conjunct conjunct, String condition, Subject subject) {
    if (!conjunct.part()) {
      return condition;
    }
    String and = " " + subject.edits().keyword("AND") + " ";
    return subject.block().conjuncts().stream()
        .filter(each -> each.part() && each.span().equals(conjunct.span()))
        .map(each -> each.equals(conjunct) ? condition : text(each.condition(), subject))
        .collect(Collectors.joining(and));
  }

  private static String text(Expression part, Subject subject) {
    return part instanceof IsDistinct same
        ? subject.text(same.left()) + " IS NOT DISTINCT FROM " + subject.text(same.right())
        : subject.text(((Comparison) part).left())
            + " = "
            + subject.text(((Comparison) part).right());
  }
}
