package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Case;
import io.lantrel.sql.tree.Value.When;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A branch of CASE that no row gets to, since whoever meets it meets one before it: the first that
 * is true decides (ISO/IEC 9075-2, 6.12).
 */
public final class BranchNeverReached implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.nodes(Case.class).stream()
        .filter(each -> each.operand() == null)
        .flatMap(each -> hidden(each, subject).stream())
        .toList();
  }

  private static Optional<Suspicion> hidden(Case choice, Subject subject) {
    List<ConstantTest> before = new ArrayList<>();
    for (When when : choice.whens()) {
      List<ConstantTest> tests = ConstantTest.in(List.of(when.when()), subject);
      for (ConstantTest test : tests) {
        Optional<ConstantTest> taken =
            before.stream().filter(each -> each.includes(test)).findFirst();
        if (taken.isPresent()) {
          return Optional.of(suspicion(choice, taken.get(), test, subject));
        }
      }
      before.addAll(tests);
    }
    return Optional.empty();
  }

  private static Suspicion suspicion(
      Case choice, ConstantTest first, ConstantTest hidden, Subject subject) {
    String message =
        "No row gets to "
            + subject.text(hidden.condition())
            + ": who meets it meets "
            + subject.text(first.condition())
            + ", which comes before. Put the narrower condition first.";
    return Suspicion.certain(
        Kind.NEVER_TRUE,
        hidden.condition().span(),
        Conclusion.warning(
            message, List.of("CASE takes the first branch that is true"), turned(choice, subject)));
  }

  /** Two branches change places, if there are no more. */
  private static List<List<Edit>> turned(Case choice, Subject subject) {
    if (choice.whens().size() != 2) {
      return List.of();
    }
    Span one = span(choice.whens().get(0));
    Span other = span(choice.whens().get(1));
    return List.of(
        List.of(
            new Edit(one, subject.source().at(other)), new Edit(other, subject.source().at(one))));
  }

  private static Span span(When branch) {
    Expression when = branch.when();
    return when.span().to(branch.then().span());
  }
}
