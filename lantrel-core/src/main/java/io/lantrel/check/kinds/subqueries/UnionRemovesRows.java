package io.lantrel.check.kinds.subqueries;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody.SetOperation;
import io.lantrel.sql.tree.QueryBody.SetOperator;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** UNION takes away lines that come several times; UNION ALL keeps them. */
public final class UnionRemovesRows implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    Query query = subject.resolution().result().query();
    boolean first = subject.resolution().root().equals(subject.block());
    if (!first
        || !(query.body() instanceof SetOperation union)
        || union.operator() != SetOperator.UNION
        || union.all()
        || union.parts().size() != 2
        || union.matching() != null) {
      return List.of();
    }
    Optional<Question<long[]>> lines =
        subject.rows().isPresent() ? Optional.of(lines(query, union)) : Optional.empty();
    Span between = Span.between(union.parts().get(0).span(), union.parts().get(1).span());
    Optional<Span> word =
        new LexedText(subject.source(), between, subject.block().dialect()).first("UNION");
    return word.stream()
        .map(
            place ->
                Suspicion.asking(
                    Kind.UNION_REMOVES_ROWS,
                    place,
                    List.of(place),
                    lines,
                    found ->
                        found
                            .filter(each -> each[0] > each[1])
                            .map(each -> conclude(place, each[0], each[1], subject))))
        .toList();
  }

  /** All lines, and the different ones. */
  private static Question<long[]> lines(Query query, SetOperation union) {
    SetOperation all = new SetOperation(Span.NOWHERE, union.operator(), true, null, union.parts());
    String name = SampleData.RESERVED + "lines";
    FromItem kept = Sql.derived(Query.of(all), name);
    FromItem different = Sql.derived(Query.of(union), name);
    Query counted =
        new Query(
            Span.NOWHERE,
            query.recursive(),
            query.with(),
            Sql.select(
                List.of(
                    Sql.as(Sql.count(), "c0"),
                    Sql.as(
                        new Value.ScalarQuery(
                            Span.NOWHERE,
                            Query.of(
                                Sql.select(List.of(Sql.as(Sql.count(), "n")), different, null))),
                        "c1")),
                kept,
                null),
            List.of(),
            null);
    return Question.numbers(counted, row -> new long[] {row.figure(0), row.figure(1)});
  }

  private static Conclusion conclude(Span place, long all, long different, Subject subject) {
    return new Conclusion(
        Severity.NOTE,
        "UNION takes away "
            + Words.count(all - different, "line")
            + " that "
            + (all - different == 1 ? "repeats" : "repeat")
            + " another one: "
            + Words.number(all)
            + " become "
            + Words.number(different)
            + ". Write UNION ALL if each counts.",
        new Evidence(
            Map.of("lines", all, "different lines", different),
            List.of(),
            List.of("the two parts have lines in common, or one has some twice")),
        List.of(List.of(Edit.insert(place.end(), " " + subject.edits().keyword("ALL")))));
  }
}
