package io.lantrel.check.kinds.subqueries;

import io.lantrel.catalog.Table;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
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
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * UNION takes away lines that come several times; UNION ALL keeps them. Looked at where lines are
 * the result, and in FROM where they are counted or summed up. Where each part shows a reference to
 * one table and nothing else, who is in several of them shall be there once.
 */
public final class UnionRemovesRows implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    Stream<Union> totalled =
        totalled(block)
            .flatMap(use -> use.queryOfText().stream().flatMap(query -> union(use, query, block)));
    Query whole = subject.resolution().result().query();
    Optional<Union> result =
        subject.resolution().root().equals(block) && !isOfOneTable(subject.resolution().result())
            ? union(whole, whole.with(), whole.recursive(), false)
            : Optional.empty();
    return Stream.concat(result.stream(), totalled)
        .flatMap(union -> suspicion(union, subject).stream())
        .toList();
  }

  private static Stream<Union> union(TableUse use, ResolvedQuery query, QueryBlock block) {
    List<QueryBlock> parts = query.parts();
    if (!parts.stream().allMatch(QueryBlock::standsAlone)) {
      return Stream.of();
    }
    boolean summed =
        totals(block)
                .filter(call -> !call.key().equals("count"))
                .anyMatch(call -> block.mentioned(call).contains(use))
            && parts.stream().noneMatch(UnionRemovesRows::showsKey);
    return union(
        query.query(), parts.get(0).commonTables(), parts.get(0).hasRecursiveTables(), summed)
        .stream();
  }

  /** Whether its only column refers to one table in each part. */
  private static boolean isOfOneTable(ResolvedQuery query) {
    if (query.outputs().size() != 1) {
      return false;
    }
    List<Set<Table>> tables = query.parts().stream().map(UnionRemovesRows::referred).toList();
    return tables.get(0).stream()
        .anyMatch(each -> tables.stream().allMatch(set -> set.contains(each)));
  }

  private static Set<Table> referred(QueryBlock part) {
    return part.shownAt(0)
        .flatMap(BaseColumn::of)
        .map(column -> BaseColumn.referred(column, part.catalog()))
        .orElse(Set.of());
  }

  /** Whether its lines tell the rows of a table apart: what is equal then is the same. */
  private static boolean showsKey(QueryBlock part) {
    Set<UseColumn> shown = new HashSet<>();
    part.outputs().forEach(each -> part.column(each.value()).ifPresent(shown::add));
    return part.uses().stream()
        .anyMatch(
            use ->
                use.keys().stream()
                    .anyMatch(
                        key ->
                            key.columns().stream()
                                .allMatch(
                                    name -> use.column(name).filter(shown::contains).isPresent())));
  }

  private static Stream<FunctionCall> totals(QueryBlock block) {
    return block.outputs().stream()
        .flatMap(output -> Aggregates.in(output.value()))
        .filter(call -> Set.of("sum", "avg", "count").contains(call.key()) && !call.distinct());
  }

  /** The queries in FROM of which equal lines would count as often as they come. */
  private static Stream<TableUse> totalled(QueryBlock block) {
    if (!block.isGrouped()) {
      return Stream.empty();
    }
    List<FunctionCall> calls = totals(block).toList();
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
   * @param summed whether values of lines are summed up that do not tell which row they are of
   */
  private record Union(
      SetOperation lines, List<CommonTable> with, boolean recursive, boolean summed) {

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

  private static Optional<Union> union(
      Query query, List<CommonTable> with, boolean recursive, boolean summed) {
    return query.body() instanceof SetOperation lines
            && lines.operator() == SetOperator.UNION
            && !lines.all()
            && lines.matching() == null
        ? Optional.of(new Union(lines, with, recursive, summed))
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
                    .map(each -> conclude(words, union.summed(), each[0], each[1], subject))));
  }

  private static Conclusion conclude(
      List<Span> words, boolean summed, long all, long different, Subject subject) {
    return new Conclusion(
        summed ? Severity.WARNING : Severity.NOTE,
        "UNION takes away "
            + Words.count(all - different, "line")
            + " that "
            + (all - different == 1 ? "repeats" : "repeat")
            + " another one: "
            + Words.number(all)
            + " become "
            + Words.number(different)
            + (summed
                ? ", and of equal amounts one is summed up. Write UNION ALL."
                : ". Write UNION ALL if each counts."),
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
