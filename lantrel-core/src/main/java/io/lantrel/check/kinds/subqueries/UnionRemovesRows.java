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
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody.SetOperation;
import io.lantrel.sql.tree.QueryBody.SetOperator;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * UNION takes away lines that come several times; UNION ALL keeps them. Looked at where lines are
 * the result, and in FROM where they are counted or summed up.
 */
public final class UnionRemovesRows implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    Stream<Union> totalled =
        totalled(block)
            .flatMap(use -> use.queryOfText().stream())
            .filter(query -> query.parts().stream().allMatch(QueryBlock::standsAlone))
            .flatMap(
                query ->
                    union(
                        query.query(),
                        query.parts().get(0).commonTables(),
                        query.parts().get(0).hasRecursiveTables())
                        .stream());
    Query whole = subject.resolution().result().query();
    Optional<Union> result =
        subject.resolution().root().equals(block)
            ? union(whole, whole.with(), whole.recursive())
            : Optional.empty();
    return Stream.concat(result.stream(), totalled)
        .flatMap(union -> suspicion(union, subject).stream())
        .toList();
  }

  /** The queries in FROM of which equal lines would count as often as they come. */
  private static Stream<TableUse> totalled(QueryBlock block) {
    if (!block.isGrouped()) {
      return Stream.empty();
    }
    List<FunctionCall> calls =
        block.outputs().stream()
            .flatMap(output -> Aggregates.in(output.value()))
            .filter(call -> Set.of("sum", "avg", "count").contains(call.key()) && !call.distinct())
            .toList();
    boolean countsRows = block.uses().size() == 1 && calls.stream().anyMatch(FunctionCall::star);
    return block.uses().stream()
        .filter(
            use ->
                countsRows || calls.stream().anyMatch(call -> block.mentioned(call).contains(use)));
  }

  /**
   * A union of different lines.
   *
   * @param with the queries of WITH that it can name
   * @param recursive whether one of these is recursive
   */
  private record Union(SetOperation lines, List<CommonTable> with, boolean recursive) {

    /** All lines, and the different ones. */
    Question<long[]> counts() {
      SetOperation all =
          new SetOperation(Span.NOWHERE, lines.operator(), true, null, lines.parts());
      String name = SampleData.RESERVED + "lines";
      FromItem different = Sql.derived(Query.of(lines), name);
      Query inner = Query.of(Sql.select(List.of(Sql.as(Sql.count(), "n")), different, null));
      Query counted =
          new Query(
              Span.NOWHERE,
              recursive,
              with,
              Sql.select(
                  List.of(
                      Sql.as(Sql.count(), "c0"),
                      Sql.as(new Value.ScalarQuery(Span.NOWHERE, inner), "c1")),
                  Sql.derived(Query.of(all), name),
                  null),
              List.of(),
              null);
      return Question.numbers(counted, row -> new long[] {row.figure(0), row.figure(1)});
    }

    /** Where its words stand, one between any two parts; not all are there if it stands mixed. */
    List<Span> words(Subject subject) {
      List<Span> words = new ArrayList<>();
      for (int i = 1; i < lines.parts().size(); i++) {
        Span between = Span.between(lines.parts().get(i - 1).span(), lines.parts().get(i).span());
        new LexedText(subject.source(), between, subject.block().dialect())
            .first("UNION")
            .ifPresent(words::add);
      }
      return words;
    }
  }

  private static Optional<Union> union(Query query, List<CommonTable> with, boolean recursive) {
    return query.body() instanceof SetOperation lines
            && lines.operator() == SetOperator.UNION
            && !lines.all()
            && lines.matching() == null
        ? Optional.of(new Union(lines, with, recursive))
        : Optional.empty();
  }

  private static Optional<Suspicion> suspicion(Union union, Subject subject) {
    List<Span> words = union.words(subject);
    if (words.size() != union.lines().parts().size() - 1) {
      return Optional.empty();
    }
    Optional<Question<long[]>> counts =
        subject.rows().isPresent() ? Optional.of(union.counts()) : Optional.empty();
    return Optional.of(
        Suspicion.asking(
            Kind.UNION_REMOVES_ROWS,
            words.get(0),
            List.of(words.get(0)),
            counts,
            found ->
                found
                    .filter(each -> each[0] > each[1])
                    .map(each -> conclude(words, each[0], each[1], subject))));
  }

  private static Conclusion conclude(List<Span> words, long all, long different, Subject subject) {
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
        List.of(
            words.stream()
                .map(word -> Edit.insert(word.end(), " " + subject.edits().keyword("ALL")))
                .toList()));
  }
}
