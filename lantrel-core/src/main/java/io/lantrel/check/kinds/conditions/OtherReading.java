package io.lantrel.check.kinds.conditions;

import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * How {@code a AND b OR c} would be read if OR bound first: {@code a AND (b OR c)}.
 *
 * @param condition the condition so read
 * @param edits the parentheses that make it so
 * @param alternatives what OR would then choose from
 */
record OtherReading(Expression condition, List<Edit> edits, List<Expression> alternatives) {
  OtherReading {
    edits = List.copyOf(edits);
    alternatives = List.copyOf(alternatives);
  }

  /** Empty if there is no AND without parentheses in it, at its begin or end, or several. */
  static Optional<OtherReading> of(Condition.Or or) {
    List<Expression> terms = or.terms();
    List<Condition.And> mixed = new ArrayList<>();
    for (Expression term : terms) {
      if (term instanceof Condition.And and && isBare(and)) {
        mixed.add(and);
      }
    }
    if (mixed.size() != 1) {
      return Optional.empty();
    }
    Condition.And and = mixed.get(0);
    List<Expression> inner = and.terms();
    if (terms.get(0).equals(and)) {
      Expression last = inner.get(inner.size() - 1);
      List<Expression> either = new ArrayList<>(List.of(last));
      either.addAll(terms.subList(1, terms.size()));
      List<Expression> all = new ArrayList<>(inner.subList(0, inner.size() - 1));
      all.add(new Condition.Or(Span.NOWHERE, either));
      int end = terms.get(terms.size() - 1).span().end();
      return Optional.of(reading(all, last.span().start(), end, either));
    }
    if (terms.get(terms.size() - 1).equals(and)) {
      Expression first = inner.get(0);
      List<Expression> either = new ArrayList<>(terms.subList(0, terms.size() - 1));
      either.add(first);
      List<Expression> all = new ArrayList<>();
      all.add(new Condition.Or(Span.NOWHERE, either));
      all.addAll(inner.subList(1, inner.size()));
      return Optional.of(reading(all, terms.get(0).span().start(), first.span().end(), either));
    }
    return Optional.empty();
  }

  private static OtherReading reading(
      List<Expression> all, int open, int close, List<Expression> either) {
    return new OtherReading(
        new Condition.And(Span.NOWHERE, all),
        List.of(Edit.insert(open, "("), Edit.insert(close, ")")),
        either);
  }

  private static boolean isBare(Condition.And and) {
    return and.span().start() == and.terms().get(0).span().start();
  }
}
