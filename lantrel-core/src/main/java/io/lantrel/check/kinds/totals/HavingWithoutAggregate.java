package io.lantrel.check.kinds.totals;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;

/** A condition of HAVING that is about no total: it could drop its rows before they are grouped. */
public final class HavingWithoutAggregate implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    Expression having = subject.block().select().having();
    if (having == null) {
      return List.of();
    }
    List<Expression> terms = Condition.terms(having);
    List<Suspicion> suspicions = new ArrayList<>();
    for (Expression term : terms) {
      if (isOfRows(term, subject.block())) {
        suspicions.add(suspicion(term, terms.size() == 1, subject));
      }
    }
    return suspicions;
  }

  private static boolean isOfRows(Expression term, QueryBlock block) {
    boolean total =
        Aggregates.containsOne(term)
            || Aggregates.withoutQueries(term)
                .filter(ColumnName.class::isInstance)
                .map(name -> block.binding((ColumnName) name))
                .anyMatch(
                    binding ->
                        binding instanceof Binding.ToOutput label
                            && Aggregates.containsOne(label.output().value()));
    return !total && !block.columnsIn(term).isEmpty();
  }

  private static Suspicion suspicion(Expression term, boolean only, Subject subject) {
    QueryEdits edits = subject.edits();
    List<List<Edit>> repairs = new ArrayList<>();
    if (only) {
      List<Edit> moved = new ArrayList<>(edits.addFilter(subject.text(term)));
      moved.add(edits.removeHaving());
      repairs.add(moved);
    }
    return Suspicion.certain(
        Kind.HAVING_WITHOUT_AGGREGATE,
        term.span(),
        Conclusion.note(
            "This condition is about no total, so it can drop its rows before they are grouped."
                + " Move it to WHERE.",
            List.of("no aggregate stands in " + subject.text(term)),
            repairs));
  }
}
