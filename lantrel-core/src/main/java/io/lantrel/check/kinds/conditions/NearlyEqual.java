package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Texts compared where rows are put together, in a join or with a subquery, that some rows miss
 * only because of blanks at an end, or of capitals: both sides mean the same, and one was written
 * by another hand.
 */
public final class NearlyEqual implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return Stream.of(ofJoins(subject), withBlockOutside(subject), ofIn(subject))
        .flatMap(each -> each)
        .filter(each -> canMiss(each, subject))
        .flatMap(each -> suspicion(each, subject).stream())
        .toList();
  }

  /**
   * Two columns that are equal where rows are put together.
   *
   * @param place where
   * @param first that of what comes first, or stands outside
   * @param repair what compares them without blanks and capitals; empty if nothing simple does
   */
  private record Met(Span place, UseColumn first, UseColumn second, List<Edit> repair) {

    Equated equated() {
      return new Equated(first, second);
    }

    static Met of(Conjunct condition, UseColumn first, UseColumn second) {
      boolean written =
          condition.origin() != Origin.USING
              && condition.origin() != Origin.NATURAL
              && !condition.part();
      String alike =
          WrittenAlike.text(first.written()) + " = " + WrittenAlike.text(second.written());
      return new Met(
          condition.span(),
          first,
          second,
          written ? List.of(new Edit(condition.span(), alike)) : List.of());
    }
  }

  private static Stream<Met> ofJoins(Subject subject) {
    List<Met> found = new ArrayList<>();
    for (JoinStep step : subject.block().steps()) {
      for (Conjunct each : step.conjuncts()) {
        each.equality()
            .map(
                equated -> {
                  boolean turned = !step.left().contains(equated.left().use());
                  UseColumn first = turned ? equated.right() : equated.left();
                  return Met.of(each, first, equated.other(first));
                })
            .ifPresent(found::add);
      }
    }
    return found.stream();
  }

  /** Conditions of a subquery, and of a query in FROM that may look at those before it. */
  private static Stream<Met> withBlockOutside(Subject subject) {
    QueryBlock block = subject.block();
    return block.filters().stream()
        .flatMap(
            filter ->
                block
                    .equated(filter.condition())
                    .filter(each -> block.isOwn(each.left()) != block.isOwn(each.right()))
                    .map(
                        each -> {
                          UseColumn inside = block.isOwn(each.left()) ? each.left() : each.right();
                          return Met.of(filter, each.other(inside), inside);
                        })
                    .stream());
  }

  private static Stream<Met> ofIn(Subject subject) {
    List<Met> found = new ArrayList<>();
    for (Condition.InQuery in : subject.nodes(Condition.InQuery.class)) {
      Optional<UseColumn> value = subject.block().column(in.value());
      Optional<QueryBlock> inner =
          Blocks.of(in.query(), subject).filter(each -> each.outputs().size() == 1);
      if (value.isPresent() && inner.isPresent()) {
        Expression shown = inner.get().outputs().get(0).value();
        inner
            .get()
            .column(shown)
            .filter(inner.get()::isOwn)
            .map(
                column ->
                    new Met(
                        in.span(),
                        value.get(),
                        column,
                        List.of(alike(in.value(), subject), alike(shown, subject))))
            .ifPresent(found::add);
      }
    }
    return found.stream();
  }

  private static Edit alike(Expression value, Subject subject) {
    return new Edit(value.span(), WrittenAlike.text(subject.text(value)));
  }

  /** What a reference promises is there; a column compared with itself finds itself. */
  private static boolean canMiss(Met met, Subject subject) {
    UseColumn one = met.first();
    UseColumn other = met.second();
    boolean itself =
        one.use().isOfTable(other.use()) && one.tableColumn().equals(other.tableColumn());
    return one.type().family() == TypeFamily.TEXT
        && other.type().family() == TypeFamily.TEXT
        && !itself
        && subject.block().linksAlong(met.equated()).isEmpty()
        && !one.use().isDependent()
        && !other.use().isDependent();
  }

  /** Of the sides whose rows are to find a partner; not that of a key where the other is none. */
  private static Optional<Suspicion> suspicion(Met met, Subject subject) {
    boolean key = References.isKey(met.first());
    boolean both = key == References.isKey(met.second());
    List<Counted> counted =
        Stream.of(
                missed(met.first(), met.second(), subject).filter(each -> both || !key),
                missed(met.second(), met.first(), subject).filter(each -> both || key))
            .flatMap(Optional::stream)
            .map(Counted::of)
            .toList();
    return counted.isEmpty()
        ? Optional.empty()
        : Optional.of(
            new Suspicion(
                Kind.NEARLY_EQUAL,
                met.place(),
                List.of(met.place()),
                counted.stream().<Question<?>>flatMap(each -> each.questions().stream()).toList(),
                answers ->
                    counted.stream()
                        .filter(each -> each.rows(answers) > 0)
                        .findFirst()
                        .map(each -> each.missed().conclude(met, each.rows(answers)))));
  }

  /** Rows of a block, this one or another, that could miss those of a table. */
  private static Optional<Missed> missed(UseColumn mine, UseColumn theirs, Subject subject) {
    return subject.resolution().blocks().stream()
        .filter(block -> block.isOwn(mine))
        .findFirst()
        .flatMap(block -> subject.of(block).rows())
        .map(rows -> new Missed(mine, theirs, rows));
  }

  /**
   * How many rows of a side find one that is near, and one that is equal: both are semijoins that
   * every engine hashes, which a NOT need not be.
   */
  private record Counted(Missed missed, Question<Long> near, Question<Long> equal) {

    static Counted of(Missed missed) {
      return new Counted(
          missed,
          Question.count(missed.side(), missed.isNear()),
          Question.count(missed.side(), missed.isThere()));
    }

    List<Question<Long>> questions() {
      return List.of(near, equal);
    }

    long rows(Answers answers) {
      return answers.ifAny(equal).map(there -> answers.ifAny(near).orElse(0L) - there).orElse(0L);
    }
  }

  /** The rows of one side that could miss those of the other. */
  private record Missed(UseColumn mine, UseColumn theirs, JoinedRows rows) {

    Relation side() {
      return rows.side(mine.use().item());
    }

    Expression isNear() {
      return in(Sql.plain(value()), Sql.plain(Sql.column(theirs)));
    }

    Expression isThere() {
      return in(value(), Sql.column(theirs));
    }

    private Expression value() {
      return rows.column(side(), mine);
    }

    private Expression in(Expression value, Expression shown) {
      Expression there = Sql.isNotNull(Sql.column(theirs));
      Query values = Query.of(Sql.select(List.of(Sql.as(shown, "c0")), theirs.use().item(), there));
      return new Condition.InQuery(Span.NOWHERE, value, values, false);
    }

    Conclusion conclude(Met met, long missed) {
      return Conclusion.asking(
          Severity.WARNING,
          "Blanks or capitals alone keep "
              + Words.count(missed, mine.use().rowWord())
              + " from a partner: "
              + mine.written()
              + " and "
              + theirs.written()
              + " are not written alike. Mend the data, or compare "
              + WrittenAlike.text(mine.written())
              + " = "
              + WrittenAlike.text(theirs.written())
              + ".",
          RowNames.question(
              rows, side(), mine.use(), Sql.all(List.of(isNear(), Sql.not(isThere()))), SHOWN),
          named -> new Evidence(Map.of("rows kept from a partner", missed), named, List.of()),
          met.repair().isEmpty() ? List.of() : List.of(met.repair()));
    }
  }
}
