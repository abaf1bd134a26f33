package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Unequal to ANY: true as soon as one of the values differs, so with two different ones for
 * everybody (ISO/IEC 9075-2, 8.9). Who writes it means "equal to none".
 */
public final class UnequalToSome implements Check {

  private static final Set<String> UNEQUAL = Set.of("<>", "!=");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (Condition.Quantified each : subject.nodes(Condition.Quantified.class)) {
      Query query = each.query();
      if (query != null && !each.all() && UNEQUAL.contains(each.sign())) {
        suspicions.add(suspicion(each, query, subject));
      }
    }
    return suspicions;
  }

  private static Suspicion suspicion(Condition.Quantified each, Query query, Subject subject) {
    Span sign = Span.between(each.value().span(), query.span());
    LexedText text = new LexedText(subject.source(), sign, subject.block().dialect());
    String all = subject.edits().keyword("ALL");
    List<List<Edit>> repairs =
        Stream.of("ANY", "SOME")
            .flatMap(word -> text.first(word).stream())
            .map(word -> List.of(new Edit(word, all)))
            .toList();
    Conclusion conclusion =
        Conclusion.warning(
            subject.text(each.value())
                + " differs from one value or another as soon as there are two: this is true for"
                + " every row that has a value. Write <> ALL, or NOT IN, for what is equal to none.",
            List.of("one value that differs is enough for ANY"),
            repairs);
    return new Suspicion(
        Kind.ALWAYS_TRUE,
        each.span(),
        List.of(each.span()),
        List.of(),
        answers -> Optional.of(conclusion));
  }
}
