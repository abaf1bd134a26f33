package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.ScopedKey;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Rows put together, in groups or in the parts of a window, by a number that counts within
 * something else, and not by that too: copy 1 of one branch and copy 1 of another become one. Not
 * in a subquery that looks at a row outside, which may fix what the number counts within.
 */
public final class GroupedByPart implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Suspicion> suspicions = new ArrayList<>();
    if (block.isCorrelated()) {
      return suspicions;
    }
    if (!block.groupedBy().isEmpty()) {
      List<Expression> written =
          block.select().groupBy().isEmpty() ? block.groupedBy() : block.select().groupBy();
      of(block.groupedBy(), written, "group", subject).ifPresent(suspicions::add);
    } else if (!block.isGrouped()) {
      subject.nodes(FunctionCall.class).stream()
          .flatMap(call -> Optional.ofNullable(call.over()).stream())
          .filter(window -> !window.partitionBy().isEmpty())
          .flatMap(
              window -> of(window.partitionBy(), window.partitionBy(), "part", subject).stream())
          .limit(1)
          .forEach(suspicions::add);
    }
    return suspicions;
  }

  private static Optional<Suspicion> of(
      List<Expression> by, List<Expression> written, String word, Subject subject) {
    QueryBlock block = subject.block();
    Set<UseColumn> columns = new HashSet<>();
    by.forEach(each -> block.column(each).filter(block::isOwn).ifPresent(columns::add));
    for (TableUse use : block.uses()) {
      for (ScopedKey key : ScopedKey.of(use, subject.catalog())) {
        boolean merged =
            !key.isPosition()
                && columns.containsAll(key.own())
                && key.scope().stream().noneMatch(each -> block.determines(columns, each))
                && !isLookedAt(key, subject);
        if (merged) {
          return Optional.of(new Merged(use, key, by, written, word).suspicion(subject));
        }
      }
    }
    return Optional.empty();
  }

  /** Whether a total is about what the number counts within: in how many branches. */
  private static boolean isLookedAt(ScopedKey key, Subject subject) {
    return subject.nodes(FunctionCall.class).stream()
        .anyMatch(
            call ->
                call.arguments().stream()
                    .flatMap(each -> subject.block().column(each).stream())
                    .anyMatch(key.scope()::contains));
  }

  /**
   * Rows put together by the number alone.
   *
   * @param by what the rows are put together by
   * @param written the same as it stands in the text
   * @param word what the rows become
   */
  private record Merged(
      TableUse use, ScopedKey key, List<Expression> by, List<Expression> written, String word) {

    /** How many groups there are, and how many of them are of several. */
    private record Groups(long all, long mixed) {}

    Suspicion suspicion(Subject subject) {
      Span place =
          written.stream()
              .filter(each -> subject.block().column(each).filter(key.own()::contains).isPresent())
              .map(Expression::span)
              .filter(span -> !span.isNowhere())
              .reduce(Span::to)
              .orElse(subject.block().select().span());
      return Suspicion.asking(
          Kind.PARTIAL_KEY,
          place,
          List.of(place),
          subject.rows().map(this::groups),
          found ->
              found.filter(each -> each.mixed() == 0).isPresent()
                  ? Optional.empty()
                  : Optional.of(conclude(found, subject)));
    }

    private Question<Groups> groups(JoinedRows rows) {
      Relation kept = rows.kept(use).relation();
      List<Expression> values = by.stream().map(each -> rows.value(kept, each)).toList();
      String name = SampleData.RESERVED + "groups";
      List<Expression> several = new ArrayList<>();
      List<SelectItem> shown = new ArrayList<>();
      for (UseColumn each : key.scope()) {
        several.add(Sql.greater(Sql.column(name, "c" + shown.size()), Sql.number(1)));
        shown.add(Sql.as(Sql.countDistinct(rows.column(kept, each)), "c" + shown.size()));
      }
      FromItem groups = Sql.derived(kept.select(false, shown, null, values, null), name);
      Query query =
          Query.of(
              Sql.select(
                  List.of(Sql.as(Sql.count(), "c0"), Sql.as(Sql.countIf(Sql.any(several)), "c1")),
                  groups,
                  null));
      return Question.numbers(kept, query, 2, row -> new Groups(row.figure(0), row.figure(1)));
    }

    private Conclusion conclude(Optional<Groups> found, Subject subject) {
      String scope = Words.list(key.scope().stream().map(UseColumn::written).toList());
      String missing = String.join(", ", key.scope().stream().map(UseColumn::written).toList());
      String own = Words.list(key.own().stream().map(UseColumn::words).toList());
      String message =
          own
              + " alone tells no "
              + key.of().name()
              + " apart, only along with "
              + scope
              + found
                  .map(
                      each ->
                          ": "
                              + each.mixed()
                              + " of "
                              + Words.count(each.all(), word)
                              + (each.mixed() == 1 ? " puts" : " put")
                              + " several together")
                  .orElse("")
              + ". Add "
              + missing
              + " to "
              + (word.equals("group") ? "GROUP BY" : "PARTITION BY")
              + ".";
      int end = written.get(written.size() - 1).span().end();
      List<List<Edit>> repairs =
          word.equals("group")
              ? List.of(List.of(subject.edits().addGrouping(missing)))
              : List.of(List.of(Edit.insert(end, ", " + missing)));
      return new Conclusion(
          found.isPresent() ? Severity.WARNING : Severity.NOTE,
          message,
          new Evidence(
              found
                  .map(each -> Map.of("mixed " + Words.plural(word), each.mixed()))
                  .orElse(Map.of()),
              List.of(),
              List.of(
                  Words.one(key.of().name())
                      + " is told apart by "
                      + scope
                      + " and "
                      + Words.list(key.own().stream().map(UseColumn::written).toList()))),
          repairs);
    }
  }
}
