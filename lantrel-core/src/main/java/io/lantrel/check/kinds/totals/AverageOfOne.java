package io.lantrel.check.kinds.totals;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.Case;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import java.util.List;
import java.util.Optional;

/**
 * {@code AVG(CASE WHEN … THEN 1 END)}: where the condition is not met there is NULL, which AVG
 * leaves out (ISO/IEC 9075-2, 10.9), so that it is 1 whatever the share is.
 */
public final class AverageOfOne implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.nodes(FunctionCall.class).stream()
        .filter(call -> call.key().equals("avg") && call.arguments().size() == 1)
        .filter(call -> !call.span().isNowhere() && !subject.hasParameter(call))
        .flatMap(call -> of(call, subject).stream())
        .toList();
  }

  private static Optional<Suspicion> of(FunctionCall call, Subject subject) {
    if (!(call.arguments().get(0) instanceof Case choice)) {
      return Optional.empty();
    }
    List<Expression> values =
        choice.whens().stream().map(when -> when.then()).filter(each -> isNumber(each)).toList();
    boolean open = choice.otherwise() == null || Literal.isNull(choice.otherwise());
    boolean one =
        values.size() == choice.whens().size()
            && values.stream().map(subject::text).distinct().count() == 1;
    if (!open || !one) {
      return Optional.empty();
    }
    String value = subject.text(values.get(0));
    String otherwise = subject.edits().keyword("ELSE") + " 0";
    Expression last = values.get(values.size() - 1);
    Edit edit =
        choice.otherwise() == null
            ? Edit.insert(last.span().end(), " " + otherwise)
            : new Edit(choice.otherwise().span(), "0");
    Conclusion conclusion =
        Conclusion.warning(
            subject.text(call)
                + " is "
                + value
                + " as soon as one row meets the condition: the rows that do not are NULL there, and"
                + " AVG leaves these out. For the share of rows, write "
                + otherwise
                + ".",
            List.of("AVG leaves out NULL"),
            List.of(List.of(edit)));
    return Optional.of(Suspicion.certain(Kind.COUNT_IGNORES_CONDITION, call.span(), conclusion));
  }

  private static boolean isNumber(Expression value) {
    return value instanceof Literal literal && literal.kind() == LiteralKind.NUMBER;
  }
}
