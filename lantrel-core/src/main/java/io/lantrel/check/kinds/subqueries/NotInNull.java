package io.lantrel.check.kinds.subqueries;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * NOT IN, or a comparison with ALL, over something that holds NULL: then no row passes, whatever
 * its value (ISO/IEC 9075-2, 8.4 and 8.9).
 */
public final class NotInNull implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (Condition.InList each : subject.nodes(Condition.InList.class)) {
      boolean withNull = each.list().stream().anyMatch(Value.Literal::isNull);
      if (each.negated() && withNull && !subject.hasParameter(each)) {
        suspicions.add(listed(each, subject));
      }
    }
    for (Condition.InQuery each : subject.nodes(Condition.InQuery.class)) {
      if (each.negated()) {
        queried(each.span(), each.query(), subject).ifPresent(suspicions::add);
      }
    }
    for (Condition.Not not : subject.nodes(Condition.Not.class)) {
      if (not.value() instanceof Condition.InQuery each && !each.negated()) {
        queried(not.span(), each.query(), subject).ifPresent(suspicions::add);
      }
      if (not.value() instanceof Condition.InList each
          && !each.negated()
          && each.list().stream().anyMatch(Value.Literal::isNull)) {
        suspicions.add(listed(each, subject));
      }
    }
    for (Condition.Quantified each : subject.nodes(Condition.Quantified.class)) {
      Query query = each.query();
      if (each.all() && query != null) {
        queried(each.span(), query, subject).ifPresent(suspicions::add);
      }
    }
    return suspicions;
  }

  private static Suspicion listed(Condition.InList in, Subject subject) {
    List<String> others =
        in.list().stream().filter(each -> !Value.Literal.isNull(each)).map(subject::text).toList();
    String value = subject.text(in.value());
    int first = in.list().get(0).span().start();
    int last = in.list().get(in.list().size() - 1).span().end();
    List<List<Edit>> repairs =
        others.isEmpty()
            ? List.of()
            : List.of(List.of(new Edit(new Span(first, last), String.join(", ", others))));
    Conclusion conclusion =
        Conclusion.warning(
            "With NULL in its list, NOT IN is true for no row: "
                + value
                + " might be what is not known. Take NULL out of the list, and write "
                + value
                + " IS NOT NULL if rows without a value should go.",
            List.of("nothing differs from NULL"),
            repairs);
    return new Suspicion(
        Kind.NOT_IN_NULL,
        in.span(),
        List.of(in.span()),
        List.of(),
        answers -> Optional.of(conclusion));
  }

  private static Optional<Suspicion> queried(Span place, Query query, Subject subject) {
    Optional<QueryBlock> block = Blocks.of(query, subject);
    if (block.isEmpty() || block.get().outputs().size() != 1) {
      return Optional.empty();
    }
    QueryBlock inner = block.get();
    Expression shown = inner.outputs().get(0).value();
    Optional<UseColumn> column = inner.column(shown).filter(inner::isOwn);
    if (column.isEmpty() || inner.isNeverNull(column.get())) {
      return Optional.empty();
    }
    Optional<Question<Long>> empty =
        subject.of(inner).rows().map(rows -> empty(rows, column.get()));
    return Optional.of(
        Suspicion.asking(
            Kind.NOT_IN_NULL,
            place,
            List.of(place),
            empty,
            count -> Optional.of(conclude(inner, column.get(), count, subject))));
  }

  private static Question<Long> empty(JoinedRows rows, UseColumn column) {
    return Question.count(rows.all(), rows.isKept(Sql.isNull(rows.column(rows.all(), column))));
  }

  private static Conclusion conclude(
      QueryBlock inner, UseColumn column, Optional<Long> count, Subject subject) {
    long empty = count.orElse(0L);
    String test = column.written() + " " + subject.edits().keyword("IS NOT NULL");
    String message =
        "As soon as "
            + column.words()
            + " is NULL in one row of the subquery, this is true for no row"
            + (empty > 0 ? ", and it is in " + Words.number(empty) + "." : ".")
            + " Leave such rows out with "
            + test
            + ", or ask with NOT EXISTS.";
    List<List<Edit>> repairs = List.of(new QueryEdits(subject.source(), inner).addFilter(test));
    if (count.isPresent() && empty == 0) {
      return Conclusion.note(
          message, List.of("the sample has no such row, and the schema allows it"), repairs);
    }
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            count.map(rows -> Map.of("rows with NULL", rows)).orElse(Map.of()),
            List.of(),
            List.of(
                count.isPresent()
                    ? column.words() + " is NULL in " + Words.rows(empty) + " of the subquery"
                    : "the schema lets " + column.words() + " be NULL")),
        repairs);
  }
}
